import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document';
import { proposePlain } from '@/core/edit';
import { stagedMove, stagedProject } from '@/core/staged';
import { useQuestions } from './ask';
import { addShot } from './shots';
import { addProject, settled, undo, useProject } from './store';
import { takeOut } from './take-out';

const now = () => useProject.getState().project as Project;
const asked = () => useQuestions.getState().asked;

beforeEach(async () => {
  await settled();
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

describe('taking a take out', () => {
  it('one that nothing shows goes at once with its file, and comes back by undo', async () => {
    const before = JSON.stringify(now());
    await takeOut('t2');
    expect(asked()).toEqual([]);
    expect(now().takes.map((t) => t.id)).toEqual(['t1', 't3']);
    expect(now().media.map((m) => m.id)).not.toContain('m2');
    expect(now().media.map((m) => m.id)).toContain('song');
    await undo();
    expect(JSON.stringify(now())).toBe(before);
  });

  it('one in use is asked about; kept, nothing changes', async () => {
    addShot(proposePlain(now(), 'a', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't2'));
    const before = now();
    const done = takeOut('t2');
    expect(asked()).toHaveLength(1);
    expect(asked()[0].text).toContain(`“${now().shots[0].name}”`);
    asked()[0].answer('keep');
    await done;
    expect(now()).toBe(before);
    expect(asked()).toEqual([]);
  });

  it('put away unanswered, nothing changes either', async () => {
    addShot(proposePlain(now(), 'a', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't2'));
    const before = now();
    const done = takeOut('t2');
    asked()[0].answer(null);
    await done;
    expect(now()).toBe(before);
  });

  it('with its layers: a shot of it alone goes whole, one that shows another too keeps that', async () => {
    addShot(proposePlain(now(), 'alone', { beat: 4, offset: 0 }, { beat: 8, offset: 0 }, 't2'));
    addShot(stagedMove(now(), 'whip', 16, ['t1', 't2'], {}, 'both'));
    const done = takeOut('t2');
    asked()[0].answer('out');
    await done;
    expect(now().shots.map((s) => s.id)).toEqual(['both']);
    const shown = now().shots[0].layers.flatMap((l) => (l.source.kind === 'take' ? [l.source.takeId] : []));
    expect(new Set(shown)).toEqual(new Set(['t1']));
    await undo();
    expect(now().shots.map((s) => s.id)).toEqual(['alone', 'both']);
  });

  it('names at most five of the shots', async () => {
    for (let i = 0; i < 7; i++) addShot(proposePlain(now(), `s${i}`, { beat: 4 * i, offset: 0 }, { beat: 4 * i + 4, offset: 0 }, 't2'));
    const done = takeOut('t2');
    expect(asked()[0].text).toMatch(/ and 2 more shots show it/);
    asked()[0].answer(null);
    await done;
  });
});
