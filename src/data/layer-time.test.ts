import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot, shownFrom } from '@/core/edit';
import { sceneOf } from '@/core/evaluate';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { stagedMove, stagedProject } from '@/core/staged';

const { changeTime, splitLayerHere, splitShotHere } = await import('./layer-time');
const { addProject, edit, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const plain = plainShot(
  's',
  'Shot',
  { beat: 8, offset: 0 },
  { beat: 16, offset: 0 },
  {
    layers: [plainLayer('l', 'Layer', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)])],
  },
);

beforeEach(async () => {
  await addProject({ ...stagedProject(), id: crypto.randomUUID(), shots: [plain] });
  useProject.setState({ playhead: sceneOf(now(), plain).first + 20 });
});

describe('time of a layer', () => {
  it('is changed as one step, by the shot as it lies in the film', () => {
    changeTime('s', 'l', 'Choose a layer’s first second', (scene, l) => shownFrom(scene, l, 2.5));
    expect(now().shots[0].layers[0].timeRemap[0].source).toBeCloseTo(2.5, 6);
    changeTime('not there', 'l', 'Nothing', (_, l) => ({ ...l, on: false }));
    expect(now().shots[0].layers[0].on).toBe(true);
  });

  it('of a move stays the user’s when the move is run again', () => {
    const made = stagedMove(now(), 'reveal', 24, ['t1', 't2']);
    edit('Lay', (draft) => {
      draft.shots.push(made as never);
    });
    const [first] = made.layers;
    changeTime(made.id, first.id, 'Let a layer run otherwise', (_, l) => ({ ...l, sound: 'kept' }));
    const shot = now().shots.find((s) => s.id === made.id);
    expect(shot?.overrides).toContain(`${first.id}.sound`);
    expect(shot?.overrides.filter((o) => o.startsWith(`${first.id}.`))).toEqual([`${first.id}.sound`]);
  });
});

describe('split at the playhead', () => {
  it('a layer becomes two in its place; elsewhere it says why not and nothing is changed', () => {
    expect(splitLayerHere('s', 'l')).toBe('');
    const [a, b] = now().shots[0].layers;
    expect(a.to).toEqual(b.from);
    expect(a.id).toBe('l');
    useProject.setState({ playhead: 0 });
    const before = now();
    expect(splitLayerHere('s', 'l')).toMatch(/not within the layer/);
    expect(now().shots).toEqual(before.shots);
  });

  it('a shot becomes two, the later selected', () => {
    expect(splitShotHere('s')).toBe('');
    expect(now().shots).toHaveLength(2);
    expect(useProject.getState().selectedShot).toBe(now().shots[1].id);
    expect(now().shots[0].end).toEqual(now().shots[1].start);
    useProject.setState({ playhead: 0 });
    expect(splitShotHere('s')).toMatch(/not within the shot/);
    expect(now().shots).toHaveLength(2);
  });
});
