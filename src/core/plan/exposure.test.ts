import { describe, expect, it } from 'vitest';
import {
  exposureChange,
  flickerFree,
  isoStops,
  listedIso,
  safeShutters,
  shutterAngle,
  shutterLabel,
  shutterStops,
  slowMotion,
  waysToPay,
} from './exposure';

describe('exposure (ISO 2720 / APEX)', () => {
  it('f/2.8 to f/8 costs three stops: ISO 100 to 800, or eight times the light', () => {
    expect(exposureChange({ aperture: 2.8, iso: 100, shutter: 0.02 }, { aperture: 8, iso: 100, shutter: 0.02 })).toBeCloseTo(3, 9);
    expect(exposureChange({ aperture: 2.8, iso: 100, shutter: 0.02 }, { aperture: 8, iso: 800, shutter: 0.02 })).toBeCloseTo(0, 9);
    const ways = waysToPay(3, 100, 1 / 50, 25, 50);
    expect(ways.find((w) => w.means === 'ISO')?.text).toBe('ISO 100 → 800');
    expect(ways.find((w) => w.means === 'lamp power')?.text).toMatch(/^8 times/);
    expect(ways.find((w) => w.means === 'lamp distance')?.text).toContain('35 %');
  });

  it('twice the time or the ISO is one stop', () => {
    expect(shutterStops(1 / 50, 1 / 100)).toBeCloseTo(1, 9);
    expect(isoStops(400, 200)).toBeCloseTo(1, 9);
  });

  it('nothing to pay asks for nothing; an ISO beyond the list is said so', () => {
    expect(waysToPay(0, 100, 0.02, 25, 50)).toEqual([]);
    expect(listedIso(25600 * 2).over).toBe(true);
    expect(waysToPay(3, 20000, 0.02, 25, 50)[0].text).toMatch(/beyond 25600/);
  });

  it('a longer shutter is offered only when it stays free of flicker within the frame', () => {
    const shutter = waysToPay(1, 100, 1 / 100, 25, 50).find((w) => w.means === 'shutter');
    expect(shutter?.text).toBe('shutter 1/100 → 1/50 wins 1.0 stops');
    expect(waysToPay(1, 100, 1 / 25, 25, 50).some((w) => w.means === 'shutter')).toBe(false);
  });
});

describe('mains flicker (whole multiples of 1/100 s and 1/120 s; lighting handbooks)', () => {
  it.each([
    [25, 50, '1/50', 180],
    [24, 50, '1/50', 172.8],
    [30, 60, '1/60', 180],
    [24, 60, '1/40', 216],
    [50, 50, '1/100', 180],
    [25, 60, '1/60', 150],
  ] as const)('at %f fps under %i Hz the nearest to 180° is %s (%f°)', (rate, mains, label, angle) => {
    const [best] = safeShutters(rate, mains);
    expect(best.label).toBe(label);
    expect(best.angle).toBeCloseTo(angle, 6);
  });

  it('all that are listed are free of it and fit the frame; above twice the mains there are none', () => {
    for (const rate of [23.976, 25, 29.97, 48, 60])
      for (const mains of [50, 60] as const)
        for (const s of safeShutters(rate, mains)) {
          expect(flickerFree(s.time, mains)).toBe(true);
          expect(s.time).toBeLessThanOrEqual(1 / rate + 1e-9);
        }
    expect(safeShutters(120, 50)).toEqual([]);
    expect(flickerFree(1 / 48, 50)).toBe(false);
    expect(flickerFree(1 / 60, 50)).toBe(false);
    expect(flickerFree(1 / 500, 50)).toBe(false);
  });

  it('1/48 at 24 fps is 180°', () => {
    expect(shutterAngle(1 / 48, 24)).toBeCloseTo(180, 9);
    expect(shutterLabel(1 / 48)).toBe('1/48');
    expect(shutterLabel(0.5)).toBe('0.5 s');
  });
});

describe('slow motion (common practice: 48 for 24 is played at 200 %; 120 shown in 24 goes down to 20 %)', () => {
  it.each([
    [24, 50, 48, 200, 1],
    [24, 20, 120, 500, Math.log2(5)],
    [25, 40, 100, 400, 2],
    [25, 100, 25, 100, 0],
    [30, 25, 120, 400, 2],
  ])('%f fps slowed to %f %% is filmed at %f, played at %f %%', (project, slowest, capture, playback, lost) => {
    const s = slowMotion(project, slowest);
    expect(s).toMatchObject({ capture, playback });
    expect(s.lost).toBeCloseTo(lost, 9);
    expect(s.slowest).toBeLessThanOrEqual(slowest + 1e-9);
  });

  it('a speed no camera reaches gets the fastest there is', () => expect(slowMotion(25, 2).capture).toBe(960));
});
