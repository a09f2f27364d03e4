import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainShot } from '../edit/propose';
import { changeBetween, changed } from './change';
import { emptyProject, type Project, type Shot } from './schema';

const shot = (id: number, name: string): Shot => plainShot(`s${id}`, name, { beat: 0, offset: 0 }, { beat: 4, offset: 0 });
const start: Project = { ...emptyProject('p', 'start'), shots: [1, 2, 3].map((i) => shot(i, 'a')) };

/** One edit, as a user's would be: a name, a shot more, one less, one other, all in another order. */
function edited(project: Project, [kind, n]: readonly [number, number]): Project {
  const { shots } = project;
  const at = shots.length ? n % shots.length : 0;
  if (kind === 0) return { ...project, name: `name ${n}` };
  if (kind === 1) return shots.some((s) => s.id === `s${n}`) ? project : { ...project, shots: shots.toSpliced(at, 0, shot(n, 'new')) };
  if (kind === 2) return { ...project, shots: shots.toSpliced(at, 1) };
  if (kind === 3) return { ...project, shots: shots.map((s, i) => (i === at ? { ...s, name: `named ${n}` } : s)) };
  return { ...project, shots: shots.toReversed() };
}
const edits = fc.array(fc.tuple(fc.nat(4), fc.nat(30)), { maxLength: 12 });

describe('changes of a document', () => {
  it('lead to the later document, over any edits, also after being sent', () => {
    fc.assert(
      fc.property(edits, edits, (first, second) => {
        const before = first.reduce(edited, start);
        const after = second.reduce(edited, before);
        expect(changed(structuredClone(before), structuredClone(changeBetween(before, after)))).toEqual(after);
      }),
    );
  });

  it('hold the one shot that was changed and leave the others the same objects', () => {
    const after = edited(start, [3, 1]);
    const change = changeBetween(start, after);
    expect(change).toEqual({ fields: {}, lists: { shots: { order: ['s1', 's2', 's3'], items: [after.shots[1]] } } });
    const next = changed(start, change);
    expect(next.shots[0]).toBe(start.shots[0]);
    expect(next.media).toBe(start.media);
  });

  it('say where they belong to another document', () => {
    const change = changeBetween(start, edited(start, [4, 0]));
    expect(() => changed(emptyProject('other', 'other'), change)).toThrow('“s3” in shots');
  });
});
