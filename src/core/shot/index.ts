export {
  type Effect,
  figureMask,
  type Key,
  keyAt,
  LAYER_NUMBERS,
  type Layer,
  type LayerNumber,
  layerFrames,
  layerNumber,
  layerTime,
  type Mask,
  maskNumberAt,
  matteMask,
  type NumberKind,
  numberAt,
  numberKindOf,
  type Place,
  pinAt,
  placeFrame,
  plainEffect,
  plainLayer,
  plainMask,
  type Scene,
  type Stand,
  seamMask,
  still,
  trackOf,
} from '../layer';
export type { Move, MoveOf } from '../moves';
export { fillFrame } from '../sources';
export { anchorOn, copiedShot, movedShot, repeats, SNAPS, type Snap, shotOfShots, snapped, trimmedShot } from './arrange';
export { changeBetween, changed, type ProjectChange, projectChangeSchema } from './change';
export {
  clipStart,
  correctionAt,
  describeFrame,
  filmFrames,
  gainsAt,
  halfFrame,
  type LayerDescription,
  layerSecond,
  type PictureDescription,
  pictureWithin,
  shotAt,
} from './describe';
export { onBeat, stretched, withKey, withMirrored, withMoved, withoutKeys } from './edit-keys';
export { alignedTakeSchema, type Footage, footageKey, footageName, footageOf, footageSchema, wholeOf } from './footage';
export { maskPoints } from './mask-coverage';
export { moveProblems } from './move-problems';
export { edgeGap, overscanFor } from './overscan';
export { layerMove } from './placement';
export { moveEvents, takesOf, withEvents, withStart, withTakes } from './places';
export { plannedFrame, plannedSlots, tempoOf } from './planned';
export { plainShot, proposeMove, proposePlain, proposeSeam, type SomeFacts } from './propose';
export { readProject } from './read';
export { neededFiles, referencesWhole, usersOfTake } from './references';
export { posterFrame, regenerate } from './regenerate';
export { repairProject } from './repair';
export { retimed } from './retime';
export { retimedToRecording } from './retime-recording';
export { reducedSource, scaledPicture } from './scale';
export { beatMapOf, holderOf, sceneOf, shotFrames } from './scene';
export {
  emptyProject,
  type Media,
  MOST_OVERSCAN,
  type Part,
  PROJECT_VERSION,
  type Project,
  type Shot,
  type SoundClip,
  type Take,
  type TakeLive,
  type TakeSettings,
} from './schema';
export { soundings } from './sounding';
export { editProblem } from './valid-edit';
