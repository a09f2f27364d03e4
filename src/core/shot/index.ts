export {
  beatMapOf,
  clipStart,
  correctionAt,
  describeFrame,
  filmFrames,
  gainsAt,
  halfFrame,
  isReveal,
  isSeam,
  lineAt,
  type PictureDescription,
  type RevealShot,
  revealFrames,
  type SeamShot,
  seamAt,
  shotFrames,
  sourceMap,
  takeTimeAt,
} from './describe';
export { type Footage, footageKey, footageName, footageOf, wholeOf } from './footage';
export { edgeGap, overscanFor } from './overscan';
export { plannedFrame, plannedSlots, tempoOf } from './planned';
export { reducedSource, scaledPicture } from './scale';
export {
  emptyProject,
  type Media,
  type Part,
  PROJECT_VERSION,
  type Project,
  readProject,
  type SeamMix,
  type Shot,
  type SoundClip,
  type Take,
  type TakeLive,
  type TakeSettings,
} from './schema';
