import { getPosition, getTimes } from 'suncalc';
import { around, type Degrees, type Metres } from '../units';
import { say } from '../words';
import type { PlannedShot } from './schema';

/** Minutes after local midnight. */
export type ClockMinutes = number;

type Outdoors = NonNullable<PlannedShot['outdoors']>;

/** The UTC instant of a local date and time of day. `date` is YYYY-MM-DD. */
export function instantOf(date: string, minutes: ClockMinutes, utcOffset: number): Date {
  const [y, m, d] = date.split('-').map(Number);
  return new Date(Date.UTC(y, m - 1, d, 0, minutes - utcOffset));
}

/** Sun above the horizon and its bearing from north through east, refraction included (suncalc; Meeus, Astronomical Algorithms). */
export function sunAt(date: string, minutes: ClockMinutes, place: Outdoors): { altitude: Degrees; bearing: Degrees } {
  const { altitude, azimuth } = getPosition(instantOf(date, minutes, place.utcOffset), place.latitude, place.longitude);
  return { altitude, bearing: azimuth };
}

export interface SunDay {
  sunrise: ClockMinutes | null;
  sunset: ClockMinutes | null;
  dawn: ClockMinutes | null;
  dusk: ClockMinutes | null;
  noon: ClockMinutes;
}

/** The day's sun times on the local clock; null where the sun does not rise or set that day. Dusk is civil dusk. */
export function sunDay(date: string, place: Outdoors): SunDay {
  const times = getTimes(instantOf(date, 720, place.utcOffset), place.latitude, place.longitude);
  const midnight = instantOf(date, 0, place.utcOffset).getTime();
  const minutes = (t: Date | null) => (t ? (t.getTime() - midnight) / 60000 : null);
  return {
    sunrise: minutes(times.sunrise),
    sunset: minutes(times.sunset),
    dawn: minutes(times.dawn),
    dusk: minutes(times.dusk),
    noon: minutes(times.solarNoon) ?? 720,
  };
}

/** Where the shadow of something `height` high ends, metres right of and away from the camera's axis; null with the sun down. */
export function sunShadow(date: string, minutes: ClockMinutes, place: Outdoors, height: Metres): { x: Metres; z: Metres } | null {
  const { altitude, bearing } = sunAt(date, minutes, place);
  if (altitude <= 0.5) return null;
  const length = height / Math.tan((altitude * Math.PI) / 180);
  const away = ((bearing + 180 - place.bearing) * Math.PI) / 180;
  return { x: length * Math.sin(away), z: length * Math.cos(away) };
}

/** How fast the tip of the shadow of something `height` high wanders, centimetres a minute; null with the sun down. */
export function shadowDrift(date: string, minutes: ClockMinutes, place: Outdoors, height: Metres): number | null {
  const a = sunShadow(date, minutes - 0.5, place, height);
  const b = sunShadow(date, minutes + 0.5, place, height);
  return a && b ? 100 * Math.hypot(a.x - b.x, a.z - b.z) : null;
}

/** Longest a shadow's tip may wander between takes that are laid over each other, metres. Common practice: a soft feather's width. */
const DRIFT_LIMIT: Metres = 0.1;
/** Lowest sun whose colour still holds still, degrees. Common practice: below it light turns warm within minutes. */
const LOWEST: Degrees = 6;

export interface LightWindow {
  from: ClockMinutes;
  to: ClockMinutes;
  /** What ends it. */
  reason: string;
}

/**
 * The window around `minutes` in which takes will match: while the tip of a person's shadow stays within 10 cm of where
 * it was at the window's start and the sun stands 6° or higher. Null when the sun is lower than that at the start.
 */
export function lightWindow(date: string, minutes: ClockMinutes, place: Outdoors, height: Metres): LightWindow | null {
  if (sunAt(date, minutes, place).altitude < LOWEST) return null;
  const start = sunShadow(date, minutes, place, height);
  if (!start) return null;
  for (let t = minutes + 1; t <= minutes + 600; t++) {
    if (sunAt(date, t, place).altitude < LOWEST)
      return { from: minutes, to: t - 1, reason: say`the sun gets low and its light turns warm` };
    const now = sunShadow(date, t, place, height);
    if (!now || Math.hypot(now.x - start.x, now.z - start.z) > DRIFT_LIMIT)
      return { from: minutes, to: t - 1, reason: say`shadows have wandered ${Math.round(DRIFT_LIMIT * 100)} cm` };
  }
  return { from: minutes, to: minutes + 600, reason: '' };
}

/** 7:05 pm as 19:05; past midnight goes on as 00:10. */
export function clock(minutes: ClockMinutes): string {
  const m = around(Math.round(minutes), 1440);
  return `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
}
