import { parabola } from '../correlate';
import { median, type Seconds, type Unit } from '../units';
import { agreement } from './agreement';
import { HEARD, heardPlaces, WINDOW } from './heard-places';
import { type HeardOnsets, hopAt } from './onset';

/** A stretch of the old recording that is heard in the new one: what was at `t` is at `offset + rate * t`. */
export interface Matched {
  /** Where it begins and ends in the old recording. */
  from: Seconds;
  to: Seconds;
  offset: Seconds;
  rate: number;
}

/** How a new mix or edit of a song lies on the old one. */
export interface Alignment {
  /** In the order of the old recording; empty where the two are not the same song. */
  pieces: Matched[];
  /** Share of the old recording that is heard in the new one. */
  share: Unit;
}

/** A line through where short stretches are heard exactly, by the fine curves: offset and rate of a piece. */
function refined(old: HeardOnsets, fresh: HeardOnsets, { from, to, offset, rate }: Matched): Matched {
  const { rate: hops } = old;
  const half = Math.round(1.5 * hops);
  const reach = Math.round(0.1 * hops);
  const points: { t: number; u: number }[] = [];
  for (let t = from + 1.5; t <= to - 1.5; t += Math.max(0.75, (to - from) / 400)) {
    const middle = hopAt(old, t);
    const time = old.start + middle / hops;
    const expected = (offset + rate * time - fresh.start) * hops;
    const scores = Array.from({ length: 2 * reach + 1 }, (_, k) => agreement(old.all, fresh.all, middle, expected + k - reach, half, rate));
    const best = scores.indexOf(Math.max(...scores));
    if (best < 1 || best > 2 * reach - 1 || scores[best] < 0.35) continue;
    const part = parabola(scores[best - 1], scores[best], scores[best + 1]);
    points.push({ t: time, u: fresh.start + (expected + best + part - reach) / hops });
  }
  if (points.length < 4) return { from, to, offset, rate };
  return { from, to, ...lineThrough(points, { offset, rate }) };
}

/** How well a second of the old recording around `t` agrees with where a piece says it is heard. */
function agreementAt(old: HeardOnsets, fresh: HeardOnsets, { offset, rate }: Matched, t: Seconds): number {
  const middle = hopAt(old, t);
  const time = old.start + middle / old.rate;
  return agreement(old.all, fresh.all, middle, (offset + rate * time - fresh.start) * old.rate, Math.round(0.5 * old.rate), rate);
}

/** A piece made longer at both ends for as long as the recordings agree, no further than `low` and `high`. */
function grown(old: HeardOnsets, fresh: HeardOnsets, piece: Matched, low: Seconds, high: Seconds): Matched {
  const step = 0.25;
  let { from, to } = piece;
  while (from - step > low && agreementAt(old, fresh, piece, from - step) > HEARD) from -= step;
  while (to + step < high && agreementAt(old, fresh, piece, to + step) > HEARD) to += step;
  // What little is left to an end of the recordings may be quiet, and goes along.
  return { ...piece, from: from - low < WINDOW / 4 ? Math.min(from, low) : from, to: high - to < WINDOW / 4 ? Math.max(to, high) : to };
}

/** Least squares on the points that lie within three times the median distance, over and over. */
function lineThrough(points: readonly { t: number; u: number }[], first: { offset: number; rate: number }) {
  let line = first;
  let use = points;
  for (let round = 0; round < 6; round++) {
    const off = points.map((p) =>
      Math.abs(p.u - line.offset - line.rate * p.t - (round ? 0 : median(points.map((q) => q.u - line.offset - line.rate * q.t)))),
    );
    const limit = Math.max(0.002, 3 * median(off));
    use = points.filter((_, i) => off[i] <= limit);
    const mt = use.reduce((sum, p) => sum + p.t, 0) / use.length;
    const mu = use.reduce((sum, p) => sum + p.u, 0) / use.length;
    const spread = use.reduce((sum, p) => sum + (p.t - mt) ** 2, 0);
    const rate = spread > 4 ? use.reduce((sum, p) => sum + (p.t - mt) * (p.u - mu), 0) / spread : line.rate;
    line = { rate, offset: mu - rate * mt };
  }
  return line;
}

