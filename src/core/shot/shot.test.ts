import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkProject } from '../check';
import { simplify, valueAt } from '../motion';
import { buildReveal, followLine, meanPath, movedShot, rehung, retimedLine } from '../moves';
import { plainLine } from '../moves/curtain-reveal';
import { newPlannedShot, RECIPES } from '../plan';
import { beatToSeconds, constantBeatMap, doubled, frameToSeconds, resolveAnchor } from '../time';
import {
  beatMapOf,
  correctionAt,
  describeFrame,
  filmFrames,
  gainsAt,
  halfFrame,
  isReveal,
  lineAt,
  onFrame,
  type RevealShot,
  revealFrames,
  type SeamShot,
  seamAt,
  shotFrames,
  sourceMap,
  takeTimeAt,
} from './describe';
import { footageKey, footageName, footageOf } from './footage';
import { edgeGap, overscanFor } from './overscan';
import { plannedFrame, plannedSlots, tempoOf } from './planned';
import { reducedSource, scaledPicture } from './scale';
import { emptyProject, type Media, PROJECT_VERSION, type Project, readProject } from './schema';

const media = (id: string): Media => ({
  id,
  kind: 'video',
  name: `${id}.mp4`,
  type: 'video/mp4',
  bytes: 1,
  duration: 10,
  width: 1280,
  height: 720,
  rotation: 0,
  codec: 'H.264',
  fps: 25,
  variableRate: false,
  hasSound: true,
  colour: { matrix: 'bt709', fullRange: false },
});
const settings = { shutter: '', aperture: '', iso: '', whiteBalance: '', lens: '' };

function demo(bpm = 112): Project {
  const project = emptyProject('p', 'Laundrette');
  project.media = [media('m1'), media('m2'), { ...media('song'), kind: 'audio', duration: 78 }];
  project.takes = ['m1', 'm2'].map((mediaId, i) => ({
    id: `t${i + 1}`,
    mediaId,
    plan: null,
    slot: ['one', 'two'][i],
    number: 1,
    tape: i,
    rating: 0,
    note: '',
    settings,
    filmedAt: null,
    live: null,
    part: null,

    correction: null,
  }));
  const map = constantBeatMap(bpm, 0.25, 144);
  project.song = { mediaId: 'song', map, parts: [] };
  const fall = { from: 3.5, to: 5.4, position: Array.from({ length: 48 }, (_, i) => i / 47) };
  project.shots = [
    buildReveal(project, map, {
      id: 's1',
      beat: 32,
      before: { takeId: 't1', fall },
      after: { takeId: 't2', fall: { ...fall, from: 3.8, to: 5.7 } },
      overscan: 100,
    }),
  ];
  return project;
}
/** The demo's shot, which is a reveal. */
function revealOf(project: Project): RevealShot {
  const [shot] = project.shots;
  if (!isReveal(shot)) throw new Error('no reveal');
  return shot;
}
const MOVE = { time: 0, dx: 2.3, dy: -1.4, turn: 0.04, scale: 1 };
const corrected = (project: Project, enabled = true): Project => ({
  ...project,
  takes: project.takes.map((t) =>
    t.id === 't2' ? { ...t, correction: { enabled, referenceTakeId: 't1', moves: [MOVE], gains: [{ time: 0, r: 1, g: 1, b: 1 }] } } : t,
  ),
});

