import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { BLEND_MODES, type BlendMode, blender } from './blend';
import { BT709, composeColour, fromRgbMatrix, IDENTITY_COLOUR, isIdentityColour, takeToProject, toRgba, toRgbMatrix } from './colour';
import type { Rgb } from './colour-table';
import { type ComposeLayer, compose } from './compose';
import { type LineCoverage, lineCoverageAt, lineCoverageRow, lineExtent, type PathCoverage, pathCoverageAt } from './coverage';
import { coverageRow } from './coverage-plane';
import { blackPlanes, type Planes, planesOver } from './planes';
import { psnr } from './quality';
import { reducedPlanes } from './reduce';
import { coveredColumns } from './resample';
import { samplePlanes } from './sample';
import { fromRgba, rotateToDisplay } from './upright';

const SAME = { a: 1, b: 0, c: 0, d: 0, e: 1, f: 0 };
const layerOf = (planes: Planes, more: Partial<ComposeLayer> = {}): ComposeLayer => ({
  planes,
  map: SAME,
  colour: IDENTITY_COLOUR,
  coverage: null,
  opacity: 1,
  blend: 'normal',
  ...more,
});

function flat(width: number, height: number, y: number, u = 128, v = 128): Planes {
  const p = blackPlanes(width, height);
  p.y.fill(y);
  p.u.fill(u);
  p.v.fill(v);
  return p;
}

function noisy(width: number, height: number, seed: number): Planes {
  const random = randomSource(seed);
  const p = blackPlanes(width, height);
  for (const plane of [p.y, p.u, p.v]) for (let i = 0; i < plane.length; i++) plane[i] = 40 + random() * 170;
  return p;
}

/** One channel mixed with itself. */
function blendChannel(mode: BlendMode, b: number, s: number): number {
  const out: Rgb = [0, 0, 0];
  blender(mode)([b, b, b], [s, s, s], out);
  return out[0];
}

