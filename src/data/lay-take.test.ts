import 'fake-indexeddb/auto';
import { beforeEach, expect, it } from 'vitest';
import type { Project } from '@/core/document';
import { stagedProject } from '@/core/staged';
import { layTake } from './lay-take';
import { addProject, useProject } from './store';

const open = () => useProject.getState().project as Project;
beforeEach(() => addProject({ ...stagedProject(), id: crypto.randomUUID() }));

it('a take lies for a bar from its beat on, from its own first second, and the picture shows it', () => {
  layTake('t2', 8);
  const [shot] = open().shots;
  expect([shot.start.beat, shot.end.beat]).toEqual([8, 12]);
  expect(shot.layers.map((l) => l.source)).toEqual([{ kind: 'take', takeId: 't2' }]);
  expect(useProject.getState().selectedShot).toBe(shot.id);
  expect(useProject.getState().playhead).toBeGreaterThan(0);
});

it('a short take lies for as many whole beats as it has, and for one at least', () => {
  const short = (seconds: number): Project => ({
    ...open(),
    id: crypto.randomUUID(),
    media: open().media.map((m) => ({ ...m, duration: seconds })),
    takes: open().takes.map((t) => ({ ...t, from: undefined, to: undefined })),
  });
  const lengths = [1.3, 0.1].map(async (seconds) => {
    await addProject(short(seconds));
    layTake('t1', 4);
    const [shot] = open().shots;
    return shot.end.beat - shot.start.beat;
  });
  return lengths.reduce(
    (done, next, i) => done.then(() => next).then((beats) => expect(beats).toBe([2, 1][i])),
    Promise.resolve() as Promise<unknown>,
  );
});

it('a take that is gone is not laid', () => {
  layTake('nobody', 4);
  expect(open().shots).toEqual([]);
});
