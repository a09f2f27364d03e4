import type { Heard, Reading } from './readings';

/** A sound that is there by this value, hundredths of a second, begins at once: it may have been cut out of a longer one. */
const AT_ONCE = 2;
/** How far from a beat what lies on it may be, in beats. */
const ON = 0.15;

/** Where a song's first sound lies among the beats of a reading: songs mostly begin on a beat, and on the first of a bar. */
export interface FirstSound {
  /** Cosines of one, two and three turns a beat: those of a sound that begins at once, then those of another; 0 for the other kind. */
  figures: number[];
  /** The beat it lies on, counted from the reading's first, or null between beats; may be before the first. */
  beat: number | null;
  atOnce: boolean;
}

/** A place among beats, in beats from the first; tempo goes on beyond the last, and before the first as it is between the first two. */
function placeAmong(beats: readonly number[], at: number): number {
  const last = beats.length - 1;
  if (at > beats[last]) return last + ((at - beats[last]) * last) / (beats[last] - beats[0]);
  const i = Math.max(0, beats.findIndex((b) => b >= at) - 1);
  return i + (at - beats[i]) / (beats[i + 1] - beats[i]);
}

/** Where the first sound lies in a reading of two beats or more. */
export function firstSound({ extent: [at] }: Pick<Heard, 'extent'>, { beats }: Pick<Reading, 'beats'>): FirstSound {
  const place = placeAmong(beats, at);
  const atOnce = at <= AT_ONCE;
  const turns = [1, 2, 3].map((n) => Math.cos(2 * Math.PI * n * place));
  const none = turns.map(() => 0);
  const beat = Math.round(place);
  return { figures: atOnce ? [...turns, ...none] : [...none, ...turns], beat: Math.abs(place - beat) < ON ? beat : null, atOnce };
}
