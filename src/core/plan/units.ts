import type { Metres, Seconds } from '../units';
import { F_NUMBERS } from './optics';
import type { LengthUnit } from './schema';

const FOOT: Metres = 0.3048;

/** A length as shown: 2.40 m, or 7′10″ to the nearest half inch. */
export function showLength(length: Metres, unit: LengthUnit): string {
  if (!Number.isFinite(length)) return '∞';
  const sign = length < 0 ? '−' : '';
  const size = Math.abs(length);
  if (unit === 'metres') return `${sign}${size.toFixed(2)} m`;
  const halves = Math.round((size / FOOT) * 24);
  const [feet, inches] = [Math.floor(halves / 24), (halves % 24) / 2];
  return `${sign}${feet}′${Math.floor(inches)}${inches % 1 ? '½' : ''}″`;
}

const FRACTIONS: Record<string, number> = { '½': 0.5, '¼': 0.25, '¾': 0.75 };

/** One number with an optional fraction: 7, 7.5, 7,5, 1/2, 7 1/2, 7½. NaN for anything else. */
function readNumber(text: string): number {
  const t = text
    .trim()
    .replace(',', '.')
    .replace(/[½¼¾]/g, (c) => ` ${FRACTIONS[c]}`)
    .trim();
  let sum = 0;
  for (const part of t.split(/\s+/)) {
    const fraction = /^(\d+)\/(\d+)$/.exec(part);
    const value = fraction ? Number(fraction[1]) / Number(fraction[2]) : /^\d*\.?\d+$|^\d+\.$/.test(part) ? Number(part) : Number.NaN;
    sum += value;
  }
  return t === '' ? Number.NaN : sum;
}

/**
 * Reads a length: 2.4 m, 240 cm, 2400 mm, 7'10", 7 ft 10 1/2 in, 94", or a bare number in `unit`. A minus in front
 * is kept. Null for anything else, so that nonsense is never taken.
 */
export function readLength(text: string, unit: LengthUnit): Metres | null {
  let t = text
    .trim()
    .toLowerCase()
    .replace(/[′’]/g, "'")
    .replace(/[″”]|''/g, '"')
    .replace('−', '-');
  const sign = t.startsWith('-') ? -1 : 1;
  t = t.replace(/^[-+]\s*/, '');
  const metric = /^(.+?)\s*(mm|cm|m|metres?|meters?)$/.exec(t);
  const imperial = /^(?:(.+?)\s*(?:'|ft|feet|foot))?\s*(?:(.+?)\s*(?:"|in|inches|inch)?)?$/.exec(t);
  const metric1 = metric && readNumber(metric[1]) * ({ mm: 0.001, cm: 0.01 }[metric[2]] ?? 1);
  let value = metric1 ?? Number.NaN;
  if (!metric && /['"]|ft|feet|foot|in/.test(t) && imperial) {
    const feet = imperial[1] === undefined ? 0 : readNumber(imperial[1]);
    const inches = imperial[2] === undefined ? 0 : readNumber(imperial[2]);
    value = feet * FOOT + (inches * FOOT) / 12;
  } else if (!metric) value = readNumber(t) * (unit === 'metres' ? 1 : FOOT);
  return Number.isFinite(value) ? sign * value : null;
}

/** Reads an f-number: f/8, f8, 8, 5.6. The nearest of the camera's own steps, in stops, or null. */
export function readAperture(text: string): number | null {
  const m = /^\s*(?:f\s*\/?\s*)?(\d+(?:[.,]\d+)?)\s*$/i.exec(text);
  const value = m ? Number(m[1].replace(',', '.')) : Number.NaN;
  if (!(value >= 0.9 && value <= 36)) return null;
  return F_NUMBERS.reduce((a, b) => (Math.abs(Math.log(b / value)) < Math.abs(Math.log(a / value)) ? b : a));
}

/** Reads a shutter: 1/50, 50 (a bare number over 1 is a fraction's denominator), 0.02 s, or 180° at `rate`. Seconds, or null. */
export function readShutter(text: string, rate: number): Seconds | null {
  const t = text.trim().replace(',', '.');
  const fraction = /^1\s*\/\s*(\d+(?:\.\d+)?)\s*s?$/.exec(t);
  const angle = /^(\d+(?:\.\d+)?)\s*°$/.exec(t);
  const plain = /^(\d+(?:\.\d+)?)\s*(s)?$/.exec(t);
  let value = Number.NaN;
  if (fraction) value = 1 / Number(fraction[1]);
  else if (angle) value = Number(angle[1]) / 360 / rate;
  else if (plain) value = plain[2] || Number(plain[1]) <= 1 ? Number(plain[1]) : 1 / Number(plain[1]);
  return value >= 1e-5 && value <= 4 ? value : null;
}

/** Reads an ISO speed: 800 or ISO 800; a whole number from 12 to 409600, or null. */
export function readIso(text: string): number | null {
  const m = /^\s*(?:iso\s*)?(\d{2,6})\s*$/i.exec(text);
  const value = m ? Number(m[1]) : Number.NaN;
  return value >= 12 && value <= 409600 ? value : null;
}
