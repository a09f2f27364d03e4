import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Media, type Project, readProject, type Shot } from '@/core/document';
import { plainShot } from '@/core/edit';
import { stagedMedia } from '@/core/staged';

type Store = typeof import('./store');
type Db = typeof import('./db');

/** The modules as a page that has just been loaded has them. */
async function loaded(): Promise<{ store: Store; db: Db['db']; stored: (id: string) => Promise<Project> }> {
  vi.resetModules();
  const [store, { db }, { storedDocument }] = [await import('./store'), await import('./db'), await import('./documents')];
  return { store, db, stored: async (id) => (await storedDocument(id))?.document as Project };
}

beforeEach(async () => {
  const { db } = await loaded();
  await Promise.all([db.projects.clear(), db.shots.clear(), db.history.clear(), db.settings.clear(), db.originals.clear()]);
});

const shot = (id: string, name: string): Shot => plainShot(id, name, { beat: 0, offset: 0 }, { beat: 4, offset: 0 });

/** The shots after the edit of a number: one more, the first of them otherwise, one less, or all turned round. */
function shotsAfter(shots: readonly Shot[], i: number): Shot[] {
  const [first, ...rest] = shots;
  if (!first || i % 4 === 0) return [shot(`s${i}`, 'new'), ...shots];
  if (i % 4 === 1) return [{ ...first, name: `${i}` }, ...rest];
  return i % 4 === 2 ? rest : shots.toReversed();
}

/** What a plain list of commands gives: the names and shots a project had, and which of them stand. */
interface Plain {
  names: string[];
  shots: Shot[][];
  at: number;
}

const command = fc.oneof(
  { weight: 5, arbitrary: fc.constant('edit' as const) },
  { weight: 4, arbitrary: fc.constant('undo' as const) },
  { weight: 3, arbitrary: fc.constant('redo' as const) },
  { weight: 2, arbitrary: fc.constant('switch' as const) },
  { weight: 1, arbitrary: fc.constant('reload' as const) },
  { weight: 1, arbitrary: fc.constant('wait' as const) },
);

describe('the queue of commands', () => {
  it('gives what a plain list of commands gives, however they come: 50 edits, undos, redos, switches and reloads', async () => {
    const run = async (commands: readonly ('edit' | 'undo' | 'redo' | 'switch' | 'reload' | 'wait')[]) => {
      let { store, db, stored } = await loaded();
      const plain: Record<string, Plain> = {};
      const ids: string[] = [];
      for (const name of ['one', 'two']) {
        await store.newProject(name);
        const { id } = store.useProject.getState().project as { id: string };
        ids.push(id);
        plain[id] = { names: [name], shots: [[]], at: 0 };
      }
      let open = ids[1];
      for (const [i, what] of commands.entries()) {
        const own = plain[open];
        if (what === 'edit') {
          const name = `${i}`;
          const shots = shotsAfter(own.shots[own.at], i);
          store.edit(`Name it ${i}`, (draft) => void Object.assign(draft, { name, shots: shotsAfter(draft.shots as Shot[], i) }));
          own.names.splice(own.at + 1, Number.POSITIVE_INFINITY, name);
          own.shots.splice(own.at + 1, Number.POSITIVE_INFINITY, shots);
          own.at++;
        } else if (what === 'undo') {
          // Not waited for: two presses in one tick are two steps.
          void store.undo();
          own.at = Math.max(0, own.at - 1);
        } else if (what === 'redo') {
          void store.redo();
          own.at = Math.min(own.names.length - 1, own.at + 1);
        } else if (what === 'switch') {
          open = ids[1 - ids.indexOf(open)];
          await store.openProject(open);
        } else if (what === 'wait') {
          await store.settled();
        } else {
          await store.settled();
          db.close();
          ({ store, db, stored } = await loaded());
          expect(await store.openLast()).toBe(true);
        }
        const { project, undoLabel, redoLabel, problem } = store.useProject.getState();
        const { names, at } = plain[open];
        expect({ name: project?.name, undo: undoLabel !== '', redo: redoLabel !== '', problem }).toEqual({
          name: names[at],
          undo: at > 0,
          redo: at < names.length - 1,
          problem: '',
        });
      }
      await store.settled();
      for (const id of ids) {
        const row = await db.projects.get(id);
        expect(row?.cursor).toBe(plain[id].at);
        const { names, shots, at } = plain[id];
        expect(await stored(id)).toMatchObject({ name: names[at], shots: shots[at] });
        expect(await db.shots.where('projectId').equals(id).count()).toBe(shots[at].length);
        expect(await db.history.where('projectId').equals(id).count()).toBe(plain[id].names.length - 1);
      }
      db.close();
    };
    await fc.assert(fc.asyncProperty(fc.array(command, { minLength: 50, maxLength: 50 }), run), { numRuns: 12, seed: 3 });
  });

  it('three imports, two undos in one tick and two redos leave each take once', async () => {
    const { store } = await loaded();
    await store.newProject('takes');
    const media = (n: number) => stagedMedia(`m${n}`) as Media;
    for (const n of [1, 2, 3]) store.edit(`Take in ${n}`, (draft) => void draft.media.push(media(n)));
    void store.undo();
    void store.undo();
    await store.redo();
    await store.redo();
    expect(store.useProject.getState().project?.media.map((m) => m.id)).toEqual(['m1', 'm2', 'm3']);
    await store.redo();
    expect(store.useProject.getState().project?.media).toHaveLength(3);
  });

  it('a write that fails is made up for by the next, its step of undo as well', async () => {
    const { store, db } = await loaded();
    await store.newProject('a');
    const full = Object.assign(new Error('quota'), { name: 'QuotaExceededError' });
    const put = vi.spyOn(db.projects, 'put').mockRejectedValueOnce(full);
    store.edit('To b', (draft) => void Object.assign(draft, { name: 'b' }));
    await store.settled();
    expect(store.useProject.getState()).toMatchObject({ unsaved: true, problem: expect.stringMatching(/storage is full/) });
    put.mockRestore();
    store.edit('To c', (draft) => void Object.assign(draft, { name: 'c' }));
    await store.settled();
    expect(store.useProject.getState()).toMatchObject({ unsaved: false, problem: '' });
    db.close();
    const again = await loaded();
    await again.store.openLast();
    await again.store.undo();
    await again.store.undo();
    expect(again.store.useProject.getState().project?.name).toBe('a');
  });

  it('an edit made while another project opens is the old project’s, and is kept', async () => {
    const { store, db } = await loaded();
    await store.newProject('old');
    const { id } = store.useProject.getState().project as { id: string };
    const opening = store.newProject('new');
    store.edit('Name it', (draft) => void Object.assign(draft, { name: 'old, renamed' }));
    await opening;
    expect(store.useProject.getState().project?.name).toBe('new');
    await store.settled();
    expect((await db.projects.get(id))?.document).toMatchObject({ name: 'old, renamed' });
  });

  it('the result of long work goes to its own project or to none', async () => {
    const { store } = await loaded();
    await store.newProject('measured');
    const { id } = store.useProject.getState().project as { id: string };
    await store.newProject('other');
    expect(store.edit('Correct', (draft) => void draft.media.push(stagedMedia('m1') as Media), id)).toBe(false);
    expect(store.useProject.getState().project?.media).toEqual([]);
    expect(store.useProject.getState().problem).toMatch(/Another project was opened/);
  });
});

