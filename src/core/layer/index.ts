export type { NumberKind } from '../motion';
export { idSchema as id } from '../sources';
export { figureMask, keyAt, matteMask, pinAt, plainEffect, plainLayer, plainMask, seamMask, still } from './make';
export { LAYER_NUMBERS, type LayerNumber } from './numbers';
export {
  effectNumbers,
  layerFrames,
  layerNumber,
  layerTime,
  maskNumberAt,
  numberAt,
  numberKindOf,
  placeFrame,
  type Scene,
  trackOf,
} from './scene';
export {
  anchorSchema,
  BETWEENS,
  beatSchema,
  type Effect,
  FURTHEST_BEAT,
  finite,
  type Key,
  type Layer,
  layerSchema,
  type Mask,
  type Pin,
  type Place,
  SOUNDS,
  type Stand,
} from './schema';
