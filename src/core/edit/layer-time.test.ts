import { describe, expect, it } from 'vitest';
import type { Shot } from '../document';
import { describeFrame, layerSecond, sceneOf } from '../evaluate';
import { keyAt, type Layer, layerFrames, plainLayer, remapKeyAt } from '../layer';
import { sourceKind } from '../sources';
import { stagedProject } from '../staged';
import { footageUsed, repeated, shownFrom, shownSpan, slipped, splitLayer, splitShot, turned } from './layer-time';
import { plainShot } from './propose';

const PROJECT = stagedProject();
const place = (beat: number, offset = 0) => ({ beat, offset });
const layer = (remap: Layer['timeRemap'], more: Partial<Layer> = {}) =>
  plainLayer('l', 'Layer', 0, { kind: 'take', takeId: 't1' }, remap, more);
const shot = plainShot('s', 'Shot', place(8), place(16), { layers: [layer([remapKeyAt(0, 0, 1)])] });
const scene = sceneOf(PROJECT, shot);
const [first, end] = [scene.first, scene.end];
/** Seconds of the source on every frame of the shot. */
const seconds = (l: Layer) => Array.from({ length: end - first }, (_, k) => layerSecond(PROJECT, scene, l, first + k));
const near = (a: readonly number[], b: readonly number[]) => {
  expect(a).toHaveLength(b.length);
  for (const [i, v] of a.entries()) expect(v).toBeCloseTo(b[i], 6);
};

describe('slip', () => {
  it('moves every pinned second and leaves places alone; a repeated span goes along', () => {
    const pins = [remapKeyAt(0, 0, 1), remapKeyAt(4, 0, null, 0.5), remapKeyAt(6, 0, 3)];
    const later = slipped(layer(pins, { repeat: { from: 1, to: 2, how: 'loop' } }), 0.5);
    expect(later.timeRemap.map((k) => k.source)).toEqual([1.5, null, 3.5]);
    expect(later.timeRemap.map((k) => k.beat)).toEqual([0, 4, 6]);
    expect(later.repeat).toMatchObject({ from: 1.5, to: 2.5 });
    expect(slipped(layer([remapKeyAt(0, 0, null)]), 2).timeRemap[0].source).toBe(2);
  });
  it('to a second shows that second first', () => {
    const l = layer([remapKeyAt(2, 3, 4, 2)]);
    expect(shownSpan(scene, shownFrom(scene, l, 0.8))[0]).toBeCloseTo(0.8, 9);
  });
});

describe('reversed', () => {
  it.each<[string, Layer]>([
    ['at one speed', layer([remapKeyAt(0, 0, 1)])],
    ['at half the speed from a pin within', layer([remapKeyAt(3, 0, 4, 0.5)])],
    ['through several pins', layer([remapKeyAt(0, 0, 1), remapKeyAt(3, 0, 4), remapKeyAt(6, 0, 5, 0.5)])],
    ['smoothly', layer([remapKeyAt(0, 0, 1, 1, 'smooth'), remapKeyAt(3, 0, 4, 0.4, 'smooth'), remapKeyAt(7, 0, 6, 1)])],
    ['by keyed speed', layer([remapKeyAt(0, 0, 2)], { numbers: { speed: [keyAt(0, 0, 100), keyAt(4, 0, 20), keyAt(7, 0, 150)] } })],
  ])('%s, every frame comes the other way round, and twice it is as it was', (_, l) => {
    const before = seconds(l);
    near(seconds(turned(scene, l)), before.toReversed());
    near(seconds(turned(scene, turned(scene, l))), before);
  });
  it('within its own ends only', () => {
    const l = layer([remapKeyAt(2, 0, 3)], { from: place(2), to: place(5) });
    const back = turned(scene, l);
    const [a, b] = layerFrames(scene, l);
    const at = (x: Layer, f: number) => layerSecond(PROJECT, scene, x, f);
    for (let f = a; f < b; f++) expect(at(back, f)).toBeCloseTo(at(l, a + b - 1 - f), 6);
  });
});

