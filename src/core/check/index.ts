export { applyFix, checkProject, eventsOf, type Finding, type MeasuredTake } from './check';
