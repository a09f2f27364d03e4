import { describe, expect, it } from 'vitest';
import { constantBeatMap } from '../time';
import { keyAt, plainEffect, plainLayer, plainMask, remapKeyAt, seamMask, still } from './make';
import { LAYER_NUMBERS, maskNumber } from './numbers';
import { effectNumbers, layerFrames, layerNumber, layerTime, maskNumberAt, numberKindOf, placeFrame, type Scene, trackOf } from './scene';

const scene: Scene = { map: constantBeatMap(120, 0, 60), rate: { num: 25, den: 1 }, beat: 8, first: 100, end: 200 };
const take = { kind: 'take', takeId: 't' } as const;
const layer = (more = {}, pins = [remapKeyAt(0, 0, 3)]) => plainLayer('l', 'Layer', 0, take, pins, more);

describe('a layer where its shot lies', () => {
  it('places count from the shot’s beat, in frames of the film', () => {
    expect(placeFrame(scene, { beat: 0, offset: 0 })).toBe(100);
    expect(placeFrame(scene, { beat: 2, offset: -3 })).toBe(122);
    expect(placeFrame({ ...scene, beat: 10 }, { beat: 2, offset: -3 })).toBe(147);
  });

  it('is there from its begin to its end, within the shot', () => {
    expect(layerFrames(scene, layer())).toEqual([100, 200]);
    expect(layerFrames(scene, layer({ from: { beat: 2, offset: 0 }, to: { beat: 4, offset: 1 } }))).toEqual([125, 151]);
    expect(layerFrames(scene, layer({ from: { beat: -2, offset: 0 }, to: { beat: 40, offset: 0 } }))).toEqual([100, 200]);
  });

  it('its source runs from its pin at the speed said, whatever the tempo', () => {
    expect(layerTime(scene, layer()).sourceAt(4)).toBeCloseTo(3, 9);
    expect(layerTime(scene, layer()).sourceAt(5.5)).toBeCloseTo(4.5, 9);
    const slow = layerTime({ ...scene, map: constantBeatMap(60, 0, 60) }, layer());
    expect(slow.sourceAt(8)).toBeCloseTo(3, 9);
    const reversed = layerTime(scene, layer({}, [remapKeyAt(0, 0, 3, -1)]));
    expect(reversed.sourceAt(5)).toBeCloseTo(2, 9);
  });

  it('keyed speed moves its source by its integral, pinned on its first second', () => {
    const ramp = layer({ numbers: { speed: [keyAt(0, 0, 100), keyAt(2, 0, 300)] } });
    const time = layerTime(scene, ramp);
    expect(time.sourceAt(4)).toBeCloseTo(3, 9);
    // One second in which speed rises from 1 to 3: two seconds of the take.
    expect(time.sourceAt(5)).toBeCloseTo(5, 6);
    expect(time.speedAt(5)).toBeCloseTo(3, 9);
  });

  it('what was worked out for a list is not used where the tempo, the limits or the speed are others', () => {
    const l = layer();
    const one = layerTime(scene, l);
    expect(layerTime(scene, l)).toBe(one);
    expect(layerTime({ ...scene, beat: 10 }, l).sourceAt(5)).toBeCloseTo(3, 9);
    expect(layerTime(scene, { ...l, numbers: { speed: still(200) } }).sourceAt(5)).toBeCloseTo(5, 6);
    expect(layerTime(scene, l).sourceAt(5)).toBeCloseTo(4, 9);
  });
});

describe('numbers of a layer', () => {
  it('have their usual value where they are not set, and hold outside their keys', () => {
    for (const name of Object.keys(LAYER_NUMBERS) as (keyof typeof LAYER_NUMBERS)[])
      expect(layerNumber(scene, layer(), name, 150)).toBe(LAYER_NUMBERS[name].otherwise);
    const moved = layer({ numbers: { x: [keyAt(0, 0, 10), keyAt(2, 0, 20)] } });
    expect([90, 100, 112.5, 125, 300].map((f) => layerNumber(scene, moved, 'x', f))).toEqual([10, 10, 15, 20, 20]);
  });

  it('of two keys on one frame the later in the list stands', () => {
    const keys = [keyAt(0, 0, 1), keyAt(1, 0, 5), keyAt(2, -12.5, 7)];
    expect(placeFrame(scene, keys[1])).toBe(placeFrame(scene, { beat: 1, offset: 0 }));
    const track = trackOf(scene, [keyAt(2, 0, 1), keyAt(0, 50 - 25, 9), keyAt(0, 0, 3)]);
    expect(track.map(({ frame, value }) => [frame, value])).toEqual([
      [100, 3],
      [125, 9],
    ]);
  });

  it('masks and effects have those of their kind and no others', () => {
    const mask = plainMask('m', 'polygon', { inside: still(2), x0: still(10), y0: still(20) });
    const blur = plainEffect('e', 'blur');
    const l = layer({ masks: [mask, seamMask([], 3)], effects: [blur] });
    expect(numberKindOf(l, 'm', 'x0')?.label).toBe('Point 1 across');
    expect(numberKindOf(l, 'm', 'at')).toBeNull();
    expect(numberKindOf(l, 'seam', 'shift')?.unit).toBe('%');
    expect(numberKindOf(l, 'seam', 'x0')).toBeNull();
    expect(numberKindOf(l, null, 'opacity')?.max).toBe(100);
    expect(numberKindOf(l, null, 'inside')).toBeNull();
    expect(numberKindOf(l, 'gone', 'inside')).toBeNull();
    for (const name of Object.keys(blur.numbers)) expect(numberKindOf(l, 'e', name)).not.toBeNull();
    expect(maskNumber('line', 'x0')).toBeNull();
    expect(maskNumber('outline', 'y12')?.label).toBe('Point 13 down');
    expect(maskNumberAt(scene, mask, 'outside', 100)).toBe(1);
    expect(maskNumberAt(scene, mask, 'x0', 100)).toBe(10);
  });

  it('an effect as it begins changes nothing: every number is where it rests', () => {
    const numbers = effectNumbers(scene, { ...plainEffect('e', 'exposure'), numbers: {} }, 120);
    for (const value of Object.values(numbers)) expect(value).toBe(0);
  });
});
