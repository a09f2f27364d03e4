import type { Frames } from '../units';
import { type FrameRate, fps } from './rate';

/** True for the rates that SMPTE ST 12-1 counts with dropped numbers (29.97 and 59.94). */
function usesDropFrame(rate: FrameRate): boolean {
  return rate.den === 1001 && (rate.num === 30000 || rate.num === 60000);
}

/**
 * Frame count to timecode `HH:MM:SS:FF` (`;FF` for drop-frame), SMPTE ST 12-1.
 * Negative counts get a leading minus; 24 hours and more run on.
 */
export function toTimecode(frame: Frames, rate: FrameRate): string {
  const nominal = Math.round(fps(rate));
  const drop = usesDropFrame(rate);
  let n = Math.abs(Math.round(frame));
  if (drop) {
    const dropped = nominal === 60 ? 4 : 2;
    const perMinute = nominal * 60 - dropped;
    const perTen = perMinute * 10 + dropped;
    const tens = Math.floor(n / perTen);
    const rest = n % perTen;
    n += dropped * 9 * tens;
    if (rest >= nominal * 60) n += dropped * (1 + Math.floor((rest - nominal * 60) / perMinute));
  }
  const two = (v: number) => String(v).padStart(2, '0');
  const f = n % nominal;
  const s = Math.floor(n / nominal);
  const sign = frame < 0 ? '-' : '';
  return `${sign}${two(Math.floor(s / 3600))}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}${drop ? ';' : ':'}${two(f)}`;
}

/**
 * Timecode to frame count. Accepts `:` or `;` before the frames.
 * Returns null for malformed text, fields out of range and numbers that drop-frame skips.
 */
export function fromTimecode(text: string, rate: FrameRate): Frames | null {
  const m = /^(-?)(\d{2,}):([0-5]\d):([0-5]\d)[:;](\d{2})$/.exec(text.trim());
  if (!m) return null;
  const nominal = Math.round(fps(rate));
  const [hours, minutes, seconds, frames] = [m[2], m[3], m[4], m[5]].map(Number);
  if (frames >= nominal) return null;
  let n = (hours * 3600 + minutes * 60 + seconds) * nominal + frames;
  if (usesDropFrame(rate)) {
    const dropped = nominal === 60 ? 4 : 2;
    if (seconds === 0 && frames < dropped && minutes % 10 !== 0) return null;
    const totalMinutes = hours * 60 + minutes;
    n -= dropped * (totalMinutes - Math.floor(totalMinutes / 10));
  }
  return m[1] && n > 0 ? -n : n;
}
