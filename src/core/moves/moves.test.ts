import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Project, readProject, type Shot } from '../document';
import { movedShot, moveEvents, moveProblems, regenerate } from '../edit';
import { beatMapOf, describeFrame, halfFrame, layerSecond, sceneOf, shotFrames } from '../evaluate';
import { type Layer, layerNumber, layerTime, placeFrame } from '../layer';
import { solveSpeed } from '../motion';
import { restsAt, stagedMove, stagedProject } from '../staged';
import { beatToSeconds, frameToSeconds } from '../time';
import type { Move, MoveOf } from './';
import { posesIn } from './ramp';

const RATE = { num: 25, den: 1 };
const project = stagedProject;

/** Each of the five as it is proposed from two or three takes, four bars apart. */
function five(base: Project): Shot[] {
  return [
    stagedMove(base, 'reveal', 16, ['t1', 't2']),
    stagedMove(base, 'whip', 32, ['t1', 't2']),
    stagedMove(base, 'freeze', 48, ['t1']),
    stagedMove(base, 'ramp', 64, ['t1']),
    stagedMove(base, 'split', 80, ['t1', 't2', 't3']),
  ];
}

const withShots = (base: Project, shots: Shot[]): Project => ({ ...base, shots });
const layerOf = (shot: Shot, id: string): Layer => {
  const layer = shot.layers.find((l) => l.id === id);
  if (!layer) throw new Error(`no layer ${id}`);
  return layer;
};
const moveOf = <K extends Move['kind']>(shot: Shot, kind: K): MoveOf<K> => {
  if (shot.move?.kind !== kind) throw new Error(`no ${kind}`);
  return shot.move as MoveOf<K>;
};
/** Every place of a move that is on a beat, as places of the song. */
function events(shot: Shot): { beat: number; offset: number }[] {
  const poses = shot.move?.kind === 'ramp' ? shot.move.poses : [];
  return [...moveEvents(shot).map(([, place]) => place), ...poses.map((p) => ({ beat: p.beat + shot.start.beat, offset: p.offset }))];
}

describe('the five moves as proposed', () => {
  it('are all possible, stand in a document that reads back, and need no more than their takes have', () => {
    const base = project();
    const whole = withShots(base, five(base));
    expect(whole.shots.flatMap((shot) => moveProblems(whole, shot))).toEqual([]);
    expect(readProject(JSON.parse(JSON.stringify(whole)))).toEqual({ ok: true, project: whole });
  });

  it('at +7 % of tempo and from 25 to 24000/1001 every event is within half a frame of its beat, keys and landings with it', () => {
    const base = project();
    const shots = five(base);
    fc.assert(
      fc.property(
        fc.constantFrom(112, 119.84, 84, 171.3),
        fc.constantFrom(RATE, { num: 24000, den: 1001 }, { num: 30000, den: 1001 }),
        (bpm, rate) => {
          const now = withShots(project(bpm, rate), shots);
          const map = beatMapOf(now);
          for (const shot of now.shots) {
            const scene = sceneOf(now, shot);
            for (const event of [shot.start, shot.end, ...events(shot)]) {
              const frame = placeFrame({ ...scene, beat: 0 }, event);
              expect(Math.abs(frameToSeconds(frame - event.offset, rate) - beatToSeconds(map, event.beat))).toBeLessThanOrEqual(
                halfFrame(rate) + 1e-7,
              );
            }
          }
          // A pose is met on its beat, to half a frame of the film.
          const ramp = now.shots[3];
          const scene = sceneOf(now, ramp);
          for (const pose of moveOf(ramp, 'ramp').poses) {
            const frame = placeFrame(scene, pose);
            expect(layerTime(scene, ramp.layers[0]).sourceAt(frameToSeconds(frame, rate))).toBeCloseTo(pose.source, 9);
          }
        },
      ),
    );
  });
});

