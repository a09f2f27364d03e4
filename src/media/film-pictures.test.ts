import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { shotFrames } from '@/core/evaluate';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { planesOver } from '@/core/picture';
import { stagedProject } from '@/core/staged';
import type { Give, Painter } from './film-pictures';
import type { Pictures } from './pictures';

/** Milliseconds that drawing a frame takes, what was drawn here, and what was passed over. */
const cost = { ms: 0 };
let here: number[] = [];
let passed: number[] = [];
const broken = new Set<number>();
/** Where the helpers drew. */
const buffers = new Set<ArrayBuffer>();
vi.mock('./painting', () => ({
  paint: async ({ frame }: { frame: number }, planes: { y: Uint8Array }) => {
    if (broken.has(frame)) throw new Error(`frame ${frame} cannot be read`);
    const until = performance.now() + cost.ms;
    while (performance.now() < until);
    here.push(frame);
    planes.y.fill(frame % 251);
  },
}));
vi.mock('./film-takes', () => ({
  FilmTakes: class {
    frame = async () => undefined;
    pass = async ({ frame }: { frame: number }) => void passed.push(frame);
    close = async () => undefined;
  },
}));
vi.mock('./pictures', () => ({ picturesOf: async () => ({}) }));
const { FilmPictures, paintFrames } = await import('./film-pictures');

const frame = { width: 16, height: 16, rate: { num: 25, den: 1 } };
const shot = (id: string, beat: number) =>
  plainShot(
    id,
    id,
    { beat, offset: 0 },
    { beat: beat + 2, offset: 0 },
    {
      layers: [plainLayer(id, id, 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)])],
    },
  );
const project: Project = { ...stagedProject(), frame, shots: [shot('a', 8), shot('b', 10)] };
const [first, cut] = shotFrames(project, project.shots[0]);
const end = shotFrames(project, project.shots[1])[1];

/** A helper that draws as helpers do, its own list of frames noted. */
function helper(drawn: number[][], fails = -1): Painter {
  return {
    stop: () => undefined,
    paint: async (of, frames, give) => {
      drawn.push([...frames]);
      const noted = here;
      const counted: Give = async (frame, bytes) => {
        if (frame === fails) throw new Error('The helper died.');
        if (bytes) buffers.add(bytes.buffer);
        return give(frame, bytes);
      };
      await paintFrames(of, frames, counted);
      here = noted.filter((f) => !frames.includes(f));
    },
  };
}

async function film(helpers: Painter[]): Promise<number[]> {
  const pictures = new FilmPictures(project, first, end, {} as Pictures, () => helpers);
  const out: number[] = [];
  try {
    for (let frame = first; frame < end; frame++) {
      const bytes = new Uint8Array(384);
      await pictures.into(frame, planesOver(bytes, 16, 16), bytes);
      out.push(bytes[0]);
    }
  } finally {
    await pictures.close();
  }
  return out;
}
const every = Array.from({ length: end - first }, (_, i) => (first + i) % 251);

beforeEach(() => {
  here = [];
  passed = [];
  broken.clear();
  buffers.clear();
});

describe('the pictures of a film', () => {
  it('that are quick to draw are all drawn here, and no helper is started', async () => {
    cost.ms = 0;
    const start = vi.fn(() => []);
    const pictures = new FilmPictures(project, first, end, {} as Pictures, start);
    for (let f = first; f < end; f++) await pictures.into(f, planesOver(new Uint8Array(384), 16, 16), new Uint8Array(384));
    await pictures.close();
    expect(start).not.toHaveBeenCalled();
  });

  it('that are slow are shared out shot by shot, each frame drawn once, and come in order', async () => {
    cost.ms = 42;
    const drawn: number[][] = [];
    expect(await film([helper(drawn), helper(drawn)])).toEqual(every);
    // Two helpers in two shots, none of whose frames lie in another shot.
    expect(drawn).toHaveLength(4);
    for (const [i, frames] of drawn.entries()) {
      expect(frames.every((f) => (i < 2 ? f < cut : f >= cut))).toBe(true);
      expect(frames.slice(1).every((f, k) => f - frames[k] === 3)).toBe(true);
    }
    // Each helper draws in the same two frames by turns, in each shot.
    expect(buffers.size).toBeLessThanOrEqual(8);
    // What a helper drew is passed over in the takes that are read here.
    expect(passed.toSorted((a, b) => a - b)).toEqual(drawn.flat().sort((a, b) => a - b));
  }, 30_000);

  it('of a helper that dies are drawn here', async () => {
    cost.ms = 42;
    const drawn: number[][] = [];
    const [a] = [first + 12];
    expect(await film([helper(drawn, a), helper(drawn, a)])).toEqual(every);
  }, 30_000);

  it('that cannot be read say so here, on their frame, whoever was to draw them', async () => {
    cost.ms = 42;
    broken.add(first + 14);
    broken.add(first + 15);
    const drawn: number[][] = [];
    await expect(film([helper(drawn)])).rejects.toThrow(`frame ${first + 14} cannot be read`);
  }, 30_000);
});
