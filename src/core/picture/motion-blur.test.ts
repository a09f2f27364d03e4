import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import type { Affine } from './affine';
import { IDENTITY_COLOUR } from './colour';
import { compose } from './compose';
import { gaussianBlur } from './gaussian-blur';
import { meanByKernel } from './kernel';
import { type MotionSample, samplesFor, travelOf } from './motion-blur';
import { blackPlanes, type Planes } from './planes';
import { psnr } from './quality';
import { addNearest, samplePlanes } from './sample';

const [W, H] = [320, 180];
const WHOLE = { x0: 0, x1: W, y0: 0, y1: H };

/** Edges, fine texture and noise: what a picture of a room has. */
function room(): Planes {
  const planes = blackPlanes(W, H);
  const random = randomSource(9);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const tile = (Math.floor(x / 23) + Math.floor(y / 17)) % 2 ? 150 : 70;
      planes.y[y * W + x] = tile + 25 * Math.sin(x * 0.9) * Math.cos(y * 0.7) + 12 * random();
    }
  for (let i = 0; i < planes.u.length; i++) {
    planes.u[i] = 110 + 40 * (Math.floor((i % (W / 2)) / 19) % 2);
    planes.v[i] = 140 - 30 * (Math.floor(i / (W / 2) / 13) % 2);
  }
  return planes;
}

/** Output to source for a picture moved by (x, y) pixels, turned and enlarged about the middle of the frame. */
function moved(x: number, y: number, turn = 0, scale = 1): Affine {
  const a = (turn * Math.PI) / 180;
  const [c, s] = [Math.cos(a) / scale, Math.sin(a) / scale];
  return { a: c, b: s, c: W / 2 - c * (W / 2 + x) - s * (H / 2 + y), d: -s, e: c, f: H / 2 + s * (W / 2 + x) - c * (H / 2 + y) };
}

const PATHS: Record<string, (t: number) => Affine> = {
  'a whip sideways': (t) => moved(160 * t + 40 * t * t, 0),
  'a whip askew': (t) => moved(90 * t, -60 * t),
  'a turn': (t) => moved(0, 0, 25 * t),
  'a zoom': (t) => moved(0, 0, 0, 1 + 0.6 * t),
};

const layer = (planes: Planes, motion: MotionSample[]) => ({
  planes,
  map: motion[0].map,
  colour: IDENTITY_COLOUR,
  coverage: null,
  opacity: 1,
  blend: 'normal' as const,
  edge: 'mirror' as const,
  motion: { rest: null, samples: motion.map((stand) => ({ ...stand, ride: null })) },
});

/** The mean of 64 layings by the cubic filter, in floating point. */
function bruteForce(planes: Planes, path: (t: number) => Affine): Uint8Array {
  const sum = new Float64Array(W * H);
  for (let k = 0; k < 64; k++) {
    const out = blackPlanes(W, H);
    samplePlanes(planes, path((k + 0.5) / 64), out, WHOLE, 'mirror');
    for (let i = 0; i < sum.length; i++) sum[i] += out.y[i] / 64;
  }
  return Uint8Array.from(sum, (v) => Math.round(v));
}

