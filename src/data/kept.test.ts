import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Media, Project } from '@/core/document';
import { proposePlain } from '@/core/edit';
import { type Layer, plainLayer, remapKeyAt } from '@/core/layer';
import { stagedProject } from '@/core/staged';

// What a plate is made from, and the making, are tested where they are; here only what is kept of it.
vi.mock('./set-up', () => ({
  plateKey: (project: Project) => `plates of ${project.takes.length} takes`,
  setPlate: async (project: Project) => ({ planes: { width: 1280, height: 720, takes: project.takes.length } }),
}));
vi.mock('@/media/pictures', () => ({
  stillPng: async ({ takes }: { takes: number }) => new Blob([`picture of ${takes}`]),
  mattePng: vi.fn(),
}));
vi.mock('@/media/files', () => ({ hasMedia: async () => true, storeMedia: async () => undefined }));

const { keepPlate, plateIsOld, renewPlate } = await import('./kept');
const { addProject, edit, settled, undo, useProject } = await import('./store');
const now = () => useProject.getState().project as Project;
const quiet = () => undefined;
const patch = (mediaId: string): Layer => plainLayer('patch', 'Patch', 0, { kind: 'still', mediaId }, [remapKeyAt(0, 0, 0)]);
const shown = () => now().shots.map((s) => s.layers.flatMap(({ source }) => (source.kind === 'still' ? [source.mediaId] : [])));

describe('a kept empty set', () => {
  let plateId = '';
  beforeEach(async () => {
    await addProject({ ...stagedProject(), id: crypto.randomUUID() });
    const made = await keepPlate(now(), now().takes[0].id, quiet);
    plateId = made.plateId;
    const [{ id: takeId }] = now().takes;
    const place = (beat: number) => ({ beat, offset: 0 });
    edit('Patch', (draft) => {
      draft.shots.push(proposePlain(now(), 'one', place(0), place(4), takeId), proposePlain(now(), 'two', place(4), place(8), takeId));
      draft.media.push(...(made.media as Media[]));
      for (const shot of draft.shots) shot.layers.push(patch(plateId));
    });
  });

  it('is made once for the same takes', async () => {
    expect(await plateIsOld(now(), plateId, now().takes[0].id)).toBe(false);
    expect(await keepPlate(now(), now().takes[0].id, quiet)).toEqual({ media: [], plateId });
  });

  it('says so when other takes come, and is made anew wherever it is shown, in one step of undo', async () => {
    expect(shown().flat().length).toBeGreaterThan(0);
    edit('One more take', (draft) => void draft.takes.push({ ...draft.takes[0], id: 'newer', number: 9 }));
    expect(await plateIsOld(now(), plateId, now().takes[0].id)).toBe(true);
    const before = shown();
    await renewPlate(now(), plateId, now().takes[0].id, quiet);
    const [[fresh]] = shown();
    expect(fresh).not.toBe(plateId);
    expect(shown()).toEqual(before.map((ids) => ids.map(() => fresh)));
    expect(now().media.find((m) => m.id === fresh)).toMatchObject({ kind: 'still', width: 1280 });
    expect(await plateIsOld(now(), fresh, now().takes[0].id)).toBe(false);
    await undo();
    expect(shown()).toEqual(before);
    await settled();
  });
});