describe('the reveal as built', () => {
  it('begins on its beat and ends on the beat nearest to the fall’s end', () => {
    const project = demo();
    const shot = revealOf(project);
    const [from, to] = revealFrames(project, shot);
    expect(Math.abs(frameToSeconds(from, { num: 25, den: 1 }) - (0.25 + (32 * 60) / 112))).toBeLessThanOrEqual(0.02 + 1e-9);
    expect(shot.mix.end.beat).toBe(36);
    expect(takeTimeAt(project, shot, shot.before.sync, from)).toBe(3.5);
    expect(takeTimeAt(project, shot, shot.after.sync, from + 25)).toBeCloseTo(4.8, 9);
    expect(filmFrames(project)).toEqual(shotFrames(project, shot));
    expect(to - from).toBe(shot.mix.lineLength);
  });

  it('shows the first take, then both with the line moving on, then the second', () => {
    const project = demo();
    const shot = revealOf(project);
    const [from, to] = revealFrames(project, shot);
    expect(describeFrame(project, from - 1).layers.map((l) => l.takeId)).toEqual(['t1']);
    expect(describeFrame(project, to).layers.map((l) => l.takeId)).toEqual(['t2']);
    let last = Number.NEGATIVE_INFINITY;
    for (let frame = from; frame < to; frame++) {
      const { layers } = describeFrame(project, frame);
      expect(layers.map((l) => l.takeId)).toEqual(['t1', 't2']);
      const { coverage } = layers[1];
      if (coverage?.kind !== 'line') throw new Error('no line');
      expect(coverage.position).toBeGreaterThanOrEqual(last);
      last = coverage.position;
    }
    expect(describeFrame(project, 0).layers).toEqual([]);
  });

  it('the falling part at ×2 runs twice as fast, and the take stays in step at the start', () => {
    const project = demo();
    const shot = revealOf(project);
    shot.mix.fallSpeed = 2;
    const [from, to] = revealFrames(project, shot);
    expect(takeTimeAt(project, shot, 3.5, from)).toBe(3.5);
    expect(takeTimeAt(project, shot, 3.5, to)).toBeCloseTo(3.5 + (2 * (to - from)) / 25, 9);
    expect(takeTimeAt(project, shot, 3.5, from - 10)).toBeCloseTo(3.1, 9);
  });

  it('another tempo or frame rate re-times all, every event within half a frame of its beat', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 60, max: 190, noNaN: true }),
        fc.constantFrom({ num: 24000, den: 1001 }, { num: 25, den: 1 }, { num: 30000, den: 1001 }),
        (bpm, rate) => {
          const project = demo();
          project.frame.rate = rate;
          if (project.song) project.song.map = constantBeatMap(bpm, 0.25, 144);
          const shot = revealOf(project);
          const map = beatMapOf(project);
          for (const anchor of [shot.start, shot.end, shot.mix.start, shot.mix.end]) {
            expect(Math.abs(frameToSeconds(resolveAnchor(map, anchor, rate), rate) - beatToSeconds(map, anchor.beat))).toBeLessThanOrEqual(
              halfFrame(rate) + 1e-7,
            );
          }
          const [from, to] = revealFrames(project, shot);
          expect(lineAt(project, shot, from)).toBeLessThan(0);
          expect(lineAt(project, shot, to)).toBeGreaterThan(100);
        },
      ),
    );
  });

  it('twice as many beats leaves every event at its instant', () => {
    const project = demo();
    const before = shotFrames(project, project.shots[0]);
    const map = beatMapOf(project);
    const { shots } = rehung(project, map, doubled(map));
    const after: Project = { ...project, shots, song: { mediaId: 'song', map: doubled(map), parts: [] } };
    expect(shotFrames(after, shots[0])).toEqual(before);
    expect(revealOf(after).mix.start.beat).toBe(64);
  });

  it('moves by beats, but not before the song', () => {
    const project = demo();
    const map = beatMapOf(project);
    expect(revealOf({ ...project, shots: [movedShot(project, map, project.shots[0], 4)] }).mix.start.beat).toBe(36);
    expect(movedShot(project, map, project.shots[0], -60)).toBe(project.shots[0]);
  });
});

describe('the line’s keys', () => {
  it('follow the path, never turn back, and stand outside the frame at both ends', () => {
    const path = Array.from({ length: 60 }, (_, i) => (i / 59) ** 2);
    const keys = followLine(path, 48, 18);
    expect(keys[0].value).toBeLessThanOrEqual(-9);
    expect(keys[keys.length - 1].value).toBeGreaterThanOrEqual(109);
    expect(keys.length).toBeLessThan(20);
    for (let f = 1; f <= 48; f++) expect(valueAt(keys, f)).toBeGreaterThanOrEqual(valueAt(keys, f - 1) - 1e-9);
    expect(Math.abs(valueAt(keys, 24) - 25)).toBeLessThan(2);
    expect(plainLine(50, 20)).toHaveLength(2);
    expect(simplify(keys, 0).length).toBeLessThanOrEqual(keys.length);
  });
});