/** Where one piece ends and the next begins: where the one agrees no longer and the other does. */
function joined(old: HeardOnsets, fresh: HeardOnsets, a: Matched, b: Matched): [Matched, Matched] {
  const at = (piece: Matched, t: Seconds) => agreementAt(old, fresh, piece, t);
  // A stretch that is gone: the two pieces meet at one instant of the new recording; one that was put in: at one of the old.
  const onward = b.offset + b.rate * b.to > a.offset + a.rate * a.to;
  const gone = onward ? Math.max(0, (a.offset - b.offset) / b.rate) : 0;
  const [low, high] = [a.from + 0.5, Math.min(b.to - gone, a.to + WINDOW) - 0.5];
  const step = 0.05;
  const cuts = Array.from({ length: Math.max(1, Math.floor((high - low) / step)) }, (_, k) => low + k * step);
  // Chosen so that what lies before it agrees with the one, and what lies after it with the other.
  const gains = cuts.map((t) => at(a, t) - at(b, t + gone));
  let [best, most, sum] = [0, Number.NEGATIVE_INFINITY, 0];
  gains.forEach((gain, k) => {
    sum += gain;
    if (sum > most) [best, most] = [k, sum];
  });
  const cut = cuts[best] + step / 2;
  return [
    { ...a, to: cut },
    { ...b, from: cut + gone },
  ];
}

/**
 * Where a new mix or edit of a song has what was in the old one: the places its stretches are heard in (see `heardPlaces`) are joined to pieces,
 * and each piece is laid exactly by a line through short stretches. Durations in seconds; no pieces for recordings too short to tell.
 */
export function alignSongs(old: HeardOnsets, fresh: HeardOnsets, oldDuration: Seconds, freshDuration: Seconds): Alignment {
  const none: Alignment = { pieces: [], share: 0 };
  if (oldDuration < WINDOW || freshDuration < WINDOW / 2) return none;
  const { places, rate } = heardPlaces(old, fresh, oldDuration);
  const pieces: Matched[] = [];
  for (const place of places) {
    if (!place) continue;
    const offset = place.heard - rate * place.at;
    const open = pieces.at(-1);
    if (open && Math.abs(open.offset - offset) < 0.12) open.to = place.at + WINDOW;
    else pieces.push({ from: place.at, to: place.at + WINDOW, offset, rate });
  }
  if (!pieces.length) return none;
  const exact: Matched[] = [];
  const once = pieces.filter((p) => !pieces.some((q) => q !== p && hidesBehind(p, q)));
  for (const piece of once.map((p) => refined(old, fresh, p))) {
    const before = exact.at(-1);
    const meets = before && before.to > piece.from - WINDOW;
    if (meets) exact.splice(-1, 1, ...joined(old, fresh, before, piece));
    else exact.push(piece);
  }
  const ends = exact.map((p, k) => {
    const before = exact[k - 1];
    const taken = before ? before.offset + before.rate * before.to : 0;
    const low = Math.max(before?.to ?? 0, taken < p.offset + p.rate * p.to ? (taken - p.offset) / p.rate : 0, -p.offset / p.rate);
    const high = Math.min(exact[k + 1]?.from ?? oldDuration, (freshDuration - p.offset) / p.rate);
    return grown(old, fresh, p, low, high);
  });
  const kept = ends.filter((p) => p.to - p.from > 1);
  return { pieces: kept, share: kept.reduce((sum, p) => sum + p.to - p.from, 0) / oldDuration };
}

/** Whether most of where a piece is heard is where a longer one is: a part that comes again is not both of them. */
function hidesBehind(p: Matched, longer: Matched): boolean {
  const [a, b] = [p, longer].map((m) => [m.offset + m.rate * m.from, m.offset + m.rate * m.to]);
  return longer.to - longer.from > p.to - p.from && Math.min(a[1], b[1]) - Math.max(a[0], b[0]) > (a[1] - a[0]) / 2;
}

/** Where an instant of the old recording is in the new one; null where it is no longer there. */
export function slid({ pieces }: Alignment, time: Seconds): Seconds | null {
  const piece = pieces.find((p) => time >= p.from - 1e-6 && time <= p.to + 1e-6);
  return piece ? piece.offset + piece.rate * time : null;
}
