export { beatListCsv, chaptersVtt, mapOfList } from './beat-list';
export { fromCell } from './csv';
export { readCube } from './cube';
export { wholeFragments } from './fragments';
export type { MapRead } from './map-read';
export { mapOfMidi, midiOfMap } from './midi-map';
export {
  entryFile,
  type FileSum,
  fileSums,
  LARGEST_DOCUMENT,
  MOST_ENTRIES,
  PROJECT_DOCUMENT,
  projectDocument,
  withFileRenamed,
} from './project-file';
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
export { readSilhouetteFile, silhouetteFile } from './silhouette-file';
export { LOG_COLUMNS, takeLogCsv } from './take-log';
