import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blackPlanes } from './planes';
import { boxPlainly, boxPlane, reducedPlanes } from './reduce';
import { rotateToDisplay } from './upright';

/** The plainest way to average boxes, to hold the quick one against. */
function plainly(source: Uint8Array, sourceWidth: number, by: number, width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let j = 0; j < by; j++) for (let i = 0; i < by; i++) sum += source[(y * by + j) * sourceWidth + x * by + i];
      out[y * width + x] = Math.floor((sum + Math.floor((by * by) / 2)) / (by * by));
    }
  return out;
}

describe('reducing a plane', () => {
  it('is the mean of each box, rounded, for any size and factor; the rest at the edges is cut off', () => {
    fc.assert(
      fc.property(
        fc.oneof({ weight: 9, arbitrary: fc.integer({ min: 1, max: 7 }) }, { weight: 1, arbitrary: fc.constantFrom(16, 63, 64, 65) }),
        fc.integer({ min: 1, max: 37 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 6 }),
        fc.integer(),
        fc.boolean(),
        (by, width, height, rest, seed, white) => {
          const sourceWidth = width * by + (rest % by);
          const source = Uint8Array.from({ length: sourceWidth * (height * by + 1) }, (_, i) =>
            white ? 255 - ((i + seed) % 50 === 0 ? 1 : 0) : (i * 2654435761 + seed * 97) >>> 24,
          );
          const out = new Uint8Array(width * height);
          boxPlane(source, sourceWidth, by, out, width, height);
          const expected = plainly(source, sourceWidth, by, width, height);
          expect(out).toEqual(expected);
          boxPlainly(source, sourceWidth, by, out.fill(0), width, height);
          expect(out).toEqual(expected);
        },
      ),
    );
  });

  it('planes keep even sizes; a factor of one gives the same planes back', () => {
    const planes = blackPlanes(1920, 1080);
    expect(reducedPlanes(planes, 1)).toBe(planes);
    const third = reducedPlanes(planes, 3);
    expect([third.width, third.height, third.y.length, third.u.length]).toEqual([640, 360, 640 * 360, 320 * 180]);
    expect(reducedPlanes(blackPlanes(22, 14), 4)).toMatchObject({ width: 4, height: 2 });
  });
});

describe('turning planes upright', () => {
  const planes = blackPlanes(8, 4);
  planes.y.forEach((_, i) => {
    planes.y[i] = i;
  });

  it('four quarter turns, or two halves, bring every pixel back', () => {
    let turned = planes;
    for (let i = 0; i < 4; i++) turned = rotateToDisplay(turned, 90);
    expect(turned.y).toEqual(planes.y);
    expect(rotateToDisplay(rotateToDisplay(planes, 180), 180).y).toEqual(planes.y);
    expect(rotateToDisplay(rotateToDisplay(planes, 90), 270).y).toEqual(planes.y);
  });

  it('a clockwise quarter puts the lower left corner at the upper left', () => {
    const turned = rotateToDisplay(planes, 90);
    expect([turned.width, turned.height]).toEqual([4, 8]);
    expect(turned.y[0]).toBe(planes.y[3 * 8]);
    expect(turned.y[3]).toBe(planes.y[0]);
  });
});
