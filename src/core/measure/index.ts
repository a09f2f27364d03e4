export { type Box, boxAround } from './around';
export { gridFactor, makeBackdrop } from './backdrop';
export { laidStrokes, StrokeFollower, strokePieces } from './carried-strokes';
export { changedBox } from './changed';
export { chosenFigure } from './chosen-figure';
export { CROSSING_WIDTH, type Crossing, findCrossing } from './crossing';
export { bestCuts, type Cut, posesOf } from './cut';
export { type Course, movement, type Part, proposeParts, REFERENCE_TONE, SOUND_STEP, type SplitBy, soundCourse } from './cut-recording';
export { emptyTakes, type GlancedTake, glanced } from './empty-takes';
export { FALL_CELLS, fallPath, fallProfile } from './fall';
export { type FeatureLibrary, featureGuesses } from './features';
export { mapOfPoints, nearestMove } from './fit-homography';
export { AROUND, freeCut, type GrabCutLibrary, joinedCut, resized, restless, standsInPlate } from './free-cut';
export { boxOf, grow, type Mask, packed, partsOf, unpacked } from './grid';
export { type BackingColour, backingColour, colourKey, removeSpill } from './key';
export { bestLie, type Lie, referenceThrough } from './lie';
export { type BlockColour, blockColours, type LightReading, meanColours, readLight } from './light';
export { kelvinLike, type LiveBump, LiveMeter, type LiveReading, lightWords } from './live';
export { canLock, LockMeter, type LockReading, type LockReference, makeReference } from './lock';
export { type Luma, lumaOf, medianLuma, shrink } from './luma';
export { type ChannelMatch, matchColour } from './match-colour';
export { brush, cutOut, cutOutWithin, lasso, type Matte, type MatteOptions, type Strokes, withStrokes } from './matte';
export { mergedPlate } from './merged-plate';
export { moveFindings } from './move-findings';
export {
  type Collision,
  collisions,
  occupied,
  unionOf,
} from './occupancy';
export { furthestReach, meetingOf, type PairFit, type Reach, rankPairs, reachAt } from './pair';
export type { PatchPose } from './patch-fit';
export { personMatte } from './person-matte';
export { type CleanPlate, cleanPlate, PLATE_FRAMES, plateVerdict } from './plate';
export { PointTracker, type TrackedPoint } from './point-tracker';
export { type PoseMatch, poseMatch } from './pose';
export { type Quality, QualityMeter, type QualitySeries, qualityFindings } from './quality';
export { type Scopes, scopesOf } from './scopes';
export { findSeam, type SeamFound, type SeamInput } from './seam';
export { inputAcross } from './seam-across';
export { seamFeather } from './seam-feather';
export { cornerMove, NO_MOVE, type Similarity } from './similarity';
export { smearOf } from './smear';
export { SteadyMatte } from './steady-matte';
export { restlessIn, structureEdges, withoutRestless } from './structure';
export { type Recorded, type Sync, syncSounds } from './sync';
export { curvesThrough, ToneLevels, TRANSFERS, transferOf } from './tone-curve';
export { matchTravel, type TimeMatch } from './travel';
export { correctionGains, correctionMoves, lightFindings, lockVerdict, summarise, type TakeLock, toldBy } from './verdict';
export { findWhips, type PictureStep, pictureStep, type Thrown, WHIP_WIDTH } from './whips';
