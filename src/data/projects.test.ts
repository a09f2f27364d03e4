import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { emptyProject, type Project } from '@/core/document';
import { proposePlain } from '@/core/edit';
import { stagedProject } from '@/core/staged';
import { db } from './db';
import { storedDocument } from './documents';
import { bringBack, copyProject, deleteForGood, deleteProject, forgetUndo, renameProject } from './projects';
import { addShot } from './shots';
import { addProject, edit, openProject, settled, undo, useProject } from './store';

const open = () => useProject.getState().project as Project;
const names = async () => (await db.projects.toArray()).filter((r) => !r.deleted).map((r) => (r.document as Project).name);

beforeEach(async () => {
  await settled();
  await Promise.all([db.projects.clear(), db.shots.clear(), db.history.clear(), db.settings.clear()]);
  await addProject(emptyProject('first', 'First'));
  await addProject({ ...stagedProject(), id: 'second', name: 'Second' });
});

describe('the projects of this browser', () => {
  it('the open one and a closed one are named anew; a name of blanks is refused, a long one cut', async () => {
    expect(await renameProject('second', '  Night  ')).toBe('');
    expect(open().name).toBe('Night');
    expect(await renameProject('first', 'x'.repeat(300))).toBe('');
    expect((await storedDocument('first'))?.document).toMatchObject({ name: 'x'.repeat(100) });
    expect(await renameProject('first', '   ')).toBe('A project needs a name.');
    expect(await renameProject('nowhere', 'Name')).toBe('That project is no longer here.');
    await undo();
    expect(open().name).toBe('Second');
  });

  it('a copy has all shots, an id of its own, and what is done to it leaves the first as it was', async () => {
    addShot(proposePlain(open(), 'a', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't1'));
    expect(await copyProject('second')).toBe('');
    expect(open().id).not.toBe('second');
    expect(open().name).toBe('Second, copy');
    expect(open().shots.map((s) => s.id)).toEqual(['a']);
    edit('Take it off', (draft) => {
      draft.shots = [];
    });
    await settled();
    await openProject('second');
    expect(open().shots.map((s) => s.id)).toEqual(['a']);
    expect(await copyProject('nowhere')).not.toBe('');
  });

  it('deleting the open one opens the one changed last before it; it can be brought back with its shots', async () => {
    addShot(proposePlain(open(), 'a', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't1'));
    expect(await deleteProject('second')).toBe('');
    expect(open().id).toBe('first');
    expect(await names()).toEqual(['First']);
    expect(await bringBack('second')).toBe('');
    expect(open().id).toBe('second');
    expect(open().shots.map((s) => s.id)).toEqual(['a']);
    expect(await bringBack('nowhere')).toBe('That project is no longer here.');
  });

  it('deleting the last one leaves an empty one open', async () => {
    await deleteProject('first');
    await deleteProject('second');
    expect(await names()).toEqual(['New project']);
    expect(open()).toMatchObject({ name: 'New project', shots: [], takes: [] });
  });

  it('deleted for good nothing of it is left, and nothing of another is touched', async () => {
    addShot(proposePlain(open(), 'a', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't1'));
    await deleteProject('second');
    expect(await deleteForGood('second')).toBe('');
    expect(await db.projects.get('second')).toBeUndefined();
    expect(await db.shots.where('projectId').equals('second').count()).toBe(0);
    expect(await db.history.where('projectId').equals('second').count()).toBe(0);
    expect(await db.projects.get('first')).toMatchObject({ id: 'first' });
    expect(await deleteForGood('second')).toBe('That project is no longer here.');
  });

  it('forgetting the steps of a closed one leaves it as it is', async () => {
    edit('Rename', (draft) => {
      draft.name = 'Changed';
    });
    await settled();
    await openProject('first');
    expect(await forgetUndo('second')).toBe('');
    await openProject('second');
    expect(useProject.getState()).toMatchObject({ undoLabel: '', redoLabel: '', project: { name: 'Changed' } });
  });
});
