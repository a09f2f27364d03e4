import type { Project, Shot } from '../document';
import { proposeMove, type SomeFacts } from '../edit';
import type { Facts, MeasuredFall, Move } from '../moves';
import type { Seconds } from '../units';

/** Something that falls evenly from second 3.5 to 5.4. */
export const STAGED_FALL: MeasuredFall = { from: 3.5, to: 5.4, position: Array.from({ length: 48 }, (_, i) => i / 47), cover: 0.9 };

/** Movement of a take at 25 frames a second that comes to rest at some of its seconds, 0.8 s or more apart. */
export function restsAt(rests: readonly Seconds[], duration: Seconds = 10): Facts['movement'] {
  const times = Array.from({ length: Math.round(duration * 25) }, (_, i) => i / 25);
  return { times, movement: times.map((t) => 4 - Math.max(0, ...rests.map((rest) => 3 * Math.exp(-(((t - rest) / 0.2) ** 2))))) };
}

/** What moves may ask to know of the staged takes: two that something falls in, a cut-out, an empty set, four poses. */
const STAGED_FACTS: Facts = {
  fall: [STAGED_FALL, { ...STAGED_FALL, from: 3.8, to: 5.7 }],
  movement: restsAt([2, 3.4, 4.24, 6]),
  cutOut: { second: 4, matte: { matteId: 'cut-out', top: 20, bottom: 90 }, plate: 'empty', why: '' },
};

/** A shot with a move on a beat as it is proposed. */
export const stagedMove = (
  project: Project,
  kind: Move['kind'],
  beat: number,
  takes: readonly string[],
  facts: SomeFacts = {},
  id: string = kind,
): Shot => proposeMove(project, id, kind, beat, takes, { ...STAGED_FACTS, ...facts }, 100).shot;
