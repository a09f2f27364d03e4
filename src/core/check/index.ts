export { applyFix, checkProject, RULES } from './check';
export { eventsOf } from './off-the-beat';
export type { Finding, MeasuredTake } from './rule';
