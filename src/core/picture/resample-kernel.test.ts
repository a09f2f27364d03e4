import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planeThroughPlainly } from './perspective';
import { resamplePlane } from './resample';
import { perspectiveByKernel, resampleQuickly } from './resample-kernel';

describe('the compiled passes for any map', () => {
  it('are the plain ones to the bit: made smaller, larger, turned and beyond the edges', () => {
    const side = fc.integer({ min: 3, max: 60 });
    fc.assert(
      fc.property(
        side,
        side,
        side,
        side,
        fc.double({ min: 0.3, max: 6, noNaN: true }),
        fc.double({ min: 0.3, max: 6, noNaN: true }),
        fc.double({ min: -0.35, max: 0.35, noNaN: true }),
        fc.integer({ min: -40, max: 40 }),
        fc.boolean(),
        (sw, sh, ow, oh, a, e, turn, shift, straight) => {
          const source = Uint8Array.from({ length: sw * sh }, (_, i) => (i * 2654435761) >>> 24);
          const slope = straight ? 0 : turn;
          const map = { a, b: -slope * a, c: shift, d: slope * e, e, f: shift / 3 };
          const region = { x0: ow >> 3, x1: ow, y0: oh >> 2, y1: oh };
          const [quick, plain] = [new Uint8Array(ow * oh), new Uint8Array(ow * oh)];
          resampleQuickly(source, sw, sh, quick, ow, region, map);
          resamplePlane(source, sw, sh, plain, ow, region, map);
          expect(quick).toEqual(plain);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('are the plain one to the bit where a picture is seen in perspective, with something below and without', () => {
    const side = fc.integer({ min: 3, max: 60 });
    const near = fc.double({ min: -0.4, max: 0.4, noNaN: true });
    const shift = fc.double({ min: -30, max: 30, noNaN: true });
    const tilt = fc.double({ min: -0.03, max: 0.03, noNaN: true });
    fc.assert(
      fc.property(side, side, near, near, shift, shift, tilt, tilt, fc.boolean(), (w, h, p, q, c, f, g, k, covered) => {
        const source = Uint8Array.from({ length: w * h }, (_, i) => (i * 2654435761) >>> 24);
        const below = covered ? source.toReversed() : null;
        const map = [1 + p, q, c, -q, 1 + q, f, g, k] as const;
        expect(perspectiveByKernel(source, w, h, map, below)).toEqual(planeThroughPlainly(source, w, h, map, below));
      }),
      { numRuns: 400 },
    );
  });
});
