import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { accelerationOf, NO_LIMITS, type Pose, solveSpeed, sourceInSpan, speedInSpan } from './speed-map';
import { speedTrackMap } from './speed-track';
import { type TimeRemapPoint, timeMap } from './time-map';

const FRAME = 1 / 25;
const at = (map: ReturnType<typeof solveSpeed>, t: number) => {
  const span = map.spans.findLast((s) => s.from <= t + 1e-9) ?? map.spans[0];
  return { source: sourceInSpan(span, t), speed: speedInSpan(span, t) };
};

/** The speed summed at every hundredth of a frame (the middle of each) from one output second to another. */
function integrated(map: ReturnType<typeof solveSpeed>, from: number, to: number): number {
  const steps = Math.round((to - from) / (FRAME / 100));
  let sum = 0;
  for (let i = 0; i < steps; i++) sum += at(map, from + ((i + 0.5) / steps) * (to - from)).speed;
  return (sum / steps) * (to - from);
}

const poses = (list: [number, number, number | null][]): Pose[] => list.map(([t, source, speed]) => ({ at: t, source, speed }));

describe('the speed solver', () => {
  const asked = poses([
    [0, 1.2, 0.4],
    [0.48, 2.1, 0.4],
    [1.4, 2.6, 1],
    [1.92, 4.1, 0.4],
  ]);
  const map = solveSpeed(asked, { fastest: 5, acceleration: Number.POSITIVE_INFINITY });

  it('lands exactly on every pose, by its map and by integrating its speed at a hundredth of a frame', () => {
    for (const [i, p] of asked.entries()) {
      expect(at(map, p.at).source).toBeCloseTo(p.source, 12);
      if (i > 0) expect(integrated(map, asked[0].at, p.at)).toBeCloseTo(p.source - asked[0].source, 5);
    }
  });

  it('has the speeds wanted on the poses wherever the way is long enough, and no corner of speed at any', () => {
    for (const p of asked.filter((q) => q.speed === 0.4)) expect(at(map, p.at).speed).toBeCloseTo(0.4, 9);
    // From 0.48 to 1.4 s only half a second is shown: 100 % on the later pose is more than a smooth way allows.
    for (const span of map.spans) expect(Math.abs(speedInSpan(span, span.from + 1e-6) - span.v0)).toBeLessThan(1e-4);
    expect(map.impossible).toEqual([]);
  });

  it('is monotone and exact for any poses in order, and keeps the fastest speed wherever it can', () => {
    const gap = fc.double({ min: 0.05, max: 2, noNaN: true });
    const speed = fc.option(fc.double({ min: 0, max: 6, noNaN: true }), { nil: null });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(gap, gap, speed), { minLength: 2, maxLength: 8 }),
        fc.double({ min: 0.2, max: 8, noNaN: true }),
        (gaps, fastest) => {
          let [t, s] = [0, 0];
          const list = gaps.map(([dt, ds, v]): Pose => {
            t += dt;
            s += ds;
            return { at: t, source: s, speed: v };
          });
          const solved = solveSpeed(list, { fastest, acceleration: Number.POSITIVE_INFINITY });
          const forbidden = new Set(solved.impossible.map((i) => i.span));
          for (const [i, span] of solved.spans.entries()) {
            expect(sourceInSpan(span, span.to)).toBeCloseTo(list[i + 1].source, 9);
            let before = span.source - 1e-9;
            for (let k = 0; k <= 40; k++) {
              const x = span.from + (k / 40) * (span.to - span.from);
              const now = sourceInSpan(span, x);
              expect(now).toBeGreaterThanOrEqual(before - 1e-9);
              before = now;
              if (!forbidden.has(i)) expect(speedInSpan(span, x)).toBeLessThanOrEqual(fastest + 1e-6);
            }
          }
        },
      ),
      { numRuns: 200 },
    );
  });

  it('says what is impossible and the nearest that is not: 31 frames in 12 need 259 %', () => {
    const tight = poses([
      [0, 0, null],
      [12 * FRAME, 31 * FRAME, null],
    ]);
    const [problem] = solveSpeed(tight, { fastest: 2, acceleration: Number.POSITIVE_INFINITY }).impossible;
    expect(problem.needs).toBeCloseTo(31 / 12, 9);
    // At 200 % the second pose can be met after 15.5 frames.
    expect(problem.earliest / FRAME).toBeCloseTo(15.5, 6);
    expect(solveSpeed(tight, { fastest: 31 / 12, acceleration: Number.POSITIVE_INFINITY }).impossible).toEqual([]);
  });

  it('keeps to a limit of acceleration or says so; the earliest landing it names then keeps it', () => {
    const limits = { fastest: 4, acceleration: 8 };
    const asked2 = (end: number) =>
      poses([
        [0, 0, 0.4],
        [end, 1.5, 0.4],
      ]);
    const [problem] = solveSpeed(asked2(0.6), limits).impossible;
    expect(problem).toBeDefined();
    const later = solveSpeed(asked2(problem.earliest + 1e-6), limits);
    expect(later.spans[0].v).toBeLessThanOrEqual(4 + 1e-6);
    expect(accelerationOf(later.spans[0])).toBeLessThanOrEqual(8.001);
  });

  it('refuses poses out of order with a sentence', () => {
    expect(() =>
      solveSpeed(
        poses([
          [1, 2, null],
          [0, 3, null],
        ]),
        NO_LIMITS,
      ),
    ).toThrow(/must ascend/);
    expect(() =>
      solveSpeed(
        poses([
          [0, 3, null],
          [1, 2, null],
        ]),
        NO_LIMITS,
      ),
    ).toThrow(/not go back/);
  });
});

