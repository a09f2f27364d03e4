import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { describeFrame, shotFrames } from '@/core/evaluate';
import { type Layer, plainLayer, plainMask, remapKeyAt, still } from '@/core/layer';
import { applied, inverted } from '@/core/picture';
import { stagedProject } from '@/core/staged';

/** What is measured of the takes: their camera's own moves, and where a marked place is. */
let own: unknown = null;
let reason = '';
const STEPS = Array.from({ length: 250 }, (_, i) => i / 25);
const place = (t: number) => ({ x: 400 + 30 * t, y: 300 - 10 * t, turn: 0, scale: 1 });
vi.mock('./media', () => ({ takeMeasurement: async () => ({ own, reason }) }));
vi.mock('./points', () => ({ pointCourse: async () => ({ times: STEPS, points: STEPS.map(place), lost: [] }) }));
const { attachTo, CAMERA, holdInLayer, shakeLike } = await import('./follow');
const { addProject, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const shot = () => now().shots[0];
const layer = (id: string) => shot().layers.find((l) => l.id === id) as Layer;
const quiet = () => undefined;
const take = (id: string, takeId: string) => plainLayer(id, id, 0, { kind: 'take', takeId }, [remapKeyAt(0, 0, 1)]);
const moved = (at: (t: number) => { dx: number; dy: number }, trusted = true) => ({
  times: STEPS,
  readings: STEPS.map((t) => ({ ...at(t), turn: 0, scale: 1, trusted })),
});
/** Where a place of the take's picture is in the film on each tenth frame, by what is described. */
function inFilm(layerId: string, at: (second: number) => { x: number; y: number }) {
  const [first, end] = shotFrames(now(), shot());
  const places = [];
  for (let frame = first; frame < end; frame += 10) {
    const seen = describeFrame(now(), frame).layers.find((l) => l.layerId === layerId);
    if (seen) places.push(applied(inverted(seen.map), at(1 + (frame - first) / 25)));
  }
  return places;
}

beforeEach(async () => {
  own = null;
  reason = '';
  const project = stagedProject();
  project.takes[0].points = [{ id: 'eye', name: 'Eye', radius: 5, keys: [{ time: 1, x: 30, y: 40 }] }] as never;
  const mask = plainMask('spot', 'ellipse', {
    x: still(50),
    y: still(50),
    width: still(20),
    height: still(20),
    turn: still(0),
    inside: still(1),
    outside: still(1),
  });
  const layers = [
    take('low', 't1'),
    { ...take('high', 't2'), masks: [mask] },
    plainLayer('sign', 'Sign', 0, { kind: 'colour', r: 1, g: 0, b: 0 }, [remapKeyAt(0, 0, 0)]),
  ];
  await addProject({
    ...project,
    id: crypto.randomUUID(),
    shots: [plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 14, offset: 0 }, { layers })],
  });
  useProject.setState({ playhead: shotFrames(now(), shot())[0] });
});

describe('a place that is held', () => {
  it('stays on one spot of the film while the take’s picture moves, as large as hides its edges', async () => {
    const said = await holdInLayer('s', 'low', 'eye', { kind: 'middle' }, quiet);
    const places = inFilm('low', place);
    for (const { x, y } of places) {
      expect(x).toBeCloseTo(places[0].x, 0);
      expect(y).toBeCloseTo(places[0].y, 0);
    }
    expect(said).toMatch(/shown at \d+\.\d % of its size, so that no edge shows/);
    undo();
    expect(layer('low').numbers).toEqual({});
  });

  it('a camera’s own unrest is taken out', async () => {
    own = moved((t) => ({ dx: 6 * Math.sin(7 * t), dy: 4 * Math.cos(5 * t) }));
    await holdInLayer('s', 'low', CAMERA, { kind: 'stay', frame: useProject.getState().playhead }, quiet);
    const shaken = (t: number) => ({ x: 640 + 6 * Math.sin(7 * t), y: 360 + 4 * Math.cos(5 * t) });
    const places = inFilm('low', shaken);
    for (const { x, y } of places) expect(Math.hypot(x - places[0].x, y - places[0].y)).toBeLessThan(1);
  });

  it('says why it cannot: no take, a point that is gone, a camera that cannot be followed, a layer that is gone', async () => {
    await expect(holdInLayer('s', 'sign', 'eye', { kind: 'middle' }, quiet)).rejects.toThrow('That layer shows no take.');
    await expect(holdInLayer('s', 'low', 'nose', { kind: 'middle' }, quiet)).rejects.toThrow(/no longer marked in the take/);
    own = moved(() => ({ dx: 0, dy: 0 }), false);
    await expect(holdInLayer('s', 'low', CAMERA, { kind: 'stay', frame: useProject.getState().playhead }, quiet)).rejects.toThrow(
      /too little of its picture stands still/,
    );
    reason = 'The background has too little texture.';
    await expect(holdInLayer('s', 'low', CAMERA, { kind: 'stay', frame: useProject.getState().playhead }, quiet)).rejects.toThrow(
      'The background has too little texture.',
    );
    await expect(holdInLayer('s', 'gone', 'eye', { kind: 'middle' }, quiet)).rejects.toThrow(/no longer in the project/);
  });
});

describe('what is attached to a place', () => {
  it('a layer goes along with it from where it lies at the playhead', async () => {
    await attachTo('s', 'sign', null, { layerId: 'low', pointId: 'eye' }, { turn: false, scale: false }, quiet);
    const keyed = layer('sign').numbers;
    const [first, last] = [keyed.x?.[0].value ?? Number.NaN, keyed.x?.at(-1)?.value ?? Number.NaN];
    // The shot lasts six beats of 0.536 s: the place goes 30 px a second to the right of 1280.
    expect(first).toBeCloseTo(0, 1);
    expect(last).toBeCloseTo((100 * 30 * 6 * (60 / 112)) / 1280, 0);
    expect(layer('low').numbers).toEqual({});
  });

  it('a mask goes along, and its layer stays', async () => {
    await attachTo('s', 'high', 'spot', { layerId: 'low', pointId: 'eye' }, { turn: false, scale: false }, quiet);
    const [mask] = layer('high').masks;
    expect(mask.numbers.x.at(-1)?.value ?? 0).toBeGreaterThan(mask.numbers.x[0].value + 5);
    expect(layer('high').numbers).toEqual({});
  });
});

describe('a camera’s motion taken from a take', () => {
  it('is laid on another layer with the margin it needs', async () => {
    own = moved((t) => ({ dx: 12 * Math.sin(6 * t), dy: 0 }));
    const said = await shakeLike('s', 'high', 't3', quiet);
    const xs = layer('high').numbers.x?.map((k) => k.value) ?? [];
    expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(1.5);
    expect(said).toMatch(/so that no edge shows/);
    await expect(shakeLike('s', 'high', 'gone', quiet)).rejects.toThrow('That take is no longer in the project.');
  });
});
