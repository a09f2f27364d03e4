import baboon from 'baboon-image';
import { describe, expect, it } from 'vitest';
import { appliedEffect, effectKind, withEffect } from '../effects';
import { blackPlanes, fromRgba, type Planes } from '../picture';
import { type ChannelMatch, matchColour } from './match-colour';

/** The photograph of the npm package baboon-image, from a column on. */
function photograph(from: number, size = 256): Planes {
  const rgba = new Uint8Array(4 * size * size);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) for (let c = 0; c < 3; c++) rgba[4 * (y * size + x) + c] = baboon.get(x + from, y + from, c) as number;
  return fromRgba(rgba, size, size);
}

/** A picture with these numbers of the effect that the measure is for. */
function graded(planes: Planes, numbers: Record<string, number>): Planes {
  const otherwise = Object.fromEntries(Object.entries(effectKind('lift gamma gain').numbers).map(([name, n]) => [name, n.otherwise]));
  const effect = appliedEffect('lift gamma gain', { ...otherwise, ...numbers }, { width: planes.width, height: planes.height, index: 0 });
  if (!effect) throw new Error('nothing to do');
  return withEffect(planes, effect);
}
const asNumbers = (match: readonly ChannelMatch[]) =>
  Object.fromEntries(
    match.flatMap(({ lift, gamma, gain }, c) => [
      [`lift${'RGB'[c]}`, 100 * lift],
      [`gamma${'RGB'[c]}`, 100 * gamma],
      [`gain${'RGB'[c]}`, 100 * gain],
    ]),
  );
const apart = (a: Planes, b: Planes) => {
  const mean = (p: Uint8Array, q: Uint8Array) => p.reduce((sum, v, i) => sum + Math.abs(v - q[i]), 0) / p.length;
  return Math.max(mean(a.y, b.y), mean(a.u, b.u), mean(a.v, b.v));
};

describe('a picture given the tones of another', () => {
  it('undoes a grade of the same picture, to two code values in the mean', () => {
    const plain = photograph(0);
    // None of them clips: what is clipped cannot come back.
    const grades: Record<string, number>[] = [
      { gainR: 80, gainB: 92 },
      { lift: 12, gamma: 130 },
      { gammaR: 75, liftB: 8, gain: 90 },
    ];
    for (const numbers of grades) {
      const other = graded(plain, numbers);
      const match = matchColour(other, plain);
      if (!match) throw new Error('no match');
      const before = apart(other, plain);
      const after = apart(graded(other, asNumbers(match)), plain);
      expect(before).toBeGreaterThan(4);
      expect([numbers, after < 2 ? 0 : after]).toEqual([numbers, 0]);
    }
  });

  it('where another part of a thing is seen, comes nearer to its tones by half at least', () => {
    const [here, there] = [photograph(0), photograph(180)];
    const cold = graded(here, { gainR: 70, gainB: 130, lift: 8 });
    const tones = ({ y, u, v }: Planes) => [y, u, v].map((p) => p.reduce((a, b) => a + b, 0) / p.length);
    const far = (a: Planes) => Math.hypot(...tones(a).map((t, i) => t - tones(there)[i]));
    const match = matchColour(cold, there);
    expect(match && far(graded(cold, asNumbers(match)))).toBeLessThan(0.5 * far(cold));
  });

  it('of one even colour is scaled, and nothing is made of a picture of nothing', () => {
    const grey = (value: number) => {
      const planes = blackPlanes(64, 64);
      planes.y.fill(value);
      return planes;
    };
    const match = matchColour(grey(100), grey(150));
    for (const { lift, gamma, gain } of match ?? []) expect([lift, gamma, Math.round(100 * gain)]).toEqual([0, 1, 160]);
    expect(match).toHaveLength(3);
    expect(matchColour(blackPlanes(64, 64), grey(90))).toBeNull();
  });
});
