import { describe, expect, it } from 'vitest';
import { StagedTake } from '../staged';
import type { Mask } from './grid';
import { smearOf } from './smear';

const [W, H] = [320, 180];

function masks(places: readonly { x: number; y: number; arm: number }[]): Mask[] {
  const take = new StagedTake({ width: W, height: H, figure: (f) => ({ ...places[f], tall: 110 }) });
  return places.map((_, f) => ({ width: W, height: H, data: Uint8Array.from(take.alpha(f), (a) => (a > 0.5 ? 1 : 0)) }));
}

describe('how far a figure smears while the shutter is open', () => {
  it('is the share of a frame it is open for, of the way moved from frame to frame', () => {
    const [a, b, c] = masks([
      { x: 140, y: 90, arm: 0.3 },
      { x: 148, y: 92, arm: 0.3 },
      { x: 156, y: 94, arm: 0.3 },
    ]);
    const { dx, dy } = smearOf(a, b, c, 0.5);
    expect(dx).toBeCloseTo(4, 1);
    expect(dy).toBeCloseTo(1, 1);
  });

  it('is none for one who stands, turns about, or comes into the picture', () => {
    const still = { x: 150, y: 90, arm: 0 };
    const [a, b, c] = masks([still, still, still]);
    expect(smearOf(a, b, c, 0.5)).toEqual({ dx: 0, dy: 0 });
    const [d, e, f] = masks([still, { ...still, x: 160 }, still]);
    expect(Math.hypot(smearOf(d, e, f, 0.5).dx, smearOf(d, e, f, 0.5).dy)).toBe(0);
    const [g, h, i] = masks([
      { ...still, x: -4 },
      { ...still, x: 6 },
      { ...still, x: 40 },
    ]);
    expect(smearOf({ ...g, data: new Uint8Array(W * H) }, h, i, 0.5)).toEqual({ dx: 0, dy: 0 });
  });
});
