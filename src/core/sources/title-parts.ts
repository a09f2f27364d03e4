import { randomAt } from '../room';
import type { Frames, Unit } from '../units';

/** What comes one after another: the whole text, each line, each word or each letter. */
export const PARTS_BY = ['whole', 'line', 'word', 'letter'] as const;
/** How a part comes: it stands at once, is faded in, rises, or flies together from somewhere. */
export const COMES = ['at once', 'faded', 'risen', 'scattered'] as const;

/** A piece of a line that comes by itself. `line` and `from` say where it begins; `order` when it comes: the first is 0. */
export interface TitlePart {
  line: number;
  from: number;
  text: string;
  order: number;
}

/** Scripts whose letters are joined or reordered when they stand together: they are never taken apart within a word. */
const JOINED =
  /[\p{Script=Arabic}\p{Script=Syriac}\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Tamil}\p{Script=Thai}\p{Script=Khmer}\p{Script=Hebrew}]/u;

/** A text as the pieces that come one after another. Spaces go with what stands before them. */
export function titleParts(text: string, by: (typeof PARTS_BY)[number]): TitlePart[] {
  const parts: TitlePart[] = [];
  let order = 0;
  for (const [line, content] of text.split('\n').entries()) {
    const fine = by === 'letter' && JOINED.test(content) ? 'word' : by;
    const pieces =
      fine === 'whole' || fine === 'line'
        ? [content]
        : fine === 'word'
          ? (content.match(/\S+\s*|^\s+/g) ?? [])
          : [...new Intl.Segmenter(undefined, { granularity: 'grapheme' }).segment(content)].map((s) => s.segment);
    let from = 0;
    for (const piece of pieces) {
      parts.push({ line, from, text: piece, order: by === 'whole' ? 0 : order });
      from += piece.length;
      if (piece.trim() || fine === 'line') order++;
    }
  }
  return parts;
}

/** How far a part has come, 0 to 1: it begins `every` after the one before it and takes `lasts`; frames or beats alike. */
export function partShown(order: number, run: number, every: number, lasts: number): Unit {
  const begun = run - order * every;
  if (begun < -1e-9) return 0;
  return lasts > 0 ? Math.min(1, Math.max(0, begun / lasts)) : 1;
}

/** Where a part stands before it has come, in heights of its letters right of and below its place; the same every time. */
export function partOffset(
  comes: (typeof COMES)[number],
  order: number,
  shown: Unit,
  seed: number,
): { dx: number; dy: number; opacity: Unit } {
  // Quick at first, slow at the end.
  const left = (1 - shown) ** 3;
  if (comes === 'at once') return { dx: 0, dy: 0, opacity: shown > 0 || left < 1 ? 1 : 0 };
  if (comes === 'faded') return { dx: 0, dy: 0, opacity: shown };
  if (comes === 'risen') return { dx: 0, dy: 0.8 * left, opacity: shown };
  const random = randomAt(seed, order);
  const [angle, far] = [2 * Math.PI * random(), 2 + 5 * random()];
  return { dx: far * left * Math.cos(angle), dy: far * left * Math.sin(angle), opacity: shown };
}

/** Frames and beats since a layer began. */
export interface Run {
  frames: Frames;
  beats: number;
}