describe('repeated', () => {
  it('there and back begins with what was shown and turns at its end', () => {
    const l = repeated(scene, layer([remapKeyAt(0, 0, 1)], { to: place(2) }), 'there and back');
    expect(l.repeat?.from).toBeCloseTo(1, 6);
    const open = { ...l, to: null };
    const all = seconds(open);
    const top = l.repeat?.to ?? 0;
    expect(Math.max(...all)).toBeLessThanOrEqual(top + 1e-6);
    expect(all.filter((s, i) => i > 0 && s < all[i - 1]).length).toBeGreaterThan(10);
    expect(repeated(scene, l, 'loop').repeat).toEqual({ ...l.repeat, how: 'loop' });
    expect(repeated(scene, l, null).repeat).toBeUndefined();
  });
});

describe('split', () => {
  it('a layer in two shows on every frame what it showed', () => {
    const l = layer([remapKeyAt(0, 0, 1, 0.7)]);
    const parts = splitLayer(scene, l, first + 30, 'later');
    expect(parts?.map((p) => layerFrames(scene, p))).toEqual([
      [first, first + 30],
      [first + 30, end],
    ]);
    expect(parts?.[1].id).toBe('later');
    for (const [i, part] of (parts ?? []).entries())
      for (const f of i ? [first + 30, end - 1] : [first, first + 29])
        expect(layerSecond(PROJECT, scene, part, f)).toBeCloseTo(layerSecond(PROJECT, scene, l, f), 9);
    expect(splitLayer(scene, l, first, 'x')).toBeNull();
    expect(splitLayer(scene, l, end, 'x')).toBeNull();
  });
  it('a shot in two goes on where it was parted', () => {
    const project = { ...PROJECT, shots: [shot] };
    const parts = splitShot(project, shot, first + 41, 'second');
    if (!parts) throw new Error('not parted');
    const scenes = parts.map((s) => sceneOf({ ...project, shots: parts }, s));
    expect(scenes.map((s) => [s.first, s.end])).toEqual([
      [first, first + 41],
      [first + 41, end],
    ]);
    expect(parts.map((s) => s.id)).toEqual(['s', 'second']);
    for (const f of [first + 41, end - 1])
      expect(layerSecond(project, scenes[1], parts[1].layers[0], f)).toBeCloseTo(layerSecond(project, scene, shot.layers[0], f), 6);
    expect(splitShot(project, shot, first, 'x')).toBeNull();
  });
  it('words that are being typed go on in the later part', () => {
    const { fresh } = sourceKind({ kind: 'title' });
    if (!fresh) throw new Error('no title');
    const titled = { ...shot, layers: [plainLayer('t', 'Title', 0, fresh, [remapKeyAt(0, 0, 0)])] };
    const parts = splitShot({ ...PROJECT, shots: [titled] }, titled, first + 41, 'second');
    if (!parts) throw new Error('not parted');
    const shown = (shots: Shot[], frame: number) => describeFrame({ ...PROJECT, shots }, frame);
    for (const f of [first + 40, first + 41, end - 1])
      expect(shown([...parts], f).layers.map((l) => l.source)).toEqual(shown([titled], f).layers.map((l) => l.source));
    // It is told apart: at its beginning other words are there than later.
    expect(shown([titled], first).layers.map((l) => l.source)).not.toEqual(shown([titled], end - 1).layers.map((l) => l.source));
  });
});

describe('what is used of a take', () => {
  it('is told in its seconds, whichever way it runs', () => {
    const l = layer([remapKeyAt(0, 0, 1)]);
    const found = footageUsed(PROJECT, scene, turned(scene, l));
    expect(found?.whole[1]).toBeCloseTo(10, 6);
    expect(found?.used[0]).toBeCloseTo(1, 6);
    expect(found?.used[1]).toBeCloseTo(shownSpan(scene, l)[1], 6);
    expect(footageUsed(PROJECT, scene, { ...l, source: { kind: 'colour', r: 0, g: 0, b: 0 } })).toBeNull();
  });
});
