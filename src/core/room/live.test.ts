import { describe, expect, it } from 'vitest';
import { kelvinLike, LiveMeter, type LiveReading, lightWords, poseMatch } from '../measure';
import { BT709, blackPlanes, type Planes } from '../picture';
import { type LiveMoment, LiveRoom } from './live';
import { randomSource } from './random';
import { bump, STILL } from './take';

const [W, H] = [480, 270];

/** A patterned wall to stand in for the room: blobs of many sizes. */
function plate(): Planes {
  const planes = blackPlanes(W, H);
  const random = randomSource(9);
  planes.y.fill(110);
  for (let k = 0; k < 500; k++) {
    const [cx, cy, r, tone] = [random() * W, random() * H, 3 + random() * 14, 40 + random() * 150];
    for (let y = Math.max(0, Math.floor(cy - r)); y < Math.min(H, cy + r); y++)
      for (let x = Math.max(0, Math.floor(cx - r)); x < Math.min(W, cx + r); x++)
        if (Math.hypot(x - cx, y - cy) < r) planes.y[y * W + x] = tone;
  }
  planes.u.fill(126);
  planes.v.fill(131);
  return planes;
}

const copy = (p: Planes): Planes => ({ ...p, y: p.y.slice(), u: p.u.slice(), v: p.v.slice() });
const calm: LiveMoment = { pose: STILL, exposure: 0, balance: [1, 1], outfit: null, place: 0, acting: -1 };

/** Six readings a second of what the camera sees at each moment, against its first second. */
function watch(seconds: number, at: (t: number) => LiveMoment): LiveReading[] {
  const room = new LiveRoom(plate());
  const reference = [0, 1, 2, 3, 4].map((i) => copy(room.draw(calm, i)));
  const meter = new LiveMeter(reference, BT709);
  return Array.from({ length: Math.round(seconds * 6) }, (_, i) => meter.read(room.draw(at(i / 6), 10 + i * 4), i / 6));
}

describe('the live figures, against the simulated camera’s truth', () => {
  it('a still camera reads under a tenth of a pixel with a performer in full swing, and no bump is called', () => {
    const readings = watch(5, (t) => ({ ...calm, outfit: 0, acting: t }));
    for (const r of readings) {
      expect(r.lock.trusted).toBe(true);
      expect(r.corner).toBeLessThan(0.1);
      expect(r.bump).toBeNull();
    }
  });

  it('a knock is called within a second of its time and half a pixel of its size, once', () => {
    const shove = bump(2.1, 3, -2, 0.04);
    const readings = watch(6, (t) => ({ ...calm, pose: shove(t), outfit: 1, acting: t }));
    const bumps = readings.flatMap((r) => (r.bump ? [{ ...r.bump, told: r.time }] : []));
    expect(bumps).toHaveLength(1);
    expect(Math.abs(bumps[0].time - 2.1)).toBeLessThan(0.35);
    expect(bumps[0].told - 2.1).toBeLessThan(1);
    expect(Math.abs(bumps[0].size - Math.hypot(3, 2))).toBeLessThan(0.5);
    const last = readings.at(-1);
    expect(last?.lock.dx).toBeCloseTo(3, 1);
    expect(last?.lock.dy).toBeCloseTo(-2, 1);
  });

  it('light: stops and balance as planted', () => {
    const [r] = watch(0.2, () => ({ ...calm, exposure: 0.2, balance: [1.1, 0.95] }));
    expect(r.light?.exposure).toBeCloseTo(0.2 + Math.log2(0.2126 * 1.1 + 0.7152 + 0.0722 * 0.95), 1);
    expect(r.light?.red).toBeCloseTo(1.1, 1);
    expect(r.light?.blue).toBeCloseTo(0.95, 1);
  });

  it('a blank wall is refused with a sentence', () => {
    const blank = blackPlanes(W, H);
    blank.y.fill(120);
    expect(() => new LiveMeter([blank], BT709)).toThrow(/too little texture/);
  });

  it('counts what is blown out and what is drowned', () => {
    const [bright] = watch(0.2, () => ({ ...calm, exposure: 3 }));
    const [dark] = watch(0.2, () => ({ ...calm, exposure: -6 }));
    expect(bright.blown).toBeGreaterThan(0.3);
    expect(dark.drowned).toBeGreaterThan(0.1);
    expect(bright.drowned).toBeLessThan(0.02);
  });
});

describe('kelvin-like terms', () => {
  /** Planck's law, spectral radiance up to a factor. */
  const planck = (nm: number, kelvin: number) => nm ** -5 / (Math.exp(1.4388e7 / (nm * kelvin)) - 1);

  it.each([
    [3200, 3000],
    [3200, 3600],
    [5600, 5000],
  ])('from %i K to %i K, as Planck’s law has red and blue change, within 2 %%', (from, to) => {
    const red = planck(600, to) / planck(600, from);
    const blue = planck(450, to) / planck(450, from);
    expect(Math.abs(kelvinLike({ red, blue }, from) / to - 1)).toBeLessThan(0.02);
  });

  it('words: warmer, cooler, or only stops', () => {
    expect(lightWords({ exposure: 0.12, red: 1.05, blue: 0.95 })).toMatch(/^\+0\.12 EV, about \d+ K warmer$/);
    expect(lightWords({ exposure: -0.3, red: 0.95, blue: 1.05 })).toMatch(/^−0\.30 EV, about \d+ K cooler$/);
    expect(lightWords({ exposure: 0, red: 1, blue: 1 })).toBe('+0.00 EV');
  });
});

describe('the pose figure', () => {
  const room = new LiveRoom(plate(), 0.5);
  const luma = (p: Planes) => ({ width: p.width, height: p.height, data: p.y.slice() });
  const empty = luma(room.draw(calm, 0));
  const at = (place: number, acting: number) => luma(room.draw({ ...calm, outfit: 0, place, acting }, 3));
  const ghost = at(0, 3.2);

  it('the same pose at the same place fits; another pose fits less; nobody fits not at all', () => {
    const same = poseMatch(at(0, 3.2), ghost, empty);
    const other = poseMatch(at(0, 5.2), ghost, empty);
    expect(same.match).toBeGreaterThan(0.95);
    expect(other.match).toBeLessThan(same.match - 0.05);
    expect(poseMatch(empty, ghost, empty).match).toBeLessThan(0.3);
  });

  it('a ghost of another size is compared all the same', () => {
    const half = { width: W / 2, height: H >> 1, data: new Uint8Array((W / 2) * (H >> 1)) };
    for (let y = 0; y < half.height; y++)
      for (let x = 0; x < half.width; x++)
        half.data[y * half.width + x] =
          (ghost.data[2 * y * W + 2 * x] +
            ghost.data[2 * y * W + 2 * x + 1] +
            ghost.data[(2 * y + 1) * W + 2 * x] +
            ghost.data[(2 * y + 1) * W + 2 * x + 1]) /
          4;
    expect(poseMatch(at(0, 3.2), half, null).match).toBeGreaterThan(0.75);
  });

  it('a pose beside its place says which way to move, to a few pixels', () => {
    const fit = poseMatch(at(-0.1, 3.2), ghost, empty);
    const metre = W / ((36 / 28) * 3.55);
    expect(Math.abs(fit.dx - 0.1 * metre)).toBeLessThan(4);
    expect(fit.match).toBeGreaterThan(0.9);
    expect(poseMatch(at(0, 3.2), ghost, null).match).toBeGreaterThan(0.9);
  });
});
