import { describe, expect, it } from 'vitest';
import { coverageOfGrey, greyPlanes } from './grey';
import { planesOver } from './planes';

describe('coverage as a grey picture (limited range of ITU-R BT.709: black 16, white 235)', () => {
  const all = Uint8Array.from({ length: 256 }, (_, a) => a);

  it('is black where nothing is covered, white where all is, and has no colour', () => {
    const bytes = new Uint8Array((256 * 3) / 2);
    greyPlanes(all, 16, 16, bytes);
    expect([bytes[0], bytes[255], bytes[128]]).toEqual([16, 235, 126]);
    expect(bytes.subarray(256).every((v) => v === 128)).toBe(true);
  });

  it('reads back to within a step, its ends exactly', () => {
    const bytes = new Uint8Array((256 * 3) / 2);
    greyPlanes(all, 16, 16, bytes);
    const back = coverageOfGrey(planesOver(bytes, 16, 16));
    expect([back[0], back[255]]).toEqual([0, 255]);
    for (let a = 8; a < 248; a++) expect(Math.abs(back[a] - a)).toBeLessThanOrEqual(1);
  });

  it('what a codec adds to none or all of it is taken off, beyond the range too', () => {
    const bytes = new Uint8Array(6).fill(128);
    bytes.set([3, 19, 232, 255]);
    expect([...coverageOfGrey(planesOver(bytes, 2, 2))]).toEqual([0, 0, 255, 255]);
  });
});
