import { expect, it } from 'vitest';
import { beatContinuity } from './continuity';

const every = (gap: number, from: number, count: number) => Array.from({ length: count }, (_, k) => from + k * gap);

// Expected values by mir_eval 0.7 (`mir_eval.beat.continuity`, second value), after its `trim_beats`.
it.each([
  ['the same', every(0.5, 5.1, 40), every(0.5, 5.1, 40), 1],
  ['a little late and uneven', every(0.5, 5.1, 40).map((t, i) => t + 0.03 + 0.02 * Math.sin(i)), every(0.5, 5.1, 40), 1],
  ['twice as many', every(0.25, 5.1, 80), every(0.5, 5.1, 40), 0],
  ['midway', every(0.5, 5.35, 40), every(0.5, 5.1, 40), 0],
  ['half of the song midway', [...every(0.5, 5.1, 20), ...every(0.5, 15.35, 20)], every(0.5, 5.1, 40), 0.5],
  ['one of them missing', [...every(0.5, 5.1, 10), ...every(0.5, 10.6, 29)], every(0.5, 5.1, 40), 0.95],
  ['before five seconds', every(0.5, 0.1, 5), every(0.5, 0.1, 50), 0],
])('beats that go on as the true ones: %s', (_, found, truth, wanted) => {
  expect(beatContinuity(found, truth)).toBeCloseTo(wanted, 3);
});
