import { describe, expect, it } from 'vitest';
import { blackPlanes, IDENTITY_COLOUR, type Planes } from '../picture';
import { randomSource } from '../room';
import { blur } from './blur';
import { exposure } from './exposure';
import { appliedEffect, EFFECTS, effectKind, foldedColour, scaledEffects, withEffect } from './registry';

const FRAME = { width: 64, height: 36, index: 0 };
function noisy(seed = 3): Planes {
  const random = randomSource(seed);
  const planes = blackPlanes(FRAME.width, FRAME.height);
  for (let i = 0; i < planes.y.length; i++) planes.y[i] = 60 + random() * 175;
  for (const plane of [planes.u, planes.v]) for (let i = 0; i < plane.length; i++) plane[i] = 60 + random() * 110;
  return planes;
}
const made = (kind: string, amount: number) => {
  const effect = appliedEffect(kind, { amount }, FRAME);
  if (!effect) throw new Error('nothing to apply');
  return effect;
};

describe('every kind of effect', () => {
  it('changes nothing with its numbers as they come, and has pixels or a colour where they are others', () => {
    for (const { kind, numbers, colour, rgb, apply, clears } of EFFECTS) {
      const otherwise = Object.fromEntries(Object.entries(numbers).map(([name, { otherwise }]) => [name, otherwise]));
      expect([kind, appliedEffect(kind, otherwise, FRAME)]).toEqual([kind, null]);
      expect([kind, [colour, rgb, apply, clears].some((way) => way !== undefined)]).toEqual([kind, true]);
    }
    expect(new Set(EFFECTS.map((e) => e.kind)).size).toBe(EFFECTS.length);
    expect(() => effectKind('lens flare')).toThrow(/no effect/);
  });

  it('leaves the picture it is given as it is', () => {
    for (const { kind, numbers, clears, byTable } of EFFECTS) {
      // What goes by a file has its own test.
      if (clears || byTable) continue;
      const values = Object.fromEntries(
        Object.entries(numbers).map(([name, { otherwise, min, max }]) => [name, (otherwise + (otherwise === max ? min : max)) / 2]),
      );
      const effect = appliedEffect(kind, values, FRAME);
      if (!effect) throw new Error(`${kind} does nothing`);
      const planes = noisy();
      const after = withEffect(planes, effect);
      expect(planes).toEqual(noisy());
      const changed = [after.y, after.u, after.v].some((plane, c) => plane.some((v, i) => v !== [planes.y, planes.u, planes.v][c][i]));
      expect([kind, changed]).toEqual([kind, true]);
      expect([after.width, after.height]).toEqual([64, 36]);
    }
  });
});

describe('exposure', () => {
  it('a stop is twice the light: on linear values through the transfer of ITU-R BT.709', () => {
    const m = exposure.colour?.({ light: 2 }) ?? IDENTITY_COLOUR;
    const oetf = (l: number) => 1.099 * l ** 0.45 - 0.099;
    for (const light of [0.05, 0.18, 0.4]) {
      const code = (l: number) => 16 + 219 * oetf(l);
      expect(m[0] * code(light) + m[1] * 128 + m[2] * 128 + m[3]).toBeCloseTo(code(2 * light), 6);
    }
  });

  it('there and back is nothing, whatever is between', () => {
    const { colour, effects } = foldedColour(IDENTITY_COLOUR, [made('exposure', 1.3), made('exposure', -1.3)]);
    expect(effects).toEqual([]);
    for (const [i, v] of colour.entries()) expect(v).toBeCloseTo(IDENTITY_COLOUR[i], 9);
  });
});

describe('a chain', () => {
  it('takes into the layer’s colour what comes before anything that looks further than a pixel', () => {
    const chain = [made('exposure', 1), made('blur', 5), made('exposure', -1)];
    const { colour, effects } = foldedColour(IDENTITY_COLOUR, chain);
    expect(colour).toEqual(exposure.colour?.({ light: 2 }));
    expect(effects).toEqual(chain.slice(1));
  });

  it('on the picture does what its colour does', () => {
    const planes = noisy();
    const m = exposure.colour?.({ light: 1.5 }) ?? IDENTITY_COLOUR;
    const after = withEffect(planes, made('exposure', Math.log2(1.5)));
    for (const [x, y] of [
      [10, 4],
      [33, 20],
    ]) {
      const k = (y >> 1) * 32 + (x >> 1);
      const expected = m[0] * planes.y[y * 64 + x] + m[1] * planes.u[k] + m[2] * planes.v[k] + m[3];
      expect(Math.abs(after.y[y * 64 + x] - Math.min(255, expected))).toBeLessThanOrEqual(1);
    }
  });

  it('drawn smaller blurs by as much less', () => {
    const [half] = scaledEffects([made('blur', 10)], 0.5);
    expect(half.resolved).toEqual({ deviation: 1.8 });
    expect(blur.reach({ deviation: 1.8 })).toBeCloseTo(5.4, 9);
  });
});
