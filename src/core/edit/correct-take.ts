import type { Take } from '../document';
import { correctionGains, correctionMoves, type TakeLock } from '../measure';

/** The correction that measured moves and light against a reference ask for. */
export const correctionFrom = (against: TakeLock, referenceTakeId: string): NonNullable<Take['correction']> => ({
  enabled: true,
  referenceTakeId,
  ...(against.perspective ? { perspective: [...against.perspective] } : {}),
  moves: correctionMoves(against),
  gains: correctionGains(against),
  ...(against.curves ? { curves: { r: [...against.curves.r], g: [...against.curves.g], b: [...against.curves.b] } } : {}),
});
