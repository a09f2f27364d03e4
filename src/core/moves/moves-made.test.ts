import { describe, expect, it } from 'vitest';
import type { Project, Shot } from '../document';
import { moveProblems, regenerate, type SomeFacts, shotsToShow } from '../edit';
import { describeFrame, layerSecond, sceneOf, shotFrames } from '../evaluate';
import { type Layer, layerFrames, layerNumber, placeFrame } from '../layer';
import { applied, inverted } from '../picture';
import { restsAt, stagedMove, stagedProject } from '../staged';
import { kindOf, type Move, type MoveOf } from './';
import { liesFrom } from './arrive';
import { evened, highestRise, touchDown } from './figure-course';
import { hitsEvery } from './impact';
import { setsOff } from './reflection';

/** A move as proposed, changed by hand, with what is seen of it. */
function made<K extends Move['kind']>(kind: K, takes: readonly string[], change: Partial<MoveOf<K>> = {}, facts: SomeFacts = {}) {
  const base = stagedProject();
  const proposed = stagedMove(base, kind, 16, takes, facts);
  const shot: Shot = regenerate(base, { ...proposed, move: { ...(proposed.move as MoveOf<K>), ...change } as Move });
  const project: Project = { ...base, shots: [shot] };
  const scene = sceneOf(project, shot);
  const layer = (id: string): Layer => {
    const found = shot.layers.find((l) => l.id === id);
    if (!found) throw new Error(`no layer ${id}`);
    return found;
  };
  return {
    project,
    shot,
    scene,
    layer,
    move: shot.move as MoveOf<K>,
    at: (place: { beat: number; offset: number }) => placeFrame(scene, place),
    seen: (frame: number) => describeFrame(project, frame).layers.map((l) => l.layerId),
    shown: (id: string, frame: number) => describeFrame(project, frame).layers.find((l) => l.layerId === id),
    /** What its masks let through, taken to be of a form. */
    covering: <T>(id: string, frame: number): T => {
      const found = describeFrame(project, frame).layers.find((l) => l.layerId === id)?.coverage;
      if (!found) throw new Error(`nothing covers ${id} on frame ${frame}`);
      return found as unknown as T;
    },
    number: (id: string, name: Parameters<typeof layerNumber>[2], frame: number) => layerNumber(scene, layer(id), name, frame),
    second: (id: string, frame: number) => layerSecond(project, scene, layer(id), frame),
    problems: () => moveProblems(project, shot),
  };
}

describe('impact', () => {
  const m = made('impact', ['t1'], { side: 'left', flash: 2, pop: 150 });
  const hits = m.move.hits.map(m.at);
  it('flashes, jumps and shakes on each hit and rests on the frame before it', () => {
    expect(hits.length).toBeGreaterThan(3);
    for (const hit of hits) {
      expect(m.number('take', 'scale', hit)).toBeCloseTo(105, 6);
      expect(m.number('take', 'scale', hit - 1)).toBeCloseTo(100, 6);
      expect(m.number('take', 'x', hit)).not.toBe(0);
      expect(m.number('take', 'x', hit - 1)).toBeCloseTo(0, 6);
      expect([0, 1, 2, -1].map((k) => m.number('flash', 'opacity', hit + k))).toEqual([60, 60, 0, 0]);
      expect([0, 1, 2].map((k) => m.number('side', 'opacity', hit + k))).toEqual([100, 50, 0]);
    }
  });
  it('the picture is mirrored at its edges, so that a shake shows none', () => expect(m.layer('take').edge).toBe('mirror'));
  it('hits spread over the same beats, and none beyond the last', () => {
    expect(hitsEvery({ beat: 2, offset: 1 }, 8, 2).map((h) => h.beat)).toEqual([2, 4, 6, 8]);
    expect(hitsEvery({ beat: 0, offset: 0 }, 0.9, 1)).toHaveLength(1);
  });
  it('hits a frame apart hit each at once', () => {
    const dense = made('impact', ['t1'], { hits: [0, 0.1, 0.2].map((beat) => ({ beat, offset: 0 })) });
    for (const hit of dense.move.hits.map(dense.at)) expect(dense.number('take', 'scale', hit)).toBeCloseTo(105, 6);
  });
});

describe('a title', () => {
  const m = made('title', ['t1']);
  it('is there from its beat until its end, comes by parts on beats, and widens as it stands', () => {
    const [at, until] = [m.at(m.move.at), m.at(m.move.until)];
    expect(m.seen(at)).toEqual(['take', 'title']);
    const described = (f: number) => m.shown('title', f)?.source as { run: number; title: { tracking: number; every: number } };
    expect(described(at).run).toBeCloseTo(0, 6);
    const beat = placeFrame(m.scene, { beat: m.move.at.beat + 2, offset: 0 });
    expect(described(beat).run).toBeCloseTo(2, 1);
    expect(described(at).title.tracking).toBeCloseTo(0, 1);
    expect(described(until - 10).title.tracking).toBeGreaterThan(9);
    expect(m.number('title', 'opacity', until - 1)).toBeLessThan(20);
  });
});

