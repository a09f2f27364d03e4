import { describe, expect, it } from 'vitest';
import { contextOf, newPlannedShot, recipeOf } from './plan';
import { RECIPES } from './recipes';
import { type SeenTake, sortTakes } from './sort-takes';

const take = (id: string, place: number, span: SeenTake['span'], more: Partial<SeenTake> = {}): SeenTake => ({
  id,
  place,
  there: span ? 1 : 0,
  size: span ? 0.08 : 0,
  span,
  ...more,
});
const made = (...takes: SeenTake[]) =>
  sortTakes(takes).map(({ recipe, takes: own }) => [recipe, own.map(({ id, slot }) => `${id} ${slot}`)]);

describe('what takes look like', () => {
  it('performers apart in one room are clones, from the left, with the empty room as their plate', () => {
    expect(made(take('r', 0, [0.6, 0.9]), take('e', 0, null), take('l', 0, [0.1, 0.4]))).toEqual([
      ['clones', ['e plate', 'l place-p1', 'r place-p2']],
    ]);
  });
  it('five at most, and whoever is in another’s way stands by themself', () => {
    const six = Array.from({ length: 6 }, (_, i) => take(`t${i}`, 0, [i / 6, i / 6 + 0.15]));
    expect(made(...six, take('over', 0, [0.02, 0.14]))).toEqual([
      ['clones', [0, 1, 2, 3, 4].map((i) => `t${i} place-p${i + 1}`)],
      [null, ['t5 ']],
      [null, ['over ']],
    ]);
  });
  it('the same place twice is a reveal, with or without a plate', () => {
    const [one, two] = [take('a', 0, [0.3, 0.6]), take('b', 0, [0.35, 0.65])];
    expect(made(one, two)).toEqual([['curtain reveal', ['a one', 'b two']]]);
    expect(made(take('e', 0, null), one, two, take('c', 0, [0.4, 0.6]))).toEqual([
      ['curtain reveal', ['e plate', 'a one', 'b two']],
      [null, ['c ']],
    ]);
  });
  it('a performer and the empty room: somebody vanishes; a hand at its beginning and noise are nobody', () => {
    expect(made(take('e', 0, [0, 0.1], { there: 0.02 }), take('a', 0, [0.3, 0.6]))).toEqual([['vanish and reappear', ['e plate', 'a go']]]);
    expect(made(take('e', 0, [0.1, 0.9], { size: 0.01 }), take('a', 0, [0.3, 0.6]))).toEqual([
      ['vanish and reappear', ['e plate', 'a go']],
    ]);
  });
  it('places are looked at one by one; a take alone, and rooms with nobody at all, stand by themselves', () => {
    expect(made(take('a', 0, [0.1, 0.3]), take('b', 1, [0.6, 0.9]), take('e', 2, null))).toEqual([
      [null, ['a ']],
      [null, ['b ']],
      [null, ['e ']],
    ]);
  });
  it('every slot it names is one of its recipe', () => {
    const sorted = sortTakes([
      ...[take('e', 0, null), take('l', 0, [0.1, 0.3]), take('r', 0, [0.6, 0.9])],
      ...[take('f', 1, null), take('a', 1, [0.1, 0.3]), take('b', 1, [0.1, 0.3])],
      ...[take('g', 2, null), take('c', 2, [0.1, 0.3])],
    ]);
    expect(sorted.map((s) => s.recipe)).toEqual(['clones', 'curtain reveal', 'vanish and reappear']);
    for (const { recipe, takes } of sorted) {
      const known = RECIPES.find((r) => r.id === recipe);
      if (!known) throw new Error(`no recipe ${recipe}`);
      const plan = newPlannedShot('p', known, '2026-11-29');
      const slots = recipeOf(plan)
        .slots(contextOf(plan, { bpm: 120, beatsPerBar: 4 } as never))
        .map((s) => s.id);
      for (const { slot } of takes) expect(slots).toContain(slot);
    }
  });
});
