import type { Project, Take } from '../document';
import { correctionGains, correctionMoves, type TakeLock } from '../measure';
import type { Seconds } from '../units';

/** The correction that measured moves and light against a reference ask for. */
export const correctionFrom = (against: TakeLock, referenceTakeId: string): NonNullable<Take['correction']> => ({
  enabled: true,
  referenceTakeId,
  ...(against.perspective ? { perspective: [...against.perspective] } : {}),
  ...(against.match ? { moments: { offset: against.match.offset, rate: against.match.rate } } : {}),
  moves: correctionMoves(against),
  gains: correctionGains(against),
  ...(against.curves ? { curves: { r: [...against.curves.r], g: [...against.curves.g], b: [...against.curves.b] } } : {}),
});

/** The second at which take `to` passes the place that take `from` passes at `time`, where their cameras move alike; null where they stand. */
export function alikeMoment({ takes }: Pick<Project, 'takes'>, from: string, to: string, time: Seconds): Seconds | null {
  const [a, b] = [from, to].map((id) => takes.find((t) => t.id === id)?.correction ?? null);
  const reference = a?.moments ? a.referenceTakeId : b?.moments ? b.referenceTakeId : null;
  if (reference === null) return null;
  const momentsOf = (id: string, correction: Take['correction']) =>
    id === reference ? { offset: 0, rate: 1 } : correction && correction.referenceTakeId === reference ? correction.moments : undefined;
  const [mine, theirs] = [momentsOf(from, a), momentsOf(to, b)];
  return mine && theirs ? (mine.offset + mine.rate * time - theirs.offset) / theirs.rate : null;
}
