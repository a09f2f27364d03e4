import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { plainEffect, plainLayer, remapKeyAt, still } from '@/core/layer';
import { stagedProject } from '@/core/staged';

const { copyLook } = await import('./looks');
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