describe('the line and the speed of the fall', () => {
  const path = Array.from({ length: 101 }, (_, i) => i / 100);

  it('a fall shorter than the reveal is followed at its own pace and the line has left when it is over', () => {
    const keys = followLine(path, 50, 18, 1.25);
    expect(Math.abs(valueAt(keys, 20) - 50)).toBeLessThan(2);
    expect(valueAt(keys, 40)).toBeGreaterThanOrEqual(109);
    expect(keys[keys.length - 1].frame).toBe(40);
  });

  it('a fall longer than the reveal still ends with the line outside the frame', () => {
    const keys = followLine(path, 50, 18, 0.5);
    expect(Math.abs(valueAt(keys, 25) - 25)).toBeLessThan(2);
    expect(valueAt(keys, 50)).toBeGreaterThanOrEqual(109);
  });

  it('keys stay with the take when its speed changes, close up before the end, and never share a frame', () => {
    const keys = followLine(path, 48, 18);
    const faster = retimedLine(keys, 48, 1, 2);
    for (const f of [6, 12, 20]) expect(Math.abs(valueAt(faster, f) - valueAt(keys, 2 * f))).toBeLessThan(3);
    const slower = retimedLine(keys, 48, 1, 0.5);
    expect(slower).toHaveLength(keys.length);
    expect(slower[slower.length - 1].frame).toBe(48);
    expect(slower.every((k, i) => i === 0 || k.frame > slower[i - 1].frame)).toBe(true);
  });

  it('two paths of different length are averaged share by share', () => {
    const mean = meanPath([
      { from: 0, to: 1, position: [0, 0.5, 1] },
      { from: 0, to: 2, position: [0, 0.1, 0.2, 0.3, 1] },
    ]);
    expect(mean).toHaveLength(101);
    expect(mean[0]).toBe(0);
    expect(mean[50]).toBeCloseTo((0.5 + 0.2) / 2, 9);
    expect(mean[100]).toBe(1);
  });
});

describe('correction and margin', () => {
  it('worked values: 48 output pixels sideways on 1920 need 105.0 %, (24, 13.5) 102.5 %, 1° on 16:9 103.09 %', () => {
    const project = { ...emptyProject('p', 'x'), frame: { width: 1920, height: 1080, rate: { num: 25, den: 1 } } };
    const hd = { ...media('m'), width: 1920, height: 1080 };
    const need = (dx: number, dy: number, turn: number) => overscanFor(project, hd, [{ time: 0, dx, dy, turn, scale: 1 }]);
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
    const need = overscanFor(project, m, [MOVE]);
    expect(edgeGap(sourceMap(project.frame, m, need, MOVE), m, 1280, 720)).toBeLessThan(0.06);
    expect(edgeGap(sourceMap(project.frame, m, need - 0.2, MOVE), m, 1280, 720)).toBeGreaterThan(0.5);
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
    const frame = revealFrames(project, revealOf(project))[0] + 20;
    const [full, half] = [describeFrame(project, frame), scaledPicture(describeFrame(project, frame), 0.5)];
    const [a, b] = [full.layers[1].map, reducedSource(half.layers[1].map, 2)];
    expect(a.a * 200 + a.b * 100 + a.c).toBeCloseTo(2 * (b.a * 100 + b.b * 50 + b.c), 9);
    expect(half.layers[1].coverage?.feather).toBeCloseTo((full.layers[1].coverage?.feather ?? 0) / 2, 9);
  });
});

