import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { describeFrame, filmFrames } from '../evaluate';
import { stagedMove, stagedProject } from '../staged';
import { readProject } from './read';
import { referencesWhole, usersOfTake } from './references';
import { repairProject } from './repair';
import type { Project, Shot } from './schema';
import { editProblem } from './valid-edit';

/** Three takes, a reveal, a freeze, a split screen, and a shot in a shot. */
function made(): Project {
  const project = stagedProject();
  project.shots = [
    stagedMove(project, 'reveal', 8, ['t1', 't2'], { fall: [null, null] }),
    stagedMove(project, 'freeze', 24, ['t1']),
    stagedMove(project, 'split', 40, ['t2', 't3']),
  ];
  const [reveal] = project.shots;
  project.nestedShots = [{ ...reveal, id: 'within' }];
  const layer = reveal.layers[0];
  project.shots.push({
    ...reveal,
    id: 'outer',
    move: null,
    overrides: [],
    layers: [{ ...layer, source: { kind: 'shot', shotId: 'within' } }],
  });
  return project;
}
const copyOf = (project: Project) => structuredClone(project) as unknown as Record<string, never>;
const without = (project: Project, change: (p: Project) => void): Project => {
  const copy = structuredClone(project);
  change(copy);
  return copy;
};

/** Sets what is at a place such as `shots.0.end.beat`. */
function set(project: Project, place: string, value: unknown): void {
  const keys = place.split('.');
  const last = keys.pop() as string;
  const at = keys.reduce((o, key) => o[key] as Record<string, unknown>, project as unknown as Record<string, unknown>);
  at[last] = value;
}

describe('a document that names what is not there', () => {
  it('is refused with what is missing, and what does not need it opens in repair', () => {
    const dangling = without(made(), (p) => {
      p.media = p.media.filter((m) => m.id !== 'm3');
    });
    expect(readProject(dangling)).toMatchObject({ ok: false, reason: expect.stringMatching(/take 3: its film is not in the project/) });
    const repaired = repairProject(dangling);
    expect(repaired?.project.shots.map((s) => s.id)).toEqual(['reveal', 'freeze', 'split', 'outer']);
    // The split showed two takes: the panel of the other one stays as layers, its move goes.
    const split = repaired?.project.shots[2] as Shot;
    expect(split.move).toBeNull();
    expect(new Set(split.layers.map((l) => l.source.kind === 'take' && l.source.takeId))).toEqual(new Set(['t2']));
    expect(repaired?.setAside.join('\n')).toMatch(/take 3[\s\S]*parts of the shot “Split screen”/);
  });

  it('loses a mask whose cut-out is gone, and a shot that shows nothing any more', () => {
    const first = repairProject(
      without(made(), (p) =>
        set(
          p,
          'media',
          p.media.filter((m) => m.id !== 'cut-out'),
        ),
      ),
    );
    const freeze = first?.project.shots.find((s) => s.id === 'freeze');
    expect(freeze?.layers.length).toBeGreaterThan(0);
    expect(freeze?.layers.some((l) => l.masks.some((m) => m.kind === 'matte'))).toBe(false);
    const second = repairProject(without(made(), (p) => set(p, 'nestedShots', [])));
    expect(second?.project.shots.some((s) => s.id === 'outer')).toBe(false);
  });

  it('names who needs a take', () => {
    expect(usersOfTake(made(), 't3').map((s) => s.id)).toEqual(['split']);
    expect(usersOfTake(made(), 't1').map((s) => s.id)).toEqual(['reveal', 'freeze', 'within']);
  });

  it('two things of one id, and a shot within itself', () => {
    const twice = without(made(), (p) => void p.takes.push({ ...p.takes[0] }));
    expect(referencesWhole(twice).setAside).toEqual(['take 1: its id stands twice']);
    const circle = without(made(), (p) => set(p, 'nestedShots.0.layers.0.source', { kind: 'shot', shotId: 'within' }));
    expect(readProject(circle)).toMatchObject({ ok: false, reason: expect.stringContaining('lies within itself') });
    const repaired = repairProject(circle);
    expect(repaired && readProject(repaired.project).ok).toBe(true);
  });
});

