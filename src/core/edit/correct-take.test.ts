import { describe, expect, it } from 'vitest';
import type { Project } from '../document';
import type { TakeLock } from '../measure';
import { stagedProject } from '../staged';
import { alikeMoment, correctionFrom } from './correct-take';
import { proposeMove } from './propose';

const STILL = { time: 0, dx: 0, dy: 0, turn: 0, scale: 1 };
/** Three takes of one slider move; the second and the third measured against the first. */
function slider(moments: ({ offset: number; rate: number } | undefined)[]): Project {
  const project = stagedProject();
  const [first] = project.takes;
  const takes = moments.map((m, i) => ({
    ...first,
    id: `s${i}`,
    correction: i
      ? { enabled: true, referenceTakeId: 's0', moves: [STILL], gains: [{ time: 0, r: 1, g: 1, b: 1 }], ...(m && { moments: m }) }
      : null,
  }));
  return { ...project, takes };
}

describe('moments of takes whose cameras move alike', () => {
  const project = slider([undefined, { offset: -0.5, rate: 1 }, { offset: 0.25, rate: 1.02 }]);

  it('lead from the reference to a take, back, and from one take to another', () => {
    expect(alikeMoment(project, 's0', 's1', 3)).toBeCloseTo(3.5, 12);
    expect(alikeMoment(project, 's1', 's0', 3.5)).toBeCloseTo(3, 12);
    const there = alikeMoment(project, 's1', 's2', 4) ?? Number.NaN;
    expect(0.25 + 1.02 * there).toBeCloseTo(3.5, 12);
    expect(alikeMoment(project, 's2', 's1', there)).toBeCloseTo(4, 12);
  });

  it('are none where a camera stands, or was measured against another', () => {
    const still = slider([undefined, undefined, { offset: 0, rate: 1 }]);
    expect(alikeMoment(still, 's0', 's1', 3)).toBeNull();
    expect(alikeMoment(still, 's1', 's2', 3)).toBeNull();
    expect(alikeMoment(project, 's0', 'gone', 3)).toBeNull();
  });

  it('a reveal is proposed with both takes at one place of the move', () => {
    const { shot } = proposeMove(project, 'r', 'reveal', 16, ['s0', 's1'], { fall: [null, null] }, 100);
    const { move } = shot;
    if (move?.kind !== 'reveal') throw new Error('no reveal');
    expect(move.after.sync - move.before.sync).toBeCloseTo(0.5, 12);
  });

  it('come with the correction that is made of a measure', () => {
    const lock = {
      times: [0, 1],
      readings: [
        { dx: 1, dy: 0, turn: 0, scale: 1, trusted: true },
        { dx: 9, dy: 9, turn: 0, scale: 1, trusted: false },
      ],
      light: null,
      changes: [],
      gains: [null, null],
      bumps: [],
      perspective: null,
      curves: null,
      match: { offset: -0.5, rate: 1.01, spread: 0.002 },
    } as unknown as TakeLock;
    expect(correctionFrom(lock, 's0')).toMatchObject({
      moments: { offset: -0.5, rate: 1.01 },
      // Frame by frame, without what could not be trusted.
      moves: [{ time: 0, dx: 1, dy: 0, turn: 0, scale: 1 }],
    });
    expect('moments' in correctionFrom({ ...lock, match: null }, 's0')).toBe(false);
  });
});
