import { around } from '../units';
import { BEAT_WIDTH } from './beat-rows';
import { mean } from './curves';
import type { FirstSound } from './first-sound';
import { alongRows, type Layer } from './layer';

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
  /** How much the first sound speaks for the beat it lies on to open a bar: that of a song that begins at once, and of another. */
  opens: number[];
}

const elu = (v: number) => (v > 0 ? v : Math.expm1(v));

/** A network's weights as they are multiplied. */
interface Layers {
  beat: Layer;
  near: Layer;
  far: Layer;
}
const known = new WeakMap<BeatNet, Layers>();

function layersOf(net: BeatNet): Layers {
  const layers = known.get(net) ?? {
    beat: { weights: net.beat.map((row) => Float64Array.from(row)), bias: net.beatBias, apart: 1 },
    near: { weights: net.near.map(byBeat), bias: net.nearBias, apart: 1 },
    far: { weights: net.far.map(byBeat), bias: net.farBias, apart: 4 },
  };
  known.set(net, layers);
  return layers;
}

/** Weights of an output, given by input and beat, in the order of beats and then of inputs. */
const byBeat = (row: readonly (readonly number[])[]): Float64Array => Float64Array.from(row[0].flatMap((_, t) => row.map((of) => of[t])));

/** How beats may be counted: how many make a bar, and which of the first opens one. */
export const WAYS = [3, 4].flatMap((beatsPerBar) => Array.from({ length: beatsPerBar }, (_, phase) => ({ beatsPerBar, phase })));

/** What the networks say of a reading: how much speaks for it, and for each of the `WAYS` to count its bars (logarithms). */
export interface Verdict {
  score: number;
  ways: number[];
}

/** What a network says of the rows of a reading's beats (see `beatRows`), its figures, and where the first sound lies. */
export function heardBy(net: BeatNet, rows: Float64Array, figures: readonly number[], first: Pick<FirstSound, 'beat' | 'atOnce'>): Verdict {
  const count = rows.length / BEAT_WIDTH;
  const layers = layersOf(net);
  const each = alongRows(rows, BEAT_WIDTH, layers.beat).map(Math.tanh);
  const near = alongRows(each, net.beat.length, layers.near).map(elu);
  const far = alongRows(near, net.near.length, layers.far).map(elu);
  const dot = (w: readonly number[], x: ArrayLike<number>, from = 0) => w.reduce((sum, v, i) => sum + v * x[from + i], 0);
  const said = net.out.map((w, o) => Float64Array.from({ length: count }, (_, b) => dot(w, far, b * net.far.length) + net.outBias[o]));
  const [forIt, firstOfFour, firstOfThree, inThrees] = said;
  const byFigures = net.hidden.reduce((sum, row, h) => sum + net.figures[h] * Math.tanh(net.hiddenBias[h] + dot(row, figures)), 0);
  const ways = WAYS.map(({ beatsPerBar, phase }) => {
    const firsts = (beatsPerBar === 4 ? firstOfFour : firstOfThree).filter((_, b) => b % beatsPerBar === phase);
    const opened = first.beat !== null && around(first.beat, beatsPerBar) === phase ? net.opens[first.atOnce ? 0 : 1] : 0;
    return net.gain * (mean(firsts) + (beatsPerBar === 3 ? mean(inThrees) : 0)) + opened;
  });
  return { score: net.gain * mean(forIt) + byFigures + dot(net.straight, figures), ways };
}
