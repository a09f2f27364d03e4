import { describe, expect, it } from 'vitest';
import { describeFrame, sceneOf } from '../evaluate';
import { type Layer, layerFrames, layerNumber, plainLayer, plainMask, remapKeyAt, still } from '../layer';
import { blackPlanes, type Coverage, compose, STAY, wholeLayer } from '../picture';
import { stagedProject } from '../staged';
import { type EntranceOf, withEntrance } from './entrances';
import { plainShot } from './propose';

const PROJECT = { ...stagedProject(), frame: { width: 160, height: 90, rate: { num: 25, den: 1 } } };
const plain = plainLayer('l', 'Layer', 0, { kind: 'colour', r: 1, g: 1, b: 1 }, [remapKeyAt(0, 0, 0)], {
  from: { beat: 2, offset: 0 },
  to: { beat: 10, offset: 0 },
});
const shotOf = (layer: Layer) => plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 24, offset: 0 }, { layers: [layer] });
const scene = sceneOf(PROJECT, shotOf(plain));
const [first, end] = layerFrames(scene, plain);
const entered = (of: Partial<EntranceOf>, layer = plain) =>
  withEntrance(scene, layer, PROJECT.frame, { how: 'wipe', side: 'in', frames: 8, angle: 90, ...of }, 'm');

/** Mean share of the layer that is seen in the left, middle and right third of the frame. */
function seen(layer: Layer, frame: number): number[] {
  const [description] = describeFrame({ ...PROJECT, shots: [shotOf(layer)] }, frame).layers;
  if (!description) return [0, 0, 0];
  const [out, white] = [blackPlanes(160, 90), blackPlanes(160, 90)];
  white.y.fill(235);
  compose([wholeLayer(white, { map: STAY, coverage: description.coverage as Coverage | null })], out);
  return [0, 1, 2].map((third) => {
    let [sum, n] = [0, 0];
    for (let y = 0; y < 90; y++)
      for (let x = Math.ceil((third * 160) / 3); x < ((third + 1) * 160) / 3; x++, n++) sum += (out.y[y * 160 + x] - 16) / 219;
    return Math.round(100 * (sum / n)) / 100;
  });
}

describe('a layer that comes in or goes out', () => {
  it('by a wipe from the left, to the right; whole between', () => {
    const layer = entered({});
    expect(seen(layer, first)).toEqual([0, 0, 0]);
    const [left, , right] = seen(layer, first + 3);
    expect(left).toBeGreaterThan(0.95);
    expect(right).toBeLessThan(0.05 + seen(layer, first + 4)[2]);
    expect(seen(layer, first + 8)).toEqual([1, 1, 1]);
    expect(seen(layer, end - 1)).toEqual([1, 1, 1]);
    // Out, the edge goes the same way: what lies left goes first.
    const gone = entered({ side: 'out' });
    expect(seen(gone, end - 8)).toEqual([1, 1, 1]);
    const [leftOut, , rightOut] = seen(gone, end - 3);
    expect(leftOut).toBeLessThan(rightOut);
    expect(seen(gone, end - 1)[2]).toBeLessThan(1);
  });

  it('by an iris from the middle; both ends at once, and only within the masks there were', () => {
    const both = entered({ how: 'iris', side: 'out' }, entered({ how: 'iris' }));
    expect(both.masks.map((m) => m.combine)).toEqual(['add', 'intersect']);
    expect(seen(both, first)).toEqual([0, 0, 0]);
    const [left, middle] = seen(both, first + 2);
    expect(middle).toBeGreaterThan(left);
    expect(seen(both, first + 20)).toEqual([1, 1, 1]);
    expect(seen(both, end - 1)[0]).toBe(0);
    const half = { ...plain, masks: [plainMask('half', 'line', { at: still(50), angle: still(90), inside: still(0), outside: still(0) })] };
    expect(seen(entered({}, half), first + 20)).toEqual(seen(half, first + 20));
  });

  it('by a slide from outside the frame, to where it lies', () => {
    const off = { ...plain, numbers: { x: still(10) } };
    const x = (layer: Layer, frame: number) => layerNumber(scene, layer, 'x', frame);
    const layer = entered({ how: 'slide' }, off);
    expect([x(layer, first), x(layer, first + 8), x(layer, end - 1)]).toEqual([-90, 10, 10]);
    const down = entered({ how: 'slide', side: 'out', angle: 180 });
    const y = (frame: number) => layerNumber(scene, down, 'y', frame);
    expect([y(first), y(end - 8), y(end)]).toEqual([0, 0, expect.closeTo(100, 6)]);
    expect(down.numbers.x).toBeUndefined();
  });

  it('by a fade as fades are; no longer than it is there; for no frame at all it stays as it was', () => {
    expect(layerNumber(scene, entered({ how: 'fade', frames: 4 }), 'opacity', first + 2)).toBe(50);
    const long = entered({ frames: 1e4 });
    expect(seen(long, end)).toEqual([0, 0, 0]);
    expect(seen(long, end - 1)[0]).toBe(1);
    expect(entered({ frames: 0.2 })).toBe(plain);
  });
});
