import { describe, expect, it } from 'vitest';
import { blackPlanes, type Planes } from '../picture';
import { randomSource } from '../room';
import { settledEdge } from './figure-edge';
import { emptyMask, grow, type Mask } from './grid';
import { byLikeColour } from './like-colour';
import { OWN, OWN_NEAR, OWN_VARIANCE, ownColour } from './own-colour';

const [W, H] = [160, 120];
const random = randomSource(5);
/** A set of stripes with noise, `light` laid over it where a mask says so. */
function frameOf(figure: Mask | null, light = 170, noise = 3): Planes {
  const planes = blackPlanes(W, H);
  planes.u.fill(128);
  planes.v.fill(128);
  for (let i = 0; i < planes.y.length; i++) {
    const set = 90 + 20 * ((i >> 3) & 1);
    planes.y[i] = (figure?.data[i] ? light : set) + noise * (random() + random() - 1);
  }
  return planes;
}
function box(left: number, top: number, right: number, bottom: number, into = emptyMask(W, H)): Mask {
  for (let y = top; y < bottom; y++) into.data.fill(1, y * W + left, y * W + right);
  return into;
}
const plate = frameOf(null, 0, 0);
const seen = (frame: Planes, shade: Uint8Array = new Uint8Array(W * H)) => ({
  frame,
  plate,
  stray: new Float32Array(W * H).fill(2),
  contrast: new Uint8Array(W * H),
  usual: new Float32Array(8).fill(1),
  shade,
  apart: Float32Array.from(frame.y, (y, i) => Math.abs(y - plate.y[i]) / 8),
});
/** Pixels that a gap has at least. */
const LEAST = 60;
const overlap = (a: Mask, b: Mask) => {
  let [both, either] = [0, 0];
  for (let i = 0; i < a.data.length; i++) {
    both += a.data[i] & b.data[i];
    either += a.data[i] | b.data[i];
  }
  return both / either;
};

describe('an edge that is settled by likelihood', () => {
  const figure = box(50, 30, 90, 100);

  it('loses the rim that was taken along, and takes back what was cut off', () => {
    for (const by of [4, -3]) {
      const found = grow(figure, by);
      const settled = settledEdge(seen(frameOf(figure)), found, LEAST);
      expect(overlap(found, figure)).toBeLessThan(0.88);
      expect(overlap(settled, figure)).toBeGreaterThan(0.97);
    }
  });

  it('keeps a thin pole of another light whose colour has no inside to be read from', () => {
    const pole = box(120, 20, 124, 100);
    expect(overlap(settledEdge(seen(frameOf(pole, 200)), pole, LEAST), pole)).toBeGreaterThan(0.9);
  });

  it('leaves a shadow beside the figure to the set', () => {
    const shadow = box(90, 80, 110, 100);
    const frame = frameOf(figure);
    for (let i = 0; i < shadow.data.length; i++) if (shadow.data[i]) frame.y[i] *= 0.6;
    expect(overlap(settledEdge(seen(frame, shadow.data), figure, LEAST), figure)).toBeGreaterThan(0.97);
  });

  it('opens a gap that was filled, where it is large enough to be one and shows the set', () => {
    const gap = box(62, 50, 78, 70);
    const open = box(50, 30, 90, 100);
    for (let i = 0; i < gap.data.length; i++) if (gap.data[i]) open.data[i] = 0;
    const frame = frameOf(open);
    expect(overlap(settledEdge(seen(frame), figure, LEAST), open)).toBeGreaterThan(0.97);
    expect(overlap(settledEdge(seen(frame), figure, 2 * 16 * 20), figure)).toBeGreaterThan(0.97);
  });

  it('is empty where nothing was found', () => {
    expect(settledEdge(seen(frameOf(null)), emptyMask(W, H), LEAST).data.some((v) => v)).toBe(false);
  });
});

describe('what neighbours of like colour say', () => {
  it('is their mean, and not that of what lies beside them', () => {
    const left = box(0, 0, W / 2, H);
    const frame = frameOf(left, 200, 0);
    for (let i = 0; i < left.data.length; i++) if (!left.data[i]) frame.y[i] = 60;
    // On the left every second column says 2, the others 0; on the right all say -3.
    const values = Float32Array.from(left.data, (there, i) => (there ? 2 * (i & 1) : -3));
    const all = box(0, 0, W, H);
    const said = byLikeColour(frame, values, all);
    const middle = (H / 2) * W;
    expect(said[middle + W / 2 - 1]).toBeCloseTo(1, 1);
    expect(said[middle + W / 2]).toBeCloseTo(-3, 2);
    const none = byLikeColour(frame, values, emptyMask(W, H));
    expect(none).toEqual(values);
  });
});

describe('a figure’s own colour', () => {
  it('is its mean and variance nearby, and nothing out of reach', () => {
    const core = box(40, 40, 60, 60);
    const frame = frameOf(core, 150, 0);
    for (let i = 0; i < core.data.length; i += 2) if (core.data[i]) frame.y[i] = 170;
    frame.v.fill(140);
    const own = ownColour(frame, core, 8);
    const at = OWN * (25 * (W / 2) + 25);
    expect([own[at], own[at + 2]]).toEqual([160, 140]);
    expect(own[at + OWN_VARIANCE]).toBeCloseTo(100, 2);
    expect(own[at + OWN_VARIANCE + 2]).toBeCloseTo(0, 2);
    expect(own[at + OWN_NEAR]).toBeCloseTo(1, 5);
    // Eight pixels and more away there is nothing to read.
    expect([...own.subarray(OWN * (25 * (W / 2) + 36), OWN * (25 * (W / 2) + 37))]).toEqual([0, 0, 0, 0, 0, 0, 0]);
  });
});