describe('blend modes', () => {
  it('W3C Compositing and Blending Level 1, section 9: values worked from the formulas by hand', () => {
    expect(blendChannel('multiply', 0.5, 0.4)).toBeCloseTo(0.2, 12);
    expect(blendChannel('screen', 0.5, 0.4)).toBeCloseTo(0.7, 12);
    expect(blendChannel('overlay', 0.25, 0.4)).toBeCloseTo(0.2, 12);
    expect(blendChannel('overlay', 0.75, 0.4)).toBeCloseTo(0.7, 12);
    expect(blendChannel('colour burn', 0.7, 0.5)).toBeCloseTo(0.4, 12);
    expect(blendChannel('colour burn', 1, 0)).toBe(1);
    expect(blendChannel('colour burn', 0.3, 0)).toBe(0);
    expect(blendChannel('plus', 0.7, 0.5)).toBe(1);
    expect(blendChannel('colour dodge', 0.3, 0.5)).toBeCloseTo(0.6, 12);
    expect(blendChannel('colour dodge', 0, 1)).toBe(0);
    expect(blendChannel('soft light', 0.5, 0.25)).toBeCloseTo(0.5 - 0.5 * 0.5 * 0.5, 12);
    expect(blendChannel('soft light', 0.16, 0.75)).toBeCloseTo(0.16 + 0.5 * (((16 * 0.16 - 12) * 0.16 + 4) * 0.16 - 0.16), 12);
    expect(blendChannel('soft light', 0.64, 1)).toBeCloseTo(0.8, 12);
  });

  it('agrees with ffmpeg’s blend filter on every pair of a 16-step scale, within 2 of 255', () => {
    const steps = Array.from({ length: 16 }, (_, i) => i * 17);
    const below = Uint8Array.from({ length: 256 }, (_, i) => steps[i >> 4]);
    const above = Uint8Array.from({ length: 256 }, (_, i) => steps[i & 15]);
    const folder = mkdtempSync(join(tmpdir(), 'blend-'));
    writeFileSync(join(folder, 'below.raw'), below);
    writeFileSync(join(folder, 'above.raw'), above);
    const input = (name: string) => ['-f', 'rawvideo', '-pix_fmt', 'gray', '-s', '16x16', '-i', join(folder, name)];
    const names = {
      multiply: 'multiply',
      screen: 'screen',
      overlay: 'overlay',
      darken: 'darken',
      lighten: 'lighten',
      plus: 'addition',
      'hard light': 'hardlight',
      difference: 'difference',
      exclusion: 'exclusion',
    } as const;
    for (const [mode, theirs] of Object.entries(names)) {
      // ffmpeg's top input is the first; its overlay branches on the top, so the backdrop comes first.
      const out = execFileSync('ffmpeg', [
        '-v',
        'error',
        ...input('below.raw'),
        ...input('above.raw'),
        '-filter_complex',
        `blend=all_mode=${theirs}`,
        '-frames:v',
        '1',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'gray',
        '-',
      ]);
      for (let i = 0; i < 256; i++) {
        const ours = 255 * blendChannel(mode as keyof typeof names, below[i] / 255, above[i] / 255);
        expect(Math.abs(ours - out[i]), `${mode} ${below[i]} ${above[i]}`).toBeLessThanOrEqual(2);
      }
    }
  });

  it('of three channels together: each keeps what section 9.2 says of lightness and saturation', () => {
    const lum = ([r, g, b]: Rgb) => 0.3 * r + 0.59 * g + 0.11 * b;
    const sat = (c: Rgb) => Math.max(...c) - Math.min(...c);
    const b: Rgb = [0.5, 0.4, 0.6];
    const s: Rgb = [0.7, 0.55, 0.5];
    const of = (mode: BlendMode): Rgb => {
      const out: Rgb = [0, 0, 0];
      blender(mode)(b, s, out);
      return out;
    };
    for (const mode of ['hue', 'saturation', 'colour'] as const) expect(lum(of(mode))).toBeCloseTo(lum(b), 12);
    expect(lum(of('luminosity'))).toBeCloseTo(lum(s), 12);
    expect(sat(of('hue'))).toBeCloseTo(sat(b), 12);
    expect(sat(of('saturation'))).toBeCloseTo(sat(s), 12);
    expect(sat(of('colour'))).toBeCloseTo(sat(s), 12);
    // The hue of a grey is none: what has no saturation stays grey.
    const grey: Rgb = [0, 0, 0];
    blender('hue')([0.3, 0.3, 0.3], s, grey);
    expect(sat(grey)).toBeCloseTo(0, 12);
  });

  it('stays within 0..1', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...BLEND_MODES), unit, unit, (mode, b, s) => {
        const v = blendChannel(mode, b, s);
        expect(v).toBeGreaterThanOrEqual(-1e-12);
        expect(v).toBeLessThanOrEqual(1 + 1e-12);
      }),
    );
  });
});

describe('colour', () => {
  it('BT.709 limited range: the 75 % bars of ITU-R BT.709 coded values', () => {
    // Coded values of 100 % primaries, limited range, rounded: ITU-R BT.709-6 item 3 formulas.
    const m = fromRgbMatrix(BT709);
    const code = (r: number, g: number, b: number) => [0, 4, 8].map((k) => Math.round(m[k] * r + m[k + 1] * g + m[k + 2] * b + m[k + 3]));
    expect(code(1, 1, 1)).toEqual([235, 128, 128]);
    expect(code(0, 0, 0)).toEqual([16, 128, 128]);
    expect(code(1, 0, 0)).toEqual([63, 102, 240]);
    expect(code(0, 1, 0)).toEqual([173, 42, 26]);
    expect(code(0, 0, 1)).toEqual([32, 240, 118]);
  });

  it('there and back is nothing, for both matrices and both ranges', () => {
    for (const matrix of ['bt709', 'bt601'] as const) {
      for (const fullRange of [true, false]) {
        const round = composeColour(fromRgbMatrix({ matrix, fullRange }), toRgbMatrix({ matrix, fullRange }));
        round.forEach((v, i) => {
          expect(v).toBeCloseTo(IDENTITY_COLOUR[i], 9);
        });
      }
    }
    expect(isIdentityColour(takeToProject(BT709, { r: 1, g: 1, b: 1 }))).toBe(true);
  });

  it('RGBA agrees with ffmpeg’s own conversion within 2 of 255', () => {
    const planes = flat(16, 16, 120, 90, 170);
    const rgba = new Uint8ClampedArray(16 * 16 * 4);
    toRgba(planes, rgba);
    const folder = mkdtempSync(join(tmpdir(), 'rgb-'));
    writeFileSync(join(folder, 'a.yuv'), Buffer.concat([planes.y, planes.u, planes.v]));
    const out = execFileSync('ffmpeg', [
      '-v',
      'error',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      '-s',
      '16x16',
      '-i',
      join(folder, 'a.yuv'),
      '-vf',
      'scale=in_color_matrix=bt709:in_range=tv:flags=accurate_rnd+full_chroma_int',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-',
    ]);
    for (let c = 0; c < 3; c++) expect(Math.abs(rgba[4 * 100 + c] - out[4 * 100 + c])).toBeLessThanOrEqual(2);
    const back = fromRgba(new Uint8Array(rgba), 16, 16);
    expect(Math.abs(back.y[50] - 120)).toBeLessThanOrEqual(1);
    expect(Math.abs(back.u[20] - 90)).toBeLessThanOrEqual(1);
  });

  it('a gain on light is a gain on light: one stop on linear values through the BT.709 transfer', () => {
    const m = takeToProject(BT709, { r: 2, g: 2, b: 2 });
    const oetf = (l: number) => 1.099 * l ** 0.45 - 0.099;
    for (const light of [0.05, 0.18, 0.4]) {
      const from = 16 + 219 * oetf(light);
      expect(m[0] * from + m[1] * 128 + m[2] * 128 + m[3]).toBeCloseTo(16 + 219 * oetf(2 * light), 6);
    }
  });
});