describe('masked reveal', () => {
  const base = project();
  const [shot] = five(base);
  const whole = withShots(base, [shot]);
  const move = moveOf(shot, 'reveal');
  const [from, to] = [move.start, move.end].map((p) => placeFrame(sceneOf(whole, shot), p));

  it('begins on its beat as the fall begins in both takes, and ends on the beat nearest to the fall’s end', () => {
    expect(Math.abs(frameToSeconds(from, RATE) - (0.25 + (16 * 60) / 112))).toBeLessThanOrEqual(0.02 + 1e-9);
    expect(move.end.beat - move.start.beat).toBe(4);
    const second = (id: string, frame: number) => layerSecond(whole, sceneOf(whole, shot), layerOf(shot, id), frame);
    expect(second('before', from)).toBe(3.5);
    expect(second('after', from + 25)).toBeCloseTo(4.8, 9);
  });

  it('shows the first take, then both with the line moving on, then the second', () => {
    const seen = (frame: number) => describeFrame(whole, frame).layers.map((l) => l.layerId);
    expect(seen(from - 1)).toEqual(['before']);
    expect(seen(to)).toEqual(['after']);
    let last = Number.NEGATIVE_INFINITY;
    for (let frame = from; frame < to; frame++) {
      expect(seen(frame)).toEqual(['before', 'after']);
      const { coverage } = describeFrame(whole, frame).layers[1];
      if (coverage?.kind !== 'line') throw new Error('no line');
      expect(coverage.position).toBeGreaterThanOrEqual(last);
      last = coverage.position;
    }
    // Outside the frame at both ends, its softness too.
    expect(describeFrame(whole, from).layers[1].coverage).toMatchObject({ kind: 'line', feather: 0.18 * 720 });
    expect(last).toBeGreaterThan(200);
  });

  it('the fall at ×2 runs twice as fast from the same instant, and the line keeps with it', () => {
    const quick = regenerate(whole, { ...shot, move: { ...move, fallSpeed: 2 } });
    const scene = sceneOf(whole, quick);
    expect(layerSecond(whole, scene, layerOf(quick, 'before'), from)).toBe(3.5);
    expect(layerSecond(whole, scene, layerOf(quick, 'before'), from + 20)).toBeCloseTo(3.5 + (2 * 20) / 25, 9);
    expect(layerSecond(whole, scene, layerOf(quick, 'before'), from - 10)).toBeCloseTo(3.1, 9);
    const at = (s: Shot, frame: number) => {
      const { coverage } = describeFrame(withShots(base, [s]), frame).layers[1];
      return coverage?.kind === 'line' ? coverage.position : Number.NaN;
    };
    expect(Math.abs(at(quick, from + 10) - at(shot, from + 20))).toBeLessThan(30);
  });

  it('a ring covers nothing at its start and every corner at its end', () => {
    const ring = regenerate(whole, { ...shot, move: { ...move, by: 'ring' } });
    const { coverage } = describeFrame(withShots(base, [ring]), to - 1).layers[1];
    if (coverage?.kind !== 'shape') throw new Error('no ring');
    const reach = Math.max(...coverage.points.map((p) => Math.abs(p.x - 640)));
    expect(reach).toBeGreaterThan(860);
    expect(describeFrame(withShots(base, [ring]), from).layers[1].coverage).toMatchObject({ kind: 'shape' });
  });
});

describe('whip', () => {
  const base = project();
  const shot = five(base)[1];
  const whole = withShots(base, [shot]);
  const scene = sceneOf(whole, shot);
  const cut = placeFrame(scene, moveOf(shot, 'whip').cut);

  it('lasts 20 frames about its cut, at rest before and after, one take on each side, never an edge in sight', () => {
    const rest = (frame: number) => describeFrame(whole, frame).layers.map((l) => [l.layerId, l.map.c, l.motion === null] as const);
    expect(rest(cut - 11)).toEqual([['out', 0, true]]);
    expect(rest(cut + 10)).toEqual([['into', 0, true]]);
    for (let f = cut - 9; f < cut + 9; f++) {
      const [layer, ...others] = describeFrame(whole, f).layers;
      expect(others).toEqual([]);
      expect([layer.layerId, layer.edge]).toEqual([f < cut ? 'out' : 'into', 'mirror']);
    }
  });

  it('is fastest at the cut and smears by its true travel through half a frame', () => {
    const travel = (f: number) =>
      Math.abs(
        layerNumber(scene, layerOf(shot, f < cut ? 'out' : 'into'), 'x', f + 1) -
          layerNumber(scene, layerOf(shot, f < cut ? 'out' : 'into'), 'x', f),
      );
    expect(travel(cut - 2)).toBeGreaterThan(3 * travel(cut - 6));
    expect(travel(cut)).toBeGreaterThan(3 * travel(cut + 5));
    const { motion } = describeFrame(whole, cut).layers[0];
    if (!motion) throw new Error('no smear');
    const { samples } = motion;
    const spread = Math.abs(samples[samples.length - 1].map.c - samples[0].map.c) * (samples.length / (samples.length - 1));
    const half =
      (Math.abs(layerNumber(scene, layerOf(shot, 'into'), 'x', cut + 0.25) - layerNumber(scene, layerOf(shot, 'into'), 'x', cut - 0.25)) /
        100) *
      1280;
    expect(spread).toBeCloseTo(half, 0);
  });

  it('has as many frames whatever the speed of its takes', () => {
    const slowed = { ...shot, layers: shot.layers.map((l) => ({ ...l, timeRemap: l.timeRemap.map((p) => ({ ...p, speed: 0.4 })) })) };
    for (const f of [cut - 5, cut + 3])
      expect(describeFrame(withShots(base, [slowed]), f).layers[0].map).toEqual(describeFrame(whole, f).layers[0].map);
  });

  it('where the shot leaves too little room it says how many frames there are, and takes them when asked', () => {
    const tight = { ...shot, start: { beat: 31, offset: 8 } };
    const [problem] = moveProblems(whole, { ...tight, layers: [], move: { ...moveOf(shot, 'whip'), cut: { beat: 1, offset: 0 } } });
    expect(problem.text).toMatch(/has \d frames on its shorter side, and a whip of 20 needs 10: at most \d+ frames/);
    const { move } = problem.nearest ?? {};
    expect(move && moveProblems(whole, { ...tight, layers: [], move })).toEqual([]);
  });
});

