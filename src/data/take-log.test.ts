import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document';
import { stagedProject } from '@/core/staged';
import { addProject, edit, settled, undo, useProject } from './store';
import { readTakeLog } from './take-log';

const now = () => useProject.getState().project as Project;
const log = (text: string, name = 'log.csv') => readTakeLog(new File([text], name, { type: 'text/csv' }));

beforeEach(async () => {
  await settled();
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

describe('a take log read back in', () => {
  it('sets what its columns say, leaves what has no column, in one step of undo', async () => {
    edit('Note', (draft) => void Object.assign(draft.takes[0], { note: 'kept', rating: 1 }));
    const said = await log('file,shutter,lens,rating\r\nm1.mp4,1/100,"35 mm, prime",3\r\n');
    expect(said).toBe('1 take brought up to date.');
    expect(now().takes[0]).toMatchObject({ note: 'kept', rating: 3, settings: { shutter: '1/100', lens: '35 mm, prime', iso: '' } });
    await undo();
    expect(now().takes[0]).toMatchObject({ note: 'kept', rating: 1, settings: { shutter: '', lens: '' } });
  });

  it('reads what a spreadsheet puts before it, and quoted lines of more than one row', async () => {
    expect(await log('\ufefffile,note\nm2.mp4,"first line\nsecond ""line"""\n')).toBe('1 take brought up to date.');
    expect(now().takes[1].note).toBe('first line\nsecond "line"');
  });

  it('names what is not in the project, five at most, and uses the rest', async () => {
    const strange = Array.from({ length: 7 }, (_, i) => `x${i}.mp4,1`).join('\n');
    const said = await log(`file,iso\nm3.mp4,400\n${strange}\n`);
    expect(said).toBe('1 take brought up to date. Not in this project: x0.mp4, x1.mp4, x2.mp4, x3.mp4, x4.mp4 and 2 more.');
    expect(now().takes[2].settings.iso).toBe('400');
  });

  it('a rating that is none changes nothing', async () => {
    for (const rating of ['4', '-1', '2.5', 'good', '']) {
      await log(`file,rating,note\nm1.mp4,${rating},n${rating}\n`);
      // An empty cell is nothing, and nothing as a number is 0.
      expect(now().takes[0].rating).toBe(0);
    }
  });

  it('text is no longer than a field holds', async () => {
    await log(`file,shutter,lens,note\nm1.mp4,${'s'.repeat(50)},${'l'.repeat(50)},${'n'.repeat(3000)}\n`);
    const { settings, note } = now().takes[0];
    expect([settings.shutter.length, settings.lens.length, note.length]).toEqual([20, 40, 2000]);
  });

  it('rows of one name mean one take after another; parts of a file are told by where they begin', async () => {
    edit('Cut', (draft) => {
      const [first] = draft.takes;
      draft.takes = [
        { ...first, id: 'p1', part: { from: 0, to: 3 } },
        { ...first, id: 'p2', part: { from: 3, to: 6 } },
        { ...first, id: 'p3', part: { from: 6, to: 9 } },
      ];
    });
    await log('file,from_s,note\nm1.mp4,6,third\nm1.mp4,0,first\nm1.mp4,3,second\n');
    expect(now().takes.map((t) => t.note)).toEqual(['first', 'second', 'third']);
    await log('file,note\nm1.mp4,a\nm1.mp4,b\nm1.mp4,c\n');
    expect(now().takes.map((t) => t.note)).toEqual(['a', 'b', 'c']);
  });

  it.each([
    ['other columns', 'name,when\nm1.mp4,now\n'],
    ['no column it knows', 'file,colour\nm1.mp4,red\n'],
    ['nothing', ''],
    ['no text at all', '\u0000\u0001\u0002'],
  ])('refuses a file with %s and changes nothing', async (_, text) => {
    const before = now();
    expect(await log(text, 'odd.csv')).toMatch(
      /^“odd.csv” is not a take log: it needs a column “file” and at least one of .*Nothing was changed\.$/,
    );
    expect(now()).toBe(before);
  });
});
