import baboon from 'baboon-image';
import { describe, expect, it } from 'vitest';
import { BT709 } from '../picture';
import { photographBackground, restlessBackground, type StagedOptions, StagedTake } from '../staged';
import { blockColours, type LightReading, meanColours, readLight } from './light';
import { LockMeter, makeReference } from './lock';
import { lumaOf } from './luma';
import { cornerMove, NO_MOVE, type Similarity } from './similarity';
import { summarise, type TakeLock } from './verdict';

const [W, H] = [640, 360];
const FRAMES = 30;
/** A photograph that ships in the npm package baboon-image. */
const photo = photographBackground(
  { width: 512, height: 512, rgb: (x, y) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] },
  W,
  H,
);

/** The background in other light: gains on linear light by the transfer function of ITU-R BT.709, channel by channel. */
function inLight(background: StagedOptions['background'], [gr, gg, gb]: readonly [number, number, number]): StagedOptions['background'] {
  const toLinear = (v: number) => (v < 0.081 ? v / 4.5 : ((v + 0.099) / 1.099) ** (1 / 0.45));
  const toCoded = (l: number) => (l < 0.018 ? 4.5 * l : 1.099 * l ** 0.45 - 0.099);
  return (x, y, frame) => {
    const [yy, u, v] = background(x, y, frame);
    const l = (yy - 16) / 219;
    const b = l + (1.8556 * (u - 128)) / 224;
    const r = l + (1.5748 * (v - 128)) / 224;
    const g = (l - 0.2126 * r - 0.0722 * b) / 0.7152;
    const [R, G, B] = [r * 1, g, b].map((c, k) => toCoded(toLinear(Math.max(0, c)) * [gr, gg, gb][k]));
    const lit = 0.2126 * R + 0.7152 * G + 0.0722 * B;
    return [16 + 219 * lit, 128 + (224 * (B - lit)) / 1.8556, 128 + (224 * (R - lit)) / 1.5748];
  };
}

function measured(take: StagedTake, frames: number, reference = take): TakeLock {
  const first = Array.from({ length: 5 }, (_, f) => reference.frame(1000 + f));
  const lock = makeReference(first.map(lumaOf));
  const colours = meanColours(first.map((p) => blockColours(lock.fine, p)));
  const meter = new LockMeter(lock);
  const readings = Array.from({ length: frames }, (_, f) => {
    const planes = take.frame(f);
    const reading = meter.read(lumaOf(planes));
    return { reading, light: readLight(lock.fine, colours, BT709, planes, BT709, reading) as LightReading | null };
  });
  return summarise(
    readings.map((_, f) => f / 25),
    readings.map((r) => r.reading),
    readings.map((r) => r.light),
    W,
    H,
  );
}

const walker = (f: number) => (f >= 1000 ? null : { x: 120 + 9 * f, y: 190, tall: 230, arm: 0.5 + 0.5 * Math.sin(f / 3) });

describe('lock (blocks after Baker & Matthews 2004, voted by RANSAC, Fischler & Bolles 1981) on generated takes with a performer in them', () => {
  it('drift to 0.05 px RMS; a lens that breathes by its scale to 0.0001', () => {
    const pose = (f: number): Similarity =>
      f >= 1000 ? NO_MOVE : { dx: 0.02 * f, dy: -0.012 * f, turn: 0.001 * f, scale: 1 + 0.0009 * Math.sin(f / 6) };
    const lock = measured(new StagedTake({ background: photo, figure: walker, pose, seed: 2 }), FRAMES);
    let [square, scale, turn] = [0, 0, 0];
    lock.readings.forEach((r, f) => {
      const truth = pose(f);
      square += ((r.dx - truth.dx) ** 2 + (r.dy - truth.dy) ** 2) / FRAMES;
      scale += Math.abs(r.scale - truth.scale) / FRAMES;
      turn += Math.abs(r.turn - truth.turn) / FRAMES;
      expect(r.trusted).toBe(true);
    });
    expect(Math.sqrt(square)).toBeLessThan(0.05);
    expect(scale).toBeLessThan(1e-4);
    expect(turn).toBeLessThan(0.005);
    expect(lock.bumps).toEqual([]);
  });

  it('a bump: its frame to one, its size to 0.3 px, before a busy picture and noise', () => {
    const pose = (f: number) => (f >= 18 && f < 1000 ? { dx: 1.7, dy: -0.9, turn: 0.03, scale: 1 } : NO_MOVE);
    const lock = measured(new StagedTake({ background: photo, figure: walker, pose, noise: 2.5, seed: 4 }), FRAMES);
    expect(lock.bumps).toHaveLength(1);
    expect(Math.abs(lock.bumps[0].frame - 18)).toBeLessThanOrEqual(1);
    expect(Math.abs(lock.bumps[0].size - Math.hypot(1.7, 0.9))).toBeLessThan(0.3);
  });

  it('no false bump where leaves and water move in a third of the picture', () => {
    const background = restlessBackground(photo, { above: 70, below: 305, swing: 3 });
    const take = new StagedTake({ background, alive: true, figure: walker, seed: 12 });
    const lock = measured(take, FRAMES);
    expect(lock.bumps).toEqual([]);
    expect(lock.corner).toBeLessThan(0.12);
    expect(cornerMove(lock.typical, W, H)).toBe(lock.corner);
  });
});

describe('light on generated takes, by the transfer function of ITU-R BT.709', () => {
  it.each([[[1.12, 1.07, 1.01]], [[0.86, 0.9, 0.97]], [[1.3, 1.3, 1.3]]] as const)(
    'gains of %s on linear light: 0.01 EV and 0.003 of balance',
    (gains) => {
      const reference = new StagedTake({ background: photo, seed: 3 });
      const take = new StagedTake({ background: inLight(photo, gains), figure: walker, seed: 5 });
      const { light } = measured(take, 12, reference);
      if (!light) throw new Error('no light');
      const truth = Math.log2(0.2126 * gains[0] + 0.7152 * gains[1] + 0.0722 * gains[2]);
      expect(Math.abs(light.exposure - truth)).toBeLessThan(0.01);
      expect(Math.abs(light.red / (gains[0] / gains[1]) - 1)).toBeLessThan(0.003);
      expect(Math.abs(light.blue / (gains[2] / gains[1]) - 1)).toBeLessThan(0.003);
    },
  );
});
