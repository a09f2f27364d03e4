import { describe, expect, it } from 'vitest';
import type { Project, Shot, Transition } from '../document';
import { plainShot } from '../edit/propose';
import { keyAt, plainLayer, plainMask, remapKeyAt, still } from '../layer';
import { stagedProject } from '../staged';
import { describeFrame } from './describe';
import type { LayerDescription } from './description';
import { scaledPicture } from './scale';
import { shotFrames } from './shot-scene';

const at = (beat: number) => ({ beat, offset: 0 });
const shot = (id: string, from: number, to: number, takeId: string, transition?: Partial<Transition>): Shot =>
  plainShot(id, id, at(from), at(to), {
    layers: [plainLayer('l', 'Layer', 0, { kind: 'take', takeId }, [remapKeyAt(0, 0, 2)])],
    ...(transition && { transition: { kind: 'dissolve', frames: 6, angle: 90, r: 0, g: 0, b: 0, ...transition } }),
  });
const film = (...shots: Shot[]): Project => ({ ...stagedProject(), shots });
const nested = (layer: LayerDescription) => (layer.source.kind === 'shot' ? (layer.source.picture.layers as LayerDescription[]) : []);
const takeIn = (layer: LayerDescription) =>
  nested(layer).map(({ source }) => (source.kind === 'take' ? [source.takeId, source.time] : []))[0];

describe('a dissolve', () => {
  const project = film(shot('a', 4, 8, 't1'), shot('b', 8, 12, 't2', {}));
  const [cut] = shotFrames(project, project.shots[1]);

  it('takes its frames around the cut, half before and half after, rising evenly', () => {
    const opacities = [-4, -3, -2, -1, 0, 1, 2, 3].map((k) => {
      const { layers, shotId } = describeFrame(project, cut + k);
      return shotId === 'transition' ? layers.at(-1)?.opacity : null;
    });
    expect(opacities[0]).toBeNull();
    expect(opacities[7]).toBeNull();
    for (const [i, o] of opacities.slice(1, 7).entries()) expect(o).toBeCloseTo((i + 0.5) / 6, 9);
  });

  it('both shots go on beyond their ends while it lasts', () => {
    const { layers } = describeFrame(project, cut + 1);
    expect(layers.map((l) => l.layerId)).toEqual(['leaving', 'coming']);
    const [aFirst] = shotFrames(project, project.shots[0]);
    expect(takeIn(layers[0])).toEqual(['t1', expect.closeTo(2 + (cut + 1 - aFirst) / 25, 6)]);
    expect(takeIn(layers[1])).toEqual(['t2', expect.closeTo(2 + 1 / 25, 6)]);
    expect(takeIn(describeFrame(project, cut - 2).layers[1])).toEqual(['t2', expect.closeTo(2 - 2 / 25, 6)]);
  });

  it('after nothing comes out of black, and is drawn smaller as any picture', () => {
    const alone = film(shot('b', 8, 12, 't2', {}));
    const { layers } = describeFrame(alone, cut);
    expect(layers.map((l) => l.layerId)).toEqual(['coming']);
    const small = scaledPicture(describeFrame(project, cut), 0.5);
    expect([small.width, (small.layers[0].source as { picture: { width: number } }).picture.width]).toEqual([640, 640]);
  });

  it('is not there where another shot lies over the one that comes', () => {
    const hidden = film(shot('b', 8, 12, 't2', {}), shot('over', 8, 10, 't1'));
    expect(describeFrame(hidden, cut).shotId).toBe('over');
  });
});

