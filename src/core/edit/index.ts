export { anchorOn, copiedShot, movedShot, repeats, SNAPS, type Snap, shotOfShots, snapped, trimmedShot } from './arrange';
export { onBeat, stretched, withKey, withMirrored, withMoved, withoutKeys } from './edit-keys';
export { moveProblems } from './move-problems';
export { moveEvents, takesOf, withEvents, withStart, withTakes } from './places';
export { plannedFrame, plannedSlots, tempoOf } from './planned';
export { plainShot, proposeMove, proposePlain, proposeSeam, type SomeFacts } from './propose';
export { posterFrame, regenerate } from './regenerate';
export { retimed } from './retime';
export { retimedToRecording } from './retime-recording';
