import { bytesFor, PAST, placesFor, putIn, START } from '../compiled';
import type { Planes } from '../picture';
import type { Pixels } from '../units';
import { growthRoom } from './grid-kernel';
import type { Mask } from './mask';
import { OWN } from './own-colour';
import { partsRoom, turnedAt } from './parts-kernel';
import { cutting } from './passes';

/** Floats of scratch that a figure's own colour takes for each place of the chroma. */
const OWN_SCRATCH = 8;

/** Bytes for a picture, its plate, and the figure's own colour. */
function picturesRoom(n: number, half: number) {
  const [y, c] = [n + PAST, half + PAST];
  return { fy: y, fu: c, fv: c, by: y, bu: c, bv: c, own: 4 * OWN * half, sums: 4 * OWN_SCRATCH * half, rows: 4 * OWN_SCRATCH * half };
}

const pictures = (frame: Planes, plate: Planes) => ({ fy: frame.y, fu: frame.u, fv: frame.v, by: plate.y, bu: plate.u, bv: plate.v });

/** What a frame shows around a figure, all of one size. */
export interface Seen {
  frame: Planes;
  /** The empty set behind, and how far each of its pixels strays, code values. */
  plate: Planes;
  stray: Float32Array;
  contrast: Uint8Array;
  /** How far brightness usually is from the set's at each contrast, code values. */
  usual: Float32Array;
  /** 1 where a shadow lies: the set, whatever its colour. */
  shade: Uint8Array;
  /** How unlike the set each pixel is: 1 is the limit of chance. */
  apart: Float32Array;
}

/** How the edge of a figure is settled; what each is stands where it is set. */
export interface EdgeLimits {
  band: Pixels;
  inside: Pixels;
  near: Pixels;
  granted: { bright: number; colour: number; figure: number };
  wider: number;
  unknown: number;
  most: number;
  gaps: { sure: number; around: Pixels; half: Pixels };
  times: number;
  speck: number;
  alike: { around: Pixels; chroma: number; voice: Float32Array };
}

/** A mask with its edge settled as `settledPlainly` does it, in compiled code; null where that is needed. */
export function settledByKernel(
  { frame, plate, stray, contrast, usual, shade, apart }: Seen,
  found: Mask,
  gap: number,
  { band, inside, near, granted, wider, unknown, most, gaps, times, speck, alike }: EdgeLimits,
): Mask | null {
  const loaded = cutting();
  if (!loaded) return null;
  const { kernel, memory } = loaded;
  const { width, height } = found;
  const n = width * height;
  const half = (width >> 1) * (height >> 1);
  const [bytes, floats] = [n + PAST, 4 * n + PAST];
  const [runs, part, size, edge] = partsRoom(width, height);
  const { at, end } = placesFor(START, {
    ...picturesRoom(n, half),
    ...{ found: bytes, shade: bytes, contrast: bytes, mask: bytes, wide: bytes, deep: bytes, core: bytes, asked: bytes, open: bytes },
    ...{ stray: floats, apart: floats, values: floats, together: floats, scratch: floats },
    ...{ usual: 64, voice: alike.voice.byteLength, pad: growthRoom(width, height, band), runs, part, size, edge },
  });
  const all = bytesFor(memory, end);
  putIn(all, at, {
    ...pictures(frame, plate),
    found: found.data,
    shade,
    contrast,
    mask: found.data,
    stray,
    apart,
    usual,
    voice: alike.voice,
  });
  const grown = (from: number, by: number, to: number) => kernel.grown(from, width, height, by, at.pad, to);
  const lists = [at.runs, at.part, at.size, at.edge] as const;
  const dropped = (mask: number, value: 0 | 1, least: number) => turnedAt(kernel, mask, found, value, least, value === 0, lists);
  for (let time = 0; time < times; time++) {
    grown(at.mask, band, at.wide);
    grown(at.mask, -band, at.deep);
    grown(at.mask, -inside, at.core);
    kernel.keptFrom(at.core, at.apart, 1, n);
    kernel.ownColour(at.fy, at.fu, at.fv, at.core, width, height >> 1, near >> 1, at.sums, at.rows, at.own);
    if (time > 0) kernel.without(at.wide, at.deep, at.wide, n);
    kernel.askedIn(at.wide, at.found, at.shade, at.asked, n);
    kernel.saidBy(
      ...([at.fy, at.fu, at.fv, at.by, at.bu, at.bv, at.stray, at.contrast, at.usual, at.own, at.asked, at.deep, width, height] as const),
      ...([granted.bright, granted.colour, granted.figure, wider, unknown, most, at.values] as const),
    );
    if (time === 0) {
      kernel.smallBoxMean(at.values, width, height, gaps.around, at.scratch, at.together);
      kernel.within(at.mask, at.together, gaps.sure, at.open, n);
      grown(at.open, -gaps.half, at.open);
      grown(at.open, gaps.half, at.open);
      dropped(at.open, 1, gap);
      grown(at.open, band, at.open);
      kernel.settled(at.deep, at.open, at.values, at.asked, most, n);
    }
    all.copyWithin(at.together, at.values, at.values + 4 * n);
    kernel.byLikeColour(
      ...([at.fy, at.fu, at.fv, at.values, at.asked, width, height] as const),
      ...([alike.around, at.voice, alike.chroma, at.together] as const),
    );
    kernel.beyond(at.together, 0, at.mask, n);
    dropped(at.mask, 1, speck);
    dropped(at.mask, 0, speck);
  }
  return { width, height, data: all.slice(at.mask, at.mask + n) };
}

