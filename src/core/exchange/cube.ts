import type { ColourCube } from '../picture';
import { say } from '../words';

/** Sides of a table that the specification allows, and of one that is read: a larger one would fill a phone's memory. */
const SIDES = { '1D': [2, 65_536], '3D': [2, 129] } as const;

/** What a text is as a colour table, or a sentence about why it is none. */
export type CubeRead = { ok: true; cube: ColourCube; title: string } | { ok: false; reason: string };

const refused = (reason: string): CubeRead => ({ ok: false, reason });

/** What has been read of a table so far. */
interface Reading {
  title: string;
  kind: '1D' | '3D' | null;
  side: number;
  low: number[];
  high: number[];
  values: Float32Array;
  /** Numbers that are there. */
  filled: number;
}

const threeOf = (words: readonly string[]): number[] | null => {
  const numbers = words.map(Number);
  return numbers.length === 3 && numbers.every(Number.isFinite) ? numbers : null;
};

/** Notes a size; '' or what is wrong with it. */
function size(reading: Reading, kind: '1D' | '3D', word = ''): string {
  if (reading.kind) return say`gives a size a second time`;
  const side = Number(word);
  const [least, most] = SIDES[kind];
  if (!Number.isInteger(side) || side < least || side > most) return say`gives a size of ${word}: ${least} to ${most} are read`;
  Object.assign(reading, { kind, side, values: new Float32Array(3 * (kind === '1D' ? side : side ** 3)) });
  return '';
}

function domain(reading: Reading, end: 'low' | 'high', words: readonly string[]): string {
  const ends = threeOf(words);
  if (!ends) return say`is no domain of three numbers`;
  reading[end] = ends;
  return '';
}

function colour(reading: Reading, words: readonly string[]): string {
  const rgb = threeOf(words);
  if (!rgb) return say`is no colour of three numbers`;
  if (!reading.kind) return say`is a colour before the size was given`;
  if (reading.filled + 3 > reading.values.length) return say`is one colour more than the size says`;
  reading.values.set(rgb, reading.filled);
  reading.filled += 3;
  return '';
}

/** Reads one line; '' or what is wrong with it. */
function readLine(reading: Reading, line: string): string {
  const [word, ...rest] = line.split(/\s+/);
  switch (word) {
    case 'TITLE':
      reading.title = line.slice(5).trim().replace(/^"|"$/g, '');
      return '';
    case 'LUT_1D_SIZE':
    case 'LUT_3D_SIZE':
      return size(reading, word === 'LUT_1D_SIZE' ? '1D' : '3D', rest[0]);
    case 'DOMAIN_MIN':
    case 'DOMAIN_MAX':
      return domain(reading, word === 'DOMAIN_MIN' ? 'low' : 'high', rest);
    default:
      // Keywords beside these are allowed by no more than habit; they say nothing of the colours.
      return /^[A-Z_]/.test(word) ? '' : colour(reading, [word, ...rest]);
  }
}

/**
 * Reads a colour table of the `.cube` format: one of each channel (1D) or of all colours (3D, red changing fastest), R'G'B' to R'G'B'.
 * After the Cube LUT Specification 1.0 (Adobe, 2013).
 */
export function readCube(text: string): CubeRead {
  const reading: Reading = { title: '', kind: null, side: 0, low: [0, 0, 0], high: [1, 1, 1], values: new Float32Array(), filled: 0 };
  for (const [i, raw] of text.split(/\r\n|\n|\r/).entries()) {
    const line = raw.trim();
    const wrong = line === '' || line.startsWith('#') ? '' : readLine(reading, line);
    if (wrong) return refused(say`Line ${i + 1} ${wrong}.`);
  }
  const { title, kind, side, low, high, values, filled } = reading;
  if (!kind) return refused(say`It gives no size (LUT_1D_SIZE or LUT_3D_SIZE), so it is no colour table.`);
  if (filled < values.length) return refused(say`It breaks off: ${filled / 3} of ${values.length / 3} colours are there.`);
  if (low.some((l, c) => !(high[c] > l))) return refused(say`Its domain ends before it begins.`);
  return { ok: true, title, cube: { kind, side, low, high, values } };
}
