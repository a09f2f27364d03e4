import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Key, keyAt, placeFrame, type Scene, trackOf } from '../layer';
import { ease, valueAt } from '../motion';
import { constantBeatMap } from '../time';
import { onBeat, placeAt, stretched, withKey, withMirrored, withMoved, withoutKeys } from './edit-keys';

const scene: Scene = { map: constantBeatMap(112, 0.25, 200), rate: { num: 25, den: 1 }, beat: 8, first: 110, end: 300 };
const framesOf = (keys: Key[]) => trackOf(scene, keys).map((k) => k.frame);

describe('keys of a shot', () => {
  it('a place stands for its frame wherever that is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 900 }), (frame) => {
        const place = placeAt(scene, frame);
        expect(placeFrame(scene, place)).toBe(frame);
        expect(Math.abs(place.offset)).toBeLessThanOrEqual(4);
      }),
    );
  });

  it('are added in order, changed where there is one, and never all removed', () => {
    let keys = withKey(scene, [], 150, 3);
    keys = withKey(scene, keys, 120, 1, 'ease in');
    keys = withKey(scene, keys, 150, 7);
    expect(trackOf(scene, keys)).toEqual([
      { frame: 120, value: 1, easing: 'ease in' },
      { frame: 150, value: 7, easing: 'linear' },
    ]);
    expect(framesOf(withoutKeys(scene, keys, new Set([120])))).toEqual([150]);
    expect(withoutKeys(scene, keys, new Set([120, 150]))).toHaveLength(1);
  });

  const keys = [120, 130, 150].map((f, i) => ({ ...placeAt(scene, f), value: 10 * i, easing: 'linear' as const }));

  it('many are moved, stretched and snapped together; one that is landed on gives way', () => {
    expect(framesOf(withMoved(scene, keys, new Set([120, 130]), (f) => f + 20))).toEqual([140, 150]);
    expect(framesOf(withMoved(scene, keys, new Set([120, 130, 150]), stretched([120, 130, 150], 2)))).toEqual([120, 140, 180]);
    const snapped = framesOf(withMoved(scene, keys, new Set([130]), (f) => onBeat(scene, f)));
    expect(Math.abs(snapped[1] - 130)).toBeLessThanOrEqual(4);
    expect(placeAt(scene, snapped[1]).offset).toBe(0);
  });

  it('mirrored they run the other way round, each span eased backwards, and twice mirrored they are as they were', () => {
    const eased = keys.map((k, i) => ({ ...k, easing: (['ease in', 'overshoot', 'linear'] as const)[i] }));
    const all = new Set([120, 130, 150]);
    const mirrored = withMirrored(scene, eased, all);
    for (let f = 120; f <= 150; f += 0.5)
      expect(valueAt(trackOf(scene, mirrored), 270 - f)).toBeCloseTo(valueAt(trackOf(scene, eased), f), 6);
    const again = withMirrored(scene, mirrored, new Set([120, 140, 150]));
    for (let f = 120; f <= 150; f += 0.5) expect(valueAt(trackOf(scene, again), f)).toBeCloseTo(valueAt(trackOf(scene, eased), f), 6);
    expect(ease('ease out', 0.3)).toBeCloseTo(1 - ease('ease in', 0.7), 9);
  });

  it('of two keys that come to one frame at another tempo the later stands', () => {
    const slow = { ...scene, map: constantBeatMap(300, 0, 400) };
    const close = [keyAt(1, 0, 1), keyAt(1.1, -1, 2)];
    expect(trackOf(slow, close).map((k) => k.value)).toEqual(placeFrame(slow, close[0]) === placeFrame(slow, close[1]) ? [2] : [2, 1]);
  });
});
