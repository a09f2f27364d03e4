import { Matrix, solve } from 'ml-matrix';
import { BT709, type ChannelCurves, curveAt, type Gains, type Planes, TRANSFER_OFFSET, TRANSFER_POWER, toRgbMatrix } from '../picture';
import { clamp, type Stops, type Unit } from '../units';
import { say } from '../words';

/** Steps of a curve: an entry at every sixteenth of R'G'B'. */
const CURVE_STEPS = 16;
/** Bins of the reference's level, and of how far the other picture is from it. */
const LEVELS = 32;
const FINEST = 1 / 512;
const WIDEST = 0.3;
const STEPS = Math.round((2 * WIDEST) / FINEST) + 1;
/** Fewest pixels of a level that say something, and the least share of them that must agree. */
const FEWEST = 150;
const AGREEING = 0.35;
/** What lies beyond is blown out or drowned in one of the two. */
const [DARKEST, BRIGHTEST] = [0.004, 0.975];

/** A level of a channel in the reference, how far the other picture's background is above it there, and how much that counts (0..1). */
export interface ToneLevel {
  level: Unit;
  off: number;
  weight: Unit;
}

/**
 * How the tones of one picture of a set lie against another's, level by level: most pixels of a level show the set in both, so what most
 * of them agree on is the set's, whoever passes before it.
 */
export class ToneLevels {
  private readonly counts = [0, 1, 2].map(() => new Uint32Array((LEVELS + 1) * STEPS));

  /** Adds a picture that lies on the reference (both BT.709, limited range, of one size) after `gains` were taken out of it; black where it does not reach. */
  see(reference: Planes, laid: Planes, { r, g, b }: Gains): void {
    const { width, height } = reference;
    const half = width >> 1;
    const m = toRgbMatrix(BT709);
    // What was blown out as filmed is below white once its gain is taken out.
    const blown = [r, g, b].map((gain) => Math.min(BRIGHTEST, (BRIGHTEST + TRANSFER_OFFSET) / gain ** TRANSFER_POWER - TRANSFER_OFFSET));
    const luma = ({ y }: Planes, at: number) => (y[at] + y[at + 1] + y[at + width] + y[at + width + 1]) / 4;
    for (let row = 0; row < height >> 1; row += 2) {
      for (let x = row & 2 ? 1 : 0; x < half; x += 2) {
        const at = 2 * row * width + 2 * x;
        const k = row * half + x;
        const [was, is] = [luma(reference, at), luma(laid, at)];
        if (is < 17) continue;
        for (let c = 0; c < 3; c++) {
          const value = (y: number, p: Planes) => m[4 * c] * y + m[4 * c + 1] * p.u[k] + m[4 * c + 2] * p.v[k] + m[4 * c + 3];
          const [before, now] = [value(was, reference), value(is, laid)];
          if (before < DARKEST || before > BRIGHTEST || now < DARKEST || now > blown[c]) continue;
          const off = Math.round((now - before + WIDEST) / FINEST);
          if (off >= 0 && off < STEPS) this.counts[c][Math.round(before * LEVELS) * STEPS + off]++;
        }
      }
    }
  }

  /** What was seen of red, green and blue. */
  levels(): [ToneLevel[], ToneLevel[], ToneLevel[]] {
    const bins = this.counts.map((all) => Array.from({ length: LEVELS + 1 }, (_, k) => all.subarray(k * STEPS, (k + 1) * STEPS)));
    // How far noise alone strays: the quieter levels tell it, for in others somebody may stand who is nearly as bright.
    const spreads = bins.flat().flatMap((counts) => agreed(counts, Number.POSITIVE_INFINITY)?.spread ?? []);
    const usual = spreads.sort((a, b) => a - b)[spreads.length >> 2] ?? 0;
    return bins.map((own) =>
      own.flatMap((counts, k): ToneLevel[] => {
        const found = agreed(counts, usual);
        return found ? [{ level: k / LEVELS, off: found.mean * FINEST - WIDEST, weight: found.n / (found.n + 1500) }] : [];
      }),
    ) as [ToneLevel[], ToneLevel[], ToneLevel[]];
  }
}

