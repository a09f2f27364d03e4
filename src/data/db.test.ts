import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { db } from './db';
import { derivedInParts } from './derived';

beforeEach(() => db.derived.clear());

const kept = async () => (await db.derived.toArray()).filter((row) => row.key.startsWith('part of'));

describe('long work in parts', () => {
  it('goes on from what an interrupted run kept, and leaves nothing but the result', async () => {
    const broken = derivedInParts<number[], number[]>('sums', async ({ keep }) => {
      keep([1, 2]);
      keep([3]);
      throw new Error('reloaded');
    });
    await expect(broken).rejects.toThrow('reloaded');
    expect(await kept()).toHaveLength(2);
    const done = await derivedInParts<number[], number[]>('sums', async ({ parts, keep }) => {
      keep([4]);
      return [...parts.flat(), 4];
    });
    expect(done).toEqual([1, 2, 3, 4]);
    expect(await kept()).toEqual([]);
    expect(await derivedInParts('sums', () => Promise.reject(new Error('not again')))).toEqual([1, 2, 3, 4]);
  });

  it('does not mix the runs of two tabs: it goes on from the one that got further', async () => {
    vi.resetModules();
    const other = await import('./derived');
    // Its data base is open before the two begin side by side.
    await other.derived('opened', async () => true);
    const tabs = [derivedInParts, other.derivedInParts];
    const runs = [
      [['a0'], ['a1']],
      [['b0'], ['b1'], ['b2']],
    ].map((parts, tab) =>
      tabs[tab]<string, string[]>('two', async ({ keep }) => {
        for (const part of parts) {
          keep(part);
          await new Promise((done) => setTimeout(done, 2));
        }
        throw new Error('reloaded');
      }).catch(() => undefined),
    );
    await Promise.all(runs);
    const [before] = [await kept()];
    expect(before).toHaveLength(5);
    await derivedInParts<string, string[]>('two', async ({ parts }) => {
      expect(parts).toEqual([['b0'], ['b1'], ['b2']]);
      return 'done';
    });
    expect(await kept()).toEqual([]);
  });
});

describe('a data base of the version before', () => {
  it('brings kept whips along as kept moves', async () => {
    db.close();
    await Dexie.delete('fickle-ribbon');
    const old = new Dexie('fickle-ribbon');
    old.version(1).stores({ projects: 'id, changed', history: '[projectId+index], projectId', derived: 'key', settings: 'key' });
    const whip = { name: 'Punch in', seconds: 0.48, way: 'zoom', travel: 2, shutter: 180 };
    await old.table('settings').put({ key: 'kept whips', value: [whip] });
    old.close();
    await db.open();
    expect((await db.settings.get('kept moves'))?.value).toEqual([
      { name: 'Punch in', kind: 'whip', numbers: { way: 'zoom', travel: 2, shutter: 180 }, seconds: { frames: 0.48 } },
    ]);
    expect(await db.settings.get('kept whips')).toBeUndefined();
  });
});
