import type { Seconds } from '../units';

/**
 * F-measure of found beats against true ones: a hit is a true beat with a found beat within `window`, matched one to one;
 * beats before `skip` are left out. Davies, Degara & Plumbley 2009; the definition used by mir_eval.
 */
export function beatFMeasure(found: readonly Seconds[], truth: readonly Seconds[], window: Seconds = 0.07, skip: Seconds = 5): number {
  const a = found.filter((t) => t >= skip);
  const b = truth.filter((t) => t >= skip);
  let hits = 0;
  let i = 0;
  for (const t of b) {
    while (i < a.length && a[i] < t - window) i++;
    if (i < a.length && a[i] <= t + window) {
      hits++;
      i++;
    }
  }
  return a.length + b.length === 0 ? 0 : (2 * hits) / (a.length + b.length);
}
