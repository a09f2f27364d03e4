import { BT709, type ColourMatrix, composeColour, fromRgbMatrix, toRgbMatrix } from '../picture';

/** A 3×4 matrix on R'G'B' (0..1, plus 1), row by row, as one on coded values of BT.709, limited range. */
export const byMatrix = (rgb: ColourMatrix): ColourMatrix => composeColour(fromRgbMatrix(BT709), composeColour(rgb, toRgbMatrix(BT709)));

/** The same factor and the same addition for every channel. */
export const evenly = (slope: number, intercept: number): ColourMatrix =>
  byMatrix([slope, 0, 0, intercept, 0, slope, 0, intercept, 0, 0, slope, intercept]);
