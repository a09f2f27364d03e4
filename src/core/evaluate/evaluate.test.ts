import { describe, expect, it } from 'vitest';
import { checkProject } from '../check';
import { footageKey, footageName, footageOf } from '../document/footage';
import { readProject } from '../document/read';
import { emptyProject, PROJECT_VERSION, type Project, type Shot } from '../document/schema';
import { plannedFrame, plannedSlots, tempoOf } from '../edit/planned';
import { proposeSeam } from '../edit/propose';
import { regenerate } from '../edit/regenerate';
import { retimed } from '../edit/retime';
import { type Layer, placeFrame, plainEffect, still } from '../layer';
import { newPlannedShot, RECIPES } from '../plan';
import { fillFrame } from '../sources';
import { stagedMedia, stagedMove, stagedProject } from '../staged';
import { constantBeatMap, doubled } from '../time';
import { correctionAt, describeFrame, gainsAt, layerSecond } from './describe';
import { seamKeyframeAt } from './mask-coverage';
import { edgeGap, overscanFor } from './overscan';
import { reducedSource, scaledPicture } from './scale';
import { beatMapOf, filmFrames, sceneOf, shotFrames } from './shot-scene';

const media = stagedMedia;

/** Two takes of a curtain reveal, in their slots. */
function demo(bpm = 112): Project {
  const project = stagedProject();
  project.media = [media('m1'), media('m2'), { ...media('song', 'audio'), duration: 78 }];
  project.takes = project.takes.slice(0, 2).map((t, i) => ({ ...t, slot: ['one', 'two'][i], tape: i }));
  const map = constantBeatMap(bpm, 0.25, 144);
  project.song = { mediaId: 'song', map, parts: [] };
  project.shots = [stagedMove(project, 'reveal', 32, ['t1', 't2'], {}, 's1')];
  return project;
}
/** First and last frame of the demo's reveal. */
function revealFrames(project: Project): [number, number] {
  const [shot] = project.shots;
  if (shot.move?.kind !== 'reveal') throw new Error('no reveal');
  const scene = sceneOf(project, shot);
  return [placeFrame(scene, shot.move.start), placeFrame(scene, shot.move.end)];
}
const MOVE = { time: 0, dx: 2.3, dy: -1.4, turn: 0.04, scale: 1 };
const corrected = (project: Project, enabled = true): Project => ({
  ...project,
  takes: project.takes.map((t) =>
    t.id === 't2' ? { ...t, correction: { enabled, referenceTakeId: 't1', moves: [MOVE], gains: [{ time: 0, r: 1, g: 1, b: 1 }] } } : t,
  ),
});

describe('a shot on the score', () => {
  it('is the film from its first frame to its last, and black outside', () => {
    const project = demo();
    expect(filmFrames(project)).toEqual(shotFrames(project, project.shots[0]));
    expect(describeFrame(project, 0).layers).toEqual([]);
  });

  it('of two over one another the one that began last is seen', () => {
    const project = demo();
    const [shot] = project.shots;
    project.shots.push({ ...shot, id: 'later', start: { beat: shot.start.beat + 2, offset: 0 } });
    const [first, end] = shotFrames(project, shot);
    expect([first, end - 1].map((f) => describeFrame(project, f).shotId)).toEqual(['s1', 'later']);
  });

  it('twice as many beats leaves every event at its instant', () => {
    const project = demo();
    const before = [shotFrames(project, project.shots[0]), revealFrames(project)];
    const map = beatMapOf(project);
    const { shots } = retimed(project, map, doubled(map));
    const after: Project = { ...project, shots, song: { mediaId: 'song', map: doubled(map), parts: [] } };
    expect([shotFrames(after, shots[0]), revealFrames(after)]).toEqual(before);
    const keys = (p: Project) => p.shots[0].layers[1].masks[0].numbers.at.map((k) => placeFrame(sceneOf(p, p.shots[0]), k));
    expect(keys(after)).toEqual(keys(project));
  });
});

