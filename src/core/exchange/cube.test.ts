import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { type Rgb, throughCube } from '../picture';
import { randomSource } from '../room';
import { readCube } from './cube';

function cubeOf(text: string) {
  const read = readCube(text);
  if (!read.ok) throw new Error(read.reason);
  return read.cube;
}
const through = (text: string, rgb: Rgb): number[] => {
  const out: Rgb = [...rgb];
  throughCube(cubeOf(text))(out);
  return out;
};
const rounded = (values: readonly number[]) => values.map((v) => Math.round(1e6 * v) / 1e6);

/** A table of `side` entries that bends and mixes the channels. */
function bent(side: number): string {
  const lines = ['TITLE "Bent"', `LUT_3D_SIZE ${side}`];
  for (let b = 0; b < side; b++)
    for (let g = 0; g < side; g++)
      for (let r = 0; r < side; r++) {
        const [x, y, z] = [r, g, b].map((v) => v / (side - 1));
        lines.push([x ** 0.7 * 0.9, 0.1 + 0.6 * y + 0.25 * x * z, 0.9 * z ** 1.5 + 0.08 * y].map((v) => v.toFixed(6)).join(' '));
      }
  return lines.join('\n');
}

describe('a .cube colour table', () => {
  it('of one dimension bends each channel by itself, within its domain', () => {
    const text = '# made by hand\nTITLE "Halves"\nLUT_1D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 2 1\n\n0 0 1\n0.25 0.5 0.5\n1 1 0\n';
    expect(readCube(text)).toMatchObject({ ok: true, title: 'Halves' });
    expect(rounded(through(text, [0.5, 0.5, 0.5]))).toEqual([0.25, 0.25, 0.5]);
    expect(rounded(through(text, [0.75, 2, 0]))).toEqual([0.625, 1, 1]);
    // What is beyond the domain is as at its end.
    expect(rounded(through(text, [-1, 9, 1.2]))).toEqual([0, 1, 0]);
  });

  it('of three dimensions counts red fastest; between its corners it is exact for what is linear', () => {
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => `${i & 1} ${(i >> 1) & 1} ${(i >> 2) & 1}`);
    const plain = ['LUT_3D_SIZE 2', ...corners].join('\r\n');
    expect(rounded(through(plain, [0.2, 0.7, 0.4]))).toEqual([0.2, 0.7, 0.4]);
    const swapped = ['LUT_3D_SIZE 2', ...corners.map((c) => c.split(' ').toReversed().join(' '))].join('\n');
    expect(rounded(through(swapped, [0.2, 0.7, 0.4]))).toEqual([0.4, 0.7, 0.2]);
  });

  it('agrees with ffmpeg’s lut3d, tetrahedral, to one code value', () => {
    const folder = mkdtempSync(join(tmpdir(), 'cube-'));
    try {
      const text = bent(9);
      writeFileSync(join(folder, 'bent.cube'), text);
      const random = randomSource(3);
      const pixels = Uint8Array.from({ length: 3 * 64 * 64 }, () => Math.floor(256 * random()));
      const raw = ['-f', 'rawvideo', '-pix_fmt', 'rgb24'];
      const args = ['-v', 'error', ...raw, '-s', '64x64', '-i', '-', '-vf', 'lut3d=bent.cube:interp=tetrahedral', ...raw, '-'];
      const theirs = execFileSync('ffmpeg', args, { cwd: folder, input: pixels });
      const change = throughCube(cubeOf(text));
      let worst = 0;
      for (let i = 0; i < pixels.length; i += 3) {
        const rgb: Rgb = [pixels[i] / 255, pixels[i + 1] / 255, pixels[i + 2] / 255];
        change(rgb);
        for (let c = 0; c < 3; c++) worst = Math.max(worst, Math.abs(255 * rgb[c] - theirs[i + c]));
      }
      expect(theirs.length).toBe(pixels.length);
      expect(worst).toBeLessThan(1.001);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it.each([
    ['hello', 'Line 1 is no colour of three numbers.'],
    ['TITLE "Only"', 'It gives no size (LUT_1D_SIZE or LUT_3D_SIZE), so it is no colour table.'],
    ['0 0 0\nLUT_3D_SIZE 2', 'Line 1 is a colour before the size was given.'],
    ['LUT_3D_SIZE 900', 'Line 1 gives a size of 900: 2 to 129 are read.'],
    ['LUT_1D_SIZE 2\nLUT_3D_SIZE 2', 'Line 2 gives a size a second time.'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1', 'Line 3 is no colour of three numbers.'],
    ['LUT_1D_SIZE 3\n0 0 0\n1 1 1', 'It breaks off: 2 of 3 colours are there.'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1\n1 1 1', 'Line 4 is one colour more than the size says.'],
    ['LUT_1D_SIZE 2\nDOMAIN_MIN 1 0 0\n0 0 0\n1 1 1', 'Its domain ends before it begins.'],
    ['LUT_1D_SIZE 2\nDOMAIN_MAX 1 x 0', 'Line 2 is no domain of three numbers.'],
    ['', 'It gives no size (LUT_1D_SIZE or LUT_3D_SIZE), so it is no colour table.'],
  ])('%j is refused with a sentence', (text, reason) => {
    expect(readCube(text)).toEqual({ ok: false, reason });
  });
});
