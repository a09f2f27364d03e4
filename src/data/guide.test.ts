import { beforeEach, expect, it } from 'vitest';
import { emptyProject, type Project } from '@/core/document';
import { stagedMove, stagedProject } from '@/core/staged';
import { beginGuide, GUIDE, leaveGuide, passStep, stepAt, useGuide } from './guide';

const empty: Project = { ...emptyProject('mine', 'Mine') };
const at = (project: Project) => stepAt(project, useGuide.getState())?.step.id ?? null;
beforeEach(() => {
  useGuide.setState({ projectId: null, passed: [], over: false });
  beginGuide('mine');
});

it('goes from step to step as the project has come, and as things happen', () => {
  expect(at(empty)).toBe('films');
  const filmed: Project = { ...stagedProject(), id: 'mine', shots: [] };
  expect(at(filmed)).toBe('shot');
  const laid: Project = { ...filmed, shots: [stagedMove(filmed, 'whip', 16, ['t1', 't2'])] };
  expect(at(laid)).toBe('play');
  for (const [id, next] of [
    ['play', 'check'],
    ['check', 'deliver'],
    ['deliver', null],
  ] as const) {
    passStep(id);
    expect(at(laid)).toBe(next);
  }
});

it('a step without what it needs can be skipped, and is counted', () => {
  passStep('films');
  expect(stepAt(empty, useGuide.getState())).toMatchObject({ step: { id: 'song' }, n: 2 });
  passStep('song');
  passStep('song');
  expect(useGuide.getState().passed).toEqual(['films', 'song']);
  expect(GUIDE).toHaveLength(6);
});

it('says nothing of another project; left, it comes back only when asked for', () => {
  expect(at({ ...empty, id: 'other' })).toBeNull();
  leaveGuide();
  beginGuide('mine');
  expect(at(empty)).toBeNull();
  beginGuide('mine', true);
  expect(at(empty)).toBe('films');
});
