import { describe, expect, it } from 'vitest';
import { changeBetween, emptyProject } from '@/core/document';
import { plainShot } from '@/core/edit';
import { ProjectInUse } from './project-in-use';

const beat = (n: number) => ({ beat: n, offset: 0 });
const project = { ...emptyProject('p', 'Night'), shots: [plainShot('s', 'First', beat(0), beat(4))] };

describe('the project a worker works on', () => {
  it('follows the page: whole once, then what changes', () => {
    const held = new ProjectInUse();
    held.told.use(structuredClone(project));
    const next = { ...project, name: 'Morning', shots: [{ ...project.shots[0], name: 'Other' }] };
    held.told.change(structuredClone(changeBetween(project, next)));
    expect(held.open).toEqual(next);
  });

  it('is not one that could not be opened, and stays what it was', () => {
    const held = new ProjectInUse();
    held.told.use(project);
    expect(() => held.told.use({ ...project, frame: { ...project.frame, width: 3 } })).toThrow('“frame.width”');
    const wide = { ...project.shots[0], overscan: 1000 };
    expect(() => held.told.change(changeBetween(project, { ...project, shots: [wide] }))).toThrow('is not usable');
    expect(() => held.told.change({ fields: {}, lists: { nowhere: { order: [], items: [] } } } as never)).toThrow('is not usable');
    expect(held.open).toEqual(project);
  });

  it('must be there before anything is asked of it', () => {
    expect(() => new ProjectInUse().open).toThrow('No project is open.');
  });
});