describe('a take pinned to the film', () => {
  const point = (t: number, source: number | null, speed = 1, way: TimeRemapPoint['way'] = 'even'): TimeRemapPoint => ({
    at: t,
    source,
    speed,
    way,
  });

  it('runs at each stretch’s own speed, backwards from its first second too; checked by summing thousandths', () => {
    const map = timeMap([point(-0.5, null), point(0, 3, 2), point(1.2, null)]);
    const speed = (t: number) => (t >= 0 && t < 1.2 ? 2 : 1);
    for (const end of [-0.9, 0.3, 1.2, 2.5]) {
      let sum = 0;
      const steps = Math.round(Math.abs(end) * 1000);
      for (let i = 0; i < steps; i++) sum += (speed(((i + 0.5) / 1000) * Math.sign(end)) / 1000) * Math.sign(end);
      expect(map.sourceAt(end)).toBeCloseTo(3 + sum, 6);
    }
    expect(map.speedAt(0.5)).toBeCloseTo(2, 12);
    expect(map.speedAt(-3)).toBe(1);
  });

  it('freezes and runs on from the frozen frame', () => {
    const map = timeMap([point(0, null), point(2, 5, 0, 'freeze'), point(3, null)]);
    expect(map.sourceAt(1)).toBe(4);
    expect([2, 2.5, 2.999].map((t) => map.sourceAt(t))).toEqual([5, 5, 5]);
    expect(map.sourceAt(3.25)).toBeCloseTo(5.25, 12);
    expect(map.speedAt(2.5)).toBe(0);
  });

  it('of two points at one second the later stands, and a smooth run that would go back runs evenly', () => {
    expect(timeMap([point(0, 1), point(0, 9)]).sourceAt(0)).toBe(9);
    const back = timeMap([point(0, 5, 1, 'smooth'), point(2, 3, 1, 'smooth')]);
    expect(back.sourceAt(1)).toBe(4);
  });
});

describe('keyed speed', () => {
  it('is integrated: against a sum at a hundredth of a frame, before, between and after its keys', () => {
    const track = [
      { frame: 10, value: 100, easing: 'ease in and out' as const },
      { frame: 30, value: 300, easing: 'linear' as const },
      { frame: 42, value: 40, easing: 'linear' as const },
    ];
    const map = speedTrackMap(track, FRAME, 16, 2);
    expect(map.sourceAt(16 * FRAME)).toBeCloseTo(2, 12);
    for (const frame of [0, 12.5, 31, 60]) {
      let sum = 0;
      const steps = Math.abs(frame - 16) * 100;
      for (let i = 0; i < steps; i++) sum += map.speedAt((16 + (Math.sign(frame - 16) * (i + 0.5)) / 100) * FRAME) / 100;
      expect(map.sourceAt(frame * FRAME)).toBeCloseTo(2 + Math.sign(frame - 16) * sum * FRAME, 4);
    }
  });
});
