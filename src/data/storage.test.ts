import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { stagedProject } from '@/core/staged';

/** A file system in memory with the calls that are used. */
class Folder {
  readonly files = new Map<string, { size: number; at: number }>();
  readonly folders = new Map<string, Folder>();
  async getDirectoryHandle(name: string) {
    const there = this.folders.get(name) ?? new Folder();
    this.folders.set(name, there);
    return there;
  }
  async getFileHandle(name: string) {
    const file = this.files.get(name);
    if (!file) throw Object.assign(new Error('gone'), { name: 'NotFoundError' });
    return { getFile: async () => ({ size: file.size, lastModified: file.at, name }) };
  }
  async removeEntry(name: string) {
    this.files.delete(name);
  }
  async *keys() {
    yield* this.files.keys();
  }
}
const root = new Folder();
vi.stubGlobal('navigator', {
  storage: { getDirectory: async () => root, estimate: async () => ({ quota: 1000, usage: 400 }), persisted: async () => false },
});

const { db } = await import('./db');
const { addProject, edit, newProject, openProject, settled, undo, useProject } = await import('./store');
const { keepDerived, dropUnused } = await import('./derived');
const { storageUse, sweep } = await import('./storage');
const { bringBack, copyProject, deleteForGood, deleteProject, forgetUndo, renameProject } = await import('./projects');

const media = await root.getDirectoryHandle('media');
const OLD = Date.now() - 10 * 3_600_000;

beforeEach(async () => {
  await settled();
  await Promise.all([
    db.projects.clear(),
    db.history.clear(),
    db.settings.clear(),
    db.derived.clear(),
    db.ages.clear(),
    db.originals.clear(),
  ]);
  media.files.clear();
  for (const id of ['m1', 'm2', 'm3', 'song', 'cut-out', 'empty', 'outline', 'nobody']) media.files.set(id, { size: 10, at: OLD });
  await addProject({ ...stagedProject(), id: 'first', name: 'First' });
});

const useOf = async (id: string) => (await storageUse()).projects.find((p) => p.id === id);

describe('where the room goes', () => {
  it('says of each project what it uses, and what of it nothing else does', async () => {
    await copyProject('first');
    const { projects, orphans, quota, usage } = await storageUse();
    expect(projects.map((p) => [p.name, p.bytes, p.own, p.undo])).toEqual([
      ['First, copy', 70, 0, 0],
      ['First', 70, 0, 0],
    ]);
    expect(orphans).toEqual({ bytes: 10, names: ['nobody'] });
    expect([quota, usage]).toEqual([1000, 400]);
  });

  it('a file that only undo needs is kept, and can be given up', async () => {
    edit('Take out', (draft) => {
      draft.takes = draft.takes.filter((t) => t.mediaId !== 'm3');
      draft.media = draft.media.filter((m) => m.id !== 'm3');
    });
    expect(await useOf('first')).toMatchObject({ bytes: 60, undo: 10 });
    expect(await sweep(0)).toBe(10);
    expect(media.files.has('m3')).toBe(true);
    await undo();
    expect(useProject.getState().project?.media.some((m) => m.id === 'm3')).toBe(true);
    edit('Take out', (draft) => {
      draft.takes = draft.takes.filter((t) => t.mediaId !== 'm3');
      draft.media = draft.media.filter((m) => m.id !== 'm3');
    });
    await newProject('Other');
    expect(await forgetUndo('first')).toBe('');
    expect(await sweep(0)).toBe(10);
    expect(media.files.has('m3')).toBe(false);
  });

  it('what is new is not swept away by itself: long work stores it before a project names it', async () => {
    media.files.set('fresh', { size: 5, at: Date.now() });
    expect(await sweep()).toBe(10);
    expect([...media.files.keys()]).toContain('fresh');
  });

  it('a kept original holds its files', async () => {
    await db.originals.add({ projectId: 'gone', document: { media: [{ id: 'nobody' }] }, at: 1 });
    expect(await sweep(0)).toBe(0);
  });
});

describe('projects', () => {
  it('are deleted, brought back with all that was in them, and deleted for good', async () => {
    await newProject('Second');
    await openProject('first');
    expect(await deleteProject('first')).toBe('');
    expect(useProject.getState().project?.name).toBe('Second');
    expect(await useOf('first')).toMatchObject({ deleted: expect.any(Number) });
    // Deleted but kept: its files stay.
    await sweep(0);
    expect(media.files.has('m1')).toBe(true);
    expect(await bringBack('first')).toBe('');
    expect(useProject.getState().project?.takes).toHaveLength(3);
    await deleteProject('first');
    await deleteForGood('first');
    expect(await sweep(0)).toBe(70);
    expect([...media.files.keys()]).toEqual([]);
  });

  it('the only one deleted leaves an empty one', async () => {
    await deleteProject('first');
    expect(useProject.getState().project).toMatchObject({ name: 'New project', takes: [] });
  });

  it('are named anew, open or not', async () => {
    expect(await renameProject('first', '  ')).toMatch(/needs a name/);
    await renameProject('first', 'Open');
    expect(useProject.getState().project?.name).toBe('Open');
    await newProject('Other');
    await renameProject('first', 'Closed');
    expect((await db.projects.get('first'))?.document).toMatchObject({ name: 'Closed' });
    await renameProject('nowhere', 'x').then((problem) => expect(problem).toMatch(/no longer here/));
  });
});

describe('what was worked out', () => {
  it('goes when nobody has used it for long', async () => {
    await keepDerived('old', 1);
    await keepDerived('new', 2);
    await db.ages.put({ key: 'old', at: Date.now() - 61 * 86_400_000 });
    await dropUnused(60);
    expect((await db.derived.toArray()).map((r) => r.key)).toEqual(['new']);
  });
});
