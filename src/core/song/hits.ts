import { parabola } from '../correlate';
import { clamp, type Seconds, type Unit } from '../units';
import { accents } from './beats';
import { hopAt, type OnsetStrength } from './onset';

/** A moment to cut on: a drum stroke, the sound breaking off, or coming in with all it has. */
export interface Hit {
  time: Seconds;
  kind: 'stroke' | 'stop' | 'drop';
  strength: Unit;
}

/** Weaker strokes are no moments to cut on. */
const WEAKEST = 0.22;
/** Two strokes are at least so far apart. */
const APART: Seconds = 0.07;
/** Fall that makes a stop, and the rise that makes a drop, in decibels; and what counts as full strength. */
const FALL = [14, 40] as const;
const RISE = [5, 15] as const;
/** How much quieter than anything in the seconds before a stop is, decibels. */
const UNUSUAL = 6;

const within = (value: number, [low, high]: readonly [number, number]) => clamp(0.4 + (0.6 * (value - low)) / (high - low), 0, 1);

/** Level in decibels, one a hop, over windows of so many seconds from the hop on (or up to it, when negative). */
function levels(onsets: OnsetStrength): (hop: number, seconds: Seconds) => number {
  const sums = new Float64Array(onsets.energy.length + 1);
  for (let i = 0; i < onsets.energy.length; i++) sums[i + 1] = sums[i] + onsets.energy[i];
  return (hop, seconds) => {
    const other = clamp(Math.round(hop + seconds * onsets.rate), 0, onsets.energy.length);
    const [from, to] = [Math.min(hop, other), Math.max(hop, other)];
    return 10 * Math.log10((sums[to] - sums[from]) / Math.max(1, to - from) + 1e-6);
  };
}

/** Peaks of what begins, each with its height over the song's strong ones. */
function strokes(onsets: OnsetStrength): Hit[] {
  const curve = accents(onsets);
  const strong = curve.toSorted()[Math.floor(curve.length * 0.995)] || 1;
  const reach = Math.round(APART * onsets.rate);
  const found: Hit[] = [];
  for (let i = 1; i + 1 < curve.length; i++) {
    const strength = Math.min(1, curve[i] / strong);
    if (strength < WEAKEST) continue;
    let peak = true;
    for (let k = Math.max(0, i - reach); k <= Math.min(curve.length - 1, i + reach) && peak; k++)
      if (curve[k] > curve[i] || (curve[k] === curve[i] && k < i)) peak = false;
    if (!peak) continue;
    const part = parabola(curve[i - 1], curve[i], curve[i + 1]);
    found.push({ time: onsets.start + (i + part) / onsets.rate, kind: 'stroke', strength });
  }
  return found;
}

/**
 * The moments of a song to cut on, in order: drum strokes (peaks of onset strength), stops (the level falls by 14 dB and stays down
 * for 0.4 s) and drops (after a quieter second a stroke from which the next second is at least 5 dB louder than the two before).
 * The figures are common practice.
 */
export function findHits(onsets: OnsetStrength): Hit[] {
  const level = levels(onsets);
  const loud = level(0, onsets.energy.length / onsets.rate);
  const struck = strokes(onsets).map((hit): Hit => {
    const at = hopAt(onsets, hit.time) - 2;
    const rise = level(at, 1) - Math.max(level(at, -2), level(at, -0.5), loud - 30);
    // What begins out of silence is a beginning, not a drop.
    const before = level(at, -at / onsets.rate) > loud - 30;
    return before && hit.strength > 0.4 && rise > RISE[0] && level(at, 2) > loud - 3
      ? { ...hit, kind: 'drop', strength: within(rise, RISE) }
      : hit;
  });
  return [...dropsApart(struck), ...stops(onsets, level, loud)].sort((a, b) => a.time - b.time);
}

/** One drop for each rise: the strongest within two seconds. The others are strokes. */
function dropsApart(hits: readonly Hit[]): Hit[] {
  const drops = hits.filter((h) => h.kind === 'drop');
  return hits.map((h) =>
    h.kind === 'drop' &&
    drops.some(
      (d) => d !== h && Math.abs(d.time - h.time) < 2 && (d.strength > h.strength || (d.strength === h.strength && d.time < h.time)),
    )
      ? { ...h, kind: 'stroke' }
      : h,
  );
}

function stops(onsets: OnsetStrength, level: (hop: number, seconds: Seconds) => number, loud: number): Hit[] {
  const found: Hit[] = [];
  const [before, after] = [-0.15, 0.4];
  /** The quietest such stretch of the four seconds before: strokes with silence between them do not stop at each. */
  const quietest = (hop: number) => {
    let least = Number.POSITIVE_INFINITY;
    for (let k = Math.max(0, hop - 4 * onsets.rate); k < hop - after * onsets.rate; k += 6) least = Math.min(least, level(k, after));
    return least;
  };
  for (let i = onsets.rate; i < onsets.energy.length - after * onsets.rate; i++) {
    const held = level(i, before);
    const fall = held - level(i, after);
    if (held < loud - 12 || fall < FALL[0] || level(i, 0.04) > held - 6) continue;
    const usual = quietest(i);
    if (!Number.isFinite(usual) || level(i, after) > usual - UNUSUAL) continue;
    found.push({ time: onsets.start + i / onsets.rate, kind: 'stop', strength: within(fall, FALL) });
    i += Math.round(after * onsets.rate);
  }
  return found;
}