/** What most pixels of a level agree on, in steps, straying by no more than `usual`; null where they are few or do not agree. */
function agreed(counts: Uint32Array, usual: number): { n: number; mean: number; spread: number } | null {
  const total = counts.reduce((s, n) => s + n, 0);
  if (total < FEWEST) return null;
  const within = (from: number, to: number) => {
    let [n, sum, squares] = [0, 0, 0];
    for (let i = Math.max(0, Math.ceil(from)); i <= Math.min(STEPS - 1, to); i++) {
      n += counts[i];
      sum += counts[i] * i;
      squares += counts[i] * i * i;
    }
    const mean = sum / (n || 1);
    return { n, mean, spread: Math.sqrt(Math.max(0, squares / (n || 1) - mean * mean)) };
  };
  // From the densest stretch of two code values outwards, as far as what lies around it belongs to it.
  let best = within(0, 4);
  for (let i = 1; i + 4 < STEPS; i++) {
    const here = within(i, i + 4);
    if (here.n > best.n) best = here;
  }
  let found = best;
  for (let turn = 0; turn < 6; turn++) {
    const reach = Math.max(4, 2.2 * Math.min(found.spread, 1.2 * usual));
    found = within(found.mean - reach, found.mean + reach);
  }
  return found.n < AGREEING * total ? null : found;
}

/** Least that a curve must change red, green or blue for it to be kept, code values; a code of Cb or Cr is almost two of blue or red. */
const SEEN = [1.5, 0.8, 1.5];

/**
 * The curve that brings a channel to the reference at every level: what was seen, smoothed, never turning back. Null where nothing is
 * known of it.
 */
function curveThrough(levels: readonly ToneLevel[]): number[] | null {
  if (levels.length < 3) return null;
  const n = CURVE_STEPS + 1;
  const [left, right] = [Matrix.zeros(n, n), Matrix.zeros(n, 1)];
  const add = (terms: readonly (readonly [number, number])[], target: number, weight: number) => {
    for (const [i, a] of terms) {
      right.set(i, 0, right.get(i, 0) + weight * a * target);
      for (const [j, b] of terms) left.set(i, j, left.get(i, j) + weight * a * b);
    }
  };
  for (const { level, off, weight } of levels) {
    const at = clamp(level + off, 0, 1) * CURVE_STEPS;
    const low = Math.min(CURVE_STEPS - 1, Math.floor(at));
    add(
      [
        [low, 1 - at + low],
        [low + 1, at - low],
      ],
      -off,
      weight,
    );
  }
  for (let k = 0; k + 1 < n; k++) {
    add(
      [
        [k, 1],
        [k + 1, -1],
      ],
      0,
      0.003,
    );
    if (k > 0)
      add(
        [
          [k - 1, 1],
          [k, -2],
          [k + 1, 1],
        ],
        0,
        0.03,
      );
  }
  const curve = solve(left, right).to1DArray();
  // Tones never change places.
  const least = 0.2 / CURVE_STEPS;
  for (let k = 1; k < n; k++) curve[k] = Math.max(curve[k], curve[k - 1] - 1 / CURVE_STEPS + least);
  return curve.map((v) => Math.round(clamp(v, -0.5, 0.5) * 1e5) / 1e5);
}

/** The curves that bring a picture to the reference after its gains; null where the gains alone do. */
export function curvesThrough(seen: readonly (readonly ToneLevel[])[]): ChannelCurves | null {
  const [r, g, b] = seen.map((levels) => curveThrough(levels));
  if (!r || !g || !b) return null;
  const seenIn = (curve: readonly number[], c: number) => seen[c].some((l) => Math.abs(curveAt(curve, l.level + l.off)) > SEEN[c] / 255);
  return [r, g, b].some(seenIn) ? { r, g, b } : null;
}

/** A camera's tone curve: coded value of light; any gain before it is left open. */
interface Transfer {
  name: string;
  code(light: number): number;
}

