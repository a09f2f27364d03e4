import { afterEach, expect, it, vi } from 'vitest';
import { concat, Parts } from './resumable';

afterEach(() => vi.useRealTimers());

it('hands over what arrays gained now and then; put together again they are the same', () => {
  vi.useFakeTimers();
  const all = { times: [] as number[], moves: [] as number[] };
  const parts: (typeof all)[] = [];
  const series = new Parts(all, (part) => parts.push(structuredClone(part)));
  for (let f = 0; f < 100; f++) {
    all.times.push(f);
    // One fewer, as for what is read against the frame before.
    if (f > 0) all.moves.push(f * f);
    vi.advanceTimersByTime(40);
    series.offer();
  }
  expect(parts.length).toBe(6);
  expect(parts[1].times[0]).toBe(parts[0].times.length);
  const again = concat({ times: [], moves: [] }, parts);
  expect(again.times).toEqual(all.times.slice(0, again.times.length));
  expect(again.moves).toEqual(all.moves.slice(0, again.times.length - 1));
  // What goes on from there hands over no part twice.
  const further = new Parts(again, (part) => parts.push(structuredClone(part)));
  again.times.push(1000);
  vi.advanceTimersByTime(2000);
  further.offer();
  expect(parts[6]).toEqual({ times: [1000], moves: [] });
  expect(concat({ times: [], moves: [] }, [])).toEqual({ times: [], moves: [] });
});
