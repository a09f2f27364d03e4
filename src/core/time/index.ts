export { type Anchor, anchorAtFrame, anchorBeatSeconds, beatOfFrame, describeAnchor, resolveAnchor } from './anchor';
export {
  type BeatMap,
  barAndBeat,
  beatToSeconds,
  constantBeatMap,
  doubled,
  fromTaps,
  halved,
  nudged,
  secondsToBeat,
  tempo,
  withBar1At,
} from './beatmap';
export { nearestBeat, tappedBeats, tempoCurve, withBeatAt, withLocks, withStretch } from './correct';
export { type FrameRate, fps, frameToSeconds, nearestFrame, STANDARD_RATES, standardRate } from './rate';
export { toTimecode } from './timecode';
