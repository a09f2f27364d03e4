import { describe, expect, it } from 'vitest';
import type { Project } from '../document';
import { regenerate } from '../edit';
import { overscanFor } from '../evaluate';
import { stagedMedia, stagedMove, stagedProject } from '../staged';
import { applyFix, checkProject, RULES } from './check';
import { eventsOf } from './off-the-beat';

const MOVE = { time: 0, dx: 2.3, dy: -1.4, turn: 0.04, scale: 1 };
const MEASURED = [{ takeId: 't2', referenceTakeId: 't1', moves: [MOVE], perspective: null }];

/** A reveal of two takes. */
function reveal(): Project {
  const project = stagedProject();
  return { ...project, shots: [stagedMove(project, 'reveal', 32, ['t1', 't2'])] };
}
/** The same with the second take corrected by what was measured. */
function corrected(project = reveal()): Project {
  const correction = { enabled: true, referenceTakeId: 't1', moves: [MOVE], gains: [{ time: 0, r: 1, g: 1, b: 1 }] };
  return { ...project, takes: project.takes.map((t) => (t.id === 't2' ? { ...t, correction } : t)) };
}
const found = (project: Project, measured = MEASURED) => checkProject(project, measured);

describe('the rules', () => {
  it('say what holds where nothing is found, each under a name of its own', () => {
    expect(new Set(RULES.map((r) => r.id)).size).toBe(RULES.length);
    for (const { asks } of RULES) expect(asks).toMatch(/^[a-z].*[a-z]$/);
  });

  it('are told worst first, whatever their order', () => {
    const weights = found(corrected(), []).map((f) => f.weight);
    expect(weights).toEqual(weights.toSorted((a, b) => b - a));
  });
});

it('what another shot lies over is not told of the one beneath', () => {
  const project = stagedProject();
  const [below, wall] = [stagedMove(project, 'clones', 32, ['t1', 't2']), stagedMove(project, 'stills', 34, ['t1', 't2', 't3'])];
  const film = { ...project, shots: [below, wall] };
  expect(checkProject(film, MEASURED).filter((f) => f.rule === 'edge shows')).toEqual([]);
});

describe('a camera that moved between takes', () => {
  it('is found to the pixel at the frame’s corner, and gone once corrected with its margin', () => {
    const [finding] = found(reveal());
    expect(finding.rule).toBe('camera moved');
    // The corner of 1280×720 lies 734.3 px from the middle: 0.04° move it by 0.51 px; with the shift of 2.69 px between 2.2 and 3.2.
    expect(finding.weight).toBeGreaterThan(2.6);
    expect(finding.weight).toBeLessThan(3.3);
    expect(finding.fix).toMatchObject({ by: 'correction', takeId: 't2', referenceTakeId: 't1' });
    const mended = corrected();
    mended.shots = [{ ...mended.shots[0], overscan: overscanFor(mended, stagedMedia('m2'), { moves: [MOVE] }) }];
    expect(found(mended)).toEqual([]);
  });

  it('asks for measuring where nothing is known, and leads there', () => {
    expect(found(reveal(), []).map((f) => f.fix)).toEqual([{ by: 'stage', label: 'Measure the takes', stage: 'takes' }]);
  });

  it('does not matter where takes are beside or after one another', () => {
    const project = stagedProject();
    const shots = [stagedMove(project, 'whip', 16, ['t1', 't2']), stagedMove(project, 'split', 40, ['t1', 't2'])];
    expect(found({ ...project, shots })).toEqual([]);
  });
});

describe('an edge that shows', () => {
  it('is found with how much to enlarge, and mended by that in one press', () => {
    const project = corrected();
    const [finding] = found(project);
    const need = overscanFor(project, stagedMedia('m2'), { moves: [MOVE] });
    expect(finding).toMatchObject({ rule: 'edge shows', fix: { by: 'edit', data: { percent: expect.closeTo(need, 9) } } });
    expect(found({ ...project, shots: [applyFix(project, project.shots[0], finding)] })).toEqual([]);
  });
});

describe('an event off its beat', () => {
  it('is found from more than half a frame on, for every event of every move, and put on the beat', () => {
    const base = stagedProject();
    const shots = [
      stagedMove(base, 'reveal', 16, ['t1', 't2']),
      stagedMove(base, 'whip', 32, ['t1', 't2']),
      stagedMove(base, 'freeze', 48, ['t1']),
      stagedMove(base, 'split', 80, ['t1', 't2', 't3']),
    ];
    expect(found({ ...base, shots }).filter((f) => f.rule === 'off the beat')).toEqual([]);
    let events = 0;
    for (const shot of shots) {
      const { move } = shot;
      if (!move) throw new Error('no move');
      for (const [name, place] of Object.entries(move)) {
        if (typeof place !== 'object' || place === null || !('beat' in place)) continue;
        const late = regenerate(base, { ...shot, move: { ...move, [name]: { ...place, offset: 3 } } as typeof move });
        const [finding] = found({ ...base, shots: [late] }).filter((f) => f.rule === 'off the beat');
        expect(finding.weight).toBeGreaterThan(2.4);
        expect(applyFix(base, late, finding).move).toEqual(move);
        events++;
      }
    }
    expect(events).toBe(7);
  });

  it('counts the shot’s own start and end', () => {
    const project = reveal();
    const [shot] = project.shots;
    const late = { ...shot, end: { ...shot.end, offset: 2 } };
    const [finding] = found({ ...project, shots: [late] }).filter((f) => f.rule === 'off the beat');
    expect(finding.text).toMatch(/^The shot end is [12]\.\d frames after bar/);
    expect(applyFix(project, late, finding).end).toEqual(shot.end);
    expect(eventsOf(shot).map(([name]) => name)).toEqual(['shot start', 'reveal start', 'reveal end', 'shot end']);
  });
});