describe('isolate', () => {
  const m = made('isolate', ['t1']);
  const [at, until] = [m.at(m.move.at), m.at(m.move.until)];
  it('lays the changed rest and the performer over the take, for as long as it lasts', () => {
    expect(m.seen(at - 1)).toEqual(['base']);
    expect(m.seen(at + 5)).toEqual(['base', 'rest', 'figure']);
    expect(m.seen(until)).toEqual(['base']);
    const middle = Math.round((at + until) / 2);
    expect(m.shown('figure', middle)?.coverage?.kind).toBe('matte');
    expect(m.shown('figure', middle)?.effects).toEqual([]);
    expect(m.shown('rest', middle)?.effects.map((e) => e.kind)).toContain('blur');
    expect(m.number('rest', 'opacity', middle)).toBe(100);
  });
  it('shows one instant of the take in all of its layers', () => {
    for (const f of [at, at + 7, until - 1])
      for (const id of ['rest', 'figure']) expect(m.second(id, f)).toBeCloseTo(m.second('base', f), 9);
  });
  it('a rest that is slowed hides the performer of its own time behind the empty set', () => {
    const slow = made('isolate', ['t1'], { rest: 'is slowed', speed: 50 });
    const f = slow.at(slow.move.at) + 20;
    expect(slow.seen(f)).toEqual(['base', 'rest', 'hidden', 'figure']);
    expect(slow.second('rest', f) - slow.move.use.sync).toBeCloseTo((20 / 25) * 0.5, 6);
    const { coverage } = slow.shown('hidden', f) ?? {};
    expect(coverage).toMatchObject({ kind: 'matte', time: slow.second('rest', f) });
    expect(made('isolate', ['t1'], { rest: 'stands still', plate: null }).problems()[0].text).toMatch(/seen twice/);
  });
  it('without a cut-out it says so', () =>
    expect(made('isolate', ['t1'], { figure: null }).problems()[0].text).toMatch(/not cut out of “m1.mp4”/));
});

describe('a trail', () => {
  it('shows copies so many frames late each, the oldest faintest, the performer on top', () => {
    const m = made('trail', ['t1'], { copies: 3, every: 4 });
    const f = m.at(m.move.at) + 20;
    expect(m.seen(f)).toEqual(['base', 'copy3', 'copy2', 'copy1', 'figure']);
    for (const k of [1, 2, 3]) expect(m.second('base', f) - m.second(`copy${k}`, f)).toBeCloseTo((4 * k) / 25, 9);
    expect([1, 2, 3].map((k) => m.number(`copy${k}`, 'opacity', f))).toEqual([60, 35, 10]);
    expect(m.seen(m.at(m.move.at) + 5)).toEqual(['base', 'copy1', 'figure']);
    expect(made('trail', ['t1'], { side: 'in front' }).seen(f)).not.toContain('figure');
  });
  it('more copies than there is room for are refused with as many as fit', () => {
    const m = made('trail', ['t1'], { copies: 30, every: 50 });
    const [problem] = m.problems();
    expect(problem.text).toMatch(/30 copies is 1500 frames late/);
    const { move } = problem.nearest ?? {};
    expect(move && moveProblems(m.project, { ...m.shot, layers: [], move })).toEqual([]);
  });
  it('copies that stand are what the performer was where they were left', () => {
    const m = made('trail', ['t1'], { copies: 2, every: 5, copy: 'stands' });
    const start = m.at(m.move.at);
    expect([start + 12, start + 30].map((f) => m.second('copy1', f))).toEqual([m.move.use.sync, m.move.use.sync]);
  });
});

describe('vanish', () => {
  const m = made('vanish', ['t1', 't2']);
  const at = m.at(m.move.at);
  it('stops on its beat, goes over the empty set within its frames, and comes back as it moves on', () => {
    expect(m.seen(at - 1)).toEqual(['base']);
    expect(m.seen(at)).toEqual(['empty', 'going']);
    expect(m.seen(at + m.move.frames)).toEqual(['empty']);
    expect([at, at + 9].map((f) => m.second('going', f))).toEqual([m.move.use.sync, m.move.use.sync]);
    const gone = (f: number) =>
      (m.shown('going', f)?.effects.find((e) => e.kind === 'dissolve')?.resolved as { gone: number } | undefined)?.gone ?? 0;
    expect(gone(at)).toBe(0);
    expect(gone(at + 9)).toBeCloseTo(0.5, 1);
    const back = m.at(m.move.back?.at ?? m.move.at);
    expect(m.seen(back - 1)).toContain('coming');
    expect(m.seen(back)).toEqual(['after']);
    expect(m.second('after', back)).toBeCloseTo(m.move.back?.use.sync ?? 0, 9);
  });
  it.each(['patches', 'pieces', 'grain', 'light', 'wipe'] as const)('in %s nothing of it is left at the end', (way) => {
    const one = made('vanish', ['t1'], { way, back: null });
    const last = one.shown('going', one.at(one.move.at) + one.move.frames - 1);
    const dissolved = last?.effects.some((e) => e.kind === 'dissolve' && (e.resolved as { gone: number }).gone > 0.98);
    const line = JSON.stringify(last?.coverage ?? '').match(/"position":(-?[\d.]+)/);
    expect(dissolved || (last?.opacity ?? 0) < 0.02 || (line && Number(line[1]) < -350)).toBeTruthy();
  });
  it('without an empty set it says that nothing could be left', () =>
    expect(
      made('vanish', ['t1'], { plate: null })
        .problems()
        .map((p) => p.text)
        .join(),
    ).toMatch(/no empty set/));
});