describe('correction and margin', () => {
  it('worked values: 48 output pixels sideways on 1920 need 105.0 %, (24, 13.5) 102.5 %, 1° on 16:9 103.09 %', () => {
    const project = { ...emptyProject('p', 'x'), frame: { width: 1920, height: 1080, rate: { num: 25, den: 1 } } };
    const hd = { ...media('m'), width: 1920, height: 1080 };
    const need = (dx: number, dy: number, turn: number) => overscanFor(project, hd, { moves: [{ time: 0, dx, dy, turn, scale: 1 }] });
    // 48 pixels of the enlarged picture are 48 / 1.05 of the source, in which moves are measured.
    expect(need(48 / 1.05, 0, 0)).toBeCloseTo(105, 1);
    expect(need(24 / 1.025, 13.5 / 1.025, 0)).toBeCloseTo(102.5, 1);
    // 48 source pixels leave 912 of 960 on the one side.
    expect(need(48, 0, 0)).toBeCloseTo((100 * 960) / 912, 1);
    expect(need(0, 0, 1)).toBeCloseTo(103.09, 1);
  });

  it('with that margin no edge shows, with a hair less it does', () => {
    const project = demo();
    const m = media('m2');
    const need = overscanFor(project, m, { moves: [MOVE] });
    expect(edgeGap(fillFrame(project.frame, m, need, MOVE), m, 1280, 720)).toBeLessThan(0.06);
    expect(edgeGap(fillFrame(project.frame, m, need - 0.2, MOVE), m, 1280, 720)).toBeGreaterThan(0.5);
  });

  it('is linear between measurements and off when switched off', () => {
    const moves = [MOVE, { ...MOVE, time: 2, dx: 4.3 }];
    const c = { enabled: true, referenceTakeId: 't1', moves, gains: [{ time: 0, r: 1, g: 1, b: 1 }] };
    expect(correctionAt(c, 1)?.dx).toBeCloseTo(3.3, 9);
    expect(correctionAt(c, 99)?.dx).toBe(4.3);
    expect(correctionAt({ ...c, enabled: false }, 1)).toBeNull();
    const fading = { ...c, gains: [...c.gains, { time: 4, r: 1.2, g: 1, b: 0.8 }] };
    expect(gainsAt(fading, 1).r).toBeCloseTo(1.05, 9);
    expect(gainsAt(fading, 9).b).toBe(0.8);
    expect(gainsAt({ ...fading, enabled: false }, 4)).toEqual({ r: 1, g: 1, b: 1 });
  });

  it('a picture at half size looks at the same points', () => {
    const project = corrected(demo());
    const frame = revealFrames(project)[0] + 20;
    const [full, half] = [describeFrame(project, frame), scaledPicture(describeFrame(project, frame), 0.5)];
    const [a, b] = [full.layers[1].map, reducedSource(half.layers[1].map, 2)];
    expect(a.a * 200 + a.b * 100 + a.c).toBeCloseTo(2 * (b.a * 100 + b.b * 50 + b.c), 9);
    const feather = (p: typeof full) => (p.layers[1].coverage?.kind === 'line' ? p.layers[1].coverage.feather : Number.NaN);
    expect(feather(half)).toBeCloseTo(feather(full) / 2, 9);
  });
});

