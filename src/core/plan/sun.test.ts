import { describe, expect, it } from 'vitest';
import { clock, instantOf, lightWindow, shadowDrift, sunAt, sunDay, sunShadow } from './sun';

const at = (latitude: number, longitude: number, utcOffset = 0, bearing = 0) => ({ latitude, longitude, utcOffset, bearing });

/**
 * A second implementation: the Astronomical Almanac's low-precision solar coordinates (about 1′, 1950 to 2050) with
 * Greenwich mean sidereal time; formulas from memory. No refraction.
 */
function almanac(date: Date, latitude: number, longitude: number): { altitude: number; azimuth: number } {
  const rad = Math.PI / 180;
  const d = date.getTime() / 86400000 + 2440587.5 - 2451545;
  const g = (357.529 + 0.98560028 * d) * rad;
  const l = (280.459 + 0.98564736 * d + 1.915 * Math.sin(g) + 0.02 * Math.sin(2 * g)) * rad;
  const e = (23.439 - 0.00000036 * d) * rad;
  const ra = Math.atan2(Math.cos(e) * Math.sin(l), Math.cos(l));
  const dec = Math.asin(Math.sin(e) * Math.sin(l));
  const gmst = (18.697374558 + 24.06570982441908 * d) * 15 * rad;
  const h = gmst + longitude * rad - ra;
  const phi = latitude * rad;
  const altitude = Math.asin(Math.sin(phi) * Math.sin(dec) + Math.cos(phi) * Math.cos(dec) * Math.cos(h)) / rad;
  const azimuth = Math.atan2(-Math.sin(h), Math.tan(dec) * Math.cos(phi) - Math.sin(phi) * Math.cos(h)) / rad;
  return { altitude, azimuth: (azimuth + 360) % 360 };
}

describe('the sun', () => {
  it.each([
    ['2026-06-21', 51.48, 0],
    ['2026-11-27', 40.7, -74],
    ['2026-03-20', -33.9, 151.2],
    ['2026-01-05', 0, 30],
    ['2026-08-10', 64.1, -21.9],
  ])('on %s at %f, %f it stands where a second implementation puts it, to a tenth of a degree', (date, latitude, longitude) => {
    for (let minutes = 0; minutes < 1440; minutes += 37) {
      const theirs = almanac(instantOf(date, minutes, 0), latitude, longitude);
      if (theirs.altitude < 12) continue;
      const ours = sunAt(date, minutes, at(latitude, longitude));
      expect(Math.abs(ours.altitude - theirs.altitude)).toBeLessThan(0.1);
      const turn = Math.abs(((ours.bearing - theirs.azimuth + 540) % 360) - 180);
      expect(turn * Math.cos((theirs.altitude * Math.PI) / 180)).toBeLessThan(0.1);
    }
  });

  it('London, 20 June 2024: up at 04:43, down at 21:21 summer time (almanac, from memory)', () => {
    const day = sunDay('2024-06-20', at(51.51, -0.13, 60));
    expect(Math.abs((day.sunrise ?? 0) - (4 * 60 + 43))).toBeLessThan(1.5);
    expect(Math.abs((day.sunset ?? 0) - (21 * 60 + 21))).toBeLessThan(1.5);
    expect(day.dusk ?? 0).toBeGreaterThan((day.sunset ?? 0) + 30);
    expect(clock(day.noon)).toMatch(/^13:0[0-4]$/);
  });

  it('at the equinox noon stands at 90° less the latitude', () => {
    const place = at(50, 0);
    const { noon } = sunDay('2026-03-20', place);
    expect(sunAt('2026-03-20', noon, place).altitude).toBeCloseTo(40, 0);
  });

  it('no sunset in the far north in June, no sunrise in December', () => {
    expect(sunDay('2026-06-21', at(75, 20)).sunset).toBeNull();
    expect(sunDay('2026-12-21', at(75, 20)).sunrise).toBeNull();
  });
});

describe('shadows under the sky', () => {
  const place = at(50, 0, 0, 0);

  it('are as long as the height over the tangent, and point away from the sun', () => {
    const { noon } = sunDay('2026-03-20', place);
    const { altitude } = sunAt('2026-03-20', noon, place);
    const shadow = sunShadow('2026-03-20', noon, place, 1.8);
    expect(Math.hypot(shadow?.x ?? 0, shadow?.z ?? 0)).toBeCloseTo(1.8 / Math.tan((altitude * Math.PI) / 180), 6);
    // The camera looks north, the sun is south: the shadow falls away from the lens.
    expect(shadow?.z ?? 0).toBeGreaterThan(1.5);
    expect(Math.abs(shadow?.x ?? 9)).toBeLessThan(0.05);
    expect(sunShadow('2026-03-20', 0, place, 1.8)).toBeNull();
  });

  it('drift as measured over a minute, fastest when the sun is low', () => {
    const noon = shadowDrift('2026-06-21', 12 * 60, place, 1.8) ?? 0;
    const evening = shadowDrift('2026-06-21', 19 * 60, place, 1.8) ?? 0;
    expect(noon).toBeGreaterThan(0.3);
    expect(evening).toBeGreaterThan(3 * noon);
    expect(shadowDrift('2026-06-21', 1 * 60, place, 1.8)).toBeNull();
  });

  it('the window lasts until the tip has wandered ten centimetres', () => {
    const window = lightWindow('2026-06-21', 12 * 60, place, 1.8);
    const start = sunShadow('2026-06-21', 12 * 60, place, 1.8);
    const end = sunShadow('2026-06-21', window?.to ?? 0, place, 1.8);
    const after = sunShadow('2026-06-21', (window?.to ?? 0) + 1, place, 1.8);
    const way = (s: typeof start) => Math.hypot((s?.x ?? 0) - (start?.x ?? 0), (s?.z ?? 0) - (start?.z ?? 0));
    expect(way(end)).toBeLessThanOrEqual(0.1);
    expect(way(after)).toBeGreaterThan(0.1);
    expect(window?.reason).toMatch(/10 cm/);
    expect(lightWindow('2026-12-21', 20 * 60, place, 1.8)).toBeNull();
  });
});
