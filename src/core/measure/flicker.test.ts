import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { findFlicker, LIGHT_BANDS, lightChanges, withoutFlicker } from './flicker';

const TAU = 2 * Math.PI;
/** Exposures of seven row bands under a lamp at `hertz` with a rolling shutter that takes `readout` seconds from top to bottom. */
function lit(seconds: number, fps: number, hertz: number, swing: number, readout: number, jitter = 0, noise = 0.003) {
  const random = randomSource(4);
  const n = Math.round(seconds * fps);
  const times = Array.from({ length: n }, (_, i) => i / fps + jitter * (random() - 0.5));
  const bands = Array.from({ length: LIGHT_BANDS }, (_, k) =>
    times.map(
      (t) => swing * Math.sin(TAU * hertz * (t + (readout * (k + 0.5)) / LIGHT_BANDS)) + 0.05 * (t / seconds) + noise * (random() - 0.5),
    ),
  );
  return { times, bands };
}
/** Where sampling at `fps` folds a frequency to. */
const folded = (hertz: number, fps: number) => Math.abs(hertz - fps * Math.round(hertz / fps));

describe('flicker (periodogram after Lomb 1976)', () => {
  it.each([
    [100, 29.97, 8],
    [100, 24, 6],
    [120, 25, 10],
    [120, 23.976, 10],
  ])('mains at %d Hz in %d fps: the folded frequency to 0.05 Hz, rolling bars told', (hertz, fps, seconds) => {
    const { times, bands } = lit(seconds, fps, hertz, 0.04, 0.016);
    const found = findFlicker(times, bands);
    expect(Math.abs((found?.frequency ?? 0) - folded(hertz, fps))).toBeLessThan(0.05);
    expect(found?.kind).toBe('rolling bars');
    expect(found?.amplitude).toBeCloseTo(0.04, 2);
  });

  it('a frame that flickers whole, and one filmed at a variable rate', () => {
    const whole = lit(8, 25, 3.3, 0.02, 0);
    expect(findFlicker(whole.times, whole.bands)).toMatchObject({ kind: 'whole frame' });
    const varies = lit(8, 30, 7.3, 0.03, 0, 0.02);
    expect(Math.abs((findFlicker(varies.times, varies.bands)?.frequency ?? 0) - 7.3)).toBeLessThan(0.05);
  });

  it('a lamp dimmed on one side of the set is no flicker', () => {
    const { times, bands } = lit(8, 25, 5, 0, 0);
    const dimmed = bands.map((b, k) => b.map((v, i) => v - (0.08 + 0.012 * k) * Math.max(0, Math.min(1, (times[i] - 5.2) / 1.8))));
    expect(findFlicker(times, dimmed)).toBeNull();
  });

  it('none in steady light, in noise, or in a take too short to tell', () => {
    const steady = lit(8, 25, 5, 0, 0);
    expect(findFlicker(steady.times, steady.bands)).toBeNull();
    const short = lit(1, 25, 5, 0.05, 0);
    expect(findFlicker(short.times, short.bands)).toBeNull();
  });
});

describe('what cannot be seen', () => {
  it('is not told: a swing of a third of a per cent, and noise of every size in four hundred takes', () => {
    const faint = lit(8, 25, 5.2, 0.0045, 0);
    expect(findFlicker(faint.times, faint.bands)).toBeNull();
    const told = Array.from({ length: 400 }, (_, k) => {
      const noisy = lit(5 + k / 40, 25, 5, 0, 0, 0, [0.004, 0.01, 0.02, 0.04][k % 4]);
      const random = randomSource(100 + k);
      const own = noisy.times.map(() => 0.01 * (random() + random() - 1));
      return findFlicker(
        noisy.times,
        noisy.bands.map((b) => b.map((v, i) => v + own[i])),
      );
    });
    expect(told.filter((f) => f !== null)).toHaveLength(0);
  });

  it('its size is right to a twentieth at every frequency', () => {
    for (const hertz of [1.2, 2, 3.7, 6, 9, 11.6]) {
      const { times, bands } = lit(8, 25, hertz, 0.03, 0);
      expect(findFlicker(times, bands)?.amplitude, `${hertz} Hz`).toBeGreaterThan(0.0285);
      expect(findFlicker(times, bands)?.amplitude, `${hertz} Hz`).toBeLessThan(0.0315);
    }
  });
});

describe('changes of light', () => {
  const random = randomSource(8);
  const times = Array.from({ length: 250 }, (_, i) => i / 25);
  const noisy = (f: (t: number) => number) => times.map((t) => f(t) + 0.004 * (random() - 0.5));

  it('a fade from 3 to 5 s and a step at 8 s, with their sizes', () => {
    const found = lightChanges(
      times,
      noisy((t) => -0.2 * Math.max(0, Math.min(1, (t - 3) / 2)) + (t >= 8 ? 0.1 : 0)),
    );
    expect(found.map((c) => c.kind)).toEqual(['fade', 'step']);
    expect(found[0].size).toBeCloseTo(-0.2, 1.5);
    expect(Math.abs(found[0].from - 3)).toBeLessThan(0.25);
    expect(Math.abs(found[0].to - 5)).toBeLessThan(0.25);
    expect(Math.abs(found[1].from - 8)).toBeLessThan(0.15);
    expect(found[1].size).toBeCloseTo(0.1, 1.5);
  });

  it('a flicker is none of them, and a lamp that is dimmed beside it still is', () => {
    const at = (t: number) => 0.06 * Math.sin(TAU * 1.3 * t) - (t >= 5 ? 0.1 : 0);
    const flicker = { frequency: 1.3 };
    expect(lightChanges(times, noisy(at)).length).toBeGreaterThan(5);
    const found = lightChanges(times, withoutFlicker(times, noisy(at), flicker));
    expect(found.map((c) => c.kind)).toEqual(['step']);
    expect(Math.abs(found[0].from - 5)).toBeLessThan(0.2);
  });

  it('nothing in steady light; frames that could not be measured are passed over', () => {
    expect(
      lightChanges(
        times,
        noisy(() => 0.1),
      ),
    ).toEqual([]);
    const holes = noisy((t) => (t > 5 ? 0.1 : 0)).map((v, i) => (i % 3 ? v : null));
    expect(lightChanges(times, holes)).toHaveLength(1);
  });
});
