import type { Frames, Seconds } from '../units';

/** A frame rate as a fraction: 30000/1001, 25/1. Both whole and positive. */
export interface FrameRate {
  num: number;
  den: number;
}

/** The rates offered for a project, by their usual names. */
export const STANDARD_RATES: readonly { name: string; rate: FrameRate }[] = [
  { name: '23.976', rate: { num: 24000, den: 1001 } },
  { name: '24', rate: { num: 24, den: 1 } },
  { name: '25', rate: { num: 25, den: 1 } },
  { name: '29.97', rate: { num: 30000, den: 1001 } },
  { name: '30', rate: { num: 30, den: 1 } },
  { name: '50', rate: { num: 50, den: 1 } },
  { name: '59.94', rate: { num: 60000, den: 1001 } },
  { name: '60', rate: { num: 60, den: 1 } },
];

/** Frames a second as a plain number. */
export function fps(rate: FrameRate): number {
  return rate.num / rate.den;
}

/** Start time of `frame` (frame 0 starts at 0 s). */
export function frameToSeconds(frame: Frames, rate: FrameRate): Seconds {
  return (frame * rate.den) / rate.num;
}

/** The frame whose start is nearest to `time`; a tie goes to the later frame. */
export function nearestFrame(time: Seconds, rate: FrameRate): Frames {
  return Math.floor((time * rate.num) / rate.den + 0.5 + 1e-9);
}

/** The standard rate nearest to a measured one (frames a second), or 25 when nothing is within 3 %. */
export function standardRate(measured: number): FrameRate {
  let best = STANDARD_RATES[2].rate;
  let distance = 0.03;
  for (const { rate } of STANDARD_RATES) {
    const d = Math.abs(measured / fps(rate) - 1);
    if (d < distance) {
      best = rate;
      distance = d;
    }
  }
  return best;
}
