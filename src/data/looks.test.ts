import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { plainEffect, plainLayer, remapKeyAt, still } from '@/core/layer';
import { stagedProject } from '@/core/staged';

vi.mock('./jobs', async (original) => ({
  ...(await original<typeof import('./jobs')>()),
  makeStill: async () => new Blob(['a still']),
}));
const { copyLook, forgetLook, keepLook, LOOKS_KEY, layLook, readLooks } = await import('./looks');
const { db } = await import('./db');
const { addProject, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const below = (id: string) =>
  plainLayer(id, 'Look', 0, { kind: 'below' }, [remapKeyAt(0, 0, 0)], { effects: [plainEffect('old', 'invert')] });
const shot = (id: string, from: number, layers = [plainLayer('l', 'Layer', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)])]) =>
  plainShot(id, id, { beat: from, offset: 0 }, { beat: from + 4, offset: 0 }, { layers });

beforeEach(async () => {
  const [own] = shot('x', 0).layers;
  await addProject({
    ...stagedProject(),
    id: crypto.randomUUID(),
    shots: [shot('a', 0), shot('b', 4), shot('c', 8, [own, below('look')]), shot('d', 12)],
  });
});

describe('a look laid on other shots', () => {
  const look = [plainEffect('e1', 'contrast', { amount: still(140) }), plainEffect('e2', 'vignette', { amount: still(30) })];
  it('comes as a layer over everything, or in the place of the look that is there; others are left', () => {
    copyLook(look, ['b', 'c']);
    const [a, b, c, d] = now().shots;
    expect([a, b, c, d].map((s) => s.layers.length)).toEqual([1, 2, 2, 1]);
    for (const s of [b, c]) {
      const top = s.layers.at(-1);
      expect(top?.source.kind).toBe('below');
      expect(top?.effects.map((e) => [e.kind, e.numbers.amount[0].value])).toEqual([
        ['contrast', 140],
        ['vignette', 30],
      ]);
    }
    expect(c.layers[1].id).toBe('look');
  });
  it('is a copy: its effects have names of their own, and one step takes it back', () => {
    copyLook(look, ['a', 'b']);
    const ids = now()
      .shots.slice(0, 2)
      .flatMap((s) => s.layers.at(-1)?.effects.map((e) => e.id) ?? []);
    expect(new Set([...ids, 'e1', 'e2']).size).toBe(6);
    undo();
    expect(now().shots.map((s) => s.layers.length)).toEqual([1, 1, 2, 1]);
  });
});

describe('a look kept under a name', () => {
  const kept = async () => readLooks((await db.settings.get(LOOKS_KEY))?.value);
  const look = [plainEffect('e1', 'contrast', { amount: still(140) }), { ...plainEffect('e2', 'colour table'), tableId: 'elsewhere' }];

  it('is there in every project, takes the place of one of its name, and can be forgotten', async () => {
    await keepLook(now(), 0, 'Warm', look);
    await keepLook(now(), 0, 'Cold', look.slice(0, 1));
    await keepLook(now(), 0, 'Warm', look);
    // There is no canvas here to draw its picture on: it is kept without.
    expect((await kept()).map((k) => [k.name, k.effects.length, k.picture])).toEqual([
      ['Cold', 1, ''],
      ['Warm', 2, ''],
    ]);
    await forgetLook('Warm');
    expect((await kept()).map((k) => k.name)).toEqual(['Cold']);
    expect(readLooks([{ name: '', effects: [] }, 'nothing', { name: 'x', effects: [{ kind: 'lens flare' }], picture: '' }])).toEqual([]);
  });

  it('is laid on a layer in the place of its effects, the user’s own; a table that is not in the project is told', () => {
    expect(layLook(now(), 'c', 'look', { name: 'Warm', effects: look, picture: '' })).toMatch(/colour table is not in this project/);
    const { effects } = now().shots[2].layers[1];
    expect(effects.map((e) => [e.kind, e.madeBy])).toEqual([['contrast', 'user']]);
    expect(effects[0].id).not.toBe('e1');
    expect(layLook(now(), 'c', 'look', { name: 'Plain', effects: look.slice(0, 1), picture: '' })).toBe('');
    undo();
    undo();
    expect(now().shots[2].layers[1].effects.map((e) => e.kind)).toEqual(['invert']);
  });
});