describe('a seam', () => {
  function seamed(): { project: Project; shot: Shot } {
    const project = corrected(demo());
    const points = (x: number) => [
      { x, y: 0 },
      { x: x + 10, y: 100 },
    ];
    const stands = [
      { from: 0, points: points(40) },
      { from: 1.5, points: points(45) },
    ];
    const shot = proposeSeam(project, 'seam', 28, 4, { takeId: 't1', sync: 3.5 }, { takeId: 't2', sync: 3.8 }, stands, 2, 110);
    project.shots = [shot];
    return { project, shot };
  }

  it('shows the first take with the second right of the seam, both from the shot’s start on', () => {
    const { project, shot } = seamed();
    const [first, end] = shotFrames(project, shot);
    const { layers } = describeFrame(project, first);
    expect(layers.map((l) => l.layerId)).toEqual(['left', 'right']);
    expect(layers[0].coverage).toBeNull();
    expect(layers[1].coverage).toMatchObject({ kind: 'path', feather: 14.4 });
    expect(layerSecond(project, sceneOf(project, shot), shot.layers[0], first + 50)).toBeCloseTo(5.5, 9);
    expect(describeFrame(project, end).layers).toEqual([]);
  });

  it('leaves out what lies beneath a layer that hides it whole, and nothing else', () => {
    const { project, shot } = seamed();
    const [bottom, top] = shot.layers;
    const shown = (more: Partial<Layer>) => {
      project.shots = [{ ...shot, layers: [bottom, { ...top, masks: [], ...more }] }];
      return describeFrame(project, shotFrames(project, shot)[0]).layers.map((l) => l.layerId);
    };
    expect(shown({})).toEqual(['right']);
    const film = project.media.find(
      (m) => m.id === project.takes.find((t) => 'takeId' in top.source && t.id === top.source.takeId)?.mediaId,
    );
    Object.assign(film ?? {}, { clear: true });
    expect(shown({})).toEqual(['left', 'right']);
    Object.assign(film ?? {}, { clear: undefined });
    for (const more of [
      { on: false },
      { masks: top.masks },
      { blend: 'screen' },
      { numbers: { opacity: still(99) } },
      { numbers: { x: still(12) } },
      { numbers: { turn: still(15) } },
      { numbers: { scale: still(80) } },
      { effects: [plainEffect('e', 'blur', { amount: still(1) })] },
    ] satisfies Partial<Layer>[])
      expect(shown(more), JSON.stringify(more)).toContain('left');
    expect(shown({ numbers: { x: still(12) }, edge: 'mirror' })).toEqual(['right']);
    expect(shown({ effects: [plainEffect('e', 'blur')] })).toEqual(['right']);
    expect(shown({ effects: [{ ...plainEffect('e', 'blur', { amount: still(1) }), on: false }] })).toEqual(['right']);
  });

  it('keeps to the set when the shot is enlarged, and moves to its next stand in time', () => {
    const { project, shot } = seamed();
    const [first] = shotFrames(project, shot);
    const path = (p: ReturnType<typeof describeFrame>) => {
      const { coverage } = p.layers[1];
      if (coverage?.kind !== 'path') throw new Error('no path');
      return coverage;
    };
    // 40 % of 1280 is 128 px left of the middle; enlarged to 110 %, 140.8.
    expect(path(describeFrame(project, first)).points[0].x).toBeCloseTo(640 - 140.8, 9);
    const [mask] = shot.layers[1].masks;
    const at = (frame: number) => (mask.kind === 'seam' ? seamKeyframeAt(sceneOf(project, shot), mask.keyframes, frame).points[0].x : 0);
    expect([at(first + 37), at(first + 38)]).toEqual([40, 45]);
    expect(path(scaledPicture(describeFrame(project, first), 0.5)).points[0].x).toBeCloseTo((640 - 140.8) / 2, 9);
  });

  it('is checked like any other shot and read back; without a stand it is refused', () => {
    const { project, shot } = seamed();
    expect(checkProject(project, []).map((f) => f.fix?.label)).toEqual(['Measure the takes']);
    expect(readProject(JSON.parse(JSON.stringify(project)))).toEqual({ ok: true, project });
    const [mask] = shot.layers[1].masks;
    if (mask.kind === 'seam') mask.keyframes = [];
    expect(readProject(project).ok).toBe(false);
  });
});

describe('the document', () => {
  it('reads back what was written; refuses nonsense and newer versions with a sentence', () => {
    const project = demo();
    expect(readProject(JSON.parse(JSON.stringify(project)))).toEqual({ ok: true, project });
    expect(readProject({ ...project, version: PROJECT_VERSION + 1 })).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/newer version/),
    });
    for (const bad of [null, 7, {}, { ...project, frame: { ...project.frame, width: 1281 } }, { ...project, takes: [{}] }])
      expect(readProject(bad).ok).toBe(false);
    const odd = structuredClone(project);
    odd.shots[0].layers[1].masks[0].numbers.width = odd.shots[0].layers[1].masks[0].numbers.at;
    expect(readProject(odd)).toMatchObject({ ok: false, reason: expect.stringMatching(/numbers of its own kind/) });
    const circle = structuredClone(project);
    circle.shots[0].layers[0].source = { kind: 'shot', shotId: 's1' };
    expect(readProject(circle)).toMatchObject({ ok: false, reason: expect.stringMatching(/lies within itself/) });
  });
});

