export type { NumberKind } from '../motion';
export { idSchema as id } from '../sources';
export {
  addedEffect,
  keyAt,
  matteMask,
  plainEffect,
  plainLayer,
  plainMask,
  remapKeyAt,
  seamMask,
  silhouetteMask,
  still,
  travellingMask,
} from './make';
export { LAYER_NUMBERS, type LayerNumber } from './numbers';
export {
  effectNumbers,
  layerFrames,
  layerNumber,
  layerTime,
  maskNumberAt,
  numberAt,
  numberKindOf,
  numbersIn,
  placeFrame,
  type Scene,
  SOURCE_PART,
  sourceAt,
  sourceSecond,
  trackOf,
  withNumberIn,
} from './scene';
export {
  anchorSchema,
  beatSchema,
  type Effect,
  effectSchema,
  FRAME_INTERPOLATIONS,
  FURTHEST_BEAT,
  finite,
  type Key,
  type Layer,
  layerSchema,
  type Mask,
  type Place,
  type SeamKeyframe,
  SOUNDS,
  seamKeyframeSchema,
  type TimeRemapKey,
} from './schema';
export { BETWEEN_FRAMES, TAKE_SOUNDS } from './words';
