export { wholeFragments } from './fragments';
export {
  type BeatsReport,
  beatsReport,
  beatsReportSchema,
  type SeamReport,
  type SyncReport,
  seamReportSchema,
  syncReportSchema,
  type TakesReport,
  takesReportSchema,
} from './reports';
export { shotListCsv } from './shot-list';
export { LOG_COLUMNS, takeLogCsv } from './take-log';