const display = (l: number) => (l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055);

/** Tone curves that are told apart. */
export const TRANSFERS: readonly Transfer[] = [
  /** ITU-R BT.709-6 item 1.2. */
  { name: 'BT.709', code: (l) => (l < 0.018 ? 4.5 * l : 1.099 * l ** 0.45 - 0.099) },
  /** IEC 61966-2-1. */
  { name: 'sRGB', code: display },
  { name: say`a power of 2.2`, code: (l) => l ** (1 / 2.2) },
  /** A curve with a shoulder and a toe, as of films and phones: the rational approximation by Narkowicz 2015, coded as sRGB. */
  { name: say`a curve with a shoulder`, code: (l) => display((l * (2.51 * l + 0.03)) / (l * (2.43 * l + 0.59) + 0.14)) },
  /** Even steps for even stops, as log footage. */
  { name: say`a log curve`, code: (l) => Math.log2(100 * l + 1) / Math.log2(101) },
];

/** Light at a coded value, by halving; brightest 2^6 of white. */
function lightAt({ code }: Transfer, value: Unit): number {
  let [low, high] = [-14, 6];
  for (let turn = 0; turn < 30; turn++) {
    const middle = (low + high) / 2;
    if (code(2 ** middle) < value) low = middle;
    else high = middle;
  }
  return 2 ** low;
}

const middleOf = (values: readonly { value: number; weight: number }[]) => {
  const sorted = [...values].sort((a, b) => a.value - b.value);
  const half = sorted.reduce((s, v) => s + v.weight, 0) / 2;
  let sum = 0;
  return sorted.find((v) => {
    sum += v.weight;
    return sum >= half;
  })?.value as number;
};

/** By how much a light must differ for its tone curve to be told, and how much nearer than BT.709 another has to come. */
const TOLD: Stops = 0.08;
const NEARER = 0.75;
const CLEARLY = 0.1 / 255;
/** Green is coded finest: what the others say counts less. */
const SAYS = [0.3, 1, 0.3];

/**
 * The tone curve by which the light between two pictures differs, and how many stops there are by it to one by BT.709. Levels are as they
 * were seen after `gains` (linear light by BT.709) were taken out; a difference too small to tell is read by BT.709.
 */
export function transferOf(seen: readonly (readonly ToneLevel[])[], { r, g, b }: Gains): { name: string; perStop: number } {
  const plain = { name: TRANSFERS[0].name, perStop: 1 };
  const byPlain = Math.log2(g);
  if (Math.abs(byPlain) < TOLD) return plain;
  const tones = seen.map((levels, c) => {
    const k = [r, g, b][c] ** TRANSFER_POWER;
    return levels.flatMap(({ level, off, weight }) => {
      const raw = (level + off + TRANSFER_OFFSET) * k - TRANSFER_OFFSET;
      return level > 0.06 && raw > 0.06 && raw < BRIGHTEST ? [{ level, raw, weight }] : [];
    });
  });
  if (tones.some((t) => t.length < 4)) return plain;
  const tried = TRANSFERS.map((transfer) => {
    let [sum, weights, stops] = [0, 0, 0];
    tones.forEach((all, c) => {
      const lights = all.map(({ level, raw, weight }) => ({ was: lightAt(transfer, level), is: lightAt(transfer, raw), raw, weight }));
      const gain = middleOf(lights.map(({ was, is, weight }) => ({ value: Math.log2(is / was), weight })));
      if (c === 1) stops = gain;
      for (const { was, raw, weight } of lights) {
        sum += SAYS[c] * weight * (transfer.code(was * 2 ** gain) - raw) ** 2;
        weights += SAYS[c] * weight;
      }
    });
    return { name: transfer.name, left: Math.sqrt(sum / weights), stops };
  });
  const [usual] = tried;
  const best = tried.reduce((a, t) => (t.left < a.left ? t : a));
  const told = best.left < NEARER * usual.left && usual.left - best.left > CLEARLY;
  return told ? { name: best.name, perStop: best.stops / byPlain } : plain;
}