describe('take-off and landing', () => {
  const m = made('jump', ['t1', 't2']);
  const [at, lands] = [m.at(m.move.at), m.at(m.move.lands)];
  it('is highest on its beat, out within two frames, empty, and down on the landing beat', () => {
    expect(m.second('jump', at - 1)).toBeCloseTo(3 - 2 / 25, 6);
    expect(m.seen(at)).toEqual(['empty', 'out']);
    expect(m.seen(at + 2)).toEqual(['empty']);
    expect(m.number('out', 'y', at + 1)).toBeLessThan(-40);
    expect(m.seen(lands - 3)).toEqual(['empty']);
    expect(m.seen(lands - 1)).toEqual(['empty', 'into']);
    expect(m.seen(lands)).toEqual(['landing']);
    expect(m.second('landing', lands)).toBeCloseTo(4, 9);
  });
  it('runs at twice its speed just before, and as filmed before that', () => {
    expect(m.second('jump', at - 2) - m.second('jump', at - 3)).toBeCloseTo(2 / 25, 6);
    expect(m.second('jump', at - 8) - m.second('jump', at - 9)).toBeCloseTo(1 / 25, 6);
  });
  it('shakes as it lands, and no longer than asked', () => {
    expect(Math.abs(m.number('landing', 'y', lands))).toBeGreaterThan(1);
    expect(m.number('landing', 'y', lands + 11)).toBeCloseTo(0, 9);
  });
});

describe('where somebody jumps and lands', () => {
  const boxes = (feet: (t: number) => number) =>
    Array.from({ length: 100 }, (_, i) => ({ source: i / 25, left: 40, right: 60, top: 20, bottom: feet(i / 25) }));
  it('is the top of the rise and the first moment down, to a frame', () => {
    // Up with 5 m/s under gravity of 9.81 m/s²: 0.51 s to the top, a person of 1.7 m at 60 per cent of the height.
    const leap = boxes((t) => {
      const s = t - 1.2;
      const high = s > 0 && s < 1.02 ? 5 * s - 4.905 * s * s : 0;
      return 90 - (60 / 1.7) * high;
    });
    expect(Math.abs((highestRise(leap) ?? 0) - 1.71)).toBeLessThanOrEqual(0.04);
    const drop = boxes((t) => Math.min(90, 70 + (t > 2 ? (60 / 1.7) * 4.905 * (t - 2) ** 2 : 0)));
    // 20 per cent of the height are 0.567 m: 0.34 s.
    expect(Math.abs((touchDown(drop) ?? 0) - 2.34)).toBeLessThanOrEqual(0.08);
  });
  it('is nowhere for somebody who walks', () => {
    const walk = boxes((t) => 90 + 0.8 * Math.sin(12 * t));
    expect(highestRise(walk)).toBeNull();
    expect(touchDown(walk)).toBeNull();
  });
});

describe('a struck object', () => {
  const m = made('strike', ['t1', 't2', 't3']);
  const at = m.at(m.move.at);
  it('flies by the law of falling bodies from its first frame on', () => {
    expect(m.seen(at - 1)).toEqual(['base']);
    expect(m.seen(at)).toEqual(['base', 'without', 'ghost', 'part']);
    for (const k of [2, 8, 16, 24]) {
      const t = k / 25;
      const f = Math.min(at + k, at + m.move.flies - 0.001);
      expect(m.number('part', 'y', f)).toBeCloseTo(-m.move.up * t + (m.move.gravity * t * t) / 2, 0);
      expect(m.number('part', 'x', f)).toBeCloseTo((m.move.across * t) / (1280 / 720), 0);
    }
    expect(m.seen(at + m.move.flies)).toEqual(['base', 'without']);
  });
  it('shrinks and spins about its own middle', () => {
    const f = at + 10;
    const described = m.shown('part', f);
    const middle = { x: ((m.move.box.left + m.move.box.right) / 200) * 1280, y: ((m.move.box.top + m.move.box.bottom) / 200) * 720 };
    const there = applied(inverted(described?.map ?? { a: 1, b: 0, c: 0, d: 0, e: 1, f: 0 }), middle);
    expect(there.x - middle.x).toBeCloseTo((m.number('part', 'x', f) / 100) * 1280, 0);
    expect(there.y - middle.y).toBeCloseTo((m.number('part', 'y', f) / 100) * 720, 0);
  });
  it('the rest wobbles and is at rest after its frames', () => {
    expect(Math.abs(m.number('without', 'turn', at))).toBeCloseTo(m.move.wobble, 6);
    expect(m.number('without', 'turn', at + m.move.settles)).toBeCloseTo(0, 9);
  });
});

describe('a hidden fill', () => {
  const m = made('fill', ['t1', 't2']);
  it('hides the thing until its beat, under whoever crosses it', () => {
    const at = m.at(m.move.at);
    expect(m.seen(at - 1)).toEqual(['base', 'patch']);
    expect(m.seen(at + 2)).toEqual(['base']);
    const { coverage } = m.shown('patch', at - 1) ?? {};
    expect(coverage).toMatchObject({
      kind: 'many',
      parts: [{ combine: 'add' }, { combine: 'subtract', coverage: { kind: 'silhouette', time: m.second('base', at - 1) } }],
    });
  });
  it('covers all of the box it was given', () => {
    const { coverage } = m.shown('patch', m.at(m.move.at) - 1) ?? {};
    const points = (coverage as unknown as { parts: [{ coverage: { points: { x: number; y: number }[] } }] }).parts[0].coverage.points;
    const { left, top, right, bottom } = m.move.box;
    const [cx, cy] = [((left + right) / 200) * 1280, ((top + bottom) / 200) * 720];
    const radius = (dx: number, dy: number) => Math.max(...points.map((p) => ((p.x - cx) * dx + (p.y - cy) * dy) / Math.hypot(dx, dy)));
    const corner = [((right - left) / 200) * 1280, ((bottom - top) / 200) * 720];
    expect(radius(corner[0], corner[1])).toBeGreaterThan(Math.hypot(...corner));
  });
});

