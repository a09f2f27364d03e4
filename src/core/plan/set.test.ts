import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { viewOf } from './camera';
import { dollyDistance, dollyZoom } from './dolly';
import { mannequin, projected, setFaces } from './drawing';
import { judgeSet } from './judge';
import { newPlannedShot } from './plan';
import { RECIPES } from './recipes';
import { resolutionNeed } from './resolution';
import type { Place, PlanCamera, PlannedShot } from './schema';
import { shadowCrossings, shadowsOf } from './shadows';
import { eyeLines, floorMarks, seamsOf, zoneOf } from './zones';

const recipe = (id: string) => RECIPES.find((r) => r.id === id) ?? RECIPES[0];
const base = newPlannedShot('a', recipe('clones'), '2026-11-27');
const camera = (change: Partial<PlanCamera> = {}): PlanCamera => ({ ...base.camera, ...change });
const place = (id: string, x: number, z: number, more: Partial<Place> = {}): Place => ({
  id,
  name: id,
  tape: 0,
  x,
  z,
  height: 1.72,
  reach: 0.45,
  actions: [],
  ...more,
});
const tempo = { barSeconds: 2, beatSeconds: 0.5 };
const frame = { width: 1920, height: 1080, fps: 25 };

describe('the projection', () => {
  it('floor point to pixel and back, for any camera', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -20, max: 20, noNaN: true }),
        fc.double({ min: 0.6, max: 30, noNaN: true }),
        fc.double({ min: 0.2, max: 4, noNaN: true }),
        fc.double({ min: -30, max: 20, noNaN: true }),
        fc.double({ min: 4, max: 200, noNaN: true }),
        fc.constantFrom('lying' as const, 'upright' as const),
        (x, z, height, tilt, focal, orientation) => {
          const view = viewOf(camera({ height, tilt, focal, orientation }));
          const p = view.project({ x, y: 0, z });
          fc.pre(p.depth > 0.3);
          const back = view.floorAt(p.x, p.y);
          // Points on the floor never lie above the horizon.
          expect(back).not.toBeNull();
          expect(back?.x).toBeCloseTo(x, 5);
          expect(back?.z).toBeCloseTo(z, 5);
        },
      ),
    );
  });

  it('what fills the frame by the pinhole is what fieldAt says at a distance', () => {
    const view = viewOf(camera());
    const [left, right] = [-1, 1].map((x) => view.project({ x, y: 1.22, z: 4 }).x);
    expect(right - left).toBeCloseTo((2 * 1920) / (4 * (36 / 28)), 3);
    expect(view.project({ x: 0, y: 1.22, z: 4 })).toMatchObject({ x: 960, y: 540 });
  });

  it('an upright plane reads back; above the horizon there is no floor', () => {
    const view = viewOf(camera({ tilt: 8 }));
    const p = view.project({ x: 0.7, y: 2, z: 3 });
    expect(view.planeAt(p.x, p.y, 3).x).toBeCloseTo(0.7, 9);
    expect(view.planeAt(p.x, p.y, 3).y).toBeCloseTo(2, 9);
    expect(viewOf(camera()).floorAt(960, 500)).toBeNull();
  });

  it('a wall that runs past the camera is cut off in front of it, and one behind is not drawn', () => {
    const view = viewOf(camera());
    const wall = (z0: number, z1: number) =>
      projected(view, [
        { x: -2, y: 0, z: z0 },
        { x: -2, y: 0, z: z1 },
        { x: -2, y: 3, z: z1 },
        { x: -2, y: 3, z: z0 },
      ]);
    for (const [x, y] of wall(-3, 5)) expect(Number.isFinite(x + y)).toBe(true);
    expect(wall(-3, 5)).toHaveLength(4);
    expect(wall(-3, -1)).toEqual([]);
    const faces = setFaces(view, {
      ...base,
      props: [{ id: 'p', name: 'p', kind: 'prop', x: 1, z: 2, width: 0.5, depth: 0.5, height: 1, base: 0 }],
    });
    expect(faces.filter((f) => f.id.startsWith('p-'))).toHaveLength(3);
  });

  it('a mannequin stands as high as the place says', () => {
    const view = viewOf(camera());
    const p = place('a', 0.5, 3, { height: 1.8 });
    const limbs = mannequin(view, p, 0);
    const top = Math.min(...limbs.map((l) => Math.min(l.from[1], l.to[1]) - l.radius));
    const foot = Math.max(...limbs.map((l) => Math.max(l.from[1], l.to[1]) + l.radius));
    expect((foot - top) / (view.scale / 3)).toBeCloseTo(1.8, 1);
    expect(mannequin(view, place('b', 0, -2), 0)).toEqual([]);
  });
});

