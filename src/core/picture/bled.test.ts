import { describe, expect, it } from 'vitest';
import { bleedIntoClear } from './bled';

/** A row of pixels: R, G, B and how much is seen. */
const row = (...pixels: number[][]) => Uint8ClampedArray.from(pixels.flat());

describe('colour carried into what is clear', () => {
  it('keeps what is seen, fills up to four pixels beyond it, and leaves alpha alone', () => {
    const clear = [0, 0, 0, 0];
    const rgba = row([200, 100, 50, 255], [180, 90, 40, 10], clear, clear, clear, clear, clear);
    bleedIntoClear(rgba, 7, 1);
    expect([...rgba.subarray(0, 8)]).toEqual([200, 100, 50, 255, 180, 90, 40, 10]);
    for (let x = 2; x < 6; x++) expect([...rgba.subarray(4 * x, 4 * x + 4)]).toEqual([180, 90, 40, 0]);
    expect([...rgba.subarray(24)]).toEqual([0, 0, 0, 0]);
  });
  it('between two colours is their mean', () => {
    const rgba = row([100, 0, 0, 255], [0, 0, 0, 0], [200, 50, 0, 255]);
    bleedIntoClear(rgba, 3, 1);
    expect([...rgba.subarray(4, 8)]).toEqual([150, 25, 0, 0]);
  });
});