describe('freeze frame', () => {
  const base = project();
  const shot = five(base)[2];
  const whole = withShots(base, [shot]);
  const scene = sceneOf(whole, shot);
  const move = moveOf(shot, 'freeze');
  const [at, until] = [move.at, move.until].map((p) => placeFrame(scene, p));

  it('stands still from its beat for a bar, and runs on from the same frame', () => {
    const second = (f: number) => layerSecond(whole, scene, layerOf(shot, 'base'), f);
    expect([at, at + 10, until - 1].map(second)).toEqual([4, 4, 4]);
    expect(second(at - 5)).toBeCloseTo(3.8, 9);
    expect(second(until + 5)).toBeCloseTo(4.2, 9);
    expect(until - at).toBe(Math.round((4 * 60 * 25) / 112));
  });

  it('lets its parts land one a beat, from outside the frame, over the clean plate', () => {
    const parts = shot.layers.filter((l) => l.id.startsWith('part'));
    expect(parts).toHaveLength(3);
    for (const [i, part] of parts.entries()) {
      const land = placeFrame(scene, { beat: move.at.beat + i + 1, offset: 0 });
      const rest = (f: number) => (['x', 'y', 'turn'] as const).map((n) => Math.round(layerNumber(scene, part, n, f) * 100) / 100);
      if (i < 2) expect(rest(land)).toEqual([0, 0, 0]);
      expect(layerNumber(scene, part, 'scale', land)).toBe(100);
      expect(Math.hypot(...rest(land - move.flight).slice(0, 2))).toBeGreaterThan(100);
      expect(describeFrame(whole, land - move.flight - 1).layers.some((l) => l.layerId === part.id)).toBe(false);
    }
    expect(describeFrame(whole, at).layers.map((l) => l.layerId)).toContain('plate');
    expect(describeFrame(whole, until).layers.map((l) => l.layerId)).toEqual(['base']);
  });

  it('shakes all layers alike as the last part lands, full at once and gone after its frames', () => {
    const land = placeFrame(scene, { beat: move.at.beat + 3, offset: 0 });
    const shake = (id: string, f: number) => layerNumber(scene, layerOf(shot, id), 'y', f);
    for (const id of ['base', 'plate', 'part1', 'part2']) {
      expect(Math.abs(shake(id, land))).toBeCloseTo(1.5, 6);
      expect(shake(id, land + move.shake)).toBe(0);
      expect(shake(id, land - 1)).toBe(0);
    }
  });

  it('a part looks as it is chosen to, and its shadow goes along with it', () => {
    const parts = move.parts.map((part, i) => ({ ...part, look: (['black and white', 'as it is', 'dark'] as const)[i] }));
    const styled = regenerate(whole, { ...shot, move: { ...move, parts, shadow: 40 } });
    const own = (id: string) => layerOf(styled, id);
    expect(['part1', 'part2', 'part3'].map((id) => own(id).effects.map((e) => e.kind))).toEqual([['saturation'], [], ['exposure']]);
    const order = styled.layers.map((l) => l.id);
    for (const n of [1, 2, 3]) {
      expect(order.indexOf(`shadow${n}`)).toBe(order.indexOf(`part${n}`) - 1);
      expect(own(`shadow${n}`).source).toMatchObject({ kind: 'echo', layerId: `part${n}`, shown: 'as a shadow' });
    }
    // Beside its part, through the shake too.
    const now = withShots(base, [styled]);
    const inside = sceneOf(now, styled);
    const land = placeFrame(inside, { beat: move.at.beat + 3, offset: 0 });
    for (const f of [land, land + 3, land + 20]) expect(layerNumber(inside, own('shadow2'), 'y', f)).toBe(1.2);
    expect(describeFrame(now, land).layers.map((l) => l.layerId)).toContain('shadow1');
    expect(describeFrame(now, at + 1).layers.map((l) => l.layerId)).not.toContain('shadow1');
  });

  it('parts that were cut out at another second are told of, with the way back to it', () => {
    const late: MoveOf<'freeze'> = { ...move, use: { ...move.use, sync: move.use.sync + 0.5 } };
    const [problem] = moveProblems(whole, { ...shot, move: late });
    expect(problem.text).toMatch(/cut out at 4\.00 s of the take, and the picture freezes at 4\.50 s/);
    expect(problem.nearest?.move).toMatchObject({ use: { sync: move.use.sync } });
    const fits = { ...late, parts: late.parts.map((part) => ({ ...part, cutAt: late.use.sync })) };
    expect(moveProblems(whole, { ...shot, move: fits })).toEqual([]);
    // Of parts from older documents nothing is known.
    const older = { ...late, parts: late.parts.map(({ cutAt: _, ...part }) => part) };
    expect(moveProblems(whole, { ...shot, move: older })).toEqual([]);
  });

  it('more parts than beats are refused with the nearest that fits', () => {
    const crowded: MoveOf<'freeze'> = { ...move, parts: Array.from({ length: 6 }, () => move.parts[0]) };
    const [problem] = moveProblems(whole, { ...shot, move: crowded });
    expect(problem.text).toMatch(
      /6 parts, one every beat, land up to 6 beats after the freeze, which ends 4 beats after it began: at most 3/,
    );
    expect(problem.nearest && moveProblems(whole, { ...shot, move: problem.nearest.move })).toEqual([]);
  });

  it('a trail leaves a frozen copy every few frames, each fading', () => {
    const trailed = regenerate(whole, {
      ...shot,
      move: { ...move, parts: [], under: 'running', trail: { every: 5, count: 4, opacity: 60 } },
    });
    const now = withShots(base, [trailed]);
    const copies = describeFrame(now, at + 11).layers.filter((l) => l.layerId.startsWith('trail'));
    expect(copies.map((l) => (l.source.kind === 'take' ? l.source.time : 0))).toEqual([4, 4.2, 4.4].map((t) => expect.closeTo(t, 9)));
    expect(copies[0].opacity).toBeLessThan(copies[2].opacity);
    expect(describeFrame(now, at + 40).layers.filter((l) => l.layerId.startsWith('trail'))).toEqual([]);
  });
});

