import { describe, expect, it } from 'vitest';
import { applyFix, checkProject } from '../check';
import { type Project, readProject, type Shot } from '../document';
import { moveProblems, regenerate, withTakes } from '../edit';
import { describeFrame, sceneOf, soundings } from '../evaluate';
import { type Layer, layerNumber, placeFrame, remapKeyAt, silhouetteMask } from '../layer';
import type { Coverage, Mattes } from '../picture';
import { coveragePlane } from '../picture/coverage-plane';
import { restsAt, STAGED_FALL, stagedMove, stagedProject } from '../staged';
import type { MoveOf } from './';
import type { Course } from './fields';
import { readingAt, smoothPath } from './follow';
import { fromPreset, presetOf, readPresets } from './presets';
import { reveal } from './reveal';
import { nextSwap } from './split';

const base = stagedProject();
/** Somebody who walks from a quarter to three quarters of the picture in ten seconds, up and down a little. */
const course: Course = Array.from({ length: 101 }, (_, i) => ({ source: i / 10, x: 25 + i / 2, y: 50 + 3 * Math.sin(i / 9) }));
const changed = <M extends Shot['move']>(shot: Shot, next: Partial<NonNullable<M>>) =>
  regenerate(base, { ...shot, move: { ...(shot.move as NonNullable<Shot['move']>), ...next } as Shot['move'] });
const withShot = (shot: Shot): Project => ({ ...base, shots: [shot] });
const layerOf = (shot: Shot, id: string) => shot.layers.find((l) => l.id === id) as Layer;

/** The share of the frame that a coverage lets through. */
const coverageMean = (coverage: Coverage, mattes: Mattes) =>
  coveragePlane(coverage, 1280, 720, mattes).reduce((sum, v) => sum + v, 0) / (256 * 1280 * 720);

/** Where a point of a take's picture lies in the frame, per cent. */
function seenAt(project: Project, frame: number, layer: number, point: { x: number; y: number }): { x: number; y: number } {
  const { map } = describeFrame(project, frame).layers[layer];
  const [u, v] = [12.8 * point.x - map.c, 7.2 * point.y - map.f];
  const det = map.a * map.e - map.b * map.d;
  return { x: (map.e * u - map.b * v) / det / 12.8, y: (map.a * v - map.d * u) / det / 7.2 };
}

describe('whoever is followed', () => {
  const shot = changed(stagedMove(base, 'ramp', 16, ['t1'], { movement: restsAt([2, 4, 8]) }), { track: course, hold: 200, zoom: 0 });
  const project = withShot(shot);
  const scene = sceneOf(base, shot);

  it('is held in the middle of the frame through the ramp, to a fifth of a per cent as keyed', () => {
    for (let frame = scene.first; frame < scene.end; frame += 3) {
      const { source } = describeFrame(project, frame).layers[0];
      if (source.kind !== 'take') throw new Error('no take');
      const at = seenAt(project, frame, 0, readingAt(course, source.time));
      expect(Math.abs(at.x - 50)).toBeLessThan(0.7);
      expect(Math.abs(at.y - 50)).toBeLessThan(0.7);
    }
  });

  it('is held only as far as the enlargement leaves room: no edge of the picture shows', () => {
    const tight = changed(shot, { hold: 110 });
    for (let frame = scene.first; frame < scene.end; frame++) {
      expect(Math.abs(layerNumber(scene, layerOf(tight, 'take'), 'x', frame))).toBeLessThanOrEqual(5 + 1e-6);
      expect(layerNumber(scene, layerOf(tight, 'take'), 'scale', frame)).toBeCloseTo(110, 6);
    }
  });

  it('keeps its keys on shares of beats, so that they run with another tempo', () => {
    expect(readProject(project)).toMatchObject({ ok: true });
    const slower = stagedProject(90);
    const at = (p: Project, share: number) => {
      const s = sceneOf(p, shot);
      return layerNumber(s, layerOf(shot, 'take'), 'x', s.first + share * (s.end - s.first));
    };
    for (const share of [0.2, 0.5, 0.9]) expect(Math.abs(at(base, share) - at(slower, share))).toBeLessThan(1);
  });

  it('is let go of with its take, and kept when the take stays', () => {
    expect(withTakes(shot, () => 't3').move).toMatchObject({ takeId: 't3', track: null });
    const own = { ...layerOf(shot, 'take'), masks: [silhouetteMask('mask-1', 'outline', null, {})] };
    expect(withTakes({ ...shot, layers: [own] }, () => 't3').layers[0].masks[0].on).toBe(false);
    expect(withTakes(shot, (takeId) => takeId).move).toMatchObject({ takeId: 't1', track: course });
  });

  it('is evened out and thinned where it says nothing', () => {
    const trembling = course.map((p, i) => ({ ...p, x: p.x + (i % 2 ? 0.4 : -0.4) }));
    const calm = smoothPath(trembling, 0.5);
    expect(calm.length).toBeLessThan(60);
    for (const p of course.slice(6, -6)) expect(Math.abs(readingAt(calm, p.source).x - p.x)).toBeLessThan(0.5);
  });
});

