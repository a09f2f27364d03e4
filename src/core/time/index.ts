export { type Anchor, anchorAtFrame, anchorBeatSeconds, beatOfFrame, describeAnchor, resolveAnchor } from './anchor';
export {
  barAndBeat,
  barChanges,
  barName,
  barStart,
  barToBeat,
  beatsInBar,
  beatsPerBarAt,
  inBars,
  isDownbeat,
  movedChanges,
  nearestBarLine,
  withBarLineAt,
  withBarsFrom,
  withBarsLater,
} from './bars';
export { type BeatMap, beatToSeconds, constantBeatMap, fromTaps, secondsToBeat, tempo } from './beatmap';
export { doubled, halved, nearestBeat, nudged, tappedBeats, tempoCurve, withBar1At, withBeatAt, withLocks, withStretch } from './correct';
export { type FrameRate, fps, frameToSeconds, nearestFrame, STANDARD_RATES, standardRate } from './rate';
export { toTimecode } from './timecode';
