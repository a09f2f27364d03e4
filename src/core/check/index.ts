export { checkProject, eventsOf, type Finding, type MeasuredTake, mended } from './check';
