export { idSchema as id } from '../sources';
export { figureMask, keyAt, matteMask, pinAt, plainLayer, plainMask, seamMask, still } from './make';
export { LAYER_NUMBERS, type LayerNumber, maskNumber, type NumberKind } from './numbers';
export { layerFrames, layerNumber, layerTime, maskNumberAt, placeFrame, type Scene, trackOf } from './scene';
export {
  anchorSchema,
  BETWEENS,
  beatSchema,
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