describe('a seam', () => {
  function seamed(): { project: Project; shot: SeamShot } {
    const project = corrected(demo());
    const { mix: _, ...rest } = project.shots[0];
    const points = (x: number) => [
      { x, y: 0 },
      { x: x + 10, y: 100 },
    ];
    const stands = [
      { from: 0, points: points(40) },
      { from: 1.5, points: points(45) },
    ];
    const shot: SeamShot = { ...rest, overscan: 110, mix: { kind: 'seam', feather: 2, stands } };
    project.shots = [shot];
    return { project, shot };
  }

  it('shows the first take with the second right of the seam, both from the shot’s start on', () => {
    const { project, shot } = seamed();
    const [first, end] = shotFrames(project, shot);
    const { layers } = describeFrame(project, first);
    expect(layers.map((l) => l.takeId)).toEqual(['t1', 't2']);
    expect(layers[0].coverage).toBeNull();
    expect(layers[1].coverage).toMatchObject({ kind: 'path', feather: 14.4 });
    expect(takeTimeAt(project, shot, 3.5, first + 50)).toBeCloseTo(5.5, 9);
    expect(describeFrame(project, end).layers).toEqual([]);
  });

  it('keeps to the set when the shot is enlarged, and moves to its next stand in time', () => {
    const { project, shot } = seamed();
    const [first] = shotFrames(project, shot);
    // 40 % of 1280 is 128 px left of the middle; enlarged to 110 %, 140.8.
    expect(onFrame(project, shot, { x: 40, y: 0 }).x).toBeCloseTo(640 - 140.8, 9);
    expect(onFrame(project, shot, { x: 50, y: 50 })).toEqual({ x: 640, y: 360 });
    expect(seamAt(project, shot, first + 37).points[0].x).toBe(40);
    expect(seamAt(project, shot, first + 38).points[0].x).toBe(45);
    const half = scaledPicture(describeFrame(project, first), 0.5).layers[1].coverage;
    if (half?.kind !== 'path') throw new Error('no path');
    expect(half.points[0].x).toBeCloseTo((640 - 140.8) / 2, 9);
  });

  it('is checked like any other shot, moved whole, and read back', () => {
    const { project, shot } = seamed();
    expect(checkProject(project, []).map((f) => f.rule)).toEqual(['not measured']);
    expect(movedShot(project, beatMapOf(project), shot, 4).start.beat).toBe(shot.start.beat + 4);
    expect(readProject(JSON.parse(JSON.stringify(project)))).toEqual({ ok: true, project });
    shot.mix.stands = [];
    expect(readProject(project).ok).toBe(false);
  });
});

describe('check', () => {
  const measured = [{ takeId: 't2', referenceTakeId: 't1', moves: [MOVE] }];

  it('finds a camera that moved, and nothing once corrected with its margin', () => {
    const [found] = checkProject(demo(), measured);
    expect(found.rule).toBe('camera moved');
    expect(found.weight).toBeGreaterThan(2.6);
    const mended = corrected(demo());
    mended.shots[0].overscan = overscanFor(mended, media('m2'), [MOVE]);
    expect(checkProject(mended, measured)).toEqual([]);
  });

  it('finds the edge that a correction without margin shows, and says how much to enlarge', () => {
    const [found] = checkProject(corrected(demo()), measured);
    expect(found.rule).toBe('edge shows');
    expect(found.fix).toMatchObject({ kind: 'overscan' });
    if (found.fix?.kind === 'overscan') expect(found.fix.percent).toBeCloseTo(overscanFor(demo(), media('m2'), [MOVE]), 9);
  });

  it('finds an event off its beat by more than half a frame, and asks for measuring when nothing is known', () => {
    const project = demo();
    revealOf(project).mix.end.offset = 2;
    const rules = checkProject(project, []).map((f) => f.rule);
    expect(rules).toEqual(['off the beat', 'not measured']);
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
    const tangled = structuredClone(project);
    revealOf(tangled).mix.line.reverse();
    expect(readProject(tangled)).toMatchObject({ ok: false });
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
      .filter((l) => l.takeId === project.takes[0].id)
      .map((l) => l.sourceTime);
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
  const old = {
    ...rest,
    version: 1,
    shots: rest.shots.map(({ mix, ...shot }) => ({ ...shot, reveal: mix })),
    takes: rest.takes.map(({ plan: ___, filmedAt: ____, live: _____, part: ______, ...t }) => t),
    plan: { recipe: 'curtain reveal', falls: 'leaves', fallSeconds: 2.5, handfuls: 40, mark: 'a cross', ticked: ['one'] },
  };

  it('come up to this one with their plan as the first planned shot, its answers and ticks kept', () => {
    const read = readProject(old);
    if (!read.ok) throw new Error(read.reason);
    const { project } = read;
    expect(project.version).toBe(PROJECT_VERSION);
    expect(project.sound).toEqual(emptyProject('p', 'Empty').sound);
    expect(project.aside).toEqual([]);
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
    expect(project.shots).toEqual(rest.shots);
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
