export { changeBetween, changed, type ProjectChange, projectChangeSchema } from './change';
export {
  alignedTakeSchema,
  type Footage,
  footageKey,
  footageName,
  footageOf,
  footageSchema,
  pointsOn,
  soundOfTake,
  wholeOf,
} from './footage';
export { readProject } from './read';
export { neededFiles, referencesWhole, usersOfTake } from './references';
export { repairProject } from './repair';
export {
  type Correction,
  emptyProject,
  type Media,
  MOST_OVERSCAN,
  type Part,
  PROJECT_VERSION,
  type Project,
  projectSchema,
  type Shot,
  type SoundClip,
  type Take,
  type TakeLive,
  type TakeSettings,
} from './schema';
export { type CutAlong, PLAIN_CUT, type Stroke, type TrackedPoint } from './take-marks';
export { TRANSITIONS, type Transition } from './transition';
export { editProblem } from './valid-edit';
