import type { Degrees, Pixels, Unit } from '../units';
import { type Luma, shrink } from './luma';
import { fitPatch, makePatch, type Patch, type PatchFit, type PatchPose, searchPatch } from './patch-fit';

/** A place that is followed: its middle and how far around it belongs to it, pixels of the picture. */
export interface Region {
  x: Pixels;
  y: Pixels;
  radius: Pixels;
}

/** Where a followed place is in a frame. */
export interface TrackedPoint {
  x: Pixels;
  y: Pixels;
  /** Against where it was marked: clockwise as seen, and as a share of its size. */
  turn: Degrees;
  scale: number;
  /** How alike it is to what was marked or seen last, 0..1. */
  sure: Unit;
  /** Hidden or not found: its place is where it was going. */
  lost: boolean;
}

/** Likeness from which on a place is taken to be seen, and that it must have to be taken up again after it was lost. */
const SEEN = 0.72;
const FOUND = 0.82;
/** Likeness under which what was marked has changed so far that what was seen last is followed. */
const CHANGED = 0.9;
/** How far apart both may be to mean the same, as a share of the radius. */
const AGREE = 0.1;
/** Radius of the patch that is looked for, pixels of the picture it is looked for in. */
const COARSE = 7;
/** Frames for which a lost place goes on as it went. */
const COASTS = 5;
/** Pixels of the coarse picture that are searched to either side at most. */
const FURTHEST = 44;

const coarser = (pose: PatchPose, by: number): PatchPose => ({ ...pose, x: pose.x / by, y: pose.y / by });

/** A patch at two sizes: small to be looked for, as it is to be fitted. */
interface Both {
  fine: Patch;
  coarse: Patch;
}

/**
 * Follows a place through the frames of a take: looked for by correlation in a reduced picture around where it was going, then fitted by
 * shift, turn and scale to parts of a pixel (`fitPatch`) against what was marked, so that errors do not add up; what has changed too far
 * is followed from where it was seen last. Frames in order, all of one size.
 */
export class PointTracker {
  /** Pixels of the picture to one of those that are fitted and searched in. */
  private readonly fineBy: number;
  private readonly coarseBy: number;
  private readonly marked: Both;
  private recent: Both;
  private at: PatchPose;
  private going = { x: 0, y: 0 };
  private lostFor = 0;

  constructor(
    picture: Luma,
    private readonly region: Region,
  ) {
    this.fineBy = power(region.radius / 28);
    this.coarseBy = Math.max(this.fineBy, power(region.radius / COARSE));
    this.at = { x: region.x, y: region.y, turn: 0, scale: 1 };
    this.marked = this.patches(picture, this.at);
    this.recent = this.marked;
  }

  private patches(picture: Luma, pose: PatchPose): Both {
    const of = (by: number) => makePatch(by > 1 ? shrink(picture, by) : picture, coarser(pose, by), this.region.radius / by);
    return { fine: of(this.fineBy), coarse: of(this.coarseBy) };
  }

  /** Where the place is in the next frame. */
  next(picture: Luma): TrackedPoint {
    const coasts = this.lostFor < COASTS;
    const from = coasts ? { ...this.at, x: this.at.x + this.going.x, y: this.at.y + this.going.y } : this.at;
    const small = this.coarseBy > 1 ? shrink(picture, this.coarseBy) : picture;
    const fine = this.fineBy > 1 ? shrink(picture, this.fineBy) : picture;
    const fits = [this.marked, ...(this.recent === this.marked ? [] : [this.recent])].map((patch) => this.fitted(small, fine, patch, from));
    const [first, last = null] = fits;
    const best = this.chosen(first, last);
    if (!best || best.alike < (this.lostFor > 0 ? FOUND : SEEN)) return this.coasted(from, best?.alike ?? 0);
    const moved = { x: best.x - this.at.x, y: best.y - this.at.y };
    // After it was lost it may have come from anywhere.
    this.going = this.lostFor > 0 ? { x: 0, y: 0 } : { x: 0.5 * (this.going.x + moved.x), y: 0.5 * (this.going.y + moved.y) };
    this.lostFor = 0;
    const { alike, ...pose } = best;
    this.at = pose;
    if (!first || first.alike < CHANGED) this.renew(picture);
    return { ...pose, sure: alike, lost: false };
  }

  /** Of where what was marked fits and where what was seen last does: the marked one, as long as it is alike or both agree. */
  private chosen(first: PatchFit | null, last: PatchFit | null): PatchFit | null {
    if (!first || !last || first.alike >= CHANGED) return first ?? last;
    const apart = Math.hypot(first.x - last.x, first.y - last.y);
    if (first.alike >= SEEN && apart < Math.max(1, AGREE * this.region.radius)) return first;
    return last.alike > first.alike + 0.05 ? last : first;
  }

  /** Looks again at how the place is now; what is followed from then on lies where it was measured to be. */
  private renew(picture: Luma): void {
    this.recent = this.patches(picture, this.at);
  }

  private coasted(from: PatchPose, sure: Unit): TrackedPoint {
    this.lostFor++;
    this.at = from;
    this.going = { x: 0.7 * this.going.x, y: 0.7 * this.going.y };
    return { ...from, sure, lost: true };
  }

  /** The pose of a patch in a frame: where it correlates best, then fitted; null where it cannot be. */
  private fitted(small: Luma, fine: Luma, { fine: patch, coarse }: Both, from: PatchPose): PatchFit | null {
    // A patch seen later was taken as it lay then: its pose counts from there as the marked one's does.
    const start = this.searched(small, coarse, coarser(from, this.coarseBy));
    const near = fitPatch(small, coarse, start) ?? { ...start, alike: 0 };
    const k = this.coarseBy / this.fineBy;
    const fit =
      fitPatch(fine, patch, { ...near, x: near.x * k, y: near.y * k }) ??
      fitPatch(fine, patch, { ...start, x: start.x * k, y: start.y * k });
    return fit && { ...fit, x: fit.x * this.fineBy, y: fit.y * this.fineBy };
  }

  private searched(small: Luma, patch: Patch, from: PatchPose): PatchPose {
    // It may set off by its own radius from one frame to the next.
    const reach = (this.region.radius + Math.hypot(this.going.x, this.going.y)) / this.coarseBy + 3 * this.lostFor;
    return searchPatch(small, patch, from, Math.min(FURTHEST, Math.ceil(reach) + 2));
  }
}

/** The power of two at or below a number, 1 at least. */
const power = (n: number) => Math.max(1, 2 ** Math.floor(Math.log2(Math.max(1, n))));