describe('panels that swap and follow', () => {
  const plain = stagedMove(base, 'split', 16, ['t1', 't2', 't3']);
  const move = plain.move as MoveOf<'split'>;
  const swaps = [
    { beat: 3, offset: 0 },
    { beat: 5, offset: 0 },
  ];
  const shot = changed(plain, { swaps });
  const project = withShot(shot);
  const scene = sceneOf(base, shot);
  /** The middle of each panel's mask across, per cent. */
  const middles = (frame: number) =>
    describeFrame(project, frame).layers.map(({ coverage }) => {
      if (coverage?.kind !== 'shape') throw new Error('no panel');
      const xs = coverage.points.map((p) => Math.min(1280, Math.max(0, p.x)));
      return (Math.min(...xs) + Math.max(...xs)) / 25.6;
    });

  it('land one place on, on the beat, and stand until the next', () => {
    const order = (frame: number) => middles(frame).map((x) => Math.round(Math.abs(x - 100 / 6) / (100 / 3)));
    const [first, second] = swaps.map((p) => placeFrame(scene, p));
    expect(order(first - move.frames)).toEqual([0, 1, 2]);
    expect(order(first)).toEqual([1, 2, 0]);
    expect(order(second - move.frames)).toEqual([1, 2, 0]);
    expect(order(second)).toEqual([2, 0, 1]);
    expect(moveProblems(base, shot)).toEqual([]);
    expect(nextSwap({ ...move, swaps }).beat).toBe(7);
  });

  it('that have no time for it are refused, with the nearest that can be', () => {
    const crowded = changed(plain, { swaps: [...swaps, { beat: 5, offset: 4 }] });
    const [problem] = moveProblems(base, crowded);
    expect(problem.text).toMatch(/Swap 3 lands on frame \d+ of the shot and takes 8 frames/);
    expect(moveProblems(base, changed(crowded, problem.nearest?.move ?? {}))).toEqual([]);
  });

  it('that are off their beat are found by the check, and put on it', () => {
    const late = changed(plain, { swaps: [{ beat: 3, offset: 4 }] });
    const found = checkProject(withShot(late), []).find((f) => f.text.startsWith('The swap is'));
    if (!found) throw new Error('not found');
    expect(found.text).toMatch(/4\.\d frames after/);
    expect(applyFix(base, late, found).move).toMatchObject({ swaps: [{ beat: 3, offset: 0 }] });
  });

  it('follow somebody within their panel while they stand, and show no edge of the picture', () => {
    const panels = move.panels.map((p, i) => (i === 1 ? { ...p, zoom: 160, track: course } : p));
    const following = withShot(changed(plain, { panels, swaps }));
    for (let frame = scene.first + move.frames; frame < placeFrame(scene, swaps[0]) - move.frames; frame += 4) {
      const { source } = describeFrame(following, frame).layers[1];
      if (source.kind !== 'take') throw new Error('no take');
      expect(Math.abs(seenAt(following, frame, 1, readingAt(course, source.time)).x - 50)).toBeLessThan(0.7);
    }
    for (let frame = scene.first + move.frames; frame < scene.end - move.frames; frame += 3)
      for (const corner of describeFrame(following, frame).layers.flatMap(({ coverage, map }) =>
        coverage?.kind === 'shape' ? coverage.points.map(({ x, y }) => map.a * Math.min(1280, Math.max(0, x)) + map.b * y + map.c) : [],
      )) {
        expect(corner).toBeGreaterThan(-40);
        expect(corner).toBeLessThan(1320);
      }
  });
});