describe('zones, seams and collisions', () => {
  const view = viewOf(camera());

  it('a zone is as wide as the arms reach, in pixels of the captured frame', () => {
    const z = zoneOf(view, place('a', 0, 4, { reach: 0.5 }));
    expect(z.right - z.left).toBeCloseTo(view.scale / 4, 6);
    expect((z.left + z.right) / 2).toBeCloseTo(960, 6);
    expect(z.cut.map((c) => c.side)).toEqual([]);
  });

  it('says by how much the frame cuts a place off, and where', () => {
    const [cut] = zoneOf(view, place('a', 1.7, 3, { reach: 0.5 })).cut.filter((c) => c.side !== 'bottom');
    // The frame is 3 · 36/28 = 3.857 m wide at 3 m.
    expect(cut).toMatchObject({ side: 'right' });
    expect(cut.metres).toBeCloseTo(2.2 - 3.857 / 2, 3);
  });

  it('following the advice for two places that collide leaves a gap of two per cent', () => {
    for (const [x, z] of [
      [0.2, 3],
      [0.2, 4],
      [-0.1, 2.5],
    ]) {
      const places = [place('left', -0.5, 3), place('right', x, z)];
      const [seam] = seamsOf(view, places, []);
      const advice = /Move (\w+) by ([\d.]+) m (left|right)/.exec(seam.advice);
      expect(advice, seam.advice).not.toBeNull();
      const [, who, by, way] = advice ?? [];
      const moved = places.map((p) => (p.id === who ? { ...p, x: p.x + (way === 'left' ? -1 : 1) * Number(by) } : p));
      const [after] = seamsOf(view, moved, []);
      expect(after.gap).toBeGreaterThanOrEqual(0.02 * view.width - 0.5);
      expect(after.advice).toBe('');
    }
  });

  it('prefers an upright structure in the gap to the open, and ignores those outside it', () => {
    const places = [place('left', -1, 3), place('right', 1, 3)];
    const pillar = { id: 'p', name: 'Pillar', kind: 'structure' as const, x: 0.4, z: 4.5, width: 0.2, depth: 0.2, height: 3, base: 0 };
    const [open] = seamsOf(view, places, [{ ...pillar, x: 3 }]);
    expect(open.along).toBeNull();
    expect(open.x).toBeCloseTo(960, 6);
    const [along] = seamsOf(view, places, [pillar, { ...pillar, id: 'q', kind: 'prop', x: 0 }]);
    expect(along.along?.id).toBe('p');
    expect(along.x).toBeGreaterThan(960);
  });

  it('names the action that crosses the seam, with its beats', () => {
    const action = { id: 'x', what: 'hands over', from: 7, to: 9, left: 0.3, right: 1.2 };
    const [seam] = seamsOf(view, [place('left', -1, 3, { actions: [action] }), place('right', 1, 3)], []);
    expect(seam.crossings).toHaveLength(1);
    expect(seam.crossings[0]).toMatchObject({ from: 7, to: 9 });
    expect(seam.crossings[0].metres).toBeCloseTo(0.2, 6);
  });

  it('marks and eye lines: two people face to face look across at each other’s eyes', () => {
    expect(floorMarks([place('a', 3, 4)])[0]).toMatchObject({ across: 3, along: 4, straight: 5 });
    const [ab] = eyeLines([place('a', -1, 3), place('b', 1, 3, { height: 1.5 })]);
    expect(ab.distance).toBeCloseTo(2, 9);
    expect(ab.height).toBeCloseTo(1.395, 3);
    expect(ab.turn).toBeGreaterThan(60);
    expect(ab.lift).toBeLessThan(0);
    const [behind] = eyeLines([place('near', 0, 2), place('far', 0, 4)]);
    expect(Math.abs(behind.turn)).toBeCloseTo(180, 6);
  });
});

describe('shadows by similar triangles', () => {
  const lamp = (x: number, z: number, height: number, size = 0.3) => ({ id: 'l', name: 'Lamp', x, z, height, size });
  const shot = (lamps: PlannedShot['lamps'], places: Place[]): PlannedShot => ({
    ...base,
    lamps,
    places,
    room: { left: 9, right: 9, back: 20, behind: 2 },
  });

  it('a lamp twice as high as the head, one metre beside it, throws it one metre to the other side', () => {
    const [s] = shadowsOf(viewOf(camera()), shot([lamp(-1, 3, 3.44)], [place('a', 0, 3)]));
    expect(s.on).toBe('floor');
    expect(s.tip.x).toBeCloseTo(1, 9);
    expect(s.tip.z).toBeCloseTo(3, 9);
    expect(s.penumbra).toBeCloseTo(0.3, 9);
  });

  it('a lamp below the head throws it on the wall behind', () => {
    const [s] = shadowsOf(viewOf(camera()), shot([lamp(0, 1, 1)], [place('a', 0, 3)]));
    expect(s.on).toBe('wall');
    expect(s.tip.z).toBeCloseTo(20, 9);
    expect(s.tip.y).toBeCloseTo(1.72 + (0.72 / 2) * 17, 6);
  });

  it('moving the lamp as advised, again and again, takes the shadow off the seam', () => {
    const view = viewOf(camera());
    const places = [place('a', -0.9, 3), place('b', 0.9, 3)];
    let x = -1.9;
    for (let i = 0; i < 20; i++) {
      const [crossing] = shadowCrossings(
        shadowsOf(view, shot([lamp(x, 2.6, 2.6, 0.1)], places)).filter((s) => s.place.id === 'a'),
        seamsOf(view, places, []),
      );
      if (!crossing) return;
      const advice = /about ([\d.]+) m to the (left|right)/.exec(crossing.advice);
      if (!advice) return expect(crossing.advice).toMatch(/feather/);
      expect(advice[2]).toBe('right');
      x += Number(advice[1]);
    }
    expect.unreachable('the shadow stayed on the seam');
  });
});

