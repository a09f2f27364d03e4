import { BEAT_WIDTH } from './beat-rows';
import { mean } from './curves';

/** A network of three layers along the beats of a reading, and a small one for its figures. Rows of weights are one for each output. */
export interface BeatNet {
  /** Each beat by itself. */
  beat: number[][];
  beatBias: number[];
  /** Five beats in a row, and three that are four apart: weights by beat within each row. */
  near: number[][][];
  nearBias: number[];
  far: number[][][];
  farBias: number[];
  /** How much a beat speaks for its reading, for being the first of four and of three, and for bars of three. */
  out: number[][];
  outBias: number[];
  /** How much all beats together count beside the figures. */
  gain: number;
  hidden: number[][];
  hiddenBias: number[];
  straight: number[];
  figures: number[];
}

const elu = (v: number) => (v > 0 ? v : Math.expm1(v));

/** Sum of the products of `n` weights and values, four sums at a time: all the time of a network goes here. */
function product(w: Float64Array, from: number, x: Float64Array, at: number, n: number): number {
  let a = 0;
  let b = 0;
  let c = 0;
  let d = 0;
  let i = 0;
  for (; i + 3 < n; i += 4) {
    a += w[from + i] * x[at + i];
    b += w[from + i + 1] * x[at + i + 1];
    c += w[from + i + 2] * x[at + i + 2];
    d += w[from + i + 3] * x[at + i + 3];
  }
  for (; i < n; i++) a += w[from + i] * x[at + i];
  return a + b + c + d;
}

/** A network's weights as they are multiplied: a list for each output, beat by beat. */
interface Flat {
  beat: Float64Array[];
  near: Float64Array[];
  far: Float64Array[];
}
const known = new WeakMap<BeatNet, Flat>();

function flatOf(net: BeatNet): Flat {
  const flat = known.get(net) ?? {
    beat: net.beat.map((row) => Float64Array.from(row)),
    near: net.near.map(byBeat),
    far: net.far.map(byBeat),
  };
  known.set(net, flat);
  return flat;
}

/** Weights of an output, given by input and beat, in the order of beats and then of inputs. */
const byBeat = (row: readonly (readonly number[])[]): Float64Array => Float64Array.from(row[0].flatMap((_, t) => row.map((of) => of[t])));

/** Outputs of a layer for each beat, from those of beats `apart` from one another around it; nothing is heard beyond the ends. */
function along(input: Float64Array, width: number, flat: readonly Float64Array[], bias: readonly number[], apart: number): Float64Array {
  const count = input.length / width;
  const size = flat.length;
  const taps = flat[0].length / width;
  const beyond = (taps >> 1) * apart;
  const padded = new Float64Array((count + 2 * beyond) * width);
  padded.set(input, beyond * width);
  const out = new Float64Array(count * size);
  // Beats side by side are summed in one go.
  const run = apart === 1 ? taps : 1;
  for (let o = 0; o < size; o++)
    for (let b = 0; b < count; b++) {
      let sum = bias[o];
      for (let t = 0; t < taps; t += run) sum += product(flat[o], t * width, padded, (b + t * apart) * width, run * width);
      out[b * size + o] = elu(sum);
    }
  return out;
}

/** How beats may be counted: how many make a bar, and which of the first opens one. */
export const WAYS = [3, 4].flatMap((beatsPerBar) => Array.from({ length: beatsPerBar }, (_, phase) => ({ beatsPerBar, phase })));

/** What the networks say of a reading: how much speaks for it, and for each of the `WAYS` to count its bars (logarithms). */
export interface Verdict {
  score: number;
  ways: number[];
}

/** What a network says of the rows of a reading's beats (see `beatRows`) and its figures. */
export function heardBy(net: BeatNet, rows: Float64Array, figures: readonly number[]): Verdict {
  const count = rows.length / BEAT_WIDTH;
  const width = net.beat.length;
  const each = new Float64Array(count * width);
  const flat = flatOf(net);
  flat.beat.forEach((w, o) => {
    for (let b = 0; b < count; b++) each[b * width + o] = Math.tanh(net.beatBias[o] + product(w, 0, rows, b * BEAT_WIDTH, BEAT_WIDTH));
  });
  const near = along(each, width, flat.near, net.nearBias, 1);
  const far = along(near, net.near.length, flat.far, net.farBias, 4);
  const dot = (w: readonly number[], x: ArrayLike<number>, from = 0) => w.reduce((sum, v, i) => sum + v * x[from + i], 0);
  const said = net.out.map((w, o) => Float64Array.from({ length: count }, (_, b) => dot(w, far, b * net.far.length) + net.outBias[o]));
  const [forIt, firstOfFour, firstOfThree, inThrees] = said;
  const byFigures = net.hidden.reduce((sum, row, h) => sum + net.figures[h] * Math.tanh(net.hiddenBias[h] + dot(row, figures)), 0);
  const ways = WAYS.map(({ beatsPerBar, phase }) => {
    const firsts = (beatsPerBar === 4 ? firstOfFour : firstOfThree).filter((_, b) => b % beatsPerBar === phase);
    return net.gain * (mean(firsts) + (beatsPerBar === 3 ? mean(inThrees) : 0));
  });
  return { score: net.gain * mean(forIt) + byFigures + dot(net.straight, figures), ways };
}
