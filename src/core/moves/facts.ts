import type { Percent, Seconds, Unit } from '../units';

/** What was seen falling in a take: when it begins and ends, the path of the densest part, and how much of all that falls lies near it. */
export interface MeasuredFall {
  from: Seconds;
  to: Seconds;
  position: readonly Unit[];
  cover: Unit;
}

/** What a move may ask to be measured before it is proposed. */
export interface Facts {
  /** What falls in each of its takes. */
  fall: readonly (MeasuredFall | null)[];
  /** How much moves in the first take, at seconds of it. */
  movement: { times: readonly Seconds[]; movement: readonly number[] };
  /** The performer cut out of the first take at the second seen now, and the empty set; `why` one is missing, in a sentence. */
  cutOut: { second: Seconds; matte: { matteId: string; top: Percent; bottom: Percent } | null; plate: string | null; why: string };
}
export type FactId = keyof Facts;