describe('things arrive', () => {
  it('one a beat, each lying as its beat comes, over what came before', () => {
    const m = made('arrive', ['t1', 't2', 't3']);
    m.move.things.forEach((t, i) => {
      const at = m.at(t);
      expect(m.second(`thing${i + 1}`, at)).toBeCloseTo(t.sync, 9);
      expect(m.seen(at).at(-1)).toBe(`thing${i + 1}`);
    });
  });
  it.each(['backwards', 'grown', 'dropped', 'jump cut'] as const)('%s it lies on its beat as well', (way) => {
    const plain = made('arrive', ['t1', 't2']);
    const m = made('arrive', ['t1', 't2'], { things: plain.move.things.map((t) => ({ ...t, way })), shadow: 40 });
    const at = m.at(m.move.things[1]);
    expect(m.second('thing2', at)).toBeCloseTo(m.move.things[1].sync, 9);
    const before = m.seen(at - 2);
    expect(before.includes('coming2')).toBe(way === 'grown' || way === 'dropped');
    expect(before.includes('shadow2')).toBe(way === 'grown' || way === 'dropped');
    if (way === 'backwards') expect(m.second('thing2', at - 2)).toBeCloseTo(m.move.things[1].sync + 2 / 25, 6);
    if (way === 'grown') expect(m.number('coming2', 'scale', at - m.move.frames)).toBeCloseTo(1, 6);
    if (way === 'jump cut') expect(before.at(-1)).toBe('thing1');
  });
  it('a take lies from when its movement is over', () => {
    const times = Array.from({ length: 100 }, (_, i) => i / 25);
    expect(liesFrom({ times, movement: times.map((t) => (t > 1 && t < 2.4 ? 5 : 0.3)) }, 0, 4)).toBeCloseTo(2.4, 6);
    expect(liesFrom({ times, movement: times.map(() => 1) }, 0, 4)).toBeCloseTo(3.2, 6);
  });
});

describe('a passing wipe', () => {
  const m = made('passing', ['t1', 't2']);
  it('begins as what crosses enters, follows it, and leaves the second take alone', () => {
    const [crossing] = m.move.crossings;
    const at = m.at(crossing);
    expect(m.second('scene1', at)).toBeCloseTo(6, 9);
    expect(crossing.frames).toBe(15);
    expect(m.seen(at - 1)).toEqual(['scene1']);
    expect(m.seen(at + 7)).toEqual(['scene1', 'scene2']);
    expect(m.seen(at + crossing.frames)).toEqual(['scene2']);
    const position = (k: number) => m.covering<{ position: number }>('scene2', at + k).position;
    for (let k = 1; k < crossing.frames; k++) expect(position(k)).toBeGreaterThanOrEqual(position(k - 1));
    // In the middle of its time what was measured is in the middle of the frame.
    expect(Math.abs(position(7))).toBeLessThan(0.06 * 1280);
  });
  it('a second take that begins covered is uncovered as the first one is', () => {
    const path = Array.from({ length: 24 }, (_, i) => i / 23);
    const both = made(
      'passing',
      ['t1', 't2'],
      {},
      {
        sweep: [
          { from: 6, to: 6.6, position: path, cover: 0.9, angle: 90 },
          { from: -0.04, to: 0.8, position: path, cover: 0.9, angle: 90 },
        ],
      },
    );
    const [crossing] = both.move.crossings;
    expect(both.second('scene2', both.at(crossing) + crossing.frames)).toBeCloseTo(0.8, 6);
    expect(both.problems()).toEqual([]);
  });
  it('of three takes the second is crossed twice, each time on its beat', () => {
    const three = made('passing', ['t1', 't2', 't3']);
    const [first, second] = three.move.crossings;
    expect(three.second('scene2', three.at(first))).toBeCloseTo(three.move.uses[1].sync, 9);
    expect(three.second('scene2', three.at(second))).toBeCloseTo(three.move.uses[1].out ?? 0, 6);
    expect(three.second('scene3', three.at(second))).toBeCloseTo(three.move.uses[2].sync, 9);
    expect(three.problems()).toEqual([]);
  });
});

describe('clones', () => {
  const m = made('clones', ['t1', 't2', 't3']);
  it('shows all takes at once, each from its seam on, on one instant', () => {
    const [first] = shotFrames(m.project, m.shot);
    expect(m.seen(first + 10)).toEqual(['place1', 'place2', 'place3']);
    for (const id of ['place1', 'place2', 'place3']) expect(m.second(id, first + 10)).toBeCloseTo(10 / 25, 9);
    expect(m.shown('place1', first)?.coverage).toBeNull();
    const at = (id: string) => Math.min(...m.covering<{ points: { x: number }[] }>(id, first).points.map((p) => p.x));
    expect(at('place2') / 12.8).toBeCloseTo(30, 3);
    expect(at('place3') / 12.8).toBeCloseTo(60, 3);
  });
  it('what crosses is laid over on just its frames, within the outline', () => {
    const over = made('clones', ['t1', 't2'], {
      crossings: [{ place: 0, from: { beat: 2, offset: 0 }, until: { beat: 3, offset: 0 } }],
      silhouettes: [{ takeId: 't1', silhouetteId: 'outline' }],
    });
    const [from, to] = layerFrames(over.scene, over.layer('over1'));
    expect([from, to]).toEqual([over.at({ beat: 2, offset: 0 }), over.at({ beat: 3, offset: 0 })]);
    expect(over.shown('over1', from)?.coverage?.kind).toBe('silhouette');
    expect(made('clones', ['t1', 't2'], { crossings: over.move.crossings }).problems()[0].text).toMatch(/not known yet/);
  });
  it('with no measured seam the frame is shared evenly', () => {
    const even = made('clones', ['t1', 't2'], { seams: [[]] });
    const points = even.covering<{ points: { x: number }[] }>('place2', even.scene.first).points;
    for (const { x } of points) expect(x).toBeCloseTo(640, 3);
  });
});

