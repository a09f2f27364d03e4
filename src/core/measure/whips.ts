import type { Seconds, Unit } from '../units';
import type { Luma } from './luma';

/** The way the picture goes as the camera is thrown: the other way. */
export type ThrownWay = 'left' | 'right' | 'up' | 'down';

/** A camera that was thrown round: from when it moves to when it rests, the fastest instant in between, and which way the picture goes. */
export interface Thrown {
  from: Seconds;
  to: Seconds;
  peak: Seconds;
  way: ThrownWay;
}

/** Pixels across of what is looked at. */
export const WHIP_WIDTH = 64;

/** Shares of the picture's side a second: what counts as moving, and what the fastest instant must reach. */
const [MOVING, FAST] = [0.5, 1.5];
/** How alike the parts that lie on each other must be, -1 to 1, to be told to be the same moved. */
const ALIKE = 0.6;
/** What is left of the picture of the frame before, at least, in shares of its side; and pixels it may go aside meanwhile. */
const [LEFT_OVER, ASIDE] = [0.3, 2];
/** How alike two pictures are that lie on each other as they are, from which on the camera is not being thrown. */
const CALM = 0.9;
/** Longest and shortest it lasts, seconds. */
const [LONGEST, SHORTEST] = [1.5, 0.1];

/** How the picture went from a frame to the next: shares of its width and height, null where the two have nothing in common. */
export type PictureStep = { x: Unit; y: Unit } | null;

/** How alike a picture and another are where they lie on each other once it is moved by whole pixels; -1 to 1 (normalised cross-correlation). */
function likeness(a: Luma, b: Luma, dx: number, dy: number): number {
  const { width, height } = a;
  const [left, right] = [Math.max(0, dx), Math.min(width, width + dx)];
  const [top, bottom] = [Math.max(0, dy), Math.min(height, height + dy)];
  let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0];
  for (let y = top; y < bottom; y++) {
    let ib = y * width + left;
    let ia = (y - dy) * width + left - dx;
    for (let x = left; x < right; x++, ia++, ib++) {
      const [va, vb] = [a.data[ia], b.data[ib]];
      sa += va;
      sb += vb;
      saa += va * va;
      sbb += vb * vb;
      sab += va * vb;
    }
  }
  const n = (right - left) * (bottom - top);
  const spread = (saa - (sa * sa) / n) * (sbb - (sb * sb) / n);
  return spread > 0 ? (sab - (sa * sb) / n) / Math.sqrt(spread) : 0;
}

/**
 * By how much the picture moved from one frame to the next, along its width or its height; null where no way makes the two alike. Both small
 * (`WHIP_WIDTH` across) and of one size.
 */
export function pictureStep(a: Luma, b: Luma): PictureStep {
  if (likeness(a, b, 0, 0) >= CALM) return { x: 0, y: 0 };
  const { width, height } = a;
  let best = { x: 0, y: 0, alike: -1 };
  const look = (x: number, y: number) => {
    const alike = likeness(a, b, x, y);
    if (alike > best.alike) best = { x, y, alike };
  };
  const [far, high] = [Math.floor((1 - LEFT_OVER) * width), Math.floor((1 - LEFT_OVER) * height)];
  for (let aside = -ASIDE; aside <= ASIDE; aside++) {
    for (let x = -far; x <= far; x++) look(x, aside);
    for (let y = -high; y <= high; y++) look(aside, y);
  }
  return best.alike >= ALIKE ? { x: best.x / width, y: best.y / height } : null;
}

/**
 * Where the camera is thrown round in a take, in order: `steps` of the picture from each frame to the next, `times` the seconds of the frames.
 * A throw reaches one and a half times the picture's side a second, keeps its way, and lasts 0.1 to 1.5 s; a cut between two pictures is none.
 */
export function findWhips(steps: readonly PictureStep[], times: readonly Seconds[]): Thrown[] {
  const lasts = steps.map((_, i) => times[i + 1] - times[i]);
  const moves = steps.map((step, i) => step === null || Math.max(Math.abs(step.x), Math.abs(step.y)) >= MOVING * lasts[i]);
  const found: Thrown[] = [];
  for (let i = 0; i < steps.length; i++) {
    if (!moves[i]) continue;
    let end = i;
    while (end < steps.length && moves[end]) end++;
    const one = thrownIn(steps.slice(i, end), times.slice(i, end + 1));
    if (one) found.push(one);
    i = end;
  }
  return found;
}

/** A throw made of some steps, with the seconds around each; null where they are none. */
function thrownIn(steps: readonly PictureStep[], times: readonly Seconds[]): Thrown | null {
  const [from, to] = [times[0], times[times.length - 1]];
  if (to - from < SHORTEST || to - from > LONGEST) return null;
  const seen = steps.flatMap((step, i) => (step ? [{ ...step, i, lasts: times[i + 1] - times[i] }] : []));
  // What cannot be followed is too fast to be, but only between what was.
  if (seen.length < 2 || seen.length < steps.length / 3) return null;
  const went = (of: 'x' | 'y') => seen.reduce((sum, step) => sum + step[of], 0);
  const along = Math.abs(went('x')) >= Math.abs(went('y')) ? 'x' : 'y';
  const way = Math.sign(went(along));
  const same = seen.filter((step) => Math.sign(step[along]) === way);
  if (same.length < 0.8 * seen.length) return null;
  const lost = steps.flatMap((step, i) => (step ? [] : [i]));
  const fastest = same.reduce((a, b) => (Math.abs(b[along]) / b.lasts > Math.abs(a[along]) / a.lasts ? b : a));
  if (lost.length === 0 && Math.abs(fastest[along]) < FAST * fastest.lasts) return null;
  // The frame after the fastest step, or in the middle of those that were too fast to follow: a cut there goes from the one before to it.
  const [first, last] = lost.length > 0 ? [lost[0], lost[lost.length - 1]] : [fastest.i, fastest.i];
  const names = along === 'x' ? (['left', 'right'] as const) : (['up', 'down'] as const);
  return { from, to, peak: times[Math.ceil((first + last + 1) / 2)], way: names[way < 0 ? 0 : 1] };
}
