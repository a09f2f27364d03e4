import { type Key, keyAt, type Layer, type MoveOf, type Place, pinAt, plainMask, still } from '../shot';
import type { TakeLayer } from './take-layer';

interface Corner {
  x: number;
  y: number;
}

/** A panel's place in the frame, per cent, its corners clockwise from the upper left. */
export interface Panel {
  corners: [Corner, Corner, Corner, Corner];
}

/** Where the panels lie: rows of `columns`, the last row shared by what is left; upright edges lean by `slant` degrees. */
function panelsOf({ panels, columns, slant, gutter }: MoveOf<'split'>, { width, height }: { width: number; height: number }): Panel[] {
  const rows = Math.ceil(panels.length / columns);
  const across = (gutter * height) / width;
  // How far an upright edge leans from top to bottom, per cent of the width.
  const lean = Math.tan((slant * Math.PI) / 180) * (height / width) * 100;
  return panels.map((_, i) => {
    const row = Math.floor(i / columns);
    const inRow = Math.min(columns, panels.length - row * columns);
    const column = i - row * columns;
    const [top, bottom] = [edge(row, rows, gutter, 'low'), edge(row + 1, rows, gutter, 'high')];
    const [left, right] = [edge(column, inRow, across, 'low'), edge(column + 1, inRow, across, 'high')];
    // The frame's own sides stay upright.
    const x = (at: number, y: number, outer: boolean) => (outer ? at : at + lean * (0.5 - y / 100));
    const [first, last] = [column === 0, column === inRow - 1];
    return {
      corners: [
        { x: x(left, top, first), y: top },
        { x: x(right, top, last), y: top },
        { x: x(right, bottom, last), y: bottom },
        { x: x(left, bottom, first), y: bottom },
      ],
    };
  });
}

/** An edge between panels, half a gutter to its side; edges of the frame lie a little outside it, so that no softness shows there. */
function edge(k: number, count: number, gutter: number, side: 'low' | 'high'): number {
  if (k === 0) return -5;
  if (k === count) return 105;
  return (100 * k) / count + (side === 'low' ? gutter / 2 : -gutter / 2);
}

const middle = (a: number, b: number) => (a + b) / 2;
const inFrame = (v: number) => Math.min(100, Math.max(0, v));

/**
 * Where a panel's corner is before it opens: the first panel fills the frame, and the others wait beyond its right and lower sides, so that
 * each pushes the ones before it and nothing but a gutter is ever between two.
 */
const closed = ({ x, y }: Corner): Corner => ({ x: x <= 0 ? x : 105, y: y <= 0 ? y : 105 });

/** A number that goes from closed to open as a panel opens, and back as it closes. */
function run({ open, close, frames, stagger }: MoveOf<'split'>, index: number, shut: number, wide: number): Key[] {
  if (frames === 0 || Math.abs(shut - wide) < 1e-9) return still(wide);
  const at = (place: Place, offset: number, value: number, easing?: Key['easing']) =>
    keyAt(place.beat + index * stagger, place.offset + offset, value, easing);
  return [at(open, 0, shut, 'strong out'), at(open, frames, wide), at(close, -frames, wide, 'strong in'), at(close, 0, shut)];
}

/** Panels side by side, each with a take of its own that fills it, opening and closing one after another. */
export function splitLayers(move: MoveOf<'split'>, take: TakeLayer, frame: { width: number; height: number }): Layer[] {
  const panels = panelsOf(move, frame);
  const { open, close, stagger, feather } = move;
  return move.panels.map((use, i) => {
    const { corners } = panels[i];
    const xs = corners.map((p) => inFrame(p.x));
    const ys = corners.map((p) => inFrame(p.y));
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
    const points: Record<string, Key[]> = {};
    corners.forEach((corner, k) => {
      points[`x${k}`] = run(move, i, closed(corner).x, corner.x);
      points[`y${k}`] = run(move, i, closed(corner).y, corner.y);
    });
    // The first panel's picture goes from the whole frame into its panel; the others stand in theirs from the start.
    const placed = (whole: number, own: number) => (i === 0 ? run(move, i, whole, own) : still(own));
    return take(`panel${i + 1}`, `Panel ${i + 1}`, use.takeId, [pinAt(open.beat, open.offset, use.sync - i * move.delay)], {
      from: { beat: open.beat + i * stagger, offset: open.offset },
      to: { beat: close.beat + i * stagger, offset: close.offset },
      masks: [plainMask('panel', 'polygon', { ...points, inside: still(feather / 2), outside: still(feather / 2) })],
      numbers: {
        x: placed(0, middle(left, right) - 50),
        y: placed(0, middle(top, bottom) - 50),
        scale: placed(100, Math.max(right - left, bottom - top)),
      },
    });
  });
}