describe('the other ways in', () => {
  const frameOf = (transition: Partial<Transition>, k: number) => {
    const project = film(shot('a', 4, 8, 't1'), shot('b', 8, 12, 't2', { frames: 10, ...transition }));
    return describeFrame(project, shotFrames(project, project.shots[1])[0] + k);
  };
  it('a dip shows one shot after the other under its colour, which is whole in the middle', () => {
    const colour = (k: number) => frameOf({ kind: 'dip', r: 1 }, k).layers.at(-1);
    expect(frameOf({ kind: 'dip' }, -3).layers[0].layerId).toBe('leaving');
    expect(frameOf({ kind: 'dip' }, 2).layers[0].layerId).toBe('coming');
    expect(colour(-1)?.opacity).toBeCloseTo(0.9, 9);
    expect(colour(0)?.opacity).toBeCloseTo(0.9, 9);
    expect(colour(-5)?.opacity).toBeCloseTo(0.1, 9);
    expect(colour(0)?.source).toEqual({ kind: 'colour', r: 1, g: 0, b: 0 });
  });
  it('a slide comes from its side and ends where it lies', () => {
    const c = (k: number) => frameOf({ kind: 'slide', angle: 90 }, k).layers.at(-1)?.map.c ?? 0;
    expect(c(-5)).toBeGreaterThan(1200);
    expect(c(4)).toBeLessThan(15);
    for (let k = -4; k < 5; k++) expect(c(k)).toBeLessThan(c(k - 1));
    expect(frameOf({ kind: 'slide', angle: 0 }, -5).layers.at(-1)?.map.f).toBeGreaterThan(650);
  });
  it('a wipe and an iris let through nothing at first and all at last', () => {
    const wipe = (k: number) => frameOf({ kind: 'wipe', angle: 90 }, k).layers.at(-1)?.coverage as { position: number };
    expect(wipe(-5).position).toBeLessThan(-600);
    expect(wipe(4).position).toBeGreaterThan(600);
    const iris = (k: number) => {
      const layer = frameOf({ kind: 'iris' }, k).layers.at(-1) as LayerDescription;
      const { points } = layer.coverage as unknown as { points: { x: number; y: number }[] };
      return Math.max(...points.map((p) => p.x)) - 640;
    };
    expect(iris(-5)).toBeLessThan(10);
    expect(iris(4)).toBeGreaterThan(Math.hypot(640, 360) * 0.98);
  });
  it('a mask lets through what it lets through then, switched off on its layer or not, by its own keys', () => {
    const growing = plainMask(
      'hole',
      'ellipse',
      {
        x: still(50),
        y: still(50),
        width: [keyAt(0, -5, 0), keyAt(0, 5, 100)],
        height: still(50),
        turn: still(0),
        inside: still(0),
        outside: still(0),
      },
      { on: false },
    );
    const coming = shot('b', 8, 12, 't2', { kind: 'mask', frames: 10, mask: { layerId: 'l', maskId: 'hole' } });
    const project = film(shot('a', 4, 8, 't1'), { ...coming, layers: coming.layers.map((l) => ({ ...l, masks: [growing] })) });
    const [cut] = shotFrames(project, project.shots[1]);
    const width = (k: number) => {
      const { coverage } = describeFrame(project, cut + k).layers[1];
      const xs = (coverage as unknown as { points: { x: number }[] }).points.map((p) => p.x);
      return Math.max(...xs) - Math.min(...xs);
    };
    // A key 5 frames before the cut and one 5 after it: half the frame's 1280 pixels at the cut.
    for (const k of [-4, 0, 4]) expect(width(k)).toBeCloseTo((1280 * (k + 5)) / 10, 0);
    expect(describeFrame(project, cut + 6).layers.map((l) => l.coverage)).toEqual([null]);
  });
  it('a mask that is gone leaves a plain cut', () => {
    const gone: Partial<Transition> = { kind: 'mask', mask: { layerId: 'l', maskId: 'no such' } };
    expect(frameOf(gone, -1).layers.map((l) => l.layerId)).toEqual(['leaving']);
    expect(frameOf(gone, 0).layers.map((l) => l.layerId)).toEqual(['leaving', 'coming']);
    expect(frameOf(gone, 0).layers[1].coverage).toBeNull();
  });
});