describe('speed ramp', () => {
  const base = project();
  const shot = five(base)[3];
  const whole = withShots(base, [shot]);
  const move = moveOf(shot, 'ramp');

  it('meets each pose on its beat at 40 %, by turns enlarged, and is fast between', () => {
    const scene = sceneOf(whole, shot);
    const time = layerTime(scene, shot.layers[0]);
    move.poses.forEach((pose, i) => {
      const frame = placeFrame(scene, pose);
      expect(time.sourceAt(frameToSeconds(frame, RATE))).toBeCloseTo(pose.source, 9);
      expect(time.speedAt(frameToSeconds(frame, RATE))).toBeCloseTo(0.4, 6);
      expect(layerNumber(scene, shot.layers[0], 'scale', frame)).toBe(i % 2 ? 108 : 100);
    });
    expect(time.speedAt(frameToSeconds(placeFrame(scene, { beat: 1, offset: 0 }), RATE))).toBeGreaterThan(1);
  });

  it('poses too far apart are refused in frames and per cent, and the nearest limit makes them possible', () => {
    const tight: MoveOf<'ramp'> = {
      ...move,
      fastest: 1.2,
      poses: [move.poses[0], { ...move.poses[1], source: move.poses[0].source + 31 / 25, beat: move.poses[0].beat + 0.9 }],
    };
    const [problem] = moveProblems(whole, { ...shot, move: tight });
    expect(problem.text).toMatch(
      /Poses 1 and 2 are 31 frames apart in the take and 12 in the film: that needs 259 %|31 frames apart in the take and 12 frames in the film: that needs 259 %/,
    );
    if (problem.nearest?.move.kind !== 'ramp') throw new Error('no nearest');
    const scene = sceneOf(whole, shot);
    const timed = problem.nearest.move.poses.map((p) => ({
      at: frameToSeconds(placeFrame(scene, p), RATE),
      source: p.source,
      speed: p.speed,
    }));
    expect(solveSpeed(timed, { fastest: problem.nearest.move.fastest, acceleration: Number.POSITIVE_INFINITY }).impossible).toEqual([]);
  });

  it('poses in the wrong order are put in order when asked', () => {
    const tangled: MoveOf<'ramp'> = {
      ...move,
      poses: move.poses.map((p, i) => ({ ...p, source: move.poses[move.poses.length - 1 - i].source })),
    };
    const [problem] = moveProblems(whole, { ...shot, move: tangled });
    expect(problem.text).toMatch(/time would have to run back/);
    expect(problem.nearest?.move).toEqual(move);
  });

  it('finds the calmest rests of a movement, apart from one another', () => {
    const times = Array.from({ length: 250 }, (_, i) => i / 25);
    const movement = times.map(
      (t) => 3 - 2.5 * Math.exp(-(((t - 2) / 0.3) ** 2)) - 2.8 * Math.exp(-(((t - 6) / 0.3) ** 2)) - Math.exp(-(((t - 6.4) / 0.1) ** 2)),
    );
    const found = posesIn(times, movement, 0.5, 9.5, 1, 2);
    expect(found[0]).toBeCloseTo(2, 1);
    expect(found[1]).toBeCloseTo(6, 0);
  });
});

