import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { proposePlain, type SomeFacts } from '@/core/edit';
import { filmFrames, shotFrames } from '@/core/evaluate';
import { RECIPES } from '@/core/plan';
import { STAGED_FALL, stagedMedia, stagedProject } from '@/core/staged';
import { constantBeatMap } from '@/core/time';

const gathered: string[][] = [];
vi.mock('./facts', () => ({
  gatherFacts: async (needs: readonly string[]) => {
    gathered.push([...needs]);
    const facts: SomeFacts = needs.includes('fall') ? { fall: [STAGED_FALL, STAGED_FALL] } : { whips: [[], []] };
    return { facts, media: needs.includes('fall') ? [stagedMedia('made for it', 'still')] : [] };
  },
}));

const { layMove, likelyTakes, takesForMove } = await import('./moves');
const { addPlan } = await import('./plans');
const { addShot } = await import('./shots');
const { addProject, edit, settled, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const quiet = () => undefined;
const recipe = (id: string) => RECIPES.find((r) => r.id === id) ?? RECIPES[0];

beforeEach(async () => {
  await settled();
  gathered.length = 0;
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
  useProject.setState({ playhead: 0 });
});

describe('the takes a move is likely made of', () => {
  it('are all there are, each once, when nothing is planned or laid', () => {
    expect(likelyTakes(now(), 'whip', 0)).toEqual(['t1', 't2', 't3']);
  });

  it('begin with those of the shot at the playhead', () => {
    addShot(proposePlain(now(), 'a', { beat: 0, offset: 0 }, { beat: 8, offset: 0 }, 't3'));
    expect(likelyTakes(now(), 'ramp', 40)[0]).toBe('t3');
    expect(likelyTakes(now(), 'ramp', 4000)[0]).toBe('t1');
  });

  it('come from the planned slots once all of them are filled: the first of the first, the last try of the last; plates last of all', () => {
    addPlan(recipe('curtain reveal'));
    const [plan] = now().plans;
    const slots = ['one', 'two'];
    edit('Fill one slot', (draft) => void Object.assign(draft.takes[2], { plan: plan.id, slot: slots[0] }));
    expect(likelyTakes(now(), 'reveal', 0)[0]).toBe('t1');
    edit('Fill the other, twice, and a plate', (draft) => {
      Object.assign(draft.takes[0], { plan: plan.id, slot: 'plate' });
      Object.assign(draft.takes[1], { plan: plan.id, slot: slots[1] });
      draft.takes.push({ ...draft.takes[1], id: 't4', number: 2 });
    });
    expect(likelyTakes(now(), 'reveal', 0)).toEqual(['t3', 't4', 't2', 't1']);
  });
});

describe('the takes a move is made of', () => {
  it('are as many as it must have, or as are asked for where it may have several', () => {
    expect(takesForMove(now(), 'whip', 0, [], null)).toEqual(['t1', 't2']);
    expect(takesForMove(now(), 'split', 0, [], null)).toEqual(['t1', 't2', 't3']);
    expect(takesForMove(now(), 'split', 0, [], 2)).toEqual(['t1', 't2']);
    expect(takesForMove(now(), 'split', 0, [], 5)).toEqual(['t1', 't2', 't3', 't1', 't2']);
    expect(takesForMove(now(), 'strike', 0, [], null)).toHaveLength(3);
  });
  it('of a freeze are one, whatever was chosen for another move, until their number is given', () => {
    expect(takesForMove(now(), 'freeze', 0, [], null)).toEqual(['t1']);
    expect(takesForMove(now(), 'freeze', 0, ['t3', 't2'], null)).toEqual(['t3']);
    expect(takesForMove(now(), 'freeze', 0, ['t3', 't2'], 2)).toEqual(['t3', 't2']);
  });
  it('keep what is chosen in its place, and fill up around it', () => {
    expect(takesForMove(now(), 'whip', 0, [undefined, 't1'], null)).toEqual(['t2', 't1']);
    expect(takesForMove(now(), 'whip', 0, ['t3'], null)).toEqual(['t3', 't1']);
    expect(takesForMove(now(), 'whip', 0, ['t3', 't3'], null)).toEqual(['t3', 't3']);
    expect(takesForMove(now(), 'whip', 0, ['gone'], null)).toEqual(['t1', 't2']);
    // Who is to come back is chosen.
    expect(takesForMove(now(), 'vanish', 0, ['t1', 't3'], null)).toEqual(['t1', 't3']);
    expect(takesForMove(now(), 'title', 0, ['t1', 't3'], null)).toEqual(['t1']);
  });
  it('are all those that are planned for it', () => {
    addPlan(recipe('things arrive'));
    const [plan] = now().plans;
    edit('Fill the slots', (draft) => {
      for (const [i, n] of [3, 1, 2, 4].entries()) {
        if (n === 4) draft.takes.push({ ...draft.takes[0], id: 't4' });
        Object.assign(draft.takes.find((t) => t.id === `t${n}`) ?? {}, { plan: plan.id, slot: `object-${i + 1}` });
      }
    });
    expect(takesForMove(now(), 'arrive', 0, [], null)).toEqual(['t3', 't1', 't2', 't4']);
  });
});

describe('laying a move', () => {
  it('lies on the playhead’s beat, with the pictures made for it, and is selected', async () => {
    useProject.setState({ playhead: 200 });
    const said = await layMove('reveal', ['t1', 't2'], quiet);
    expect(gathered).toEqual([['fall']]);
    expect(now().shots).toHaveLength(1);
    expect(now().shots[0].move?.kind).toBe('reveal');
    expect(now().media.map((m) => m.id)).toContain('made for it');
    expect(useProject.getState().selectedShot).toBe(now().shots[0].id);
    expect(typeof said).toBe('string');
  });

  it.each([
    ['reveal', ['t1'], /needs 2 takes/],
    ['ramp', [], /Take in a film under Shoot first/],
  ] as const)('a %s of %j says what is missing and lays nothing', async (kind, takes, sentence) => {
    expect(await layMove(kind, takes, quiet)).toMatch(sentence);
    expect(now().shots).toEqual([]);
    expect(gathered).toEqual([]);
  });

  it('without a song it lies on the even beats that the score shows', async () => {
    edit('No song', (draft) => {
      draft.song = null;
    });
    useProject.setState({ playhead: 200 });
    expect(await layMove('whip', ['t1', 't2'], quiet)).not.toMatch(/song/i);
    const [shot] = now().shots;
    // 8 s at 120 beats a minute.
    expect(shot.move).toMatchObject({ kind: 'whip' });
    expect(shotFrames(now(), shot)[0]).toBeLessThan(200);
    expect(shotFrames(now(), shot)[1]).toBeGreaterThan(200);
  });

  it('at the song’s beginning, before the first beat, it shows nothing before the song', async () => {
    edit('Late first beat', (draft) => {
      if (draft.song) draft.song.map = constantBeatMap(100, 3, 60);
    });
    await layMove('whip', ['t1', 't2'], quiet);
    expect(now().shots[0].start.beat).toBe(-4);
    expect(filmFrames(now())[0]).toBe(15);
    edit('Early first beat, no shot', (draft) => {
      draft.shots = [];
      if (draft.song) draft.song.map = constantBeatMap(100, 0.7, 60);
    });
    await layMove('whip', ['t1', 't2'], quiet);
    expect(now().shots[0].start.beat).toBe(-1);
    expect(filmFrames(now())[0]).toBe(3);
  });

  it('twice at once lays two shots of their own', async () => {
    await Promise.all([layMove('whip', ['t1', 't2'], quiet), layMove('whip', ['t1', 't2'], quiet)]);
    expect(new Set(now().shots.map((s) => s.id)).size).toBe(2);
  });
});
