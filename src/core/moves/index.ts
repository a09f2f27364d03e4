export { rerun } from './build';
export { frameToSee } from './look-at';
export { moveProblems } from './problems';
export {
  type MeasuredFall,
  meanPath,
  posesIn,
  proposeFreeze,
  proposePlain,
  proposeRamp,
  proposeReveal,
  proposeSeam,
  proposeSplit,
  proposeWhip,
} from './propose';
export { rehung } from './rehang';
export { slideProject } from './slide';