/** How the soft edge of a figure is solved for. */
export interface EdgeAsk {
  /** Pixels to both sides of the mask's edge that may be mixed, and those around within which the figure's colour is looked for. */
  reach: Pixels;
  near: Pixels;
  /** Contrast, in squared strayings, at which what is solved for and what is otherwise thought count alike. */
  trusted: number;
  /** Where the set shines through between smeared limbs: the share of figure under which it does, and pixels around that are mixed too. */
  through: { least: number; around: Pixels } | null;
  /** How much of its own share a pixel keeps beside the mean along the way moved, 0..1, and the steps along it. */
  own: number;
  taps: readonly { dx: Pixels; dy: Pixels }[];
}

/** Coverage as `softPlainly` gives it, in compiled code; null where that is needed. */
export function softByKernel(
  frame: Planes,
  plate: Planes,
  mask: Mask,
  doubtful: Mask,
  { reach, near, trusted, through, own, taps }: EdgeAsk,
): Uint8Array | null {
  const loaded = cutting();
  if (!loaded) return null;
  const { kernel, memory } = loaded;
  const { width, height } = mask;
  const n = width * height;
  const half = (width >> 1) * (height >> 1);
  const [bytes, floats] = [n + PAST, 4 * n + PAST];
  const furthest: Pixels = Math.max(reach, through?.around ?? 0);
  const { at, end } = placesFor(START, {
    ...picturesRoom(n, half),
    ...{ mask: bytes, doubtful: bytes, wide: bytes, core: bytes, rim: bytes, alpha: bytes },
    ...{ soft: floats, raw: floats, even: floats, scratch: floats },
    ...{ taps: 8 * taps.length + PAST, pad: growthRoom(width, height, furthest) },
  });
  const all = bytesFor(memory, end);
  putIn(all, at, { ...pictures(frame, plate), mask: mask.data, doubtful: doubtful.data });
  new Int32Array(all.buffer, at.taps, 2 * taps.length).set(taps.flatMap(({ dx, dy }) => [dx, dy]));
  const grown = (from: number, by: number, to: number) => kernel.grown(from, width, height, by, at.pad, to);
  const mean = (from: number, around: number, to: number) => kernel.smallBoxMean(from, width, height, around, at.scratch, to);
  const colours = () => kernel.ownColour(at.fy, at.fu, at.fv, at.core, width, height >> 1, near >> 1, at.sums, at.rows, at.own);
  const shares = (asked: number, otherwise: number, out: number) =>
    kernel.shares(...([at.fy, at.fu, at.fv, at.by, at.bu, at.bv, at.own, asked, otherwise, width, height, trusted, out] as const));
  grown(at.mask, reach, at.wide);
  grown(at.mask, -reach, at.core);
  kernel.without(at.core, at.doubtful, at.core, n);
  kernel.floats(at.mask, at.raw, n);
  mean(at.raw, 1, at.soft);
  colours();
  if (through) {
    all.copyWithin(at.even, at.soft, at.soft + 4 * n);
    kernel.floats(at.core, at.raw, n);
    shares(at.core, at.raw, at.even);
    mean(at.even, 2, at.raw);
    kernel.within(at.core, at.raw, through.least, at.rim, n);
    grown(at.rim, through.around, at.rim);
    kernel.without(at.core, at.rim, at.core, n);
    colours();
    kernel.floats(at.mask, at.raw, n);
  }
  kernel.without(at.wide, at.core, at.rim, n);
  shares(at.rim, at.soft, at.raw);
  mean(at.raw, 1, at.even);
  kernel.covered(at.core, at.wide, at.raw, at.even, own, at.taps, taps.length, width, height, at.alpha);
  return all.slice(at.alpha, at.alpha + n);
}
