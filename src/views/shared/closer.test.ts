import { expect, it } from 'vitest';
import { closerAt, WHOLE } from './closer';

const fit = { width: 800, height: 450 };
const room = { width: 1000, height: 450 };

it('what is under the pointer stays under it', () => {
  const from = { x: 120, y: -60 };
  const now = closerAt(WHOLE, 4, fit, room);
  const next = closerAt(now, 6, fit, room, from);
  const under = (c: typeof now) => [c.x + from.x / (fit.width * c.scale), c.y + from.y / (fit.height * c.scale)];
  expect(under(next)[0]).toBeCloseTo(under(now)[0], 9);
  expect(under(next)[1]).toBeCloseTo(under(now)[1], 9);
});

it('a picture smaller than its place stands in the middle, a larger one leaves none of it empty', () => {
  const off = { scale: 1.1, x: 0.9, y: 0.9 };
  const small = closerAt(off, 1.1, fit, room);
  // 880 px of 1000 across; 495 of 450 down: half of the 45 too many either way.
  expect(small.x).toBe(0.5);
  expect(small.y).toBeCloseTo(1 - 450 / 2 / 495, 9);
  const far = closerAt({ scale: 8, x: -3, y: 5 }, 8, fit, room);
  expect(far.x).toBeCloseTo(500 / 6400, 9);
  expect(far.y).toBeCloseTo(1 - 225 / 3600, 9);
});

it('is no farther than whole and no closer than 24 times', () => {
  expect(closerAt({ scale: 2, x: 0.3, y: 0.5 }, 0.2, fit, room)).toEqual(WHOLE);
  expect(closerAt(WHOLE, 900, fit, room).scale).toBe(24);
});