describe('a reveal whose edge gives way to somebody', () => {
  const plain = stagedMove(base, 'reveal', 16, ['t1', 't2'], { fall: [STAGED_FALL, STAGED_FALL] });
  const silhouettes = [
    { takeId: 't1', silhouetteId: 'outline' },
    { takeId: 't2', silhouetteId: 'outline' },
  ];
  /** Everybody stands in the middle fifth of the picture, from top to bottom. */
  const grid = { width: 320, height: 180, times: [0], frames: [new Uint8Array(7200)] };
  for (let i = 0; i < 320 * 180; i++) if (Math.abs((i % 320) - 160) < 32) grid.frames[0][i >> 3] |= 1 << (i & 7);

  it('asks for who is not known yet, and lays ordinary masks once they are', () => {
    const asked = changed(plain, { duck: 'after' as const });
    expect(reveal.outlines?.missing(asked.move as MoveOf<'reveal'>)).toEqual(['t2']);
    expect(moveProblems(base, asked).map((p) => p.text)).toEqual([
      expect.stringContaining('Where somebody is in “m2.mp4” is not known yet'),
    ]);
    const after = layerOf(changed(asked, { silhouettes }), 'after');
    expect(after.masks.map((m) => [m.kind, m.combine])).toEqual([
      ['line', 'add'],
      ['silhouette', 'add'],
      ['line', 'intersect'],
    ]);
    const before = layerOf(changed(plain, { duck: 'before' as const, silhouettes }), 'after');
    expect(before.masks.map((m) => [m.kind, m.combine])).toEqual([
      ['line', 'add'],
      ['silhouette', 'subtract'],
      ['line', 'add'],
    ]);
  });

  it('follows the second the layer of that take shows', () => {
    const shot = changed(plain, { duck: 'before' as const, silhouettes });
    const scene = sceneOf(base, shot);
    const picture = describeFrame(withShot(shot), placeFrame(scene, (shot.move as MoveOf<'reveal'>).start) + 5);
    const { coverage } = picture.layers[1];
    const part = coverage?.kind === 'many' ? coverage.parts[1].coverage : null;
    const below = picture.layers[0].source;
    if (part?.kind !== 'silhouette' || below.kind !== 'take') throw new Error('no figure');
    expect(part.time).toBe(below.time);
  });

  it('begins and ends as without: nothing of the second take before, all of it after', () => {
    for (const by of ['line', 'ring', 'rectangle'] as const)
      for (const duck of ['before', 'after'] as const) {
        const shot = changed(plain, { by, duck, silhouettes });
        const move = shot.move as MoveOf<'reveal'>;
        const scene = sceneOf(base, shot);
        const shown = (frame: number) => {
          const { coverage } = describeFrame(withShot(shot), frame).layers[1] ?? describeFrame(withShot(shot), frame).layers[0];
          if (!coverage) throw new Error('no mask');
          return coverageMean(coverage, new Map([['outline', grid]]));
        };
        expect(shown(placeFrame(scene, move.start))).toBeLessThan(0.002);
        expect(shown(placeFrame(scene, move.end))).toBeGreaterThan(0.998);
      }
  });

  it('spreads from somebody’s outline, or opens to what is drawn with the first take staying around it', () => {
    const spread = layerOf(changed(plain, { by: 'silhouette' as const, outOf: 'after' as const, silhouettes }), 'after');
    expect(spread.masks[0]).toMatchObject({ kind: 'silhouette', silhouetteId: 'outline', layerId: 'after' });
    const drawn = changed(plain, { by: 'drawn' as const });
    expect(layerOf(drawn, 'before').to).toBeNull();
    expect(layerOf(drawn, 'after').masks[0].kind).toBe('outline');
  });
});

