import { describe, expect, it } from 'vitest';
import { CROSSING_WIDTH, findCrossing } from './crossing';
import type { Luma } from './luma';

const [W, H] = [CROSSING_WIDTH, 54];
/** A noisy wall before which something passes: where its edges are at a second, in pixels, and how far its top leans over. */
function film(edges: (second: number) => [number, number] | null, lean = 0, light = 40, seconds = 3): { frames: Luma[]; times: number[] } {
  let seed = 7;
  const noise = () => {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    return 5 * (seed / 2147483648 - 0.5);
  };
  const times = Array.from({ length: seconds * 25 }, (_, i) => i / 25);
  const frames = times.map((t) => {
    const at = edges(t);
    const data = Uint8Array.from({ length: W * H }, (_, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      const over = lean * (H / 2 - y);
      const inside = at && x >= at[0] + over && x < at[1] + over;
      return Math.max(0, (inside ? light : 130 + 30 * Math.sin(x / 6 + y / 9)) + noise());
    });
    return { width: W, height: H, data };
  });
  return { frames, times };
}

describe('what crosses the lens', () => {
  it.each([
    ['to the right', 1, 200, 90],
    ['to the right, quickly', 1.4, 420, 90],
    ['to the left', 1, -200, -90],
  ])('%s is found with its trailing edge, to a frame and three per cent', (_, begins, speed, angle) => {
    const wide = 40;
    const { frames, times } = film((t) => {
      const gone = (t - begins) * Math.abs(speed);
      const left = gone - wide;
      return speed > 0 ? [left, gone] : [W - gone, W - left];
    });
    const found = findCrossing(frames, times);
    expect(found?.angle).toBeCloseTo(angle, -1);
    // It is seen from a twelfth of the frame on, and gone when its trailing edge has left.
    expect(Math.abs((found?.from ?? 0) - begins)).toBeLessThan(0.085);
    expect(Math.abs((found?.to ?? 0) - (begins + (W + wide) / Math.abs(speed)))).toBeLessThan(0.085);
    const { from = 0, to = 1, position = [] } = found ?? {};
    for (const share of [0.5, 0.7, 0.85]) {
      const second = from + share * (to - from);
      const truth = Math.max(0, (second - begins) * Math.abs(speed) - wide) / W;
      expect(Math.abs(position[Math.round(100 * share)] - truth), `at ${share}`).toBeLessThan(0.06);
    }
  });
  it('its lean is told, to three degrees', () => {
    // The top a quarter of a pixel to the right for each row up: 14° over its foot.
    const { frames, times } = film((t) => [(t - 1) * 150 - 50, (t - 1) * 150], 0.25);
    expect(Math.abs((findCrossing(frames, times)?.angle ?? 0) - (90 - 14.04))).toBeLessThan(3);
  });
  it('something that speeds up is followed as it goes', () => {
    const { frames, times } = film((t) => [130 * (t - 0.8) ** 2 * Math.sign(t - 0.8) - 45, 130 * (t - 0.8) ** 2 * Math.sign(t - 0.8)]);
    const found = findCrossing(frames, times);
    const { from = 0, to = 1, position = [] } = found ?? {};
    const second = from + 0.8 * (to - from);
    expect(Math.abs(position[80] - (130 * (second - 0.8) ** 2 - 45) / W)).toBeLessThan(0.06);
  });
  it.each([
    ['nothing', () => null],
    ['something that comes and stays', (t: number) => [Math.min(40, 100 * (t - 1)) - 60, Math.min(40, 100 * (t - 1))] as [number, number]],
    ['something that goes back', (t: number) => [60 * Math.sin(t) - 45, 60 * Math.sin(t)] as [number, number]],
  ])('%s crosses nothing', (_, edges) => {
    const { frames, times } = film(edges);
    expect(findCrossing(frames, times)).toBeNull();
  });
});