describe('split screen', () => {
  const base = project();
  const shot = five(base)[4];
  const whole = withShots(base, [shot]);
  const move = moveOf(shot, 'split');
  const scene = sceneOf(whole, shot);
  const open = placeFrame(scene, move.open);
  const polygons = (now: Shot, frame: number) =>
    describeFrame(withShots(base, [now]), frame).layers.map((l) => {
      if (l.coverage?.kind !== 'shape') throw new Error('no panel');
      return l.coverage.points;
    });
  const area = (points: readonly { x: number; y: number }[]) =>
    Math.abs(points.reduce((s, p, i) => s + p.x * points[(i + 1) % points.length].y - points[(i + 1) % points.length].x * p.y, 0)) / 2;

  it('goes from the first take’s whole frame to panels with gutters of their width, none at the frame’s edge, and no hole on the way', () => {
    const [whole1, ...waiting] = polygons(shot, open);
    expect(area(whole1)).toBeGreaterThan(1280 * 720);
    for (const points of waiting) expect(area(points)).toBeLessThan(1);
    for (let f = open; f < open + move.frames; f++) {
      const across = polygons(shot, f);
      for (const k of [1, 2]) expect(across[k][0].x - across[k - 1][1].x).toBeLessThanOrEqual(0.015 * 720 + 1e-6);
    }
    const [a, b, c] = polygons(shot, open + move.frames);
    expect(b[0].x - a[1].x).toBeCloseTo(0.015 * 720, 6);
    expect(c[0].x - b[1].x).toBeCloseTo(0.015 * 720, 6);
    expect(a[0].x).toBeLessThan(0);
    expect(c[1].x).toBeGreaterThan(1280);
  });

  it('each panel is filled by its own take to its middle', () => {
    const layers = describeFrame(whole, open + 20).layers;
    expect(layers.map((l) => (l.source.kind === 'take' ? l.source.takeId : ''))).toEqual(['t1', 't2', 't3']);
    for (const [i, { map }] of layers.entries()) {
      // The middle of the panel shows the middle of the picture.
      const x = (1280 * (i + 0.5)) / 3;
      expect(Math.abs(map.a * x + map.b * 360 + map.c - 640)).toBeLessThan(12);
    }
  });

  it('two to nine panels in rows, slanted ones share their gutters, the last row what is left', () => {
    for (let count = 2; count <= 9; count++) {
      const panels = Array.from({ length: count }, (_, i) => ({
        takeId: `t${(i % 3) + 1}`,
        sync: 2,
        zoom: 100,
        x: 0,
        y: 0,
        track: null,
        shot: null,
      }));
      const made = regenerate(whole, { ...shot, move: { ...move, panels, columns: 3, slant: 12, gutter: 0, frames: 0 } });
      const total = polygons(made, open + 5).reduce(
        (sum, points) => sum + area(points.map((p) => ({ x: Math.min(1280, Math.max(0, p.x)), y: Math.min(720, Math.max(0, p.y)) }))),
        0,
      );
      expect(total / (1280 * 720)).toBeGreaterThan(0.98);
      expect(total / (1280 * 720)).toBeLessThan(1.02);
    }
  });

  it('opening and closing that take longer than there is are refused with the most there is', () => {
    const slow = { ...move, frames: 120 };
    const [problem] = moveProblems(whole, { ...shot, move: slow });
    expect(problem.text).toMatch(/opening and closing take 240 frames: at most \d+ each/);
    expect(problem.nearest && moveProblems(whole, { ...shot, move: problem.nearest.move })).toEqual([]);
  });
});

