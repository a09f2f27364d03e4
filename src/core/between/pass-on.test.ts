import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { type FileSum, projectDocument } from '../exchange';
import { type Line, passOn, type Shelf, takeOver } from './pass-on';

const sha = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Two ends of a simulated line that is lost after so many bytes, and may change what passes. */
function simulated(lostAfter = Number.POSITIVE_INFINITY, change = (chunk: Uint8Array) => chunk): [Line, Line] {
  let left = lostAfter;
  const queues: (string | Uint8Array)[][] = [[], []];
  const wake: (() => void)[] = [() => undefined, () => undefined];
  const end = (me: 0 | 1): Line => ({
    async send(message) {
      left -= message.length;
      if (left < 0) {
        for (const w of wake) w();
        throw new Error('lost');
      }
      queues[1 - me].push(typeof message === 'string' ? message : change(message.slice()));
      wake[1 - me]();
    },
    async next() {
      while (queues[me].length === 0) {
        if (left < 0) throw new Error('lost');
        await new Promise<void>((there) => {
          wake[me] = there;
        });
      }
      return queues[me].shift() as string | Uint8Array;
    },
  });
  return [end(0), end(1)];
}

const filled = (size: number, seed: number) => Uint8Array.from({ length: size }, (_, i) => (i * 31 + seed * 17 + (i >> 8)) & 255);
const FILES = new Map([
  ['00000000000000000000000a', filled(9_500_000, 1)],
  ['00000000000000000000000b', filled(1000, 2)],
  ['00000000000000000000000c', new Uint8Array()],
]);
const sums: FileSum[] = [...FILES].map(([id, bytes]) => ({ id, bytes: bytes.length, sha256: sha(bytes) }));
const DOCUMENT = projectDocument({ name: 'Night shift', notes: 'ü—🎬'.repeat(60_000) }, sums);
const WRITTEN = new TextEncoder().encode(DOCUMENT).length;
const read = async (id: string, at: number, bytes: number) => (FILES.get(id) ?? new Uint8Array()).subarray(at, at + bytes);

/** A shelf in memory; what it has half stays for the next time. */
function shelf(have = new Map<string, Uint8Array>()) {
  const half = new Map<string, number[]>();
  const asked: string[] = [];
  const made: Shelf = {
    async begin(_, files) {
      const wants = files.filter((f) => !have.has(f.id)).map((file) => ({ file, have: half.get(file.sha256)?.length ?? 0 }));
      asked.push(...wants.map((w) => `${w.file.id.at(-1)} from ${w.have}`));
      return { ok: true, wants };
    },
    async put({ sha256 }, at, chunk) {
      const bytes = half.get(sha256) ?? [];
      expect(at).toBe(bytes.length);
      for (const byte of chunk) bytes.push(byte);
      half.set(sha256, bytes);
    },
    async finish({ id, sha256 }) {
      const bytes = Uint8Array.from(half.get(sha256) ?? []);
      half.delete(sha256);
      if (sha(bytes) !== sha256) return false;
      have.set(id, bytes);
      return true;
    },
  };
  return { made, have, asked };
}

const quiet = () => undefined;

describe('a project that goes from one device to another', () => {
  it('arrives byte for byte, and tells how far it is', async () => {
    const [a, b] = simulated();
    const { made, have } = shelf();
    const [gone, come]: [number[], [number, number][]] = [[], []];
    await Promise.all([passOn(a, DOCUMENT, read, (n) => gone.push(n)), takeOver(b, made, (n, of) => come.push([n, of]))]);
    for (const { id, sha256 } of sums) expect(sha(have.get(id) ?? filled(3, 3))).toBe(sha256);
    expect(gone.at(-1)).toBe(9_501_000);
    expect(come.at(-1)).toEqual([9_501_000, 9_501_000]);
    expect(come.every(([n], i) => i === 0 || n > come[i - 1][0])).toBe(true);
  });

  it('sends only what is lacking', async () => {
    const [a, b] = simulated(WRITTEN + 20_000);
    const { made, asked } = shelf(new Map([['00000000000000000000000a', FILES.get('00000000000000000000000a') as Uint8Array]]));
    await Promise.all([passOn(a, DOCUMENT, read, quiet), takeOver(b, made, quiet)]);
    expect(asked).toEqual(['b from 0', 'c from 0']);
  });

  it('goes on where it was broken off', async () => {
    const { made, have, asked } = shelf();
    const [a, b] = simulated(WRITTEN + 5_000_000);
    const first = await Promise.allSettled([passOn(a, DOCUMENT, read, quiet), takeOver(b, made, quiet)]);
    expect(first.map((r) => r.status)).toEqual(['rejected', 'rejected']);
    await Promise.all(((line) => [passOn(line[0], DOCUMENT, read, quiet), takeOver(line[1], made, quiet)])(simulated()));
    const again = /^a from (\d+)$/.exec(asked[3])?.[1];
    expect(Number(again)).toBeGreaterThan(4_000_000);
    for (const { id, sha256 } of sums) expect(sha(have.get(id) ?? filled(3, 3))).toBe(sha256);
  });

  it('asks once more for a file that came damaged, and says so when it does again', async () => {
    for (const times of [1, 2]) {
      let damage = times;
      const change = (chunk: Uint8Array) => {
        if (chunk.length === 1000 && damage-- > 0) chunk[500] ^= 1;
        return chunk;
      };
      const { made, have } = shelf();
      const [a, b] = simulated(undefined, change);
      const ends = await Promise.allSettled([passOn(a, DOCUMENT, read, quiet), takeOver(b, made, quiet)]);
      expect(ends.map((r) => r.status)).toEqual(times === 1 ? ['fulfilled', 'fulfilled'] : ['rejected', 'rejected']);
      expect(have.has('00000000000000000000000b')).toBe(times === 1);
      if (ends[0].status === 'rejected') expect(ends[0].reason.message).toMatch(/came over damaged twice/);
    }
  });

  it('is told why the other device cannot take it', async () => {
    const [a, b] = simulated();
    const full: Shelf = { ...shelf().made, begin: async () => ({ ok: false, reason: 'There is not enough room for it.' }) };
    const ends = await Promise.allSettled([passOn(a, DOCUMENT, read, quiet), takeOver(b, full, quiet)]);
    for (const end of ends) expect(end).toMatchObject({ status: 'rejected', reason: { message: 'There is not enough room for it.' } });
  });

  it('gives nothing that was not offered, and takes no file that is named like a path', async () => {
    for (const want of [
      { kind: 'want', id: '../secret', at: 0, bytes: 10 },
      { kind: 'want', id: sums[1].id, at: 999, bytes: 10 },
      { kind: 'want', id: sums[0].id, at: 0, bytes: 9_000_000 },
    ]) {
      const [a, b] = simulated();
      const sending = passOn(a, DOCUMENT, read, quiet);
      await b.send(JSON.stringify(want));
      await expect(sending).rejects.toThrow(/not understood/);
    }
    const [a, b] = simulated();
    const { made, asked } = shelf();
    const bad = projectDocument({}, [{ ...sums[1], id: '../../media/x' }]);
    await Promise.all([passOn(a, bad, read, quiet), takeOver(b, made, quiet)]);
    expect(asked).toEqual([]);
  });

  it.each([['nonsense'], ['{"kind":"document","bytes":-1}'], ['{"kind":"document","bytes":1e12}'], [new Uint8Array(4)]])(
    'ends with a sentence where %s comes in the place of a document',
    async (message) => {
      const [a, b] = simulated();
      await a.send(message as string);
      await expect(takeOver(b, shelf().made, quiet)).rejects.toThrow(/not understood/);
    },
  );
});