describe('motion blur', () => {
  it.each(Object.entries(PATHS))('%s: over 35 dB against the mean of 64 sub-frames', (_, path) => {
    const planes = room();
    const count = samplesFor(travelOf(path(0), path(1), W, H));
    const out = blackPlanes(W, H);
    compose(
      [
        layer(
          planes,
          Array.from({ length: count }, (_, k) => ({ map: path((k + 0.5) / count), coverage: null })),
        ),
      ],
      out,
    );
    expect(psnr(out.y, bruteForce(planes, path))).toBeGreaterThan(35);
  });

  it('the compiled sums are the plain ones, moved, turned or enlarged', () => {
    const planes = room();
    for (const path of Object.values(PATHS)) {
      const maps = [0.1, 0.44, 0.9].map(path);
      const sum = new Uint16Array(W * H);
      for (const map of maps) addNearest(planes.y, W, H, sum, W, H, map, 'mirror');
      const mean = meanByKernel(planes.y, W, H, maps, W, H);
      expect(mean).not.toBeNull();
      // Pixels that lie on the boundary of two may fall to either side.
      const onEdge = (v: number) => Math.abs(v - Math.round(v)) < 0.003;
      const told = (i: number) =>
        maps.every(({ a, b, c, d, e, f }) => {
          const [x, y] = [(i % W) + 0.5, Math.floor(i / W) + 0.5];
          return !onEdge(a * x + b * y + c) && !onEdge(d * x + e * y + f);
        });
      let [off, all] = [0, 0];
      mean?.forEach((v, i) => {
        if (!told(i)) return;
        all++;
        if (Math.abs(v - sum[i] / 3) > 1.01) off++;
      });
      expect(all).toBeGreaterThan(0.4 * W * H);
      expect(off).toBe(0);
    }
  });

  it('needs no more samples than the travel asks for, and none for a stand', () => {
    expect(samplesFor(0.3)).toBe(1);
    expect(samplesFor(30)).toBe(10);
    expect(samplesFor(5000)).toBe(48);
    expect(travelOf(moved(0, 0), moved(30, 40), W, H)).toBeCloseTo(50, 9);
    // Enlarged twice, a pixel of the source is two of the frame.
    expect(travelOf(moved(0, 0, 0, 2), moved(30, 40, 0, 2), W, H)).toBeCloseTo(50, 9);
  });

  it('a cut-out that moves smears its coverage with its picture, and the set behind stays sharp', () => {
    const white = blackPlanes(W, H);
    white.y.fill(235);
    const behind = blackPlanes(W, H);
    behind.y.fill(60);
    const stand = (x: number): MotionSample => ({
      map: moved(x, 0),
      coverage: {
        kind: 'shape',
        points: [100, 140, 140, 100].map((px, i) => ({ x: px + x, y: i < 2 ? 60 : 100 })),
        inside: 0,
        outside: 0,
      },
    });
    const out = blackPlanes(W, H);
    const still = { ...layer(behind, [stand(0), stand(0)]), motion: null, edge: 'clear' as const, map: moved(0, 0) };
    compose(
      [
        still,
        {
          ...layer(
            white,
            Array.from({ length: 20 }, (_, k) => stand(k)),
          ),
          edge: 'clear',
        },
      ],
      out,
    );
    const at = (x: number) => out.y[80 * W + x];
    expect(at(90)).toBe(60);
    expect(at(130)).toBeGreaterThan(233);
    // Half of the exposure has passed where the trailing edge samples at its middle.
    expect(Math.abs(at(110) - (60 + 235) / 2)).toBeLessThan(9);
    expect(at(170)).toBe(60);
  });
});

describe('a picture laid at any turn', () => {
  it('turned right round it is the picture again; mirrored at its edge it shows no gap', () => {
    const planes = room();
    const out = blackPlanes(W, H);
    samplePlanes(planes, moved(0, 0, 360), out, WHOLE, 'clear');
    expect(psnr(out.y, planes.y)).toBeGreaterThan(48);
    samplePlanes(planes, moved(0, 0, 180), out, WHOLE, 'clear');
    expect(psnr(out.y, planes.y.toReversed())).toBeGreaterThan(48);
    samplePlanes(planes, moved(40, 0), out, WHOLE, 'mirror');
    for (const y of [3, 90, 170])
      for (let x = 1; x < 38; x++) expect(Math.abs(out.y[y * W + 39 - x] - planes.y[y * W + x])).toBeLessThan(2);
  });

  it('made much smaller it is averaged, not picked', () => {
    const planes = blackPlanes(W, H);
    for (let i = 0; i < planes.y.length; i++) planes.y[i] = (i + Math.floor(i / W)) % 2 ? 200 : 40;
    const out = blackPlanes(W, H);
    samplePlanes(planes, moved(0, 0, 90, 0.25), out, WHOLE, 'mirror');
    for (let x = 60; x < 260; x += 7) expect(Math.abs(out.y[90 * W + x] - 120)).toBeLessThan(3);
  });
});

describe('blur', () => {
  it('spreads a point as a Gaussian of its deviation and keeps the brightness', () => {
    const planes = blackPlanes(64, 64);
    planes.y.fill(0);
    for (let y = 28; y < 36; y++) for (let x = 28; x < 36; x++) planes.y[y * 64 + x] = 255;
    const { y: soft } = gaussianBlur(planes, 4);
    let [sum, spread] = [0, 0];
    soft.forEach((v, i) => {
      sum += v;
      spread += v * ((i % 64) - 31.5) ** 2;
    });
    expect(sum / (64 * 255)).toBeCloseTo(1, 1);
    // The square itself has a variance of (8² - 1) / 12.
    expect(Math.sqrt(spread / sum - 63 / 12)).toBeGreaterThan(3.4);
    expect(Math.sqrt(spread / sum - 63 / 12)).toBeLessThan(4.6);
    expect(gaussianBlur(planes, 0.1)).toBe(planes);
  });
});