describe('line coverage', () => {
  it('rows agree with the definition at any angle', () => {
    const out = new Uint16Array(96);
    fc.assert(
      fc.property(
        fc.integer({ min: -180, max: 180 }),
        fc.integer({ min: -90, max: 90 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 0, max: 53 }),
        (angle, position, feather, row) => {
          const line: LineCoverage = { kind: 'line', angle, position, feather };
          const shared = lineCoverageRow(line, row, 96, 54, 1, out);
          for (const x of [0, 31, 95]) {
            const value = shared >= 0 ? shared : out[x];
            expect(Math.abs(value / 256 - lineCoverageAt(line, x + 0.5, row + 0.5, 96, 54))).toBeLessThan(0.006);
          }
        },
      ),
    );
  });

  it('mean error against 16×16 supersampling is under 1 of 255', () => {
    const line: LineCoverage = { kind: 'line', angle: 27, position: 4, feather: 14 };
    let error = 0;
    for (let y = 0; y < 54; y++) {
      for (let x = 0; x < 96; x++) {
        let sum = 0;
        for (let k = 0; k < 256; k++) sum += lineCoverageAt(line, x + ((k & 15) + 0.5) / 16, y + ((k >> 4) + 0.5) / 16, 96, 54);
        error += Math.abs(sum / 256 - lineCoverageAt(line, x + 0.5, y + 0.5, 96, 54));
      }
    }
    expect((error / (96 * 54)) * 255).toBeLessThan(1);
    expect(lineExtent(0, 96, 54)).toBe(54);
    expect(lineExtent(90, 96, 54)).toBeCloseTo(96, 9);
  });
});