describe('a take that is a part of its file', () => {
  const project = demo();
  project.takes[0].part = { from: 2, to: 5.5 };

  it('has that part as its footage, a key and a name of its own; others have the whole', () => {
    const [part, whole] = project.takes.map((t) => footageOf(project, t.id));
    expect([part.from, part.to]).toEqual([2, 5.5]);
    expect(footageKey(part)).toBe('m1@2.000-5.500');
    expect(footageName(part)).toBe(`${part.name}, 2.0 to 5.5 s`);
    expect([whole.from, whole.to]).toEqual([0, whole.duration]);
    expect(footageKey(whole)).toBe('m2');
    expect(() => footageOf(project, 'nobody')).toThrow(/not in the project/);
  });

  it('shows nothing outside it: before it its first frame stands, after it its last', () => {
    const shot = project.shots[0];
    const [first, last] = shotFrames(project, shot);
    const times = Array.from({ length: last - first }, (_, f) => describeFrame(project, first + f).layers)
      .flat()
      .flatMap(({ source }) => (source.kind === 'take' && source.takeId === project.takes[0].id ? [source.time] : []));
    expect(Math.min(...times)).toBeGreaterThanOrEqual(2);
    expect(Math.max(...times)).toBeLessThan(5.5);
    expect(times.length).toBeGreaterThan(10);
  });

  it('is refused when it ends before it begins', () => {
    const bad = structuredClone(project);
    bad.takes[0].part = { from: 3, to: 3 };
    expect(readProject(bad)).toMatchObject({ ok: false, reason: expect.stringMatching(/must end after it begins/) });
  });
});

