export type { BlendMode } from './blend';
export {
  BT709,
  type ColourMatrix,
  type ColourSpace,
  type Gains,
  IDENTITY_COLOUR,
  TRANSFER_OFFSET,
  TRANSFER_POWER,
  takeToProject,
  toRgba,
  toRgbMatrix,
} from './colour';
export { type ComposeLayer, compose } from './compose';
export { type Coverage, lineExtent, lineNormal, pathX } from './coverage';
export { blackPlanes, type Planes, planesOver } from './planes';
export { psnr } from './quality';
export type { Affine } from './resample';
export { boxPlane, fromRgba, reducedPlanes, upright } from './upright';