describe('numbers no project can mean', () => {
  it('a margin that an earlier version wrote too wide is made as wide as it may be, and the shot stays whole', () => {
    const before = without(made(), (p) => set(p, 'shots.0.overscan', 171.3));
    const repaired = repairProject(before);
    expect(repaired?.setAside).toEqual(['something in the shot “Masked reveal”: “overscan” cannot be used']);
    expect(repaired?.project.shots[0]).toEqual({ ...before.shots[0], overscan: 150 });
  });

  it.each([
    ['a rate of a thousand million', 'frame.rate', { num: 1e9, den: 1 }],
    ['a rate of one frame in a thousand seconds', 'frame.rate', { num: 1, den: 1000 }],
    ['an end a thousand million beats on', 'shots.0.end.beat', 1e9],
    ['a shot of all the beats there are', 'shots.0.end.beat', 39_000],
    ['an offset of a thousand million frames', 'shots.0.end.offset', 1e9],
    ['a film without a size', 'media.0.width', 0],
    ['a file a year long', 'media.0.duration', 3e7],
    ['a margin that hides the picture', 'shots.0.overscan', 151],
    ['a key at infinity', 'shots.0.layers.0.timeRemap.0.source', Number.POSITIVE_INFINITY],
  ])('%s is refused, and repaired', (_, place, value) => {
    const broken = without(made(), (p) => set(p, place, value));
    expect(readProject(broken).ok).toBe(false);
    const repaired = repairProject(broken);
    expect(repaired?.setAside.length).toBeGreaterThan(0);
    expect(repaired && readProject(repaired.project).ok).toBe(true);
    // What could not be opened may not be written either.
    expect(editProblem(made(), broken)).not.toBe('');
  });

  it('a project that is whole passes every edit, and is repaired to itself', () => {
    const project = made();
    expect(readProject(project).ok).toBe(true);
    expect(editProblem(stagedProject(), project)).toBe('');
    expect(repairProject(copyOf(project))).toEqual({ project, setAside: [] });
  });
});

/** A place somewhere inside a document: keys and indices, chosen by numbers from 0 to 1. */
function mutate(document: unknown, turns: readonly number[], value: unknown): void {
  let at = document as Record<string, unknown>;
  for (const [i, turn] of turns.entries()) {
    const keys = Object.keys(at);
    if (keys.length === 0) return;
    const key = keys[Math.floor(turn * keys.length)];
    const next = at[key];
    if (i === turns.length - 1 || typeof next !== 'object' || next === null) {
      if (value === undefined) delete at[key];
      else at[key] = value;
      return;
    }
    at = next as Record<string, unknown>;
  }
}

describe('any damage to a document', () => {
  const junk = fc.oneof(
    fc.constantFrom<unknown>(
      null,
      undefined,
      '',
      'x',
      0,
      -1,
      1e9,
      -1e9,
      1e300,
      Number.NaN,
      true,
      [],
      {},
      [[]],
      { id: 't1' },
      't2',
      'm1',
      0.5,
    ),
    fc.double(),
    fc.string(),
  );
  const harm = fc.array(
    fc.tuple(fc.array(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }), { minLength: 1, maxLength: 9 }), junk),
    {
      minLength: 1,
      maxLength: 6,
    },
  );
  it('is read, or refused and repaired to what can be read, drawn and written', () => {
    fc.assert(
      fc.property(harm, (harms) => {
        const document = copyOf(made());
        for (const [turns, value] of harms) mutate(document, turns, structuredClone(value));
        const read = readProject(document);
        const repaired = read.ok ? null : repairProject(document);
        const project = read.ok ? read.project : repaired?.project;
        if (!read.ok) expect(read.reason).toMatch(/\.|untouched/);
        if (!project) return;
        expect(readProject(project)).toEqual({ ok: true, project });
        const [first, end] = filmFrames(project);
        for (const frame of [first, Math.floor((first + end) / 2), end - 1]) describeFrame(project, frame);
      }),
      { numRuns: 600, seed: 14 },
    );
  });
});
