import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { derived } from './derived';

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
