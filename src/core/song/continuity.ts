import type { Seconds, Unit } from '../units';

/** How far a beat may be from its true one, and its gap from the true gap, as shares of the true gap. */
const NEAR = 0.175;

/** The index of the value of an ascending list nearest to another. */
function nearestOf(list: readonly Seconds[], to: Seconds): number {
  let best = 0;
  for (let i = 1; i < list.length; i++) if (Math.abs(list[i] - to) < Math.abs(list[best] - to)) best = i;
  return best;
}

/**
 * Share of beats that follow the true ones at the right level, in all stretches together (CMLt; Hainsworth 2004, Klapuri, Eronen & Astola
 * 2006, as mir_eval reckons it): each lies near a true beat, a true gap after the one before. Beats before `skip` are left out.
 */
export function beatContinuity(found: readonly Seconds[], truth: readonly Seconds[], skip: Seconds = 5): Unit {
  const [a, b] = [found, truth].map((list) => list.filter((t) => t >= skip));
  if (a.length < 2 || b.length < 2) return 0;
  const used = new Set<number>();
  a.forEach((beat, i) => {
    const at = nearestOf(b, beat);
    if (used.has(at)) return;
    // The first looks ahead, all others back; where there is nothing ahead they look back too.
    const ahead = i === 0 || at === 0;
    const gapOf = (list: readonly Seconds[], k: number) => (ahead && k + 1 < list.length ? list[k + 1] - list[k] : list[k] - list[k - 1]);
    const gap = gapOf(b, at);
    if (Math.abs(beat - b[at]) / gap < NEAR && Math.abs(1 - gapOf(a, i) / gap) < NEAR) used.add(at);
  });
  return used.size / Math.max(a.length, b.length);
}
