import { describe, expect, it } from 'vitest';
import { alignedTakeSchema, footageSchema, wholeOf } from '@/core/document';
import { stagedProject } from '@/core/staged';
import { checked } from './checked';

const { media } = stagedProject();
const footage = wholeOf(media[0]);

describe('a call to a worker', () => {
  it('is answered with all of its arguments where the first are what they must be', () => {
    const seconds = checked([footageSchema], ({ duration }: typeof footage, more: number) => duration + more);
    expect(seconds(footage, 2)).toBe(footage.duration + 2);
  });

  it('is refused with the place of what is wrong', () => {
    const asked: unknown[] = [];
    const call = checked([alignedTakeSchema], (take: unknown) => asked.push(take));
    expect(() => call({ media: { ...footage, from: -1 }, correction: null })).toThrow('media.from');
    expect(() => call({ media: footage })).toThrow('correction');
    expect(asked).toEqual([]);
    call({ media: footage, correction: null });
    expect(asked).toEqual([{ media: footage, correction: null }]);
  });
});
