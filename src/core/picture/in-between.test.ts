import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { inBetween } from './in-between';
import { blackPlanes, type Planes } from './planes';
import { psnr } from './quality';
import { boxPlane } from './reduce';

// Required, not imported: the module is itself a thenable, which an import would wait on for ever.
const cv = createRequire(import.meta.url)('@techstark/opencv-js');
beforeAll(async () => {
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
});

const [W, H] = [320, 180];
const random = randomSource(4);
/** A cloud of spots, smooth enough to be moved by parts of a pixel. */
const spots = Array.from({ length: 300 }, () => ({
  x: 380 * random() - 30,
  y: 240 * random() - 30,
  r: 2.5 + 4 * random(),
  v: 160 * (random() - 0.5),
}));

/** The cloud moved and turned about the middle: `share` of 9 pixels across, 4 down and 3°. */
function cloud(share: number): Planes {
  const planes = blackPlanes(W, H);
  const a = (3 * share * Math.PI) / 180;
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const [dx, dy] = [x - W / 2 - 9 * share, y - H / 2 - 4 * share];
      const [u, v] = [W / 2 + dx * Math.cos(a) + dy * Math.sin(a), H / 2 - dx * Math.sin(a) + dy * Math.cos(a)];
      let sum = 120;
      for (const s of spots) {
        const d = ((u - s.x) ** 2 + (v - s.y) ** 2) / (s.r * s.r);
        if (d < 9) sum += s.v * Math.exp(-d);
      }
      planes.y[y * W + x] = Math.max(16, Math.min(235, sum));
    }
  boxPlane(planes.y, W, 2, planes.u, W / 2, H / 2);
  return planes;
}

/** Movement from one picture to another by Farnebäck 2003, as OpenCV finds it. */
function flowOf(a: Planes, b: Planes) {
  const [p, q, flow] = [cv.matFromArray(H, W, cv.CV_8UC1, a.y), cv.matFromArray(H, W, cv.CV_8UC1, b.y), new cv.Mat()];
  cv.calcOpticalFlowFarneback(p, q, flow, 0.5, 4, 17, 3, 7, 1.5, 0);
  return { width: W, height: H, move: (flow.data32F as Float32Array).slice() };
}

describe('a picture between two frames', () => {
  it('is what was there in between, where blending both shows two', () => {
    const [a, b] = [cloud(0), cloud(1)];
    const flow = flowOf(a, b);
    for (const share of [0.25, 0.5, 0.8]) {
      const truth = cloud(share);
      const made = inBetween(a, b, flow, share);
      const blended = a.y.map((v, i) => v + share * (b.y[i] - v));
      expect(psnr(made.y, truth.y)).toBeGreaterThan(psnr(blended, truth.y) + 6);
      expect(psnr(made.y, truth.y)).toBeGreaterThan(30);
      expect(psnr(made.u, truth.u)).toBeGreaterThan(30);
    }
  });

  it('is the frame itself where nothing moves, and at either end', () => {
    const a = cloud(0);
    const still = { width: 2, height: 2, move: new Float32Array(8) };
    expect(psnr(inBetween(a, a, still, 0.5).y, a.y)).toBeGreaterThan(60);
    const b = cloud(1);
    expect(psnr(inBetween(a, b, flowOf(a, b), 0).y, a.y)).toBeGreaterThan(50);
  });
});
