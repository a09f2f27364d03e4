export { anchorOn, copiedShot, movedShot, repeats, SNAPS, type Snap, shotOfShots, snapped, trimmedShot } from './arrange';
export { changeBetween, changed, type ProjectChange } from './change';
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
  shotAt,
} from './describe';
export { onBeat, stretched, withKey, withMirrored, withMoved, withoutKeys } from './edit-keys';
export { type Footage, footageKey, footageName, footageOf, wholeOf } from './footage';
export type { Key, Layer, Mask, Place, Stand } from './layer-schema';
export { figureMask, keyAt, matteMask, pinAt, plainLayer, plainMask, seamMask, still } from './layers';
export { maskPoints } from './mask-coverage';
export { type Move, type MoveOf, SIDES, WHIP_WAYS } from './move-schema';
export { LAYER_NUMBERS, type LayerNumber, maskNumber, type NumberKind } from './numbers';
export { edgeGap, overscanFor } from './overscan';
export { layerMove, sourceMap } from './placement';
export { takesOf, withPlaces, withStart, withTakes } from './places';
export { plannedFrame, plannedSlots, tempoOf } from './planned';
export { readProject } from './read';
export { neededFiles, referencesWhole, usersOfTake } from './references';
export { repairProject } from './repair';
export { reducedSource, scaledPicture } from './scale';
export {
  beatMapOf,
  holderOf,
  layerFrames,
  layerNumber,
  layerTime,
  maskNumberAt,
  placeFrame,
  type Scene,
  sceneOf,
  shotFrames,
  trackOf,
} from './scene';
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
