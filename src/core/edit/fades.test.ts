import { describe, expect, it } from 'vitest';
import { sceneOf } from '../evaluate';
import { keyAt, type Layer, layerFrames, layerNumber, plainLayer, remapKeyAt, still } from '../layer';
import { stagedProject } from '../staged';
import { fadeOf, withFade } from './fades';
import { plainShot } from './propose';

const PROJECT = stagedProject();
const layer = (more: Partial<Layer> = {}) =>
  plainLayer('l', 'Layer', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)], {
    from: { beat: 2, offset: 0 },
    to: { beat: 8, offset: 0 },
    ...more,
  });
const scene = sceneOf(PROJECT, plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 24, offset: 0 }, { layers: [] }));
const [first, end] = layerFrames(scene, layer());
const opacity = (l: Layer, frame: number) => layerNumber(scene, l, 'opacity', frame);

describe('a layer that fades', () => {
  it('comes in by even steps over so many frames and goes out over others, and is whole between', () => {
    const faded = withFade(scene, withFade(scene, layer(), 'in', 4), 'out', 6);
    expect([0, 1, 2, 3, 4, 20].map((k) => opacity(faded, first + k))).toEqual([0, 25, 50, 75, 100, 100]);
    expect([7, 6, 3, 1].map((k) => Math.round(opacity(faded, end - k)))).toEqual([100, 100, 50, 17]);
    expect([fadeOf(scene, faded, 'in'), fadeOf(scene, faded, 'out')]).toEqual([4, 6]);
    expect([fadeOf(scene, layer(), 'in'), fadeOf(scene, layer(), 'out')]).toEqual([0, 0]);
  });

  it('to what it was: forty per cent stay forty per cent', () => {
    const faded = withFade(scene, layer({ numbers: { opacity: [...still(40)] } }), 'in', 5);
    expect([opacity(faded, first), opacity(faded, first + 5), opacity(faded, end - 1)]).toEqual([0, 40, 40]);
  });

  it('made longer, shorter and taken out again leaves no key behind', () => {
    for (const side of ['in', 'out'] as const) {
      const once = withFade(scene, layer(), side, 4);
      expect(withFade(scene, withFade(scene, once, side, 12), side, 4)).toEqual(once);
      const none = withFade(scene, once, side, 0);
      expect(none.numbers.opacity?.map((k) => k.value)).toEqual([100]);
      expect(fadeOf(scene, none, side)).toBe(0);
    }
  });

  it('leaves what is keyed beyond it', () => {
    const keyed = layer({ numbers: { opacity: [keyAt(4, 0, 100), keyAt(5, 0, 20), keyAt(6, 0, 100)] } });
    const faded = withFade(scene, keyed, 'in', 3);
    for (let frame = first + 3; frame < end; frame++) expect(opacity(faded, frame)).toBeCloseTo(opacity(keyed, frame), 9);
    expect(opacity(faded, first)).toBe(0);
  });

  it('is no longer than the layer', () => {
    expect(fadeOf(scene, withFade(scene, layer(), 'in', 9999), 'in')).toBe(end - first);
  });
});
