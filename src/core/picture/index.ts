export { type Affine, applied, composeAffine, inverted, STAY } from './affine';
export { betweenChroma } from './between-chroma';
export { bleedIntoClear } from './bled';
export { BLEND_MODES, type BlendMode } from './blend';
export {
  BT709,
  type ColourMatrix,
  type ColourSpace,
  composeColour,
  fromRgbMatrix,
  type Gains,
  IDENTITY_COLOUR,
  TRANSFER_OFFSET,
  TRANSFER_POWER,
  takeToProject,
  toRgba,
  toRgbMatrix,
} from './colour';
export { type ColourCube, throughCube } from './colour-cube';
export { alongCurves, type ChannelCurves, type ColourTable, curveAt, type Rgb, tableOf, throughTable } from './colour-table';
export { COMBINES } from './combine';
export { type ComposeLayer, compose, wholeLayer } from './compose';
export { lineExtent, lineNormal, pathX } from './coverage';
export { type Coverage, type MatteCoverage, type Mattes, matteKey, type Raster } from './coverage-plane';
export { gaussianBlur } from './gaussian-blur';
export { coverageOfGrey, greyPlanes } from './grey';
export { asHomography, chained, cornersApart, enlarged, type Homography, ofMove, seenBy, through, UNMOVED, undone } from './homography';
export { type Flow, inBetween } from './in-between';
export { type Motion, type MotionSample, meanOfMaps, samplesFor, travelOf } from './motion-blur';
export { planeThrough, seenThrough } from './perspective';
export { blackPlanes, bytesUnder, type ClearPlanes, copiedPlanes, meanPlanes, type Planes, planesOver } from './planes';
export { psnr } from './quality';
export { alphaFromRaw, planesFromRaw, rawForm, rawLayout, rgbaFromRaw } from './raw';
export { recoloured } from './recolour';
export { boxPlane, reducedPlanes } from './reduce';
export { fills } from './resample';
export { safeAreas } from './safe-areas';
export { type Edge, mirrored } from './sample';
export { ellipsePoints, outlinePoints, type Point, rectanglePoints } from './shape';
export type { MovingSilhouette } from './silhouette';
export { type Chroma, chromaOfHue, hueOfChroma, takeSpillOut } from './spill';
export { stretched } from './stretch';
export { fromRgba, rotateToDisplay } from './upright';
export { type WideColour, wideTable } from './wide-colour';
