import { expect, it } from 'vitest';
import { LOOKS, lookOf } from './look';

it('is dark where it was chosen, on the device that is, or while shooting', () => {
  const found = LOOKS.map(([choice]) => [
    choice,
    ...(['/shoot', '/score'] as const).flatMap((path) => [false, true].map((dark) => lookOf(choice, path, dark))),
  ]);
  expect(found).toEqual([
    ['stage', 'night', 'night', 'day', 'day'],
    ['day', 'day', 'day', 'day', 'day'],
    ['night', 'night', 'night', 'night', 'night'],
    ['device', 'day', 'night', 'day', 'night'],
  ]);
});
