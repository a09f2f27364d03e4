import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { stagedProject } from '@/core/staged';
import { addEchoes, addShadow } from './echoes';
import { addProject, undo, useProject } from './store';

const layers = () => (useProject.getState().project as Project).shots[0].layers;
const plain = (id: string) => plainLayer(id, id === 'figure' ? 'Figure' : id, 3, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)]);

beforeEach(() =>
  addProject({
    ...stagedProject(),
    id: crypto.randomUUID(),
    shots: [
      plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 12, offset: 0 }, { layers: [plain('set'), plain('figure'), plain('top')] }),
    ],
  }),
);

describe('echoes and shadows', () => {
  it('lie right behind their layer, the faintest lowest, so many frames apart', () => {
    addEchoes('s', 'figure', { count: 4, every: 3, first: 80 });
    expect(layers().map((l) => l.name)).toEqual([
      'set',
      'Echo 4 of Figure',
      'Echo 3 of Figure',
      'Echo 2 of Figure',
      'Echo 1 of Figure',
      'Figure',
      'top',
    ]);
    const echoes = layers().slice(1, 5);
    expect(echoes.map((l) => l.source)).toEqual(
      [12, 9, 6, 3].map((late) => ({ kind: 'echo', layerId: 'figure', late, shown: 'as it is', soft: 0 })),
    );
    expect(echoes.map((l) => l.numbers.opacity?.[0].value)).toEqual([20, 40, 60, 80]);
    expect(new Set(layers().map((l) => l.id)).size).toBe(7);
    undo();
    expect(layers()).toHaveLength(3);
  });

  it('a shadow is black, soft, aside and multiplied', () => {
    addShadow('s', 'figure');
    expect(layers()[1]).toMatchObject({
      name: 'Shadow of Figure',
      blend: 'multiply',
      tape: 3,
      source: { shown: 'as a shadow', late: 0, soft: 2 },
    });
    expect(layers()[2].id).toBe('figure');
  });

  it('of a layer that is gone there are none', () => {
    addShadow('s', 'nobody');
    expect(layers()).toHaveLength(3);
  });
});
