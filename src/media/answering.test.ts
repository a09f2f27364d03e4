import { describe, expect, it } from 'vitest';
import { answering } from './answering';
import { sentenceOf } from './sentence';

async function* numbers(count: number, stuckAt = Number.POSITIVE_INFINITY): AsyncGenerator<number, void, unknown> {
  for (let i = 0; i < count; i++) {
    if (i === stuckAt) await new Promise(() => undefined);
    yield i;
  }
}

const all = async (source: AsyncGenerator<number, void, unknown>) => {
  const out: number[] = [];
  for await (const n of source) out.push(n);
  return out;
};

describe('a source that may stop answering', () => {
  it('gives the same values', async () => {
    expect(await all(answering(numbers(5)))).toEqual([0, 1, 2, 3, 4]);
  });

  it('is given up with a sentence', async () => {
    await expect(all(answering(numbers(5, 3), 30))).rejects.toThrow(/The decoder stopped answering/);
  });

  it('is waited for by itself each time: a reader that takes its time is not held against it', async () => {
    const out: number[] = [];
    for await (const n of answering(numbers(4), 40)) {
      out.push(n);
      await new Promise((resolve) => setTimeout(resolve, 60));
    }
    expect(out).toEqual([0, 1, 2, 3]);
  });

  it('ends its source where the reader has had enough', async () => {
    let ended = false;
    async function* watched() {
      try {
        yield 1;
        yield 2;
      } finally {
        ended = true;
      }
    }
    for await (const _ of answering(watched())) break;
    await Promise.resolve();
    expect(ended).toBe(true);
  });
});

describe('a sentence for whatever was thrown', () => {
  it.each([
    [new Error('Decoding error.'), /could not be decoded/],
    [Object.assign(new Error('The operation failed'), { name: 'QuotaExceededError' }), /storage is full.*Free some space/],
    [Object.assign(new Error('x'), { name: 'NotReadableError' }), /moved, changed or taken out/],
    [new RangeError('Array buffer allocation failed'), /more memory than this device gives/],
    [new TypeError("Cannot read properties of undefined (reading 'x')"), /could not be read to its end/],
    ['plain text', /plain text/],
    [undefined, /could not be read/],
  ])('%s', (error, expected) => {
    const text = sentenceOf(error);
    expect(text).toMatch(expected);
    expect(text).toMatch(/^\p{Lu}[\s\S]+\.$/u);
  });

  it('leaves our own as they are', () => {
    const own = 'There is no picture in the file at that second: it breaks off before.';
    expect(sentenceOf(new Error(own))).toBe(own);
  });
});
