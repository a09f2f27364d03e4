export { type Bezier, EASING_NAMES, type Easing, ease, handlesOf } from './easing';
export { folded, REPEATS } from './fold';
export { type NumberKind, numberKind } from './number-kind';
export { NO_LIMITS, solveSpeed } from './speed-map';
export { speedTrackMap } from './speed-track';
export { type TimeMap, timeMap, WAYS } from './time-map';
export { type Keyframe, simplify, type Track, valueAt } from './track';
