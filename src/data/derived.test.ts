import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { db } from './db';
import { type Begun, derived, derivedInParts } from './derived';

const later = <T>(ms: number, value: T) => new Promise<T>((done) => setTimeout(() => done(value), ms));

describe('what is worked out', () => {
  it('is worked out once however many ask at the same time, and kept', async () => {
    let runs = 0;
    const work = () => {
      runs++;
      return later(20, 'figures');
    };
    expect(await Promise.all([derived('a', work), derived('a', work), derived('a', work)])).toEqual(['figures', 'figures', 'figures']);
    expect(await derived('a', work)).toBe('figures');
    expect(runs).toBe(1);
  });
  it('is worked out by whoever waited where the first one gives up', async () => {
    const stopped = Object.assign(new Error('Stopped.'), { name: 'Cancelled' });
    const first = derived('b', () => later(10, null).then(() => Promise.reject(stopped)));
    const second = derived('b', () => later(10, 2));
    await expect(first).rejects.toBe(stopped);
    expect(await second).toBe(2);
  });
  it('fails for all who wait where it cannot be worked out, and can be tried again', async () => {
    const bad = () => later(10, null).then(() => Promise.reject(new Error('No.')));
    const both = [derived('c', bad), derived('c', bad)];
    for (const one of both) await expect(one).rejects.toThrow('No.');
    expect(await derived('c', () => later(1, 3))).toBe(3);
  });
});

describe('what is worked out in parts', () => {
  const parts = (key: string) => db.derived.where('key').startsWith(`part of ${key}#`).count();

  it('goes on from what a run that was broken off had, and leaves no parts behind', async () => {
    const brokenOff = async ({ keep }: Begun<number>) => {
      for (const part of [1, 2, 3]) keep(part);
      await later(20, null);
      throw new Error('The page went away.');
    };
    await expect(derivedInParts<number, number>('d', brokenOff)).rejects.toThrow('went away');
    expect(await parts('d')).toBe(3);
    let had: number[] = [];
    const whole = await derivedInParts<number, number>('d', async ({ parts: begun, keep }) => {
      had = begun;
      keep(4);
      return begun.length + 1;
    });
    expect(had).toEqual([1, 2, 3]);
    expect(whole).toBe(4);
    expect(await parts('d')).toBe(0);
  });

  it('keeps its parts until the whole is kept: broken off between the two, nothing is lost', async () => {
    const seen: number[] = [];
    const put = db.derived.put.bind(db.derived);
    db.derived.put = ((row: { key: string; value: unknown }) =>
      parts('e').then((n) => {
        if (row.key === 'e') seen.push(n);
        return put(row as never);
      })) as never;
    await derivedInParts<string, number>('e', async ({ keep }) => {
      keep(1);
      keep(2);
      await later(30, null);
      return 'whole';
    });
    db.derived.put = put as never;
    expect(seen).toEqual([2]);
    expect(await parts('e')).toBe(0);
  });

  it('of two runs that were broken off the one that got furthest is gone on from', async () => {
    await db.derived.bulkPut([
      { key: 'part of f#one#000000', value: 'a' },
      { key: 'part of f#two#000000', value: 'p' },
      { key: 'part of f#two#000001', value: 'q' },
      // Its beginning was taken over by another.
      { key: 'part of f#three#000002', value: 'x' },
    ] as never);
    let had: string[] = [];
    await derivedInParts<number, string>('f', async ({ parts: begun }) => {
      had = begun;
      return 1;
    });
    expect(had).toEqual(['p', 'q']);
  });
});
