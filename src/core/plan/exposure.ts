import type { Degrees, Seconds, Stops } from '../units';
import { say } from '../words';
import { apertureStops } from './optics';

/** ISO speeds in third stops, as cameras list them. ISO 12232 rounded values, from memory. */
export const ISO_SPEEDS = [
  50, 64, 80, 100, 125, 160, 200, 250, 320, 400, 500, 640, 800, 1000, 1250, 1600, 2000, 2500, 3200, 4000, 5000, 6400, 8000, 10000, 12800,
  16000, 20000, 25600,
] as const;

/** Denominators of shutter fractions in third stops, with the video ones (1/48, 1/96) that cameras offer beside them. Common practice. */
export const SHUTTERS = [
  24, 25, 30, 40, 48, 50, 60, 80, 90, 96, 100, 120, 125, 160, 180, 192, 200, 240, 250, 320, 400, 480, 500, 640, 800, 960, 1000, 1250, 1600,
  2000,
] as const;

/** Light lost from one shutter time to another. */
export function shutterStops(from: Seconds, to: Seconds): Stops {
  return Math.log2(from / to);
}

/** Light lost from one ISO to another (a lower ISO loses). */
export function isoStops(from: number, to: number): Stops {
  return Math.log2(from / to);
}

/** The listed ISO nearest to `iso`, in stops; `over` is true when even the last of the list is too low by a third of a stop. */
export function listedIso(iso: number): { iso: number; over: boolean } {
  const nearest = ISO_SPEEDS.reduce((a, b) => (Math.abs(Math.log2(b / iso)) < Math.abs(Math.log2(a / iso)) ? b : a));
  return { iso: nearest, over: iso > ISO_SPEEDS[ISO_SPEEDS.length - 1] * 1.26 };
}

/** Shutter angle of an exposure time at a frame rate: time × rate × 360. */
export function shutterAngle(time: Seconds, rate: number): Degrees {
  return time * rate * 360;
}

export interface SafeShutter {
  time: Seconds;
  /** As set on the camera: 1/50. */
  label: string;
  angle: Degrees;
  /** Light lost (or won, negative) against 180°. */
  stops: Stops;
}

/**
 * Exposure times that show no mains flicker: whole multiples of half a mains period (1/100 s at 50 Hz, 1/120 s at
 * 60 Hz; any lighting handbook), no longer than the frame, nearest to 180° first. Empty when the rate is above twice
 * the mains: then only light that does not flicker helps.
 */
export function safeShutters(rate: number, mains: 50 | 60): SafeShutter[] {
  const pulse = 1 / (2 * mains);
  const count = Math.floor(1 / rate / pulse + 1e-9);
  return Array.from({ length: count }, (_, i) => {
    const time = (i + 1) * pulse;
    const angle = shutterAngle(time, rate);
    return { time, label: shutterLabel(time), angle, stops: Math.log2(180 / angle) };
  }).sort((a, b) => Math.abs(Math.log2(a.angle / 180)) - Math.abs(Math.log2(b.angle / 180)) || a.time - b.time);
}

/** 1/50 for 0.02; 0.4 s from a third of a second on. */
export function shutterLabel(time: Seconds): string {
  if (time >= 0.3) return `${Number(time.toFixed(2))} s`;
  const under = 1 / time;
  return `1/${Math.abs(under - Math.round(under)) < 0.02 * Math.sqrt(under) ? Math.round(under) : Number(under.toFixed(1))}`;
}

/** Whether an exposure time is a whole multiple of half a mains period, within one per cent of a pulse. */
export function flickerFree(time: Seconds, mains: 50 | 60): boolean {
  const pulses = time * 2 * mains;
  return pulses > 0.99 && Math.abs(pulses - Math.round(pulses)) < 0.01;
}

export interface SlowMotion {
  /** Frames a second the camera must take. */
  capture: number;
  /** Speed in per cent at which the song plays on set, so that lips meet the words once slowed. */
  playback: number;
  /** Light lost against filming at the project's rate with the same shutter angle. */
  lost: Stops;
  /** Slowest speed in per cent before frames repeat at the rate the camera can. */
  slowest: number;
}

/** Frame rates cameras offer. Common practice. */
const CAPTURE_RATES = [24, 25, 30, 48, 50, 60, 100, 120, 180, 200, 240, 300, 480, 960] as const;

/**
 * What the slowest speed wanted asks of the camera: the first offered rate at or above project rate / speed; the song
 * is played faster by capture / project (48 for 24: 200 %). Light lost is log2(capture/project). `slowest` in per cent.
 */
export function slowMotion(projectRate: number, slowest: number, offered: readonly number[] = CAPTURE_RATES): SlowMotion {
  const wanted = projectRate / (slowest / 100);
  const capture = offered.find((r) => r >= wanted - 0.06) ?? offered[offered.length - 1];
  const used = Math.max(capture, projectRate);
  return { capture: used, playback: (100 * used) / projectRate, lost: Math.log2(used / projectRate), slowest: (100 * projectRate) / used };
}

/** One way to pay for lost light. */
export interface Payment {
  means: 'ISO' | 'lamp power' | 'lamp distance' | 'shutter';
  text: string;
  price: string;
}

/**
 * Ways to pay for `stops` of light: a higher ISO, stronger or nearer lamps (inverse square: half the distance is two
 * stops), a longer shutter that stays within the frame and free of flicker. Nothing to pay gives an empty list.
 */
export function waysToPay(stops: Stops, iso: number, shutter: Seconds, rate: number, mains: 50 | 60): Payment[] {
  if (stops <= 0.05) return [];
  const target = listedIso(iso * 2 ** stops);
  const s = stops.toFixed(1);
  const out: Payment[] = [
    {
      means: 'ISO',
      text: target.over ? say`ISO ${iso} would have to rise beyond ${target.iso}` : say`ISO ${iso} → ${target.iso}`,
      price:
        target.iso >= 6400
          ? 'much noise; masks and cut-outs get ragged edges'
          : target.iso >= 1600
            ? say`visible noise in the dark parts`
            : say`a little noise`,
    },
    {
      means: 'lamp power',
      text: say`${(2 ** stops).toFixed(stops < 2 ? 1 : 0)} times the light (${s} stops)`,
      price: 'more lamps, more heat, more mains load; the look stays',
    },
    {
      means: 'lamp distance',
      text: say`lamps at ${Math.round(100 / 2 ** (stops / 2))} % of their distance`,
      price: say`light falls off more across the set, shadows spread more; keep them out of the frame`,
    },
  ];
  const longer = safeShutters(rate, mains)
    .map((x) => ({ ...x, gain: Math.log2(x.time / shutter) }))
    .filter((x) => x.gain > 0.1)
    .sort((a, b) => Math.abs(a.gain - stops) - Math.abs(b.gain - stops));
  if (longer.length)
    out.push({
      means: 'shutter',
      text: say`shutter ${shutterLabel(shutter)} → ${longer[0].label} wins ${longer[0].gain.toFixed(1)} stops`,
      price: say`${Math.round(longer[0].angle)}°: movement smears ${(longer[0].time / shutter).toFixed(1)} times as far`,
    });
  return out;
}

/** Stops lost from one set of settings to another; positive is darker. */
export function exposureChange(
  from: { aperture: number; iso: number; shutter: Seconds },
  to: { aperture: number; iso: number; shutter: Seconds },
): Stops {
  return apertureStops(from.aperture, to.aperture) + shutterStops(from.shutter, to.shutter) + isoStops(from.iso, to.iso);
}
