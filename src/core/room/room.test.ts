import { describe, expect, it } from 'vitest';
import { clothsAt, fallHeight, makeFall } from './cloths';
import { PERFORMANCE } from './figure';
import { breathing, bump, flicker, RoomCamera, STILL, type TakeOptions, takeFall } from './take';

const camera = new RoomCamera(320, 180, 1);
const options: TakeOptions = {
  width: 320,
  height: 180,
  outfit: null,
  act: 'toss',
  seed: 3,
  place: -0.25,
  pose: () => STILL,
  exposure: () => 0,
  balance: [1, 1],
  noise: 0,
  shutter: 0.02,
};

describe('the simulated room', () => {
  it('draws the same frame for the same numbers, and another for another seed', () => {
    const noisy = { ...options, noise: 2 };
    expect(camera.draw(noisy, null, 0, 1).y).toEqual(camera.draw(noisy, null, 0, 1).y);
    expect(camera.draw(noisy, null, 0, 1).y).not.toEqual(camera.draw({ ...noisy, seed: 4 }, null, 0, 1).y);
  });

  it('a whole-pixel move of the camera moves the picture by just that', () => {
    const still = camera.draw(options, null, 0, 1);
    const moved = camera.draw({ ...options, pose: () => ({ ...STILL, dx: 2, dy: -1 }) }, null, 0, 1);
    for (let y = 20; y < 160; y += 7)
      for (let x = 20; x < 300; x += 11) expect(Math.abs(moved.y[y * 320 + x] - still.y[(y + 1) * 320 + x - 2])).toBeLessThanOrEqual(1);
  });

  it('imperfections say exactly what they are', () => {
    const knock = bump(1, 2, -1, 0.1);
    expect(knock(0.99)).toEqual(STILL);
    expect(knock(3)).toEqual({ dx: 2, dy: -1, turn: 0.1, scale: 1 });
    expect(breathing(0.01, 4)(1).scale).toBeCloseTo(1.01, 12);
    expect(flicker(0.2, 100)(0.0025)).toBeCloseTo(0.1, 12);
  });

  it('the performer is there, wears what was asked, and the cloths fall after the toss', () => {
    const empty = camera.draw(options, null, 1, 1);
    const [one, two] = ([0, 1] as const).map((outfit) => camera.draw({ ...options, outfit }, null, 1, 1));
    const differs = (a: Uint8Array, b: Uint8Array) => a.reduce((n, v, i) => n + (Math.abs(v - b[i]) > 8 ? 1 : 0), 0);
    expect(differs(one.y, empty.y)).toBeGreaterThan(1500);
    expect(differs(one.v, two.v)).toBeGreaterThan(250);
    const fall = makeFall(3, -0.25);
    expect(clothsAt(fall, PERFORMANCE.toss - 0.1)).toEqual([]);
    expect(takeFall(options)).toBeNull();
    const rows = [3.6, 4, 4.4].map((t) => camera.fallRow(fall, t) ?? 0);
    expect(rows[0]).toBeLessThan(rows[1]);
    expect(rows[1]).toBeLessThan(rows[2]);
    expect(fallHeight(fall, 9)).toBeNull();
  });
});
