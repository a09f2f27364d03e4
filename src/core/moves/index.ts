export { rerun } from './build';
export { moveProblems } from './problems';
export {
  type MeasuredFall,
  meanPath,
  posesIn,
  proposeFreeze,
  proposeRamp,
  proposeReveal,
  proposeSeam,
  proposeSplit,
  proposeWhip,
} from './propose';
export { rehung } from './rehang';
export { slideProject } from './slide';
