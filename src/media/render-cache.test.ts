import { describe, expect, it } from 'vitest';
import type { Picture } from './picture';
import { type PictureFiles, RenderCache } from './render-cache';

const picture = (value: number, size = 100): Picture => ({ width: 5, height: size / 20, rgba: new Uint8ClampedArray(size).fill(value) });

/** Files in memory; pictures as their bytes. */
function cacheOn(share: number, there: Map<string, Blob> = new Map()) {
  const files: PictureFiles = {
    list: async () => [...there].map(([name, { size }]) => [name, size]),
    read: async (name) => {
      const found = there.get(name);
      if (!found) throw new Error('gone');
      return found;
    },
    write: async (name, bytes) => void there.set(name, bytes),
    remove: async (name) => void there.delete(name),
  };
  const coding = {
    encode: async ({ rgba }: Picture) => new Blob([rgba]),
    decode: async (bytes: Blob): Promise<Picture> => {
      const rgba = new Uint8ClampedArray(await bytes.arrayBuffer());
      return { width: 5, height: rgba.length / 20, rgba };
    },
  };
  return { cache: new RenderCache(share, files, coding), there };
}

describe('pictures that were drawn before', () => {
  it('are there again in the next session, and told apart by all that is in them', async () => {
    const { cache, there } = cacheOn(1000);
    const [a, b] = await Promise.all(['one', 'other'].map((text) => cache.nameOf(text)));
    expect(a).not.toBe(b);
    expect(a).toMatch(/^[0-9a-f]{32}$/);
    await cache.put(a, picture(7));
    const { cache: next } = cacheOn(1000, there);
    expect((await next.get(a))?.rgba[3]).toBe(7);
    expect(await next.get(b)).toBeNull();
    expect(next.size).toBe(1);
  });

  it('keep to their share: what was used longest ago goes', async () => {
    const { cache, there } = cacheOn(300);
    for (const name of ['a', 'b', 'c']) await cache.put(name, picture(1));
    await cache.get('a');
    await cache.put('d', picture(1));
    expect([...there.keys()]).toEqual(['a', 'c', 'd']);
    await cache.put('large', picture(1, 1000));
    expect(there.size).toBe(0);
  });

  it('that are gone or damaged are drawn again, and one that cannot be written harms nothing', async () => {
    const { cache, there } = cacheOn(300);
    await cache.put('a', picture(1));
    there.delete('a');
    expect(await cache.get('a')).toBeNull();
    expect(cache.size).toBe(0);
    await cache.put('a', picture(2));
    expect((await cache.get('a'))?.rgba[0]).toBe(2);
    there.set = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
    await cache.put('b', picture(3));
    expect(await cache.get('b')).toBeNull();
  });
});
