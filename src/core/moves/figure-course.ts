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

/** The lower edge of each box, steadied by medians of three readings. */
const feetOf = (boxes: readonly FigureBox[]): number[] =>
  medians(
    boxes.map((b) => b.bottom),
    1,
  );

/** Of readings in order, which lie within `reach` seconds before and after one: the first of them, and one past the last. */
function around(readings: readonly { source: Seconds }[], i: number, reach: Seconds): [number, number] {
  let [first, end] = [i, i + 1];
  while (first > 0 && readings[i].source - readings[first - 1].source <= reach) first--;
  while (end < readings.length && readings[end].source - readings[i].source <= reach) end++;
  return [first, end];
}

/**
 * The second at which somebody is highest in a jump: where the lower edge of their box is furthest above the ground it has on both sides
 * within 0.7 seconds; null where it never rises by 3 per cent of the picture. Readings in order of time.
 */
export function highestRise(boxes: readonly FigureBox[]): Seconds | null {
  const feet = feetOf(boxes);
  let [best, most] = [-1, 3];
  for (let i = 0; i < boxes.length; i++) {
    const [first, end] = around(boxes, i, 0.7);
    // Only a rise with ground on both sides is a jump.
    const rise = Math.min(Math.max(...feet.slice(first, i + 1)), Math.max(...feet.slice(i, end))) - feet[i];
    if (rise > most) [best, most] = [i, rise];
  }
  return best < 0 ? null : boxes[best].source;
}

/**
 * The second at which somebody lands: after the fastest way down, the first reading at which the lower edge of their box is within 1.5 per
 * cent of the lowest it comes to within 0.8 seconds; null where nothing goes down by 3 per cent in a third of a second. Readings in order.
 */
export function touchDown(boxes: readonly FigureBox[]): Seconds | null {
  const feet = feetOf(boxes);
  let [fastest, most] = [-1, 3];
  for (let i = 0; i < boxes.length; i++) {
    const down = feet[around(boxes, i, 0.34)[1] - 1] - feet[i];
    if (down > most) [fastest, most] = [i, down];
  }
  if (fastest < 0) return null;
  const soon = feet.slice(fastest, around(boxes, fastest, 0.8)[1]);
  const ground = Math.max(...soon);
  return boxes[fastest + soon.findIndex((v) => v >= ground - 1.5)].source;
}

/** Where a subject is and how large at seconds of a take, evened out over `reach` seconds to either side; per cent of the picture. Readings in order of time. */
export function evened(course: readonly Sized[], reach: Seconds): Sized[] {
  const [first, last] = [course[0]?.source ?? 0, course[course.length - 1]?.source ?? 0];
  return course.map(({ source }, i) => {
    // As far to one side as to the other, so that what grows evenly stays as it is, at its ends too.
    const far = Math.min(reach, source - first, last - source) + 1e-9;
    const near = course.slice(...around(course, i, far));
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
