import { describe, expect, it } from 'vitest';
import { partOf, sceneOf } from '../evaluate';
import { stagedProject } from '../staged';
import { panAlong, stillPart, withoutPartKey, withPartKey } from './pan';
import { withStart } from './places';
import { plainShot } from './propose';

const shot = plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 16, offset: 0 }, { layers: [] });
const project = { ...stagedProject(), shots: [shot] };
const scene = sceneOf(project, shot);
const { first, end } = scene;

describe('a part that pans', () => {
  it('is on each key where it was put, between two on its way, and before and after them at rest', () => {
    const from = withPartKey(scene, [], first + 10, { x: 20, y: 50 }, 'linear');
    const part = withPartKey(scene, from, first + 30, { x: 60, y: 40 });
    const at = (frame: number) => partOf(project, { ...shot, part }, frame);
    expect([at(first), at(first + 10)]).toEqual([
      { x: 20, y: 50 },
      { x: 20, y: 50 },
    ]);
    expect(at(first + 20)).toEqual({ x: 40, y: 45 });
    expect(at(end - 1)).toEqual({ x: 60, y: 40 });
    // A key that is there is changed and keeps how it runs on.
    expect(withPartKey(scene, part, first + 10, { x: 0, y: 0 })).toMatchObject([{ x: 0, y: 0, easing: 'linear' }, { x: 60 }]);
    expect(withoutPartKey(scene, part, first + 10)).toEqual([part[1]]);
    expect(withoutPartKey(scene, [part[1]], first + 30)).toEqual([part[1]]);
  });

  it('stays on its instants of the song when the shot begins on another beat', () => {
    const part = withPartKey(scene, stillPart({ x: 10, y: 50 }), first + 30, { x: 90, y: 50 });
    const later = withStart({ ...shot, part }, { beat: 10, offset: 0 });
    const there = { ...project, shots: [later] };
    for (const frame of [first + 40, first + 30, first + 27])
      expect(partOf(there, later, frame)).toEqual(partOf(project, { ...shot, part }, frame));
  });

  it('follows a course with few keys, and stands still where there is next to none', () => {
    const frames = Array.from({ length: 21 }, (_, i) => first + 5 * i);
    // To the right in the first half, then at rest.
    const course = (frame: number) => ({ x: Math.min(80, 20 + 1.2 * (frame - first)) + (frame % 2), y: 50 });
    const part = panAlong(scene, frames, course, 4);
    expect(part.length).toBe(3);
    for (const frame of frames) expect(Math.abs(partOf(project, { ...shot, part }, frame).x - course(frame).x)).toBeLessThanOrEqual(4.001);
    expect(panAlong(scene, frames, (f) => ({ x: 50 + (f % 3), y: 50 }), 4)).toHaveLength(1);
    expect(panAlong(scene, [first], () => ({ x: 5, y: 6 }), 4)).toEqual(stillPart({ x: 5, y: 6 }));
  });
});
