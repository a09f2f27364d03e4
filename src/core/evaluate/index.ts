export {
  clipLength,
  clipSecond,
  clipStart,
  correctionAt,
  curvesOf,
  gainsAt,
  halfFrame,
  layerSecond,
  perspectiveAt,
  pictureWithin,
  shotAt,
} from './describe';
export type { LayerDescription, PictureDescription } from './description';
export { maskPoints, seamKeyframeAt } from './mask-coverage';
export { motionMargin } from './motion-margin';
export { edgeGap, marginOf, overscanFor } from './overscan';
export { layerMove } from './placement';
export { reducedSource, scaledPicture } from './scale';
export { beatMapOf, filmFrames, holderOf, sceneOf, shotFrames, shotOverAll } from './shot-scene';
export { type Sounding, soundings } from './sounding';
export { asVersion, describeShown as describeFrame, type PartPlace, partAround, partAt, partOf, shownPart } from './version';
