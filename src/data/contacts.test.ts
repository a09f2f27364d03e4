import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project, Take } from '@/core/document';
import { packed, type Reach } from '@/core/measure';
import { stagedProject } from '@/core/staged';
import type { OccupancyTrack } from '@/media/set-up';

const [W, H] = [32, 18];
/** A figure over columns, as its occupancy keeps it. */
const figure = (from: number, to: number) => {
  const data = new Uint8Array(W * H);
  for (let y = 6; y < 12; y++) data.fill(1, y * W + from, y * W + to);
  return packed({ width: W, height: H, data });
};
const tracks: Record<string, OccupancyTrack> = {};
const reaches: Record<string, Reach | null> = {};
let exposures: unknown[] = [];
let steps: (number | null)[] = [];
vi.mock('./jobs', () => ({
  Cancelled: class extends Error {},
  inWorker: async (_: unknown, __: unknown, work: (api: unknown, tell: unknown) => unknown) =>
    work(
      {
        furthest: async (track: OccupancyTrack, side: string) => (side === 'right' ? (track.times.at(-1) ?? null) : null),
        reach: async (_track: unknown, take: string, _at: number, _side: string, exposure: number) => {
          exposures.push(exposure);
          return reaches[take];
        },
        seekSeam: async (a: { from: number }, b: { from: number }) => {
          const step = steps.shift() ?? null;
          return { paths: step === null ? [] : [{}], step, from: [a.from, b.from] };
        },
      },
      (listener: unknown) => listener,
    ),
}));
vi.mock('./media', () => ({ takeMeasurement: async () => ({ against: { light: { exposure: 0.2 } } }) }));
vi.mock('./set-up', () => ({
  aligned: async (_: unknown, take: Take) => ({ media: take.id, correction: null }),
  occupancyTrack: async (_: unknown, take: Take) => tracks[take.id],
  referenceFor: (project: Project) => project.takes[0],
  setPlate: async () => ({}),
  setUpWorker: () => ({}),
}));
const { furthestIn, rankContacts } = await import('./contacts');

const project = stagedProject();
const [one, two, three] = project.takes;
const quiet = () => undefined;
const reach = (take: string, x: number, y = 9): Reach =>
  ({ take, time: 2, x, y, vx: 0, vy: 0, exposure: 0, side: 'right' }) as unknown as Reach;

beforeEach(() => {
  exposures = [];
  steps = [];
  for (const { id } of project.takes)
    tracks[id] = { width: W, height: H, factor: 40, times: [0, 1, 2], figure: [null, null, figure(4, 12)], shadow: [null, null, null] };
  tracks.t2.figure[2] = figure(14, 20);
  tracks.t3.figure[2] = figure(24, 30);
  Object.assign(reaches, { t1: reach('t1', 12), t2: reach('t2', 14), t3: reach('t3', 24) });
});

describe('takes that touch across the seam', () => {
  it('the nearest pair comes first, with what its seam shows', async () => {
    steps = [3, 5];
    const told: number[] = [];
    const { fits, across } = await rankContacts(
      project,
      [{ take: one, at: 2 }],
      [
        { take: two, at: 2 },
        { take: three, at: 2 },
      ],
      (p) => told.push(p),
    );
    expect(fits.map((f) => [f.a.take, f.b.take, f.seam])).toEqual([
      ['t1', 't2', 3],
      ['t1', 't3', 5],
    ]);
    expect(fits[0].gap).toBeLessThan(fits[1].gap);
    expect(across).toBe(W);
    expect(told.at(-1)).toBe(1);
    expect(told.every((p, i) => i === 0 || p >= told[i - 1])).toBe(true);
    // The light is what each was measured to differ by.
    expect(exposures).toEqual([0.2, 0.2, 0.2]);
  });

  it('a take in which nobody is seen is left out; a pair without a seam is told so', async () => {
    reaches.t3 = null;
    steps = [null];
    const { fits } = await rankContacts(
      project,
      [{ take: one, at: 2 }],
      [
        { take: two, at: 2 },
        { take: three, at: 2 },
      ],
      quiet,
    );
    expect(fits.map((f) => [f.b.take, f.seam])).toEqual([['t2', null]]);
  });

  it('can be stopped between pairs', async () => {
    const stop = new AbortController();
    stop.abort();
    await expect(rankContacts(project, [{ take: one, at: 2 }], [{ take: two, at: 2 }], quiet, stop.signal)).rejects.toThrow();
  });

  it('of no takes there are no pairs', async () => {
    expect(await rankContacts(project, [], [], quiet)).toEqual({ fits: [], across: 1 });
  });

  it('where a figure reaches furthest is asked of its occupancy', async () => {
    expect(await furthestIn(project, one, 'right', quiet)).toBe(2);
    expect(await furthestIn(project, one, 'left', quiet)).toBeNull();
  });
});