describe('path coverage', () => {
  const path: PathCoverage = {
    kind: 'path',
    feather: 12,
    points: [
      { x: 30, y: 0 },
      { x: 52, y: 20 },
      { x: 40, y: 54 },
    ],
  };

  it('rows agree with the definition, at both sizes of plane', () => {
    for (const scale of [1, 2] as const) {
      const out = new Uint16Array(96 / scale);
      for (let row = 0; row < 54 / scale; row++) {
        const shared = coverageRow(path, row, 96, 54, scale, out);
        for (let x = 0; x < 96 / scale; x += 5) {
          const value = shared >= 0 ? shared : out[x];
          expect(Math.abs(value / 256 - pathCoverageAt(path, (x + 0.5) * scale, (row + 0.5) * scale))).toBeLessThan(0.006);
        }
      }
    }
    expect(coverageRow({ ...path, points: [{ x: -50, y: 0 }] }, 3, 96, 54, 1, new Uint16Array(96))).toBe(256);
    expect(coverageRow({ ...path, points: [{ x: 200, y: 0 }] }, 3, 96, 54, 1, new Uint16Array(96))).toBe(0);
  });

  it('its soft edge is as wide across the path as asked, however it leans', () => {
    const leaning: PathCoverage = {
      ...path,
      points: [
        { x: 10, y: 0 },
        { x: 64, y: 54 },
      ],
    };
    // Three pixels to the side of the middle of a lean of 45°, as seen across it, is a quarter of the feather.
    const off = 3 * Math.SQRT2;
    const t = 0.25;
    expect(pathCoverageAt(leaning, 37 + off, 27)).toBeCloseTo(1 - t * t * (3 - 2 * t), 9);
    expect(pathCoverageAt(leaning, 37, 27)).toBeCloseTo(0.5, 9);
  });

  it('lays the upper picture right of it only', () => {
    const out = blackPlanes(96, 54);
    compose([layerOf(flat(96, 54, 60, 128, 128)), layerOf(flat(96, 54, 200, 128, 128), { coverage: path })], out);
    for (const [x, y] of [
      [2, 10],
      [41, 10],
      [46, 30],
      [90, 50],
    ] as const)
      expect(Math.abs(out.y[y * 96 + x] - (60 + 140 * pathCoverageAt(path, x + 0.5, y + 0.5)))).toBeLessThanOrEqual(2);
  });
});

describe('compose', () => {
  it('nothing is black; one layer is itself; the order is bottom first', () => {
    const out = blackPlanes(64, 36);
    compose([], out);
    expect(out.y.every((v) => v === 16)).toBe(true);
    const a = noisy(64, 36, 1);
    compose([layerOf(a)], out);
    expect(psnr(out.y, a.y)).toBe(Number.POSITIVE_INFINITY);
    compose([layerOf(a), layerOf(flat(64, 36, 200, 100, 150), { opacity: 0.5 })], out);
    for (const i of [0, 700, 2303]) expect(Math.abs(out.y[i] - (a.y[i] + 200) / 2)).toBeLessThanOrEqual(1);
  });

  it('a line mixes two takes as its coverage says, at an angle', () => {
    const line: LineCoverage = { kind: 'line', angle: 35, position: 3, feather: 18 };
    const out = blackPlanes(64, 36);
    compose([layerOf(flat(64, 36, 40)), layerOf(flat(64, 36, 220), { coverage: line })], out);
    for (let y = 0; y < 36; y++) {
      for (let x = 0; x < 64; x++)
        expect(Math.abs(out.y[y * 64 + x] - (40 + 180 * lineCoverageAt(line, x + 0.5, y + 0.5, 64, 36)))).toBeLessThanOrEqual(2);
    }
  });

  it('where a moved picture does not reach, what is below shows', () => {
    const out = blackPlanes(64, 36);
    compose([layerOf(flat(64, 36, 60)), layerOf(flat(64, 36, 200), { map: { ...SAME, c: -10 } })], out);
    expect(out.y[5]).toBe(60);
    expect(out.y[20]).toBe(200);
    expect(coveredColumns({ ...SAME, c: -10 }, 0, 64, 36, 64)).toEqual([10, 64]);
    expect(coveredColumns({ ...SAME, f: 100 }, 0, 64, 36, 64)).toEqual([0, 0]);
  });

  it('a half-pixel move there and back loses little of a photograph-like picture', () => {
    const a = blackPlanes(128, 72);
    for (let y = 0; y < 72; y++) for (let x = 0; x < 128; x++) a.y[y * 128 + x] = 120 + 60 * Math.sin(x / 4) + 40 * Math.cos(y / 3);
    const [there, back] = [blackPlanes(128, 72), blackPlanes(128, 72)];
    compose([layerOf(a, { map: { ...SAME, c: 0.5, f: 0.5 } })], there);
    compose([layerOf(there, { map: { ...SAME, c: -0.5, f: -0.5 } })], back);
    const inside = (p: Planes) => Uint8Array.from({ length: 60 * 116 }, (_, i) => p.y[(6 + Math.floor(i / 116)) * 128 + 6 + (i % 116)]);
    expect(psnr(inside(a), inside(back))).toBeGreaterThan(42);
  });

  it('a blend other than normal goes through R′G′B′', () => {
    const out = blackPlanes(16, 16);
    compose([layerOf(flat(16, 16, 126)), layerOf(flat(16, 16, 126), { blend: 'multiply' })], out);
    // 126 is 0.502; squared 0.252; coded 16 + 219 × 0.252 = 71.
    expect(Math.abs(out.y[40] - 71)).toBeLessThanOrEqual(1);
  });

  it('a blended layer too leaves what its picture does not reach', () => {
    const out = blackPlanes(64, 36);
    compose([layerOf(flat(64, 36, 126)), layerOf(flat(32, 18, 126), { map: { ...SAME, c: -10, f: -6 }, blend: 'multiply' })], out);
    expect([9, 42].map((x) => out.y[10 * 64 + x])).toEqual([126, 126]);
    expect([5, 24].map((y) => out.y[y * 64 + 20])).toEqual([126, 126]);
    for (const x of [10, 25, 41]) expect(Math.abs(out.y[10 * 64 + x] - 71)).toBeLessThanOrEqual(1);
  });

  it('is the plain way for layers that reach a part of the frame only, turned, scaled, shaped and blended', () => {
    const random = randomSource(4);
    const [width, height] = [96, 64];
    const smooth = blackPlanes(48, 32);
    smooth.y = smooth.y.map((_, i) => 140 + 70 * Math.sin((i % 48) / 5) + 30 * Math.cos(Math.floor(i / 48) / 4));
    for (let n = 0; n < 40; n++) {
      const [turn, scale] = [(random() - 0.5) * 1.2, 0.6 + 2 * random()];
      const [c, s] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
      const map = { a: c, b: s, c: 24 - 90 * random(), d: -s, e: c, f: 16 - 60 * random() };
      const layer = layerOf(smooth, { map, opacity: n % 3 ? 1 : 0.6, blend: n % 4 ? 'normal' : 'screen' });
      const near = blackPlanes(width, height);
      compose([layerOf(flat(width, height, 90)), layer], near);
      // The plain filter over the whole frame, mixed by the definition.
      const placed = blackPlanes(width, height);
      samplePlanes(layer.planes, map, placed, { x0: 0, x1: width, y0: 0, y1: height }, 'clear');
      let [most, reached] = [0, 0];
      for (let y = 0; y < height; y++) {
        const [from, to] = coveredColumns(map, y, 48, 32, width);
        for (let x = 0; x < width; x++) {
          const at = y * width + x;
          if (x < from || x >= to) expect(near.y[at]).toBe(90);
          else if (layer.blend === 'normal') {
            reached++;
            most += Math.abs(near.y[at] - (90 + (placed.y[at] - 90) * layer.opacity));
          }
        }
      }
      expect(most / Math.max(1, reached)).toBeLessThan(3);
    }
  });

  it('refuses odd sizes with a sentence', () => {
    expect(() => blackPlanes(15, 16)).toThrow(/even/);
    expect(() => psnr(new Uint8Array(3), new Uint8Array(4))).toThrow(/length/);
  });
});

