export { checkProject, type Finding, type MeasuredTake } from './check';