describe('a move run again', () => {
  const base = project();
  const [shot] = five(base);

  it('leaves what was taken over by hand, layers that were added, and masks that were drawn', () => {
    const own = [{ beat: 4, offset: 0, value: 33, easing: 'linear' as const }];
    const after = layerOf(shot, 'after');
    const extra: Layer = { ...after, id: 'mine', madeBy: 'user', name: 'Mine', masks: [] };
    const edited: Shot = {
      ...shot,
      overrides: ['after.line.at'],
      layers: [
        layerOf(shot, 'before'),
        {
          ...after,
          masks: [
            { ...after.masks[0], numbers: { ...after.masks[0].numbers, at: own } },
            { ...after.masks[0], id: 'mask-1', madeBy: 'user' },
          ],
        },
        extra,
      ],
    };
    const again = regenerate(base, { ...edited, move: { ...moveOf(shot, 'reveal'), feather: 40 } });
    expect(again.layers.map((l) => l.id)).toEqual(['before', 'after', 'mine']);
    const [line, drawn] = layerOf(again, 'after').masks;
    expect(line.numbers.at).toEqual(own);
    expect(line.numbers.inside[0].value).toBe(20);
    expect(drawn.id).toBe('mask-1');
  });

  it('moved by bars everything in it goes along; before the song it stays', () => {
    const whole = withShots(base, [shot]);
    const later = movedShot(whole, shot, 4);
    expect(shotFrames(whole, later)[0] - shotFrames(whole, shot)[0]).toBe(Math.round((4 * 60 * 25) / 112));
    expect(later.layers).toBe(shot.layers);
    expect(movedShot(whole, shot, -60)).toBe(shot);
  });
});

describe('footage that does not reach', () => {
  it('is said in frames', () => {
    const base = project();
    const shot = five(base)[1];
    const long = { ...shot, end: { beat: shot.end.beat + 40, offset: 0 } };
    const problems = moveProblems(withShots(base, [long]), long);
    expect(problems[0].text).toMatch(/“m2.mp4” is over \d+ frames before the layer “Whip into” needs it/);
  });
});

describe('moves proposed from takes of any length', () => {
  it('ask for nothing the takes do not have', () => {
    fc.assert(
      fc.property(fc.double({ min: 3, max: 14, noNaN: true }), fc.double({ min: 80, max: 170, noNaN: true }), (seconds, bpm) => {
        const base = project(bpm);
        base.media = base.media.map((m) => (m.kind === 'video' ? { ...m, duration: seconds } : m));
        const rests = [0.2, 0.45, 0.8].map((share) => share * (seconds - 0.3));
        const shots = [
          stagedMove(base, 'reveal', 16, ['t1', 't2'], { fall: [null, null] }),
          stagedMove(base, 'whip', 32, ['t1', 't2']),
          stagedMove(base, 'freeze', 48, ['t1'], { cutOut: { second: seconds / 2, matte: null, plate: null, why: 'no plate' } }),
          stagedMove(base, 'ramp', 64, ['t1'], { movement: restsAt(rests, seconds) }),
          stagedMove(base, 'split', 80, ['t1', 't2', 't3']),
        ];
        for (const shot of shots)
          expect([shot.id, moveProblems(base, shot).filter((p) => !p.text.includes('limit'))]).toEqual([shot.id, []]);
      }),
    );
  });
});
