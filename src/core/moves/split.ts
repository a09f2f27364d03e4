import { type Key, keyAt, type Layer, type MoveOf, type Place, pinAt, placeFrame, plainMask, type Scene, still } from '../shot';
import { type Course, followed, type OnFrame } from './follow';
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

/** What a number of one panel is with the panel shut and open, by the slot the panel is in. */
interface Slots {
  shut: (slot: number) => number;
  wide: (slot: number) => number;
}

/** The slot a panel is in after so many swaps: each lands one place on. */
const slotAfter = (move: MoveOf<'split'>, panel: number, swaps: number) => (panel + swaps) % move.panels.length;

/** A number that goes from closed to open as a panel opens, from slot to slot as it swaps, and back as it closes. */
function run(move: MoveOf<'split'>, index: number, { shut, wide }: Slots): Key[] {
  const { open, close, frames, stagger, swaps } = move;
  const at = (place: Place, offset: number, value: number, easing?: Key['easing']) =>
    keyAt(place.beat + index * stagger, place.offset + offset, value, easing);
  const [first, last] = [slotAfter(move, index, 0), slotAfter(move, index, swaps.length)];
  const swapped = swaps.flatMap((place, k) => [
    keyAt(place.beat, place.offset - Math.max(1, frames), wide(slotAfter(move, index, k)), 'ease in and out'),
    keyAt(place.beat, place.offset, wide(slotAfter(move, index, k + 1))),
  ]);
  const opens = frames > 0 ? [at(open, 0, shut(first), 'strong out'), at(open, frames, wide(first))] : [];
  const closes = frames > 0 ? [at(close, -frames, wide(last), 'strong in'), at(close, 0, shut(last))] : [];
  const keys = [...opens, ...swapped, ...closes];
  return keys.length === 0 || keys.every((k) => Math.abs(k.value - keys[0].value) < 1e-9) ? still(wide(first)) : keys;
}

/** The box of the frame a panel shows, per cent. */
interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

function boxOf({ corners }: Panel): Box {
  const [xs, ys] = [corners.map((p) => inFrame(p.x)), corners.map((p) => inFrame(p.y))];
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

/** Where one more swap would land: two beats after the last one, or after the opening. */
export function nextSwap({ open, swaps }: MoveOf<'split'>): Place {
  const last = swaps.reduce((a, b) => (b.beat > a.beat ? b : a), open);
  return { beat: last.beat + 2, offset: 0 };
}

/** Panels side by side, each with a take of its own that fills it or follows somebody, opening, swapping and closing one after another. */
export function splitLayers(
  scene: Scene,
  move: MoveOf<'split'>,
  take: TakeLayer,
  frame: { width: number; height: number },
  onFrame: (takeId: string) => OnFrame,
): Layer[] {
  const panels = panelsOf(move, frame);
  const boxes = panels.map(boxOf);
  const { open, close, stagger, feather } = move;
  return move.panels.map((use, i) => {
    const points: Record<string, Key[]> = {};
    for (let k = 0; k < 4; k++) {
      const corner = (slot: number) => panels[slot].corners[k];
      points[`x${k}`] = run(move, i, { shut: (slot) => closed(corner(slot)).x, wide: (slot) => corner(slot).x });
      points[`y${k}`] = run(move, i, { shut: (slot) => closed(corner(slot)).y, wide: (slot) => corner(slot).y });
    }
    // The picture of the first place goes from the whole frame into its panel; the others stand in theirs from the start.
    const placed = (whole: number, own: (box: Box) => number) =>
      run(move, i, { shut: (slot) => (slot === 0 ? whole : own(boxes[slot])), wide: (slot) => own(boxes[slot]) });
    const numbers = {
      x: placed(0, (b) => middle(b.left, b.right) - 50 + use.x),
      y: placed(0, (b) => middle(b.top, b.bottom) - 50 + use.y),
      scale: placed(100, (b) => (Math.max(b.right - b.left, b.bottom - b.top) * use.zoom) / 100),
    };
    const layer = take(`panel${i + 1}`, `Panel ${i + 1}`, use.takeId, [pinAt(open.beat, open.offset, use.sync - i * move.delay)], {
      from: { beat: open.beat + i * stagger, offset: open.offset },
      to: { beat: close.beat + i * stagger, offset: close.offset },
      masks: [plainMask('panel', 'polygon', { ...points, inside: still(feather / 2), outside: still(feather / 2) })],
      numbers,
    });
    return use.track ? following(scene, move, i, use.track, layer, boxes, onFrame(use.takeId)) : layer;
  });
}

/** A panel whose picture follows somebody while the panel stands; while it moves, its picture moves with it. */
function following(
  scene: Scene,
  move: MoveOf<'split'>,
  index: number,
  track: Course,
  layer: Layer,
  boxes: readonly Box[],
  onFrame: OnFrame,
): Layer {
  const stands = standing(move, index).map(({ from, to, slot }) => {
    const box = boxes[slot];
    const window = { width: box.right - box.left, height: box.bottom - box.top };
    const size = (Math.max(window.width, window.height) * move.panels[index].zoom) / 100;
    const at = { x: middle(box.left, box.right), y: middle(box.top, box.bottom) };
    return followed(scene, layer, track, onFrame, [placeFrame(scene, from), placeFrame(scene, to)], at, window, () => size);
  });
  const joined = (name: 'x' | 'y') => {
    const keys = layer.numbers[name] ?? [];
    const ends = keys.length > 1 && move.frames > 0;
    return [...(ends ? keys.slice(0, 1) : []), ...stands.flatMap((s) => leading(s[name])), ...(ends ? keys.slice(-1) : [])];
  };
  return { ...layer, numbers: { ...layer.numbers, x: joined('x'), y: joined('y') } };
}

/** The keys of a stand, the last of which leads over into the next as panels move. */
const leading = (keys: Key[]): Key[] => keys.map((k, i) => (i === keys.length - 1 ? { ...k, easing: 'ease in and out' } : k));

/** When a panel stands in a slot: from where it has opened or landed to where it next moves. */
function standing(move: MoveOf<'split'>, index: number): { from: Place; to: Place; slot: number }[] {
  const { open, close, frames, stagger, swaps } = move;
  const on = (place: Place, frames: number, late = 0): Place => ({ beat: place.beat + late, offset: place.offset + frames });
  const starts = [on(open, frames, index * stagger), ...swaps];
  const ends = [...swaps.map((p) => on(p, -Math.max(1, frames))), on(close, -frames, index * stagger)];
  return starts.map((from, k) => ({ from, to: ends[k], slot: slotAfter(move, index, k) }));
}