describe('a talking reflection', () => {
  it.each([
    ['left', 30],
    ['right', 30],
    ['top', 40],
    ['bottom', 40],
  ] as const)('the %s half ends at the line', (half, line) => {
    const m = made('reflection', ['t1'], { half, line, lean: 0, feather: 0 });
    const { angle, position } = m.covering<{ angle: number; position: number }>('half1', m.scene.first + 2);
    const turned = (angle * Math.PI) / 180;
    // Let through is what lies before the line on its way: down at 0°, to the right at 90°.
    const through = (x: number, y: number) => (x - 640) * Math.sin(turned) + (y - 360) * Math.cos(turned) < position;
    const [at, down] = [(line / 100) * 1280, (line / 100) * 720];
    const inside = { left: [at - 5, 300], right: [at + 5, 300], top: [600, down - 5], bottom: [600, down + 5] }[half];
    const outside = { left: [at + 5, 300], right: [at - 5, 300], top: [600, down + 5], bottom: [600, down - 5] }[half];
    expect([through(inside[0], inside[1]), through(outside[0], outside[1])]).toEqual([true, false]);
  });
  it('splices on its places, dissolving over as many frames as asked, and the other half runs on', () => {
    const m = made('reflection', ['t1']);
    const [, splice] = m.move.splices;
    const at = m.at(splice);
    expect(m.second('half2', at)).toBeCloseTo(splice.source, 9);
    expect(m.number('half2', 'opacity', at - 3)).toBe(0);
    expect(m.number('half2', 'opacity', at + 2)).toBe(100);
    expect(m.second('whole', m.scene.first + 50)).toBeCloseTo(2, 9);
    expect(m.seen(at)).toEqual(['whole', 'half1', 'half2']);
  });
  it('never goes on from where the take would be over before the next splice', () => {
    for (const rests of [
      [1, 3, 9],
      [2, 4, 6, 8.8],
      [0.5, 9],
    ]) {
      const m = made('reflection', ['t1'], {}, { movement: restsAt(rests) });
      expect(m.problems()).toEqual([]);
    }
  });
  it('is cut along the edge of the room that was found, the smaller half the reflection; upright in the middle without one', () => {
    const along = (upright: { line: number; lean: number } | null, level: { line: number; lean: number } | null) => {
      const { half, line, lean } = made('reflection', ['t1'], {}, { structure: { upright, level } }).move;
      return [half, line, lean];
    };
    expect(along({ line: 38, lean: -3 }, { line: 60, lean: 0 })).toEqual(['left', 38, -3]);
    expect(along(null, { line: 60, lean: 1 })).toEqual(['bottom', 60, 1]);
    expect(along(null, null)).toEqual(['right', 50, 0]);
  });
  it('sets off where the movement has come back after a hold', () => {
    const times = Array.from({ length: 75 }, (_, i) => i / 25);
    expect(setsOff({ times, movement: times.map((t) => (t < 1.6 ? 0.2 : 4)) }, 1, 3)).toBeCloseTo(1.6, 6);
  });
});

describe('a dolly zoom', () => {
  const m = made('dolly', ['t1'], { most: 800 });
  const [at, until] = [m.at(m.move.at), m.at(m.move.until)];
  it('keeps the subject’s size to a per cent on every frame, and never shows an edge', () => {
    const size = (f: number) => (20 + m.second('take', f) * 2.5) * (m.number('take', 'scale', f) / 100);
    for (let f = at; f < until; f++) {
      expect(Math.abs(size(f) / size(at) - 1)).toBeLessThan(0.01);
      expect(m.number('take', 'scale', f)).toBeGreaterThanOrEqual(100 - 1e-6);
      const room = (m.number('take', 'scale', f) - 100) / 2;
      expect(Math.abs(m.number('take', 'x', f))).toBeLessThanOrEqual(room + 0.1);
    }
  });
  it('half as strong it undoes the square root of the change', () => {
    const half = made('dolly', ['t1'], { most: 800, strength: 50 });
    expect(half.number('take', 'scale', at) / half.number('take', 'scale', until - 1)).toBeCloseTo(
      Math.sqrt(m.number('take', 'scale', at) / m.number('take', 'scale', until - 1)),
      2,
    );
  });
  it('more than it may be enlarged is refused with the pixels it needs and the strength that fits', () => {
    const [problem] = made('dolly', ['t1'], { most: 110 }).problems();
    expect(problem.text).toMatch(/enlarged to \d+ %, \d+ pixels across, and 110 % is the limit/);
    const { move } = problem.nearest ?? {};
    expect(move && moveProblems(m.project, { ...m.shot, layers: [], move }).filter((p) => /limit/.test(p.text))).toEqual([]);
  });
  it('there and back it ends where it began', () => {
    const back = made('dolly', ['t1'], { back: true, most: 800 });
    expect(Math.abs(back.second('take', until) - back.second('take', at))).toBeLessThan(0.05);
    expect(back.second('take', Math.round((at + until) / 2))).toBeGreaterThan(1);
  });
  it('readings are evened out over their neighbours', () =>
    expect(
      evened(
        [0, 1, 2].map((s) => ({ source: s / 10, x: s, y: s, size: 10 * s })),
        0.15,
      ).map((p) => p.size),
    ).toEqual([0, 10, 20]));
});

