import { describe, expect, it } from 'vitest';
import type { Project, Shot } from '../document';
import { describeFrame, layerMove, sceneOf } from '../evaluate';
import { type Layer, plainMask, remapKeyAt, still } from '../layer';
import { applied, inverted } from '../picture';
import { stagedProject } from '../staged';
import { attachLayer, attachMask } from './attach-point';
import type { Followed } from './followed';
import { handHeld, holdPoint } from './hold-point';
import { proposePlain } from './propose';

const at = (beat: number) => ({ beat, offset: 0 });
const BOTH = { turn: true, scale: true };
const NONE = { turn: false, scale: false };

/** A shot of a take from its second 1 on, and a place that wanders in it. */
function scenery(): { project: Project; shot: Shot; layer: Layer; course: Followed } {
  const project = stagedProject(120);
  const plain = proposePlain(project, 'a', at(4), at(12), 't1');
  const shot = { ...plain, layers: plain.layers.map((l) => ({ ...l, timeRemap: [remapKeyAt(0, 0, 1)] })) };
  project.shots = [shot];
  const times = Array.from({ length: 250 }, (_, i) => i / 25);
  const points = times.map((t) => ({
    x: 500 + 60 * Math.sin(t),
    y: 300 + 30 * Math.cos(1.7 * t),
    turn: 4 * Math.sin(t),
    scale: 1 + 0.05 * Math.sin(0.7 * t),
  }));
  return { project, shot, layer: shot.layers[0], course: { times, points } };
}

/** Where the followed place is seen on a film frame with the shot as it is. */
function seen(project: Project, shot: Shot, course: Followed, frame: number) {
  const now = { ...project, shots: [shot] };
  const [described] = describeFrame(now, frame).layers;
  const { source } = described;
  const time = 'time' in source ? (source.time as number) : 0;
  const i = Math.round(time * 25);
  const p = course.points[i];
  const to = inverted(described.map);
  const along = applied(to, {
    x: p.x + Math.cos((p.turn * Math.PI) / 180) * p.scale * 10,
    y: p.y + Math.sin((p.turn * Math.PI) / 180) * p.scale * 10,
  });
  const here = applied(to, p);
  return {
    ...here,
    turn: (Math.atan2(along.y - here.y, along.x - here.x) * 180) / Math.PI,
    size: Math.hypot(along.x - here.x, along.y - here.y),
  };
}
const withLayer = (shot: Shot, layer: Layer): Shot => ({ ...shot, layers: shot.layers.map((l) => (l.id === layer.id ? layer : l)) });
const spread = (values: number[]) => Math.max(...values) - Math.min(...values);

describe('a followed place held', () => {
  const { project, shot, layer, course } = scenery();
  const { first, end } = sceneOf(project, shot);
  const frames = Array.from({ length: end - first }, (_, i) => first + i);

  it('stays where it is on the frame it was asked for, to a third of a pixel', () => {
    const { layer: held } = holdPoint(project, shot, layer, course, { kind: 'stay', frame: first + 20 }, NONE, false);
    const before = seen(project, shot, course, first + 20);
    const now = frames.map((f) => seen(project, withLayer(shot, held), course, f));
    for (const p of now) {
      expect(Math.abs(p.x - before.x)).toBeLessThan(0.35);
      expect(Math.abs(p.y - before.y)).toBeLessThan(0.35);
    }
    expect(held.numbers.turn).toBeUndefined();
    expect(held.numbers.x?.length).toBeLessThan(frames.length);
  });

  it('in the middle, with its turn and size, and as much larger as hides every edge', () => {
    const { layer: held, enlarged } = holdPoint(project, shot, layer, course, { kind: 'middle' }, BOTH, true);
    const now = frames.map((f) => seen(project, withLayer(shot, held), course, f));
    for (const p of now) expect(Math.hypot(p.x - 640, p.y - 360)).toBeLessThan(0.6);
    expect(spread(now.map((p) => p.turn))).toBeLessThan(0.1);
    expect(spread(now.map((p) => p.size)) / now[0].size).toBeLessThan(0.005);
    expect(enlarged).toBeGreaterThan(120);
    const corners = (by: number) => {
      const scaled = { ...held, numbers: { ...held.numbers, scale: held.numbers.scale?.map((k) => ({ ...k, value: k.value * by })) } };
      const moved = withLayer(shot, scaled);
      let worst = 0;
      for (const f of frames) {
        const [{ map }] = describeFrame({ ...project, shots: [moved] }, f).layers;
        for (const x of [0, 1280])
          for (const y of [0, 720]) {
            const q = applied(map, { x, y });
            worst = Math.max(worst, -q.x, -q.y, q.x - 1280, q.y - 720);
          }
      }
      return worst;
    };
    expect(corners(1)).toBeLessThan(1);
    expect(corners(0.97)).toBeGreaterThan(2);
  });

  it('evened, it goes its own way without its trembling', () => {
    const times = course.times;
    const shaky: Followed = {
      times,
      points: course.points.map((p, i) => ({ ...p, x: 300 + 2 * i + 6 * Math.sin(2.1 * i), y: 360, turn: 0, scale: 1 })),
    };
    const { layer: held } = holdPoint(project, shot, layer, shaky, { kind: 'smooth', seconds: 0.6 }, NONE, false);
    const xs = frames.map((f) => seen(project, withLayer(shot, held), shaky, f).x);
    const steps = xs.slice(20, -20).map((x, i, all) => (i ? x - all[i - 1] : 2));
    expect(spread(steps.slice(1))).toBeLessThan(1.2);
    expect(xs[60] - xs[20]).toBeCloseTo(80, -1);
  });

  it('of a layer that shows no take it says so', () => {
    const colour = { ...layer, source: { kind: 'still' as const, mediaId: 'empty' } };
    expect(() => holdPoint(project, withLayer(shot, colour), colour, course, { kind: 'middle' }, NONE, false)).toThrow(/no take to follow/);
  });
});