describe('resolution and dolly zoom', () => {
  const none = { slowest: 100, scale: 100, overscan: 100, stabilise: 100, cropAspect: 0 };

  it('a 200 % move needs twice the delivered width (common practice)', () => {
    const need = resolutionNeed({ width: 1920, height: 1080 }, { width: 1920, height: 1080 }, { ...none, scale: 200 }, 1);
    expect(need).toMatchObject({ width: 3840, height: 2160, verdict: 'fix' });
    expect(need.text).toContain('3840×2160');
  });

  it('the same size is enough for nothing but a cut; overscan, stabilising and scale multiply', () => {
    expect(resolutionNeed({ width: 1920, height: 1080 }, { width: 1920, height: 1080 }, none, 1).verdict).toBe('good');
    const need = resolutionNeed(
      { width: 1920, height: 1080 },
      { width: 3840, height: 2160 },
      { ...none, scale: 120, overscan: 105, stabilise: 110 },
      1,
    );
    expect(need.width).toBe(Math.ceil(1920 * 1.2 * 1.05 * 1.1));
  });

  it('an upright film cut from a lying one needs its height', () => {
    const need = resolutionNeed({ width: 1080, height: 1920 }, { width: 3840, height: 2160 }, none, 1);
    expect(need.height).toBe(1920);
    expect(resolutionNeed({ width: 1920, height: 1080 }, { width: 1920, height: 1080 }, { ...none, cropAspect: 9 / 16 }, 1).height).toBe(
      1920,
    );
  });

  it('the subject keeps its size all the way and the background follows the pinhole', () => {
    const d = dollyZoom(2, 1, 4, [2]);
    expect(d).toMatchObject({ from: 2, to: 1, track: 1, speed: 0.25 });
    for (const u of [0, 0.3, 1]) {
      const distance = dollyDistance(2, 1, u);
      expect((distance / 1) * (1 / distance)).toBeCloseTo(1, 12);
    }
    // From 2 m with 2 m behind: 2 · 1/4; from 1 m: 1 · 1/3. It shrinks to two thirds.
    expect(d.background[0].growth).toBeCloseTo(2 / 3, 9);
    expect(d.verdict).toBe('good');
  });

  it('says when nobody will see it: nothing behind, too short a walk, or too fast a walk', () => {
    expect(dollyZoom(3, 2, 4, []).verdict).toBe('fix');
    expect(dollyZoom(3, 2.9, 4, [5]).text).toMatch(/hardly/);
    expect(dollyZoom(8, 2, 1, [5]).text).toMatch(/m\/s/);
  });
});

describe('the whole set judged', () => {
  it.each(RECIPES.map((r) => [r.name, r] as const))('%s: every judgement is a sentence, and the start set collides nowhere', (_, r) => {
    const report = judgeSet(newPlannedShot('x', r, '2026-11-27'), tempo, frame, 'metres');
    expect(report.judgements.length).toBeGreaterThan(2);
    for (const j of report.judgements) expect(j.text).toMatch(/^[A-Zf\d].*\.$/s);
    expect(report.judgements.filter((j) => j.text.includes('overlap'))).toEqual([]);
  });

  it('finds the soft clone at the back, the flicker, the wall and the upright phone that cuts off arms', () => {
    const shot = newPlannedShot('x', recipe('clones'), '2026-11-27');
    const soft = judgeSet(
      {
        ...shot,
        places: [shot.places[0], { ...shot.places[1], z: 4.8 }],
        camera: { ...shot.camera, focal: 50, aperture: 2.8, focus: 3.2, shutter: 1 / 60 },
      },
      tempo,
      frame,
      'metres',
    );
    const text = soft.judgements.map((j) => j.text).join(' ');
    expect(text).toMatch(/Place 2 (is|are) soft|and Place 2 are soft/);
    expect(text).toMatch(/stops less light/);
    expect(text).toMatch(/1\/60 flickers under 50 Hz/);
    const tight = judgeSet(
      { ...shot, room: { ...shot.room, right: 1 }, camera: { ...shot.camera, orientation: 'upright' } },
      tempo,
      frame,
      'feet',
    );
    const said = tight.judgements.map((j) => j.text).join(' ');
    expect(said).toMatch(/Place 2 stands in a wall/);
    expect(said).toMatch(/cut off on the left by .*″.*hold the camera lying/);
  });
});
