/** How close a picture is looked at: 1 fits it into its place. `x` and `y` are the shares of its sides that stand in the middle. */
export interface Closer {
  scale: number;
  x: number;
  y: number;
}

export const WHOLE: Closer = { scale: 1, x: 0.5, y: 0.5 };
const MOST = 24;
/** Enlargement of one press of a key or button. */
export const STEP = 1.5;
/** Share of what is seen that one press of an arrow key moves it by. */
export const PAN = 0.15;

const between = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
/** Along one side: a picture smaller than its place stands in the middle of it, a larger one leaves none of it empty. */
const along = (at: number, size: number, room: number) => (size <= room ? 0.5 : between(at, room / 2 / size, 1 - room / 2 / size));

/**
 * What is seen after another enlargement, with the point of the picture under a point of its place staying there.
 * @param fit size of the picture where it fits, and `room` of its place, in CSS pixels; `from` is measured from the place's middle.
 */
export function closerAt(
  now: Closer,
  wanted: number,
  fit: { width: number; height: number },
  room: { width: number; height: number },
  from = { x: 0, y: 0 },
): Closer {
  const scale = between(wanted, 1, MOST);
  const held = (at: number, size: number, off: number) => at + off / (size * now.scale) - off / (size * scale);
  return {
    scale,
    x: along(held(now.x, fit.width, from.x), fit.width * scale, room.width),
    y: along(held(now.y, fit.height, from.y), fit.height * scale, room.height),
  };
}