describe('something attached to a followed place', () => {
  const { project, shot, layer, course } = scenery();
  const { first, end } = sceneOf(project, shot);
  const sticker: Layer = {
    ...layer,
    id: 'sticker',
    source: { kind: 'still', mediaId: 'empty' },
    numbers: { x: still(12), y: still(-7), scale: still(30) },
  };
  const both: Shot = { ...shot, layers: [layer, sticker] };

  it('a layer keeps its place against it, turned and grown about it', () => {
    const attached = attachLayer(project, both, sticker, layer, course, first + 10, BOTH);
    const scene = sceneOf(project, both);
    /** The sticker's middle, as seen from the place: in its turned and sized axes. */
    const beside = (l: Layer, f: number) => {
      const m = applied(layerMove(scene, l, f, project.frame), { x: 640, y: 360 });
      const p = seen(project, shot, course, f);
      const a = (-p.turn * Math.PI) / 180;
      const [u, v] = [m.x - p.x, m.y - p.y];
      return [(Math.cos(a) * u - Math.sin(a) * v) / p.size, (Math.sin(a) * u + Math.cos(a) * v) / p.size];
    };
    const begin = beside(sticker, first + 10);
    for (let f = first; f < end; f += 7) {
      const now = beside(attached, f);
      expect(now[0]).toBeCloseTo(begin[0], 0);
      expect(now[1]).toBeCloseTo(begin[1], 0);
    }
  });

  it('by its place alone it neither turns nor grows', () => {
    const attached = attachLayer(project, both, sticker, layer, course, first, NONE);
    expect(attached.numbers.turn).toBeUndefined();
    expect(attached.numbers.scale).toEqual(sticker.numbers.scale);
  });

  it('a mask goes along, all its points, also on a layer that is moved', () => {
    const numbers = {
      x: still(40),
      y: still(40),
      width: still(10),
      height: still(12),
      turn: still(0),
      inside: still(0),
      outside: still(1),
    };
    const mask = plainMask('m', 'ellipse', numbers);
    const moved = attachMask(project, shot, { ...layer, masks: [mask] }, mask, layer, course, first, BOTH);
    const xs = moved.numbers.x.map((k) => k.value);
    expect(spread(xs)).toBeGreaterThan(4);
    expect(moved.numbers.width.length).toBeGreaterThan(1);
    expect(moved.numbers.outside).toEqual(mask.numbers.outside);
    const drawn = plainMask('p', 'polygon', {
      x0: still(10),
      y0: still(10),
      x1: still(20),
      y1: still(10),
      x2: still(15),
      y2: still(20),
      inside: still(0),
      outside: still(0),
    });
    const all = attachMask(project, shot, { ...layer, masks: [drawn] }, drawn, layer, course, first, NONE);
    const shift = (n: string, i: number) => all.numbers[n][i].value - drawn.numbers[n][0].value;
    expect(shift('x0', 3)).toBeCloseTo(shift('x1', 3), 6);
    const line = plainMask('l', 'line', { at: still(50), angle: still(0), inside: still(0), outside: still(0) });
    expect(() => attachMask(project, shot, layer, line, layer, course, first, NONE)).toThrow(/drawn about a place/);
  });
});

describe('a camera’s motion laid on another layer', () => {
  it('moves it as the take moved, and enlarges it by exactly what that costs', () => {
    const { project, shot, layer } = scenery();
    const times = Array.from({ length: 100 }, (_, i) => i / 25);
    const camera: Followed = {
      times,
      points: times.map((t) => ({ x: 320 + 8 * Math.sin(3 * t), y: 180 + 5 * Math.cos(2 * t), turn: 0.4 * Math.sin(t), scale: 1 })),
    };
    const { layer: shaken, enlarged } = handHeld(project, shot, layer, camera, { width: 640, height: 360 });
    expect(enlarged).toBeGreaterThan(101);
    expect(enlarged).toBeLessThan(110);
    const { first } = sceneOf(project, shot);
    const now = { ...project, shots: [withLayer(shot, shaken)] };
    for (let f = first; f < first + 90; f += 5) {
      const [{ map }] = describeFrame(now, f).layers;
      for (const x of [0, 1280])
        for (const y of [0, 720]) {
          const q = applied(map, { x, y });
          expect(Math.max(-q.x, -q.y, q.x - 1280, q.y - 720)).toBeLessThan(1);
        }
    }
    const [a, b] = [10, 30].map((i) => layerMove(sceneOf(project, shot), shaken, first + i, project.frame));
    const mid = (m: typeof a) => applied(m, { x: 640, y: 360 });
    // Twice as wide a frame, twice the way, enlarged with the picture.
    const way = 2 * (camera.points[30].x - camera.points[10].x) * ((enlarged ?? 100) / 100);
    expect(mid(b).x - mid(a).x).toBeCloseTo(way, 0);
  });
});
