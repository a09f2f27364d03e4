import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from 'vitest';
import { emptyProject } from '@/core/document';
import { db } from './db';
import { derived } from './derived';
import { addProject, edit, newProject, openLast, openProject, redo, settled, undo, useProject } from './store';

const rename = (name: string) =>
  edit(`Name it ${name}`, (draft) => {
    draft.name = name;
  });

beforeEach(async () => {
  await settled();
  await Promise.all([db.projects.clear(), db.history.clear(), db.settings.clear(), db.derived.clear()]);
  await newProject('first');
});

describe('the open project', () => {
  it('saves each edit as it is made and opens again where it was', async () => {
    rename('second');
    await settled();
    useProject.setState({ project: null });
    expect(await openLast()).toBe(true);
    expect(useProject.getState().project?.name).toBe('second');
  });

  it('undo and redo survive a reload; a new edit drops what could be redone', async () => {
    rename('second');
    rename('third');
    await undo();
    const { id } = useProject.getState().project ?? { id: '' };
    useProject.setState({ project: null });
    await openProject(id);
    expect(useProject.getState()).toMatchObject({ undoLabel: 'Name it second', redoLabel: 'Name it third' });
    await redo();
    expect(useProject.getState().project?.name).toBe('third');
    await undo();
    await undo();
    expect(useProject.getState().project?.name).toBe('first');
    rename('other');
    await settled();
    await redo();
    expect(useProject.getState().project?.name).toBe('other');
    expect(await db.history.count()).toBe(1);
  });

  it('undo brings back the same document', async () => {
    const before = JSON.stringify(useProject.getState().project);
    edit('Change much', (draft) => {
      draft.frame.rate = { num: 24000, den: 1001 };
      draft.units = 'feet';
    });
    await undo();
    expect(JSON.stringify(useProject.getState().project)).toBe(before);
  });

  it('refuses a document from a newer version and leaves it untouched', async () => {
    const document = { ...emptyProject('new', 'from the future'), version: 99 };
    await db.projects.put({ id: 'new', document, cursor: 0, changed: 1 });
    await openProject('new');
    expect(useProject.getState().problem).toMatch(/newer version/);
    expect((await db.projects.get('new'))?.document).toEqual(document);
  });

  it('brings up a project that an older version wrote with its shots apart, and writes it as one of today', async () => {
    const { shots, inner, ...document } = JSON.parse(readFileSync('src/core/document/kept/version-9.json', 'utf8'));
    const nested = { ...shots[0], id: 'nested' };
    const ids = (list: { id: string }[]) => list.map((s) => s.id);
    const rows = [...shots, ...inner, nested].map((item) => ({ projectId: 'old', id: item.id, item }));
    await db.shots.bulkPut(rows);
    const apart = { shots: ids(shots), inner: [...ids(inner), 'nested'] };
    await db.projects.put({ id: 'old', document: { ...document, id: 'old', shots: [], inner: [] }, apart, cursor: 0, changed: 1 });
    await openProject('old');
    expect(ids(useProject.getState().project?.shots ?? [])).toEqual(ids(shots));
    rename('brought up');
    await settled();
    expect((await db.projects.get('old'))?.apart).toEqual({ shots: ids(shots), nestedShots: ['nested'] });
    expect((await db.shots.get(['old', 'nested']))?.item).not.toHaveProperty('layers.0.pins');
    useProject.setState({ project: null });
    await openProject('old');
    expect(useProject.getState().project).toMatchObject({ name: 'brought up', nestedShots: [{ id: 'nested' }] });
  });

  it('does not write when another tab holds the project', async () => {
    useProject.setState({ writable: false });
    expect(rename('nope')).toBe(false);
    expect(useProject.getState().problem).toMatch(/another tab/);
    expect(useProject.getState().project?.name).toBe('first');
  });

  it('says so when a save fails, and keeps the change on screen', async () => {
    const put = db.projects.put.bind(db.projects);
    db.projects.put = () => Promise.reject(Object.assign(new Error('quota'), { name: 'QuotaExceededError' })) as never;
    await addProject(emptyProject('x', 'x')).catch(() => undefined);
    rename('unsaved');
    await settled();
    db.projects.put = put;
    expect(useProject.getState().problem).toMatch(/storage is full.*not saved/);
    expect(useProject.getState().project?.name).toBe('unsaved');
  });

  it('works things out once', async () => {
    let runs = 0;
    const work = async () => ++runs;
    expect(await derived('k', work)).toBe(1);
    expect(await derived('k', work)).toBe(1);
    expect(await derived('n', async () => null)).toBeNull();
    expect(await db.derived.get('n')).toBeUndefined();
  });
});
