import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { stagedProject } from '@/core/staged';
import type { Picture } from '@/media/picture';
import type { Spot } from '@/media/read-ahead';

/** What the worker was asked; `play` keeps how to hand it pictures. */
const { asked, ways } = vi.hoisted(() => ({
  asked: [] as unknown[][],
  ways: [] as { show: (spot: unknown, picture: unknown) => void; failed: (problem: string) => void }[],
}));
let dies = false;
vi.mock('comlink', () => ({ proxy: <T>(given: T) => given }));
vi.mock('./kept-worker', () => ({ projectTeller: () => async (project: Project) => void asked.push(['project', project.id]) }));
vi.mock('./pictures', () => ({
  filmWorker: {
    call: async (work: (api: unknown) => unknown) => {
      if (dies) throw new Error('The worker has ended.');
      return work({
        frame: async (frame: number) => ({ frame }),
        play: async (from: unknown, loop: unknown, show: never, failed: never) => {
          asked.push(['play', from, loop]);
          ways.push({ show, failed });
        },
        clock: async (spot: Spot, shown: number) => void asked.push(['clock', spot.frame, shown]),
        stop: async () => void asked.push(['stop']),
      });
    },
  },
}));
const { filmPicture, pictureAt, readAhead, stopReading } = await import('./player');
const { useProject } = await import('./store');

const project = { ...stagedProject(), id: 'one' };
const at = (frame: number, lap = 0): Spot => ({ lap, frame });
const picture = (name: string) => ({ name }) as unknown as Picture;
const settled = () => new Promise((r) => setTimeout(r, 0));
const asks = (what: string) => asked.filter(([w]) => w === what);

beforeEach(async () => {
  dies = false;
  stopReading();
  await settled();
  asked.length = 0;
  ways.length = 0;
  useProject.setState({ problem: '' });
});

describe('pictures made ahead', () => {
  it('are shown when they are due, the newest of them; those before are given back', async () => {
    readAhead(project, at(10), null);
    await settled();
    expect(asks('play')).toEqual([['play', at(10), null]]);
    expect(pictureAt(at(10))).toBeNull();
    const [{ show }] = ways;
    for (let k = 10; k < 16; k++) show(at(k), picture(`p${k}`));
    expect(pictureAt(at(10))?.picture).toEqual(picture('p10'));
    // Three frames on: two were late and are dropped, and the worker is told.
    expect(pictureAt(at(13))?.picture).toEqual(picture('p13'));
    expect(asks('clock').at(-1)).toEqual(['clock', 13, 3]);
    // Until there is another the last one stays.
    expect(pictureAt(at(13))?.picture).toEqual(picture('p13'));
    expect(pictureAt(at(40))?.picture).toEqual(picture('p15'));
  });

  it('of the next time round a loop are not shown in this one', async () => {
    readAhead(project, at(20), { first: 10, end: 24 });
    await settled();
    const [{ show }] = ways;
    show(at(23), picture('end'));
    show(at(10, 1), picture('begin'));
    expect(pictureAt(at(23))?.picture).toEqual(picture('end'));
    expect(pictureAt(at(10, 1))?.picture).toEqual(picture('begin'));
  });

  it('asked for twice are made once; another project or another loop begins anew, and what comes late of the old is left', async () => {
    readAhead(project, at(0), null);
    readAhead(project, at(5), null);
    await settled();
    expect(asks('play')).toHaveLength(1);
    readAhead(project, at(5), { first: 5, end: 9 });
    await settled();
    expect(asks('play')).toHaveLength(2);
    ways[0].show(at(5), picture('old'));
    expect(pictureAt(at(6))).toBeNull();
    ways[1].show(at(5), picture('new'));
    expect(pictureAt(at(6))?.picture).toEqual(picture('new'));
  });

  it('after an edit what was ready plays on until there is a picture of the edit, and is not given back', async () => {
    readAhead(project, at(0), null);
    await settled();
    for (let k = 0; k < 6; k++) ways[0].show(at(k), picture(`old ${k}`));
    expect(pictureAt(at(1))?.picture).toEqual(picture('old 1'));
    const edited = { ...project };
    readAhead(edited, at(1), null);
    await settled();
    expect(pictureAt(at(3))?.picture).toEqual(picture('old 3'));
    expect(asks('clock').at(-1)).toEqual(['clock', 3, 0]);
    ways[1].show(at(4), picture('new 4'));
    ways[0].show(at(6), picture('too late'));
    expect(pictureAt(at(7))?.picture).toEqual(picture('new 4'));
    expect(asks('clock').at(-1)).toEqual(['clock', 7, 1]);
    // Another project is another film.
    ways[1].show(at(8), picture('new 8'));
    readAhead({ ...edited, id: 'two' }, at(8), null);
    await settled();
    expect(pictureAt(at(9))?.picture).toEqual(picture('new 4'));
  });

  it('are no more after a stop, which is told once', async () => {
    readAhead(project, at(0), null);
    await settled();
    ways[0].show(at(0), picture('a'));
    stopReading();
    stopReading();
    await settled();
    expect(asks('stop')).toHaveLength(1);
    expect(pictureAt(at(0))).toBeNull();
    ways[0].show(at(1), picture('b'));
    expect(pictureAt(at(1))).toBeNull();
  });

  it('what cannot be read, and a worker that ends, are said in a sentence', async () => {
    readAhead(project, at(0), null);
    await settled();
    ways[0].failed('“take.mp4” cannot be read.');
    expect(useProject.getState().problem).toBe('“take.mp4” cannot be read.');
    stopReading();
    ways[0].failed('too late');
    expect(useProject.getState().problem).toBe('“take.mp4” cannot be read.');
    dies = true;
    readAhead({ ...project, id: 'two' }, at(0), null);
    await settled();
    await settled();
    expect(useProject.getState().problem).toMatch(/^It could not be read to its end/);
  });

  it('a single frame is asked for after the project is given', async () => {
    expect(await filmPicture(project, 7)).toEqual({ frame: 7 });
    expect(asks('project')).toEqual([['project', 'one']]);
  });
});
