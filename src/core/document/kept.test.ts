import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { regenerate } from '../edit';
import { describeFrame, filmFrames } from '../evaluate';
import { readProject } from './read';
import { PROJECT_VERSION } from './schema';

/** A document as that version wrote it: a shot of each move, the reveals by each of their shapes. */
const kept = (version: number): unknown => JSON.parse(readFileSync(`${import.meta.dirname}/kept/version-${version}.json`, 'utf8'));

function opened(version: number) {
  const read = readProject(kept(version));
  if (!read.ok) throw new Error(read.reason);
  return read.project;
}

describe.each([8, 9, 10, 11, 12, 13])('a document that version %i wrote', (version) => {
  it('opens as one of today, with every shot it had', () => {
    const project = opened(version);
    expect(project.version).toBe(PROJECT_VERSION);
    expect(project.shots.map((s) => s.move && `${s.move.kind}${'by' in s.move ? ` ${s.move.by}` : ''}`)).toEqual([
      'reveal line',
      'whip',
      'freeze',
      'ramp',
      'split',
      'reveal ring',
      'reveal rectangle',
      'reveal drawn',
      'reveal silhouette',
    ]);
  });

  it('shows on every frame what its moves make today', () => {
    const project = opened(version);
    for (const shot of project.shots) {
      const alone = { ...project, shots: [shot] };
      const again = { ...project, shots: [regenerate(project, shot)] };
      const [first, end] = filmFrames(alone);
      expect(end - first).toBeGreaterThan(20);
      for (let frame = first; frame < end; frame++) expect(describeFrame(again, frame)).toEqual(describeFrame(alone, frame));
    }
  });
});

it('the part that other shapes show of a shot of version 12 stands still where it was', () => {
  const [first, second] = opened(12).shots;
  expect(first.part).toEqual([{ beat: 0, offset: 0, x: 20, y: 60, easing: 'ease in and out' }]);
  expect(second.part).toBeUndefined();
});