describe('what is written can be opened', () => {
  it('an edit after which the project would not open is not made, and says so', async () => {
    const { store, db, stored } = await loaded();
    await store.newProject('whole');
    expect(store.edit('Enlarge', (draft) => void Object.assign(draft.frame, { width: 0 }))).toBe(false);
    expect(store.useProject.getState().problem).toMatch(/“Enlarge” was not done.*frame\.width/);
    expect(store.edit('Take', (draft) => void draft.media.push({ ...(stagedMedia('m1') as Media), width: 0, height: 0 }))).toBe(false);
    await store.settled();
    for (const row of await db.projects.toArray()) expect(readProject(await stored(row.id)).ok).toBe(true);
  });

  it('a stored document that is broken opens in repair; its original stays', async () => {
    const { store, db } = await loaded();
    await store.newProject('broken');
    const { project } = store.useProject.getState();
    const document = { ...project, media: [stagedMedia('m1'), { ...stagedMedia('m2'), width: 0 }] };
    db.close();
    const again = await loaded();
    await again.db.projects.put({ id: project?.id ?? '', document, cursor: 7, changed: Date.now() });
    await again.store.openLast();
    const state = again.store.useProject.getState();
    expect(state.project?.media.map((m) => m.id)).toEqual(['m1']);
    expect(state.setAside).toEqual([expect.stringMatching(/the file “m2.mp4”/)]);
    expect(state).toMatchObject({ undoLabel: '', writable: true, state: 'open' });
    await again.store.settled();
    expect((await again.db.originals.toArray()).map((o) => o.document)).toEqual([document]);
    expect(readProject(await again.stored(project?.id ?? '')).ok).toBe(true);
  });

  it('steps of undo that do not fit together are dropped, not applied', async () => {
    const { store, db } = await loaded();
    await store.newProject('steps');
    for (const name of ['a', 'b', 'c']) store.edit(name, (draft) => void Object.assign(draft, { name }));
    await store.settled();
    const { id } = store.useProject.getState().project as { id: string };
    await db.history.delete([id, 1]);
    db.close();
    const again = await loaded();
    await again.store.openLast();
    await again.store.undo();
    expect(again.store.useProject.getState()).toMatchObject({ undoLabel: '', project: { name: 'c' } });
  });
});
