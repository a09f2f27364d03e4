import type { Pixels } from '../units';

/** A part of the picture, in pixels from its upper left corner. */
interface SafeArea {
  name: string;
  left: Pixels;
  top: Pixels;
  right: Pixels;
  bottom: Pixels;
}

/** Shares of the sides that are left free: left, top, right, bottom. */
type Margins = readonly [number, number, number, number];

/**
 * Shapes by their largest width for a height of 1, and what is kept free in them. Wide pictures: EBU R 95, action 3.5 % and graphics 5 % of
 * each side. Upright ones: common practice, for what players on phones lay over the picture. Those in between: common practice.
 */
const BY_SHAPE: readonly { below: number; areas: readonly [string, Margins][] }[] = [
  { below: 0.7, areas: [['clear of the player', [0.06, 0.14, 0.12, 0.2]]] },
  { below: 1.25, areas: [['titles', [0.05, 0.05, 0.05, 0.05]]] },
  {
    below: Number.POSITIVE_INFINITY,
    areas: [
      ['action', [0.035, 0.035, 0.035, 0.035]],
      ['titles', [0.05, 0.05, 0.05, 0.05]],
    ],
  },
];

/** What of a picture is sure to be seen, by its shape. */
export function safeAreas(width: Pixels, height: Pixels): SafeArea[] {
  const { areas } = BY_SHAPE.find(({ below }) => width / height < below) ?? BY_SHAPE[BY_SHAPE.length - 1];
  return areas.map(([name, [left, top, right, bottom]]) => ({
    name,
    left: left * width,
    top: top * height,
    right: width - right * width,
    bottom: height - bottom * height,
  }));
}