describe('orbit and grid', () => {
  const m = made('orbit', ['t1', 't2']);
  const place = (id: string, i: number, f: number) => {
    const one = m.move.pieces[i];
    const grown = m.number(id, 'scale', f) / 100;
    return { x: 50 + m.number(id, 'x', f) + grown * (one.x - 50), y: 50 + m.number(id, 'y', f) + grown * (one.y - 50) };
  };
  it('each step lands on its beat where the next piece was', () => {
    for (const n of [0, 1, 2, 5]) {
      const f = m.at({ beat: m.move.at.beat + n, offset: 0 });
      const [here, next] = [place('piece1', 0, f), place('piece2', 1, f)];
      const later = place('piece1', 0, m.at({ beat: m.move.at.beat + n + 1, offset: 0 }));
      expect(later.x).toBeCloseTo(next.x, 1);
      expect(later.y).toBeCloseTo(next.y, 1);
      expect(Math.hypot(((here.x - 50) * 1280) / 100, ((here.y - 50) * 720) / 100)).toBeCloseTo(0.2 * 1280, -1);
    }
  });
  it('pieces that would overlap on the ring are refused with the size that fits', () => {
    const wide = made('orbit', ['t1'], { wide: 60 });
    expect(wide.problems()[0].text).toMatch(/overlap/);
    expect(wide.problems()[0].nearest).not.toBeNull();
  });
});

describe('stills', () => {
  it('one grows over its time and stands still in its own', () => {
    const m = made('stills', ['t1']);
    const [at, until] = [m.at(m.move.at), m.at(m.move.until)];
    expect(m.number('still1', 'scale', at)).toBe(100);
    expect(m.number('still1', 'scale', until)).toBe(110);
    expect(m.second('still1', at)).toBe(m.second('still1', until - 1));
    expect(m.seen(at)).toEqual(['still1', 'texture']);
  });
  it('several come one a beat and never overlap or leave the frame', () => {
    const m = made('stills', ['t1', 't2', 't3'], { pop: 0 });
    expect(m.seen(m.at({ beat: 1, offset: 0 }))).toEqual(['still1', 'still2', 'texture']);
    const boxes = [1, 2, 3].map((i) => {
      const f = m.scene.end - 1;
      const half = m.number(`still${i}`, 'scale', f) / 2;
      const [x, y] = [50 + m.number(`still${i}`, 'x', f), 50 + m.number(`still${i}`, 'y', f)];
      return { left: x - half, right: x + half, top: y - half, bottom: y + half };
    });
    for (const b of boxes) {
      expect(Math.min(b.left, b.top)).toBeGreaterThanOrEqual(0);
      expect(Math.max(b.right, b.bottom)).toBeLessThanOrEqual(100);
      for (const o of boxes)
        if (o !== b) expect(b.right <= o.left || o.right <= b.left || b.bottom <= o.top || o.bottom <= b.top).toBe(true);
    }
  });
  it('a wall stands on black, on paper, or on its first still, from its first frame on', () => {
    expect(made('stills', ['t1', 't2']).seen(made('stills', ['t1', 't2']).scene.first)).toEqual(['still1', 'texture']);
    for (const ground of ['paper', 'the first, blurred'] as const) {
      const m = made('stills', ['t1', 't2'], { ground });
      expect(m.seen(m.scene.first)).toEqual(['ground', 'still1', 'texture']);
      expect(m.seen(m.scene.end - 1)).toEqual(['ground', 'still1', 'still2', 'texture']);
    }
    // One that fills the frame needs nothing behind it.
    expect(made('stills', ['t1'], { ground: 'paper' }).seen(10)).not.toContain('ground');
  });
});

describe('an iris', () => {
  it('is open as it begins, shut on its beat, and rests between', () => {
    const m = made('iris', ['t1']);
    const at = m.at(m.move.at);
    const wide = (f: number) => {
      const points = m.covering<{ points: { x: number }[] }>('take', f).points.map((p) => p.x);
      return Math.max(...points) - Math.min(...points);
    };
    expect(wide(at - m.move.frames)).toBeGreaterThan(2 * 1280);
    expect(wide(at)).toBeLessThan(2);
    expect(wide(at - 10)).toBeCloseTo(0.24 * 1280, -1);
  });
  it('opens the same the other way round', () => {
    const m = made('iris', ['t1'], { way: 'opens' });
    const at = m.at(m.move.at);
    const points = (f: number) => m.covering<{ points: { x: number }[] }>('take', f).points.map((p) => p.x);
    expect(Math.max(...points(at)) - Math.min(...points(at))).toBeLessThan(2);
  });
  it('follows who is tracked', () => {
    const track = [0, 5, 10].map((source) => ({ source, x: 20 + 6 * source, y: 50 }));
    const m = made('iris', ['t1'], { track });
    const f = m.at(m.move.at) - 12;
    const points = m.covering<{ points: { x: number }[] }>('take', f).points.map((p) => p.x);
    const middle = (Math.max(...points) + Math.min(...points)) / 2;
    expect(Math.abs(middle / 12.8 - (20 + 6 * m.second('take', f)))).toBeLessThan(0.5);
  });
});

