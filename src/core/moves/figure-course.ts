import type { Percent, Seconds } from '../units';

/** Where the performer is at a second of a take: a box, per cent of its picture. */
export interface FigureBox {
  source: Seconds;
  left: Percent;
  top: Percent;
  right: Percent;
  bottom: Percent;
}

/** Each value replaced by the median of those within `reach` readings of it. */
function medians(values: readonly number[], reach: number): number[] {
  return values.map((_, i) => {
    const near = values.slice(Math.max(0, i - reach), i + reach + 1).sort((a, b) => a - b);
    return near[near.length >> 1];
  });
}

/**
 * The second at which somebody is highest in a jump: where the lower edge of their box is furthest above where it was half a second around
 * it; null where it never rises by 3 per cent of the picture. The box is steadied by medians of three readings first.
 */
export function highestRise(boxes: readonly FigureBox[]): Seconds | null {
  const feet = medians(
    boxes.map((b) => b.bottom),
    1,
  );
  let [best, most] = [-1, 3];
  for (let i = 0; i < boxes.length; i++) {
    const around = feet.filter((_, k) => Math.abs(boxes[k].source - boxes[i].source) <= 0.7);
    const ground = Math.max(...around);
    // Only a rise with ground on both sides is a jump; out of the picture at the top it is none.
    const before = Math.max(...feet.filter((_, k) => boxes[k].source <= boxes[i].source && boxes[i].source - boxes[k].source <= 0.7));
    const after = Math.max(...feet.filter((_, k) => boxes[k].source >= boxes[i].source && boxes[k].source - boxes[i].source <= 0.7));
    const rise = Math.min(before, after, ground) - feet[i];
    if (rise > most) [best, most] = [i, rise];
  }
  return best < 0 ? null : boxes[best].source;
}

/**
 * The second at which somebody lands: the first reading at which the lower edge of their box has come down to within 1.5 per cent of where it
 * stays for the next quarter of a second, after the fastest way down; null where nothing goes down by 3 per cent in a third of a second.
 */
export function touchDown(boxes: readonly FigureBox[]): Seconds | null {
  const feet = medians(
    boxes.map((b) => b.bottom),
    1,
  );
  let [fastest, most] = [-1, 3];
  for (let i = 0; i < boxes.length; i++) {
    const later = boxes.findLastIndex((b) => b.source - boxes[i].source <= 0.34);
    const down = feet[later] - feet[i];
    if (down > most) [fastest, most] = [i, down];
  }
  if (fastest < 0) return null;
  const soon = feet.slice(fastest).filter((_, k) => boxes[fastest + k].source - boxes[fastest].source <= 0.8);
  const ground = Math.max(...soon);
  const landed = soon.findIndex((v) => v >= ground - 1.5);
  return boxes[fastest + landed].source;
}

/** Where a subject is and how large at seconds of a take, evened out over `reach` seconds to either side; per cent of the picture. */
export function evened(course: readonly Sized[], reach: Seconds): Sized[] {
  const [first, last] = [course[0]?.source ?? 0, course[course.length - 1]?.source ?? 0];
  return course.map(({ source }) => {
    // As far to one side as to the other, so that what grows evenly stays as it is, at its ends too.
    const far = Math.min(reach, source - first, last - source) + 1e-9;
    const near = course.filter((p) => Math.abs(p.source - source) <= far);
    const mean = (of: (p: Sized) => number) => near.reduce((sum, p) => sum + of(p), 0) / near.length;
    return { source, x: mean((p) => p.x), y: mean((p) => p.y), size: mean((p) => p.size) };
  });
}
interface Sized {
  source: Seconds;
  x: Percent;
  y: Percent;
  size: Percent;
}
