import type { Degrees, Percent, Pixels, Unit } from '../units';
import { say } from '../words';
import { type Luma, medianLuma } from './luma';

/**
 * A straight edge of the room across the whole picture, as a line mask lies on it: where it crosses the frame along its own normal, its lean
 * from upright (or level), and how much of it is seen.
 */
export interface StructureEdge {
  line: Percent;
  lean: Degrees;
  seen: Unit;
}

/** Steps of brightness from which an edge is as clear as it need be, of 255. */
const CLEAR = 36;
/** How much of an edge must be seen; how much more what moves across it counts than what is seen of it. */
const [LEAST, RESTLESS] = [0.42, 1.5];
/** Where it may cross the middle of the picture, shares from each side; the most it leans, and the steps in which leans are tried, degrees. */
const [MARGIN, MOST_LEAN, STEP] = [0.12, 15, 0.25];

const turned = ({ width, height, data }: Luma): Luma => {
  const out = new Uint8Array(data.length);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[x * height + y] = data[y * width + x];
  return { width: height, height: width, data: out };
};

/** What each pixel is worth to an upright edge through it: how clear the step of brightness is, less what moves there. */
function worth({ width, height, data }: Luma, restless: Luma): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const step = Math.abs(data[i + 1] - data[i - 1]);
      out[i] = Math.min(1, step / CLEAR) - RESTLESS * Math.min(1, restless.data[i] / CLEAR);
    }
  return out;
}

/** The clearest upright edge: where it crosses the middle row, pixels, and how far it goes to the right a row down. */
function clearest({ width, height }: Luma, worths: Float32Array): { x: Pixels; slope: number; seen: Unit } | null {
  let best = { x: 0, slope: 0, seen: LEAST };
  for (let lean = -MOST_LEAN; lean <= MOST_LEAN; lean += STEP) {
    const slope = Math.tan((lean * Math.PI) / 180);
    for (let x = Math.ceil(MARGIN * width); x < (1 - MARGIN) * width; x++) {
      let sum = 0;
      for (let y = 0; y < height; y++) {
        const at = Math.round(x + slope * (y + 0.5 - height / 2));
        if (at > 0 && at < width - 1) sum += worths[y * width + at];
      }
      const seen = sum / height;
      if (seen > best.seen) best = { x, slope, seen };
    }
  }
  return best.x > 0 ? best : null;
}

/** The edge as a line mask has it, of a picture that fills the frame: `width` is its side along which the edge was looked for. */
function asLine({ x, slope, seen }: { x: Pixels; slope: number; seen: Unit }, { width, height }: Luma, sign: 1 | -1): StructureEdge {
  const lean = Math.atan(slope);
  const extent = Math.cos(lean) * width + Math.abs(Math.sin(lean)) * height;
  return {
    line: 50 + (100 * Math.cos(lean) * (x + 0.5 - width / 2)) / extent,
    lean: (sign * lean * 180) / Math.PI,
    seen: Math.min(1, seen),
  };
}

/**
 * The clearest straight edges of a room across the whole picture, upright and level, that nobody crosses: `still` is the set without what moves
 * (some 320 pixels across), `restless` how much each of its pixels changes, 0 to 255, of the same size. Null where there is none.
 */
export function structureEdges(still: Luma, restless: Luma): { upright: StructureEdge | null; level: StructureEdge | null } {
  if (restless.width !== still.width || restless.height !== still.height) throw new RangeError(say`Both pictures must be of one size.`);
  const upright = clearest(still, worth(still, restless));
  const [flat, flatRestless] = [turned(still), turned(restless)];
  const level = clearest(flat, worth(flat, flatRestless));
  // Looked at from the side, what leans one way leans the other.
  return { upright: upright && asLine(upright, still, 1), level: level && asLine(level, flat, -1) };
}

/** How much each pixel changes over some pictures of one size: the mean way from their middle one. */
export function restlessIn(pictures: readonly Luma[], middle: Luma): Luma {
  const data = Uint8Array.from(middle.data, (m, i) => pictures.reduce((sum, p) => sum + Math.abs(p.data[i] - m), 0) / pictures.length);
  return { ...middle, data };
}

/** Brightness by which a pixel may stray, of 255, and pictures of ten in which it may do so more, for it to be at rest. */
const [STRAYS, PASSES] = [12, 2];

/** What is at rest in some pictures of one size: their middle one, with `behind` wherever something goes about in more than two of ten. */
export function withoutRestless(pictures: readonly Luma[], behind: Luma): Luma {
  const middle = medianLuma(pictures.slice(0, 9));
  const may = Math.max(1, Math.round((PASSES * pictures.length) / 10));
  const data = Uint8Array.from(middle.data, (m, i) => {
    const strays = pictures.reduce((n, p) => n + (Math.abs(p.data[i] - m) > STRAYS ? 1 : 0), 0);
    return strays > may ? behind.data[i] : m;
  });
  return { ...middle, data };
}