describe('a beam', () => {
  it('is whole on its beat after as many frames as its speed asks for', () => {
    const m = made('beam', ['t1'], { glow: 0 });
    const at = m.at(m.move.at);
    const length = Math.hypot(0.9 * 1280, 0.4 * 720) / 720;
    const drawn = Math.round((length / 6) * 25);
    expect(layerFrames(m.scene, m.layer('light'))[0]).toBe(at - drawn);
    const ends = (f: number) => {
      const points = m.covering<{ points: { x: number }[] }>('light', f).points.map((p) => p.x);
      return [Math.min(...points), Math.max(...points)];
    };
    expect(ends(at)[0]).toBeCloseTo(0.05 * 1280, -2);
    expect(ends(at)[1]).toBeCloseTo(0.95 * 1280, -2);
    // After three of its frames it has come three parts of the way, from 5 to 95 per cent.
    expect(Math.abs(ends(at - drawn + 3)[1] / 12.8 - (5 + (90 * 3) / drawn))).toBeLessThan(1);
    expect(m.seen(at + 16)).toEqual(['take']);
  });
});

describe('throws of the camera as it was filmed', () => {
  const thrown = (peak: number, way: 'left' | 'right' | 'up' | 'down') => ({ from: peak - 0.2, to: peak + 0.2, peak, way });
  const facts = (...whips: ReturnType<typeof thrown>[][]) => ({ whips });
  it('in both takes: the cut lies where each is fastest, and nothing moves them', () => {
    const m = made('whip', ['t1', 't2'], {}, facts([thrown(3, 'up'), thrown(7, 'right')], [thrown(2, 'right'), thrown(6, 'left')]));
    const cut = m.at(m.move.cut);
    expect([m.second('out', cut), m.second('into', cut)]).toEqual([7, 2]);
    for (const frame of [cut - 4, cut - 1]) expect(m.number('out', 'x', frame)).toBe(0);
    for (const frame of [cut, cut + 3]) expect(m.number('into', 'x', frame)).toBe(0);
    expect(m.shown('into', cut)?.motion).toBeNull();
    expect(m.problems()).toEqual([]);
  });
  it('in one of them: the move throws the other the same way', () => {
    const m = made('whip', ['t1', 't2'], {}, facts([], [thrown(2, 'down')]));
    const cut = m.at(m.move.cut);
    expect([m.move.way, m.second('into', cut)]).toEqual(['down', 2]);
    expect(m.number('out', 'y', cut - 1)).toBeGreaterThan(20);
    expect(m.number('into', 'y', cut)).toBe(0);
    expect(m.problems()).toEqual([]);
  });
  it('of two that go two ways the first is used; used both, it is said, and the second take is thrown by the move when asked', () => {
    const other = made('whip', ['t1', 't2'], {}, facts([thrown(7, 'right')], [thrown(2, 'left')]));
    expect([other.move.filmed, other.move.way, other.problems()]).toEqual([{ out: 'right', into: null }, 'right', []]);
    const m = made('whip', ['t1', 't2'], { filmed: { out: 'right', into: 'left' } });
    const [problem] = m.problems();
    expect(problem.text).toMatch(/goes right out of the first take and left into the second/);
    const next = regenerate(m.project, { ...m.shot, move: problem.nearest?.move as Move });
    expect(moveProblems({ ...m.project, shots: [next] }, next)).toEqual([]);
  });
  it('of one filmed and one turned it is said in words, and both go as filmed when asked', () => {
    const m = made('whip', ['t1', 't2'], { filmed: { out: null, into: 'up' }, way: 'turn' });
    const [problem] = m.problems();
    expect(problem.text).toMatch(/goes round out of the first take and up into the second/);
    expect(problem.nearest?.move).toMatchObject({ way: 'up' });
  });
  it('within one take the second comes after the first; a throw of another take is forgotten with it', () => {
    const once = made('whip', ['t1', 't1'], {}, facts([thrown(3, 'left'), thrown(7, 'left')]));
    expect([once.move.out.sync, once.move.into.sync, once.move.filmed]).toEqual([3, 7, { out: 'left', into: 'left' }]);
    const swapped = kindOf(once.move).withTakes(once.move, () => 't2') as MoveOf<'whip'>;
    expect(swapped.filmed).toEqual({ out: null, into: null });
  });
});

