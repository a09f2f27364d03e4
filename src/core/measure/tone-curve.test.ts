import { describe, expect, it } from 'vitest';
import {
  BT709,
  blackPlanes,
  curveAt,
  type Gains,
  meanPlanes,
  type Planes,
  recoloured,
  tableOf,
  takeToProject,
  throughTable,
  toRgbMatrix,
} from '../picture';
import { randomSource } from '../room';
import { curvesThrough, ToneLevels, TRANSFERS, transferOf } from './tone-curve';

const [W, H] = [480, 270];

/** A set of even patches of every level and many colours, coded by a camera; brighter by `gain` of light, with noise, and somebody before it. */
function filmed(code: (light: number) => number, gain: number, seed: number, somebodyAt = -1): Planes {
  const [patches, noise] = [randomSource(5), randomSource(seed)];
  const planes = blackPlanes(W, H);
  const lights = Array.from({ length: 16 * 9 }, () => {
    const [level, tint] = [2 ** (-6 + 6.2 * patches()), patches()];
    return [level, level * (0.6 + 0.4 * tint), level * (1 - 0.5 * tint)].map((l) => 0.8 * l);
  });
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const dressed = somebodyAt >= 0 && x >= somebodyAt && x < somebodyAt + 130;
      const light = dressed ? [0.05, 0.05, 0.06] : lights[Math.floor(y / 30) * 16 + Math.floor(x / 30)];
      const [r, g, b] = light.map((l) => Math.min(1, code(l * gain)));
      const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
      planes.y[y * W + x] = Math.round(16 + 219 * luma + 3 * (noise() + noise() - 1));
      if (x & 1 || y & 1) continue;
      const k = (y >> 1) * (W / 2) + (x >> 1);
      planes.u[k] = Math.round(128 + (224 * (b - luma)) / 1.8556 + noise() + noise() - 1);
      planes.v[k] = Math.round(128 + (224 * (r - luma)) / 1.5748 + noise() + noise() - 1);
    }
  return planes;
}

/** Gains as the light is read: by BT.709, the middle of those of the patches that nobody stands before. */
function gainsBetween(reference: Planes, other: Planes): Gains {
  const m = toRgbMatrix(BT709);
  const logs: number[][] = [[], [], []];
  for (let k = 0; k < reference.u.length; k += 7) {
    const at = 2 * Math.floor(k / (W / 2)) * W + 2 * (k % (W / 2));
    if (at % W < 150) continue;
    for (let c = 0; c < 3; c++) {
      const value = (p: Planes) => m[4 * c] * p.y[at] + m[4 * c + 1] * p.u[k] + m[4 * c + 2] * p.v[k] + m[4 * c + 3];
      const [was, is] = [value(reference), value(other)];
      if (was > 0.1 && was < 0.9 && is > 0.1 && is < 0.9) logs[c].push(Math.log2((is + 0.099) / (was + 0.099)) / 0.45);
    }
  }
  const [r, g, b] = logs.map((l) => 2 ** l.sort((x, y) => x - y)[l.length >> 1]);
  return { r, g, b };
}

function compared(code: (light: number) => number, stops: number) {
  // The mean of several frames, as a baseline is.
  const reference = meanPlanes([1, 2, 3, 4].map((seed) => filmed(code, 1, seed)));
  const shown = [20, 170, 340].map((x, k) => filmed(code, 2 ** stops, 10 + k, x));
  const gains = gainsBetween(reference, shown[0]);
  const matrix = takeToProject(BT709, { r: 1 / gains.r, g: 1 / gains.g, b: 1 / gains.b });
  const laid = shown.map((p) => recoloured(p, matrix));
  const levels = new ToneLevels();
  for (const p of laid) levels.see(reference, p, gains);
  const seen = levels.levels();
  return { reference, laid, seen, gains, curves: curvesThrough(seen), transfer: transferOf(seen, gains) };
}

/** The most that a level is off after the curves, code values; of red and blue half of it, for they are coded half as finely. */
function leftAfter({ reference, laid, gains, curves }: ReturnType<typeof compared>): number {
  const again = new ToneLevels();
  for (const p of laid) {
    const put = { ...p, y: p.y.slice(), u: p.u.slice(), v: p.v.slice() };
    if (curves)
      throughTable(
        put,
        tableOf((rgb) => {
          rgb[0] += curveAt(curves.r, rgb[0]);
          rgb[1] += curveAt(curves.g, rgb[1]);
          rgb[2] += curveAt(curves.b, rgb[2]);
        }),
      );
    again.see(reference, put, gains);
  }
  return Math.max(
    ...again.levels().flatMap((all, c) => all.filter((l) => l.weight > 0.15).map((l) => (c === 1 ? 255 : 127) * Math.abs(l.off))),
  );
}

describe('stops by the camera’s own tone curve', () => {
  it.each(TRANSFERS.map((t) => [t.name, t.code] as const))('%s: a quarter and half of a stop are told to a twentieth', (name, code) => {
    for (const stops of [0.25, -0.3]) {
      const { gains, transfer } = compared(code, stops);
      expect(Math.abs(Math.log2(gains.g) * transfer.perStop - stops)).toBeLessThan(Math.abs(stops) / 20);
      if (name === 'BT.709') expect(transfer).toEqual({ name, perStop: 1 });
    }
  });

  it('a difference too small to tell a curve by is read by BT.709', () => {
    expect(compared(TRANSFERS[1].code, 0.04).transfer).toEqual({ name: 'BT.709', perStop: 1 });
  });
});

describe('tones matched level by level', () => {
  it('need no curve where the gains do', () => {
    expect(compared(TRANSFERS[0].code, 0.15).curves).toBeNull();
    expect(compared(TRANSFERS[3].code, 0).curves).toBeNull();
  });

  it.each([
    // Curves that are none of those told apart: film by Hable 2010 (from memory), a contrast added to BT.709, Reinhard et al. 2002.
    [
      'a film curve',
      (l: number) => Math.max(0, (4 * l * (0.6 * l + 0.05) + 0.004) / (4 * l * (0.6 * l + 0.5) + 0.06) - 0.0667) ** (1 / 2.2),
    ],
    ['more contrast', (l: number) => ((v) => 0.6 * v + 0.4 * v * v * (3 - 2 * v))(Math.min(1, TRANSFERS[0].code(l)))],
    ['a shoulder', (l: number) => ((3 * l * (1 + l / 3)) / (1 + 3 * l)) ** (1 / 2.2)],
    ['a curve with a shoulder', TRANSFERS[3].code],
  ] as const)('%s: no level is off by more than the noise', (_, code) => {
    const found = compared(code, 0.35);
    expect(found.curves).not.toBeNull();
    expect(leftAfter(found)).toBeLessThan(1.3);
    expect(leftAfter({ ...found, curves: null })).toBeGreaterThan(1.4);
  });

  it('never turn tones round, and nothing is said where nothing was seen', () => {
    const { curves } = compared(TRANSFERS[3].code, 0.5);
    for (const curve of [curves?.r ?? [], curves?.g ?? [], curves?.b ?? []])
      for (let k = 1; k < curve.length; k++) expect(curve[k] + k / 16).toBeGreaterThan(curve[k - 1] + (k - 1) / 16);
    expect(curvesThrough(new ToneLevels().levels())).toBeNull();
  });
});
