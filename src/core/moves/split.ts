import { type Key, keyAt, type Layer, type Mask, type MoveOf, type Place, pinAt, plainMask, still } from '../shot';
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

/** A panel's mask: it opens from its own middle line and closes to it again. */
function panelMask(panel: Panel, move: MoveOf<'split'>, index: number): Mask {
  const { open, close, frames, stagger, feather } = move;
  const [a, b, c, d] = panel.corners;
  const [top, bottom] = [middle(a.x, b.x), middle(d.x, c.x)];
  const shut = [
    { x: top, y: a.y },
    { x: top, y: b.y },
    { x: bottom, y: c.y },
    { x: bottom, y: d.y },
  ];
  const later = (place: Place, offset: number, value: number, easing?: Key['easing']) =>
    keyAt(place.beat + index * stagger, place.offset + offset, value, easing);
  const run = (from: number, to: number): Key[] =>
    frames === 0
      ? still(to)
      : [
          later(open, 0, from, 'strong out'),
          later(open, frames, to, 'linear'),
          later(close, -frames, to, 'strong in'),
          later(close, 0, from),
        ];
  const numbers: Record<string, Key[]> = { inside: still(feather / 2), outside: still(feather / 2) };
  panel.corners.forEach((corner, k) => {
    numbers[`x${k}`] = run(shut[k].x, corner.x);
    numbers[`y${k}`] = run(shut[k].y, corner.y);
  });
  return plainMask('panel', 'polygon', numbers);
}

/** Panels side by side, each with a take of its own that fills it, opening and closing one after another. */
export function splitLayers(move: MoveOf<'split'>, take: TakeLayer, frame: { width: number; height: number }): Layer[] {
  const panels = panelsOf(move, frame);
  return move.panels.map((use, i) => {
    const { corners } = panels[i];
    const xs = corners.map((p) => inFrame(p.x));
    const ys = corners.map((p) => inFrame(p.y));
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
    const scale = Math.max(right - left, bottom - top);
    const { open, close, stagger } = move;
    return take(`panel${i + 1}`, `Panel ${i + 1}`, use.takeId, [pinAt(open.beat, open.offset, use.sync - i * move.delay)], {
      from: { beat: open.beat + i * stagger, offset: open.offset },
      to: { beat: close.beat + i * stagger, offset: close.offset },
      masks: [panelMask(panels[i], move, i)],
      numbers: { x: still(middle(left, right) - 50), y: still(middle(top, bottom) - 50), scale: still(scale) },
    });
  });
}
