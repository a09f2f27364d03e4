import type { Percent } from '../units';
import { say } from '../words';
import { grow, partsOf } from './grid';
import type { Luma } from './luma';

/** How much brighter or darker a pixel must be, of 255, to count as changed beyond what the whole picture did. */
const STEP = 14;
/** Changes smaller than this share of the picture are noise. */
const LEAST = 0.0004;

/**
 * Where two pictures of one size differ most: the box around the largest changed part and whatever lies within a tenth of the width of it, per
 * cent of the picture; null where nothing does. A change of the light as a whole (the median difference) is taken out first.
 */
export function changedBox(a: Luma, b: Luma): { left: Percent; top: Percent; right: Percent; bottom: Percent } | null {
  const { width, height } = a;
  if (b.width !== width || b.height !== height) throw new RangeError(say`Both pictures must be of one size.`);
  const off = Int16Array.from(a.data, (v, i) => b.data[i] - v);
  const middle = Int16Array.from(off).sort()[off.length >> 1];
  const data = Uint8Array.from(off, (v) => (Math.abs(v - middle) > STEP ? 1 : 0));
  // Specks go, and what belongs together is joined.
  const mask = grow(grow(grow({ width, height, data }, -1), 1), Math.max(1, Math.round(width / 100)));
  const parts = partsOf(mask, 1)
    .filter(({ pixels }) => pixels.length >= LEAST * width * height)
    .map(({ pixels }) => {
      let [left, top, right, bottom] = [width, height, 0, 0];
      for (const i of pixels) {
        const x = i % width;
        const y = (i - x) / width;
        [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
        [top, bottom] = [Math.min(top, y), Math.max(bottom, y + 1)];
      }
      return { size: pixels.length, left, top, right, bottom };
    })
    .sort((p, q) => q.size - p.size);
  if (parts.length === 0) return null;
  const near = width / 10;
  const [box] = parts;
  for (const p of parts.slice(1)) {
    const far = Math.max(p.left - box.right, box.left - p.right, p.top - box.bottom, box.top - p.bottom);
    if (far >= near || p.size <= box.size / 8) continue;
    [box.left, box.right] = [Math.min(box.left, p.left), Math.max(box.right, p.right)];
    [box.top, box.bottom] = [Math.min(box.top, p.top), Math.max(box.bottom, p.bottom)];
  }
  const per = (v: number, of: number) => Math.round((1000 * v) / of) / 10;
  return { left: per(box.left, width), right: per(box.right, width), top: per(box.top, height), bottom: per(box.bottom, height) };
}
