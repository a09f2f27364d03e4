import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { FALL_CELLS, fallPath, fallProfile } from './fall';
import type { Luma } from './luma';

const [W, H] = [320, 180];
const random = randomSource(12);
const ground = Uint8Array.from({ length: W * H }, () => 60 + random() * 60);
const patches = Array.from({ length: 40 }, () => ({ x: 90 + random() * 130, spread: (random() - 0.5) * 50, shade: 150 + random() * 100 }));

/** A cloud of patches whose middle is at row `at`, over still ground. */
function frame(at: number, sideways = false): Luma {
  const data = ground.slice();
  for (const p of patches) {
    const [cx, cy] = sideways ? [at + p.spread, (p.x * H) / W] : [p.x, at + p.spread];
    for (let y = Math.round(cy) - 6; y < cy + 6; y++)
      for (let x = Math.round(cx) - 8; x < cx + 8; x++) if (x >= 0 && y >= 0 && x < W && y < H) data[y * W + x] = p.shade - ((x ^ y) & 15);
  }
  return { width: W, height: H, data };
}

function pathOf(at: (i: number) => number, count: number, angle = 0, sideways = false) {
  const frames = Array.from({ length: count }, (_, i) => frame(at(i), sideways));
  return fallPath([new Float32Array(FALL_CELLS), ...frames.slice(1).map((f, i) => fallProfile(frames[i], f, angle))]);
}

describe('the path under what falls', () => {
  it('stays within an eighth of the frame of the cloud’s true middle and never turns back', () => {
    const at = (i: number) => -60 + (i - 10) * 6;
    const path = pathOf((i) => (i < 10 ? -200 : at(i)), 60);
    expect(path).not.toBeNull();
    if (!path) return;
    path.position.forEach((v, k) => {
      const truth = at(path.from + k) / H;
      if (truth > 0.15 && truth < 0.85) expect(Math.abs(v - truth)).toBeLessThan(0.125);
      if (k) expect(v).toBeGreaterThanOrEqual(path.position[k - 1]);
    });
    expect(path.cover).toBeGreaterThan(0.5);
  });

  it('finds a sweep to the right with an upright line', () => {
    const path = pathOf((i) => (i < 8 ? -300 : -60 + (i - 8) * 10), 60, 90, true);
    expect(path).not.toBeNull();
    expect(path?.position[Math.floor((path?.position.length ?? 0) / 2)]).toBeGreaterThan(0.25);
  });

  it('says so when nothing falls', () => {
    expect(pathOf(() => 90, 40)).toBeNull();
  });
});