describe('a take’s sound in a shot', () => {
  const ramp = stagedMove(base, 'ramp', 16, ['t1'], { movement: restsAt([2, 4, 8]) });
  it('is muted, kept as recorded, or runs as the picture runs', () => {
    expect(soundings(withShot(ramp))).toEqual([]);
    const [kept] = soundings(withShot(changed(ramp, { sound: 'kept' as const })));
    expect(kept.secondAt(kept.from + 1) - kept.secondAt(kept.from)).toBeCloseTo(1, 9);
    const run = changed(ramp, { sound: 'stretched' as const });
    const [stretched] = soundings(withShot(run));
    const scene = sceneOf(base, run);
    for (let f = scene.first; f < scene.end; f += 7) {
      const { source } = describeFrame(withShot(run), f).layers[0];
      if (source.kind === 'take' && source.time < 9.9) expect(stretched.secondAt(f / 25)).toBeCloseTo(source.time, 6);
    }
  });

  it('is heard through a shot within a shot where it lies', () => {
    const inner = { ...changed(ramp, { sound: 'kept' as const }), id: 'in', start: { beat: 0, offset: 0 }, end: { beat: 4, offset: 0 } };
    const layer: Layer = {
      ...layerOf(ramp, 'take'),
      id: 'shot',
      source: { kind: 'shot', shotId: 'in' },
      timeRemap: [remapKeyAt(2, 0, 0)],
      from: { beat: 2, offset: 0 },
    };
    const outer: Shot = { ...ramp, id: 'out', move: null, layers: [layer] };
    const [heard] = soundings({ ...base, shots: [outer], nestedShots: [inner] });
    expect(heard.from).toBeCloseTo(placeFrame(sceneOf(base, outer), { beat: 2, offset: 0 }) / 25, 9);
  });
});

describe('what is kept of a move under a name', () => {
  it('is the same at another rate, without takes and places', () => {
    const { move } = stagedMove(base, 'split', 16, ['t1', 't2']);
    if (!move) throw new Error('no move');
    const kept = presetOf('Doors', move, { num: 25, den: 1 });
    expect(fromPreset(kept, { num: 25, den: 1 })).toEqual({
      columns: 2,
      slant: 0,
      gutter: 1.5,
      feather: 0,
      stagger: 0,
      delay: 0,
      frames: 8,
    });
    expect(fromPreset(kept, { num: 50, den: 1 })).toMatchObject({ frames: 16 });
  });
});

describe('moves kept in the browser', () => {
  it('are read one by one, and what is none is left out', () => {
    const kept = { name: 'Punch in', kind: 'whip', numbers: { way: 'zoom' }, seconds: { frames: 0.48 } };
    expect(readPresets([kept, { ...kept, kind: 'somersault' }, null, { ...kept, seconds: { frames: -1 } }, 7])).toEqual([kept]);
    for (const none of [undefined, null, 'x', {}]) expect(readPresets(none)).toEqual([]);
  });

  it('come out within what a move may take, at any rate', () => {
    const slow = { name: 'Slow', kind: 'split' as const, numbers: {}, seconds: { frames: 4.8 } };
    expect(fromPreset(slow, { num: 25, den: 1 })).toEqual({ frames: 120 });
    expect(fromPreset(slow, { num: 60, den: 1 })).toEqual({ frames: 120 });
    expect(fromPreset({ ...slow, kind: 'freeze', seconds: { shake: 2 } }, { num: 60, den: 1 })).toEqual({ shake: 60 });
  });
});
