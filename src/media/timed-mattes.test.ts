import { describe, expect, it } from 'vitest';
import { blackPlanes, type Coverage, type MatteCoverage } from '@/core/picture';
import { fitted, fittedMotion, readMattes, timedMattes } from './timed-mattes';

const map = { a: 2, b: 0, c: 4, d: 0, e: 2, f: 6 };
const timed = (matteId: string, time: number): MatteCoverage => ({ kind: 'matte', matteId, time, map });
const still: MatteCoverage = { kind: 'matte', matteId: 'kept', map };
const many = (...coverages: Coverage[]): Coverage => ({
  kind: 'many',
  parts: coverages.map((coverage) => ({ coverage, combine: 'add' as const, invert: false })),
});

describe('cut-outs over time that a picture needs', () => {
  it('are those of its coverage and of its exposure, each frame of each once; kept pictures are not among them', () => {
    const sample = (coverage: Coverage | null) => ({ map, coverage, ride: null });
    const layer = {
      coverage: many(still, timed('a', 1), timed('b', 1)),
      motion: { rest: timed('c', 2), samples: [sample(timed('a', 1)), sample(timed('a', 1.04)), sample(null)] },
    };
    expect(timedMattes(layer).map(({ matteId, time }) => [matteId, time])).toEqual([
      ['a', 1],
      ['b', 1],
      ['c', 2],
      ['a', 1.04],
    ]);
    expect(timedMattes({ coverage: null, motion: null })).toEqual([]);
  });

  it('are read as coverage under a name for each second, with how much they are reduced', async () => {
    const white = blackPlanes(4, 2);
    white.y.fill(235);
    const { rasters, reduced } = await readMattes([timed('a', 1), timed('a', 2)] as never, async ({ time }) => ({
      planes: time === 1 ? white : blackPlanes(8, 4),
      reduce: time,
    }));
    expect(rasters.get('a@1')).toMatchObject({ width: 4, height: 2 });
    expect((rasters.get('a@1') as { alpha: Uint8Array }).alpha.every((a) => a === 255)).toBe(true);
    expect((rasters.get('a@2') as { alpha: Uint8Array }).alpha.every((a) => a === 0)).toBe(true);
    expect([...reduced]).toEqual([
      ['a@1', 1],
      ['a@2', 2],
    ]);
  });

  it('one that cannot be read fails the picture', async () => {
    await expect(readMattes([timed('a', 1)] as never, () => Promise.reject(new Error('gone')))).rejects.toThrow('gone');
  });

  it('a coverage looks into them at the size they were read at, wherever they stand in it', () => {
    const reduced = new Map([['a@1', 2]]);
    const half = { a: 1, b: 0, c: 2, d: 0, e: 1, f: 3 };
    expect(fitted(timed('a', 1), reduced)).toEqual({ ...timed('a', 1), map: half });
    expect(fitted(many(still, timed('a', 1)), reduced)).toEqual(many(still, { ...timed('a', 1), map: half }));
    expect(fitted(still, reduced)).toBe(still);
    expect(fitted(null, reduced)).toBeNull();
    const motion = { rest: timed('a', 1), samples: [{ map, coverage: timed('a', 1), ride: null }] };
    expect(fittedMotion(motion, reduced)).toMatchObject({ rest: { map: half }, samples: [{ map, coverage: { map: half } }] });
    expect(fittedMotion(null, reduced)).toBeNull();
  });
});
