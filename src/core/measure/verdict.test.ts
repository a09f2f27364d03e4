import { describe, expect, it } from 'vitest';
import type { LightReading } from './light';
import type { LockReading } from './lock';
import { NO_MOVE } from './similarity';
import { correctionMoves, lockVerdict, summarise } from './verdict';

const reading = (dx: number, dy = 0, trusted = true): LockReading => ({
  ...NO_MOVE,
  dx,
  dy,
  trusted,
  inliers: trusted ? 0.9 : 0.1,
  agreeing: [],
});
const times = (n: number) => Array.from({ length: n }, (_, i) => i / 25);
const dark: LightReading = { gains: { r: 0.9, g: 0.93, b: 0.95 }, exposure: -0.1, red: 0.97, blue: 1.02, bands: [] };
const sum = (readings: LockReading[], light: LightReading | null = null) =>
  summarise(
    times(readings.length),
    readings,
    readings.map(() => light),
    1280,
    720,
  );

describe('verdicts', () => {
  it('a still take is locked, and says how sure that is', () => {
    const lock = sum(Array.from({ length: 60 }, (_, i) => reading(0.01 * Math.sin(i))));
    expect(lock.bumps).toEqual([]);
    expect(lockVerdict(lock, 'take one')).toMatchObject({
      level: 'good',
      text: expect.stringMatching(/^Locked against take one: 0\.0\d px.*100 % of the frames/),
    });
  });

  it('a knocked take: the bump’s frame and size, and what it settled to', () => {
    const lock = sum(
      Array.from({ length: 80 }, (_, i) => (i < 30 ? reading(0) : reading(2, -1))),
      dark,
    );
    expect(lock.bumps).toHaveLength(1);
    expect(Math.abs(lock.bumps[0].frame - 30)).toBeLessThanOrEqual(1);
    expect(lock.bumps[0].size).toBeCloseTo(Math.hypot(2, 1), 6);
    expect(lock.typical).toMatchObject({ dx: 2, dy: -1 });
    expect(lockVerdict(lock, 'x').text).toMatch(/bump of 2\.2 px at 1\.\d\d s\. Light −0\.10 EV, red −3\.0 %, blue \+2\.0 %/);
  });

  it('the correction is level before and after the bump and steps with it', () => {
    const lock = sum(Array.from({ length: 80 }, (_, i) => (i < 30 ? reading(0.02) : reading(2))));
    const moves = correctionMoves(lock);
    expect(moves.every((m, i) => i === 0 || m.time > moves[i - 1].time)).toBe(true);
    expect(moves[0].dx).toBeCloseTo(0.02, 9);
    expect(moves[moves.length - 1].dx).toBeCloseTo(2, 9);
    expect(moves.length).toBeLessThan(20);
  });

  it('a slow drift is followed', () => {
    const lock = sum(Array.from({ length: 200 }, (_, i) => reading(i * 0.005)));
    const moves = correctionMoves(lock);
    const middle = moves.find((m) => m.time >= 4);
    expect(Math.abs((middle?.dx ?? 0) - (middle?.time ?? 0) * 0.125)).toBeLessThan(0.06);
  });

  it('gives no figure when most frames could not be followed', () => {
    const lock = sum(Array.from({ length: 40 }, (_, i) => reading(0, 0, i % 4 === 0)));
    expect(lockVerdict(lock, 'x')).toMatchObject({ level: 'unsure', text: expect.stringMatching(/No figure/) });
    expect(correctionMoves(sum([reading(1, 1, false)]))).toHaveLength(1);
  });
});
