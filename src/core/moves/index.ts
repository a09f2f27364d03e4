export { rerun } from './build';
export { type Course, evened } from './follow';
export { keptMove, ofKept, readKept } from './kept-move';
export { frameToSee } from './look-at';
export { moveProblems, outlinesMissing } from './problems';
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
export { nextSwap } from './split';
