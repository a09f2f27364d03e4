import { around, type Unit } from '../units';
import { WAYS } from './beat-net';
import { sharesOf } from './curves';

/** How beats are counted: how many make a bar, and which of the first opens one. */
export interface Bars {
  beatsPerBar: number;
  phase: number;
  /** 0..1: how likely this is, among all ways to count them. */
  sure: Unit;
}

/** The likeliest bars, by how much speaks for each of the `WAYS` (logarithms) where `more` beats come before the first that was heard. */
export function barsBy(scores: readonly number[], more: number): Bars {
  const shares = sharesOf(scores);
  const sure = Math.max(...shares);
  const { beatsPerBar, phase } = WAYS[shares.indexOf(sure)];
  return { beatsPerBar, phase: around(phase + more, beatsPerBar), sure };
}
