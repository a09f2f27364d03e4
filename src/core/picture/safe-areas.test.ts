import { expect, it } from 'vitest';
import { safeAreas } from './safe-areas';

it('a picture of 1920 × 1080 keeps the lines and pixels of EBU R 95 (values from memory)', () => {
  const [action, titles] = safeAreas(1920, 1080);
  expect(action.name).toBe('action');
  // 67 pixels and 38 lines; 96 pixels and 54 lines.
  expect([action.left, action.top].map(Math.round)).toEqual([67, 38]);
  expect([1920 - action.right, 1080 - action.bottom].map(Math.round)).toEqual([67, 38]);
  expect([titles.left, titles.top].map(Math.round)).toEqual([96, 54]);
});

it('an upright picture keeps more free below than above, a square one the same all around', () => {
  const [upright] = safeAreas(1080, 1920);
  expect(1920 - upright.bottom).toBeGreaterThan(upright.top);
  const [square, ...more] = safeAreas(1080, 1080);
  expect(more).toEqual([]);
  expect(square.left).toBeCloseTo(1080 - square.right, 9);
  expect(square.top).toBeCloseTo(square.left, 9);
});
