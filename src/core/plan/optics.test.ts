import { describe, expect, it } from 'vitest';
import {
  angleOfView,
  apertureStops,
  apertureToHold,
  depthOfField,
  engravedAperture,
  F_NUMBERS,
  fieldAt,
  focalFor,
  focusBetween,
  hyperfocal,
} from './optics';
import { newPlannedShot } from './plan';
import { RECIPES } from './recipes';
import { capturedFrame, circleOfConfusion, filmedArea, SENSORS } from './sensors';

describe('depth of field against Ray, Applied Photographic Optics (values as printed in the shared facts)', () => {
  it('50 mm, f/8, 0.03 mm: hyperfocal 10.467 m; focused at 3 m sharp from 2.338 to 4.185 m', () => {
    expect(hyperfocal(50, 8, 0.03)).toBeCloseTo(10.467, 3);
    const { near, far } = depthOfField(50, 8, 0.03, 3);
    expect(near).toBeCloseTo(2.338, 3);
    expect(far).toBeCloseTo(4.185, 3);
  });

  it('focused at the hyperfocal distance or beyond, far is without end', () => {
    expect(depthOfField(50, 8, 0.03, 10.47).far).toBe(Number.POSITIVE_INFINITY);
    expect(depthOfField(50, 8, 0.03, 10.467).near).toBeCloseTo(10.467 / 2, 1);
  });

  it('to hold 2 m and 4 m: focus at 2.667 m, about f/10.6 at 50 mm', () => {
    expect(focusBetween(2, 4)).toBeCloseTo(2.667, 3);
    const held = apertureToHold(50, 0.03, 2, 4);
    expect(held.exact).toBeCloseTo(10.6, 1);
    expect(engravedAperture(held.exact)).toBe(11);
  });

  it('the aperture found holds just what was asked, for any lens and distance', () => {
    for (const focal of [6, 28, 50, 135])
      for (const [a, b] of [
        [1, 1.4],
        [2, 6],
        [3, 12],
      ]) {
        const { exact, focus } = apertureToHold(focal, 0.02, a, b);
        const { near, far } = depthOfField(focal, exact, 0.02, focus);
        expect(near).toBeCloseTo(a, 6);
        expect(far).toBeCloseTo(b, 6);
      }
    expect(apertureToHold(50, 0.03, 3, 3).exact).toBe(0);
  });
});

describe('field of view', () => {
  it('36 mm sensor, 35 mm lens, 4 m: 4.08 m wide', () => expect(fieldAt(36, 35, 4)).toBeCloseTo(4.08, 2));

  it.each([
    [24, 73.7],
    [35, 54.4],
    [50, 39.6],
    [85, 23.9],
    [135, 15.2],
  ])('a %f mm lens sees %f° across 36 mm (handbook table, from memory)', (focal, degrees) => {
    expect(angleOfView(36, focal)).toBeCloseTo(degrees, 1);
    expect(focalFor(36, angleOfView(36, focal))).toBeCloseTo(focal, 9);
  });

  it('nothing is seen within the focal length', () => expect(fieldAt(36, 50, 0.04)).toBeNaN());

  it('the film uses the sensor’s full width cut to 16:9, or stands upright; a wide capture on a square sensor is cut below and above', () => {
    const shot = newPlannedShot('a', RECIPES[0], '2026-11-27');
    const area = filmedArea(shot.camera);
    expect(area.width).toBe(36);
    expect(area.height).toBeCloseTo(20.25, 6);
    const upright = { ...shot.camera, orientation: 'upright' as const };
    expect(filmedArea(upright)).toEqual({ width: area.height, height: area.width });
    expect(capturedFrame(upright)).toEqual({ width: 1080, height: 1920 });
    const square = { ...shot.camera, sensor: { name: '', width: 20, height: 5 }, captureWidth: 1600, captureHeight: 1200 };
    expect(filmedArea(square)).toEqual({ width: 5 * (1600 / 1200), height: 5 });
  });

  it('36 × 24 gets its usual 0.030 mm; every sensor is wider than high', () => {
    expect(circleOfConfusion(SENSORS[0])).toBeCloseTo(0.03, 4);
    for (const s of SENSORS) expect(s.width).toBeGreaterThan(s.height);
  });
});

describe('stops of the f-number scale (ISO 517)', () => {
  it.each([
    [2.8, 8, 3],
    [1.4, 2, 1],
    [5.6, 4, -1],
    [4, 4.5, 1 / 3],
    [8, 32, 4],
  ])('f/%f to f/%f costs %f stops', (from, to, stops) => expect(apertureStops(from, to)).toBeCloseTo(stops, 9));

  it('neighbours on the scale are a third of a stop apart, and engraved within 5 % of what they stand for', () => {
    F_NUMBERS.forEach((n, i) => {
      if (i) expect(apertureStops(F_NUMBERS[i - 1], n)).toBeCloseTo(1 / 3, 9);
      expect(Math.abs(n / 2 ** (i / 6) - 1)).toBeLessThan(0.05);
    });
  });

  it('engraved values are taken at or above what is needed', () => {
    expect(engravedAperture(0)).toBe(1);
    expect(engravedAperture(5.7)).toBe(6.3);
    expect(engravedAperture(5.6)).toBe(5.6);
    expect(engravedAperture(90)).toBe(32);
  });
});