describe('a freeze of several figures and drawn parts', () => {
  const others = { cutOthers: { cut: [{ takeId: 't2', second: 2.5, matteId: 'cut-out' }], why: '' } };
  it('the other take’s figure comes last, frozen where it was cut out, on half beats where a beat each is too slow', () => {
    const m = made('freeze', ['t1', 't2'], {}, others);
    expect(m.move.parts.map(({ takeId }) => takeId)).toEqual([null, null, null, 't2']);
    expect(m.move.every).toBe(0.5);
    const landed = m.at({ beat: m.move.at.beat + 2, offset: 0 });
    expect(m.second('part4', landed)).toBe(2.5);
    expect(m.second('part1', landed)).toBe(4);
    // Where it stood, once the frame has ceased to shake.
    expect(m.number('part4', 'x', landed + 15)).toBeCloseTo(0, 6);
    expect(m.problems()).toEqual([]);
  });
  it('a drawn part flies in as the others do, cut by what is drawn; its second is the frozen one', () => {
    const m = made('freeze', ['t1']);
    const { kind } = m.move;
    const add = kindOf({ kind }).fields.find((f) => f.is === 'action' && f.label === 'One drawn part more');
    const { parts } = (add?.is === 'action' ? add.apply(m.move) : {}) as MoveOf<'freeze'>;
    const drawn = made('freeze', ['t1'], { parts, every: 0.5 });
    const last = `part${parts.length}`;
    expect(drawn.layer(last).masks.map((mask) => mask.kind)).toEqual(['outline']);
    expect(drawn.second(last, drawn.at(drawn.move.until) - 1)).toBe(4);
    expect(drawn.problems()).toEqual([]);
  });
  it('with another take chosen its parts do not fit, and are cut out again', () => {
    const m = made('freeze', ['t1', 't2'], {}, others);
    const swapped = kindOf(m.move).withTakes(m.move, (takeId) => (takeId === 't2' ? 't3' : takeId)) as MoveOf<'freeze'>;
    const again = made('freeze', ['t1'], swapped);
    expect(again.problems()[0].text).toMatch(/cut out of another take/);
    const cut = kindOf(swapped).fields.find((f) => f.is === 'measure');
    if (cut?.is !== 'measure') throw new Error('no press');
    expect(cut.takes(swapped)).toEqual(['t1', 't3']);
    const { change } = cut.apply(swapped, { cutOuts: { mattes: ['cut-out', 'cut-out'], why: '' } } as never);
    expect(made('freeze', ['t1'], { ...swapped, ...(change as Partial<MoveOf<'freeze'>>) }).problems()).toEqual([]);
  });
});

describe('panels of other shots, and who reaches over a gutter', () => {
  it('a panel shows another shot from its begin as it opens, and no shot that shows the panels', () => {
    const m = made('split', ['t1', 't2']);
    const other = { ...m.shot, id: 'other', start: { beat: 60, offset: 0 }, end: { beat: 68, offset: 0 } };
    const [first, second] = m.move.panels;
    const shot = regenerate(m.project, {
      ...m.shot,
      move: { ...m.move, panels: [first, { ...second, shot: { shotId: 'other', from: 1 } }] },
    });
    const project = { ...m.project, shots: [shot, other] };
    const shown = describeFrame(project, m.at(m.move.open) + 20).layers.find((l) => l.layerId === 'panel2');
    expect(shown?.source).toMatchObject({ kind: 'shot', picture: { layers: expect.any(Array) } });
    expect(layerSecond(project, m.scene, shot.layers[1], m.at(m.move.open))).toBeCloseTo(1, 6);
    expect(shotsToShow(project, shot).map((s) => s.id)).toEqual(['other']);
    expect(shotsToShow(project, other)).toEqual([]);
  });
  it('who reaches over is above all panels within their outline, placed as their panel is, as long as asked', () => {
    const reach = { panel: 1, from: { beat: 2, offset: 0 }, until: { beat: 4, offset: 0 }, silhouetteId: null };
    const asked = made('split', ['t1', 't2'], { reaches: [reach] });
    expect(kindOf(asked.move).outlines?.missing(asked.move)).toEqual(['t1']);
    expect(asked.shot.layers).toHaveLength(2);
    const reaches = [{ ...reach, silhouetteId: 'outline' }];
    const m = made('split', ['t1', 't2'], { reaches });
    expect([1, 2, 3.9, 4].map((beat) => m.seen(m.at({ beat, offset: 0 })).includes('reach1'))).toEqual([false, true, true, false]);
    const frame = m.at({ beat: 3, offset: 0 });
    expect(m.seen(frame)).toEqual(['panel1', 'panel2', 'reach1']);
    expect(m.shown('reach1', frame)?.map).toEqual(m.shown('panel1', frame)?.map);
    expect(m.covering<{ kind: string }>('reach1', frame).kind).toBe('silhouette');
    expect(made('split', ['t1', 't2'], { reaches: [{ ...reaches[0], panel: 3 }] }).problems()[0].text).toMatch(/no panel 3/);
  });
});

describe('supports painted out of a passing wipe', () => {
  const patch = { plate: 'empty', box: { left: 60, top: 40, right: 66, bottom: 95 }, soft: 2, silhouetteId: 'outline' };
  it('lie over their scene, under what moves before it, and come and go with it', () => {
    const m = made('passing', ['t1', 't2'], { patches: [1, 2].map((scene) => ({ ...patch, scene })) });
    const [crossing] = m.move.crossings;
    const [before, within, after] = [m.at(crossing) - 1, m.at(crossing) + 5, m.at(crossing) + crossing.frames + 5];
    expect(m.seen(before)).toEqual(['scene1', 'patch1-1']);
    expect(m.seen(within)).toEqual(['scene1', 'patch1-1', 'scene2', 'patch2-1']);
    expect(m.seen(after)).toEqual(['scene2', 'patch2-1']);
    expect(m.layer('patch1-1').masks.map((mask) => [mask.kind, mask.combine])).toEqual([
      ['ellipse', 'add'],
      ['silhouette', 'subtract'],
    ]);
    // Behind the line the second scene's patch is not there before its scene is.
    expect(m.layer('patch2-1').masks.map((mask) => [mask.kind, mask.combine])).toEqual([
      ['ellipse', 'add'],
      ['silhouette', 'subtract'],
      ['line', 'intersect'],
    ]);
    const [, second] = m.move.uses;
    const swapped = kindOf(m.move).withTakes(m.move, (id) => (id === second.takeId ? 't3' : id)) as MoveOf<'passing'>;
    expect(swapped.patches.map((p) => p.scene)).toEqual([1]);
  });
});