describe('upright and reduced', () => {
  it('quarter turns put corners where the flag says, four make nothing', () => {
    const p = noisy(8, 4, 5);
    p.y[0] = 250;
    const quarter = rotateToDisplay(p, 90);
    expect([quarter.width, quarter.height]).toEqual([4, 8]);
    expect(quarter.y[3]).toBe(250);
    let round = p;
    for (let i = 0; i < 4; i++) round = rotateToDisplay(round, 90);
    expect(Array.from(round.y)).toEqual(Array.from(p.y));
    expect(Array.from(round.v)).toEqual(Array.from(p.v));
    expect(Array.from(rotateToDisplay(rotateToDisplay(p, 90), 270).u)).toEqual(Array.from(p.u));
    expect(Array.from(rotateToDisplay(p, 180).y)).toEqual(Array.from(p.y).reverse());
  });

  it('reducing averages', () => {
    const p = flat(12, 8, 0);
    for (let i = 0; i < p.y.length; i++) p.y[i] = i % 2 ? 200 : 100;
    expect(Array.from(new Set(reducedPlanes(p, 2).y))).toEqual([150]);
    expect(reducedPlanes(p, 3)).toMatchObject({ width: 4, height: 2 });
    expect(planesOver(new Uint8Array(24), 4, 4).u.length).toBe(4);
  });
});
