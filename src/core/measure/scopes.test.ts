import { expect, it } from 'vitest';
import { scopesOf } from './scopes';

/** 75 % colour bars, R'G'B' in 0..1 and their 8-bit Y'CbCr: SMPTE RP 219 (by ITU-R BT.709), from memory, and worked out again by its formula. */
const BARS = [
  { name: 'white', rgb: [1, 1, 1], coded: [180, 128, 128] },
  { name: 'yellow', rgb: [1, 1, 0], coded: [168, 44, 136] },
  { name: 'cyan', rgb: [0, 1, 1], coded: [145, 147, 44] },
  { name: 'green', rgb: [0, 1, 0], coded: [133, 63, 52] },
  { name: 'magenta', rgb: [1, 0, 1], coded: [63, 193, 204] },
  { name: 'red', rgb: [1, 0, 0], coded: [51, 109, 212] },
  { name: 'blue', rgb: [0, 0, 1], coded: [28, 212, 120] },
] as const;

function bars(width: number, height: number): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray(4 * width * height);
  for (let i = 0; i < width * height; i++) {
    const { rgb } = BARS[Math.floor(((i % width) * BARS.length) / width)];
    for (const c of [0, 1, 2]) rgba[4 * i + c] = Math.round(0.75 * 255 * rgb[c]);
    rgba[4 * i + 3] = 255;
  }
  return rgba;
}

it('colour bars stand where the standard has them', () => {
  const [width, height] = [280, 40];
  const { vectorscope, waveform, columns } = scopesOf(bars(width, height), width, height, 70);
  expect(columns).toBe(70);
  BARS.forEach(({ name, coded: [y, cb, cr] }, i) => {
    // Within a step of 8 bits, as three quarters of 255 are rounded.
    let near = 0;
    for (let v = cr - 1; v <= cr + 1; v++) for (let u = cb - 1; u <= cb + 1; u++) near += vectorscope[v * 256 + u];
    expect(near, name).toBe((width / 7) * height);
    const column = waveform.subarray((i * 10 + 5) * 256, (i * 10 + 6) * 256);
    const level = column.findIndex((n) => n > 0);
    // Coded luma has black at 16 and white at 235; the waveform has them at 0 and 255.
    expect(Math.abs(level - ((y - 16) * 255) / 219), name).toBeLessThan(1.2);
    expect(column[level], name).toBe(4 * height);
  });
});

it('a histogram counts every pixel once, of a large picture a share of them', () => {
  const small = scopesOf(bars(70, 10), 70, 10).histogram;
  expect(small.red[191]).toBe(4 * 10 * 10);
  expect(small.red[0]).toBe(3 * 10 * 10);
  for (const counts of Object.values(small)) expect(counts.reduce((a, n) => a + n)).toBe(700);
  const large = scopesOf(bars(1920, 1080), 1920, 1080).histogram.luma.reduce((a, n) => a + n);
  expect(large).toBeGreaterThan(100_000);
  expect(large).toBeLessThan(250_000);
});

it('a picture narrower than the columns asked for has as many as it is wide', () => {
  expect(scopesOf(bars(7, 2), 7, 2).columns).toBe(7);
});