describe('documents of version 1', () => {
  const { plans: _, units: __, ...rest } = demo();
  // A reveal of four beats as those versions kept it.
  const oldShot = {
    id: 's1',
    name: 'Curtain reveal',
    start: { beat: 28, offset: 0 },
    end: { beat: 44, offset: 1 },
    before: { takeId: 't1', sync: 3.5 },
    after: { takeId: 't2', sync: 3.8 },
    overscan: 102.4,
    reveal: {
      kind: 'curtain reveal',
      angle: 0,
      start: { beat: 32, offset: 0 },
      end: { beat: 36, offset: 0 },
      feather: 18,
      fallSpeed: 1.5,
      line: [
        { frame: 0, value: -10, easing: 'linear' },
        { frame: 26, value: 40, easing: 'ease in' },
        { frame: 53, value: 110, easing: 'linear' },
      ],
      lineLength: 53,
    },
  };
  const old = {
    ...rest,
    version: 1,
    shots: [oldShot],
    takes: rest.takes.map(({ plan: ___, filmedAt: ____, live: _____, part: ______, ...t }) => t),
    plan: { recipe: 'curtain reveal', falls: 'leaves', fallSeconds: 2.5, handfuls: 40, mark: 'a cross', ticked: ['one'] },
  };

  it('come up to this one with their plan as the first planned shot, its answers and ticks kept', () => {
    const read = readProject(old);
    if (!read.ok) throw new Error(read.reason);
    const { project } = read;
    expect(project.version).toBe(PROJECT_VERSION);
    expect(project.sound).toEqual(emptyProject('p', 'Empty').sound);
    expect(project.unplacedShots).toEqual([]);
    expect(project.plans).toHaveLength(1);
    expect(project.plans[0]).toMatchObject({
      recipe: 'curtain reveal',
      ticked: ['one'],
      inputs: { falls: 'leaves', fallSeconds: 2.5, pieces: 40 },
    });
    expect(project.takes.map((t) => [t.plan, t.slot])).toEqual([
      ['plan-1', 'one'],
      ['plan-1', 'two'],
    ]);
  });

  it('and their reveals as layers that show the same: takes, speed, line and its keys where they were', () => {
    const read = readProject(old);
    if (!read.ok) throw new Error(read.reason);
    const { project } = read;
    const [shot] = project.shots;
    const [from, to] = revealFrames(project);
    expect(shot).toMatchObject({ id: 's1', start: oldShot.start, end: oldShot.end, overscan: 102.4, overrides: ['after.line.at'] });
    expect(to - from).toBe(53);
    const second = (layer: number, frame: number) => layerSecond(project, sceneOf(project, shot), shot.layers[layer], frame);
    expect([second(0, from), second(0, from - 10), second(0, from + 20)]).toEqual(
      [3.5, 3.1, 3.5 + (1.5 * 20) / 25].map((t) => expect.closeTo(t, 9)),
    );
    expect(second(1, to + 10)).toBeCloseTo(3.8 + (1.5 * 53) / 25 + 0.4, 9);
    const position = (frame: number) => {
      const { coverage } = describeFrame(project, frame).layers[1];
      return coverage?.kind === 'line' ? coverage : null;
    };
    expect(position(from)?.position).toBeCloseTo((-0.1 - 0.5) * 720, 6);
    expect(position(from + 26)?.position).toBeCloseTo((0.4 - 0.5) * 720, 6);
    expect(position(from)?.feather).toBeCloseTo(0.18 * 720, 6);
    expect(describeFrame(project, from - 1).layers.map((l) => l.layerId)).toEqual(['before']);
    expect(describeFrame(project, to).layers.map((l) => l.layerId)).toEqual(['after']);
  });

  it('of version 8 say who made each layer and mask, and keep exposure and blur as effects with their keys', () => {
    const now = demo();
    const [shot] = now.shots;
    const keys = [
      { beat: 1, offset: 2, value: -1, easing: 'linear' as const },
      { beat: 3, offset: 0, value: 0.5, easing: 'ease in' as const },
    ];
    const before = shot.layers.map(({ madeBy, effects, masks, ...layer }, i) => ({
      ...layer,
      numbers: i ? {} : { ...layer.numbers, exposure: keys, blur: keys },
      masks: masks.map(({ madeBy, ...mask }) => mask),
    }));
    const drawn = { ...before[1].masks[0], id: 'mask-1' };
    const layers = [before[0], { ...before[1], masks: [...before[1].masks, drawn] }, { ...before[0], id: 'layer-1', numbers: {} }];
    const { overrides, ...rest } = shot;
    const { nestedShots, unplacedShots, ...fields } = now;
    const lists = { inner: nestedShots, aside: unplacedShots };
    const read = readProject({ ...fields, ...lists, version: 8, shots: [{ ...rest, hand: ['before.exposure'], layers }] });
    if (!read.ok) throw new Error(read.reason);
    const [found] = read.project.shots;
    expect(found.overrides).toEqual(['before.exposure']);
    expect(found.layers.map((l) => l.madeBy)).toEqual(['move', 'move', 'user']);
    expect(found.layers[1].masks.map((m) => m.madeBy)).toEqual(['move', 'user']);
    expect(found.layers[0].effects.map(({ kind, numbers }) => [kind, numbers.amount])).toEqual([
      ['exposure', keys],
      ['blur', keys],
    ]);
    // Run again, the move leaves what was added.
    const again = regenerate(read.project, found);
    expect(again.layers.map((l) => [l.id, l.effects.length, l.masks.length])).toEqual([
      ['before', 2, 0],
      ['after', 0, 2],
      ['layer-1', 0, 0],
    ]);
  });

  it('are refused with a sentence when damaged, and what is no document at all too', () => {
    expect(readProject({ ...old, takes: 'none' })).toMatchObject({ ok: false });
    expect(readProject(null)).toMatchObject({ ok: false });
    expect(readProject({ version: 1 })).toMatchObject({ ok: false });
  });
});

describe('planned shots in a project', () => {
  it('take their tempo from the song where they lie, and 120 BPM without one', () => {
    const project = demo(112);
    const shot = newPlannedShot('p', RECIPES[0], '2026-11-27');
    expect(tempoOf(project, shot).barSeconds).toBeCloseTo(240 / 112, 6);
    expect(tempoOf({ ...project, song: null }, shot).beatSeconds).toBeCloseTo(0.5, 9);
    expect(plannedSlots(project, shot).map((s) => s.plate)).toEqual(['first', null, null, 'last']);
    expect(plannedFrame(project)).toEqual({ width: 1280, height: 720, fps: 25 });
  });
});
