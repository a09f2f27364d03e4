import {
  type CleanPlate,
  cleanPlate,
  emptyTakes,
  findSeam,
  type GlancedTake,
  glanced,
  gridFactor,
  inputAcross,
  type Mask,
  makeBackdrop,
  mergedPlate,
  occupied,
  PLATE_FRAMES,
  packed,
  type SeamFound,
  type SeamInput,
  seamFeather,
  unpacked,
} from '@/core/measure';
import { type Planes, reducedPlanes } from '@/core/picture';
import { say } from '@/core/words';
import { type AlignedTake, framesAt, laidFrames, OnGrid } from './align';
import { eachFrame } from './each-frame';
import { reduceFor } from './frames';
import { concat, Parts } from './resumable';

/** Where a take's figure and shadow are, frame by frame, packed to bits on the set-up's grid; null where it could not be told. */
export interface OccupancyTrack {
  width: number;
  height: number;
  /** Pixels of the picture to one of the grid. */
  factor: number;
  times: number[];
  figure: (Uint8Array | null)[];
  shadow: (Uint8Array | null)[];
}

type Tell = (done: number) => void;

/**
 * The clean plate of a set-up: from its plate takes when there are any, or those in which nobody is seen, otherwise from the takes themselves. The
 * first source is the reference or lies on it like the others.
 */
export async function makeSetPlate(
  sources: readonly (AlignedTake & { nobody: boolean })[],
  onProgress: Tell,
): Promise<CleanPlate & { frames: number }> {
  const empty = sources.filter((s) => s.nobody);
  const used = empty.length > 0 ? empty : sources;
  const nobody = empty.length > 0;
  // Plates of nobody are one; a take with somebody in it gives a plate of its own, for they may stand still in the way.
  const takes: { frames: Planes[]; plate: CleanPlate | null; glanced: GlancedTake | null }[] = [];
  let first: Planes | null = null;
  let count = 0;
  for (const [i, take] of used.entries()) {
    const many = nobody ? Math.max(3, Math.floor(PLATE_FRAMES / used.length)) : framesEach(used.length);
    const times = Array.from({ length: many }, (_, k) => take.media.from + ((k + 0.5) / many) * (take.media.to - take.media.from));
    const frames = await laidFrames(take, times, reduceFor(take.media), first, true);
    count += frames.length;
    first ??= frames[0] ?? null;
    const plate = nobody || frames.length === 0 ? null : cleanPlate(frames, false);
    const seen = plate && glanced(frames, plate);
    // Only frames of what may be empty are needed again.
    takes.push({ frames: nobody || seen?.still ? frames : [], plate, glanced: seen });
    onProgress((i + 1) / (used.length + 1));
  }
  if (count === 0) throw new Error(say`None of these takes holds a picture to make the plate from.`);
  const told = nobody ? takes.map(() => true) : emptyTakes(takes.map((t) => t.glanced));
  const shown = takes.filter((_, k) => told[k]).flatMap((t) => t.frames);
  if (shown.length > 0) return { ...cleanPlate(shown, true), frames: Math.min(shown.length, PLATE_FRAMES) };
  return { ...mergedPlate(takes.map((t) => t.plate).filter((p) => p !== null)), frames: count };
}

/** Frames of each take with somebody in it: one alone has to tell the set by itself, of many each is but a voice. */
const framesEach = (takes: number): number => (takes === 1 ? PLATE_FRAMES : takes < 5 ? Math.floor(PLATE_FRAMES / 2) : 7);

/** What has been gathered of a stretch of frames, so that it goes on after an interruption. */
export type OccupancyPart = Pick<OccupancyTrack, 'times' | 'figure' | 'shadow'>;

/** Where the figure is on every frame of a take; `begun` and `keep` as in `measureTake`. */
export async function trackOccupancy(
  take: AlignedTake,
  plate: CleanPlate,
  begun: readonly OccupancyPart[],
  keep: (part: OccupancyPart) => void,
  onProgress: Tell,
): Promise<OccupancyTrack> {
  const own = gridFactor(plate.planes.width);
  const backdrop = makeBackdrop(plate, own);
  const { width, height } = backdrop.planes;
  const grid = new OnGrid(take, plate);
  const seen = concat<OccupancyPart>({ times: [], figure: [], shadow: [] }, begun);
  const parts = new Parts(seen, keep);
  const visit = (planes: Planes, again: boolean) => {
    if (again) return;
    const here = occupied(grid.frame(planes, seen.times[seen.times.length - 1]), backdrop);
    seen.figure.push(here && packed(here.figure));
    seen.shadow.push(here && packed(here.shadow));
    parts.offer();
  };
  await eachFrame(take.media, grid.reduce, onProgress, visit, seen.times);
  return { width, height, factor: own * reduceFor(take.media), ...seen };
}

/** The masks of an occupancy track at moments of its take; the frame shown then. */
export function masksAt(
  { times, width, height, figure, shadow }: OccupancyTrack,
  moments: readonly number[],
): { figure: Mask | null; shadow: Mask | null }[] {
  let at = 0;
  const open = (bits: Uint8Array | null) => bits && unpacked(bits, width, height);
  return moments.map((moment) => {
    while (at + 1 < times.length && times[at + 1] <= moment + 1e-4) at++;
    return { figure: open(figure[at]), shadow: open(shadow[at]) };
  });
}

/** One side of a seam: a take, its occupancy track and the second of its file at which the span begins. */
export interface SeamSide {
  take: AlignedTake;
  occupancy: OccupancyTrack;
  from: number;
}

export interface SeamResult extends SeamFound {
  /** Full width of the soft edge of each path, row by row, pixels of the picture. */
  feather: Float32Array[];
  frames: number;
  fps: number;
  width: number;
  height: number;
  /** Whether it runs from left to right, the first take above it, and not from top to bottom. */
  across: boolean;
}

/** Frames of the span compared for what is seen of the difference. */
const COMPARED = 15;

/** The seam between two takes over a span of `seconds` at `fps`; the first is shown left of it, or above it where it runs `across`. */
export async function seekSeam(
  a: SeamSide,
  b: SeamSide,
  plate: CleanPlate,
  seconds: number,
  fps: number,
  across: boolean,
  onProgress: Tell,
): Promise<SeamResult> {
  const { width, height, factor } = a.occupancy;
  const frames = Math.max(1, Math.round(seconds * fps));
  const moments = (side: SeamSide) => Array.from({ length: frames }, (_, f) => side.from + f / fps);
  const [first, second] = [masksAt(a.occupancy, moments(a)), masksAt(b.occupancy, moments(b))];
  const set = reducedPlanes(plate.planes, gridFactor(plate.planes.width));
  const difference = await visibleDifference(a, b, first, second, plate, frames, fps, onProgress);
  const input: SeamInput = {
    width,
    height,
    first: first.map((m) => m.figure),
    second: second.map((m) => m.figure),
    firstShadow: first.map((m) => m.shadow),
    secondShadow: second.map((m) => m.shadow),
    difference,
    set: set.y,
  };
  const sought = across ? inputAcross(input) : input;
  const found = findSeam(sought);
  onProgress(1);
  return { ...found, feather: seamFeather(found, sought, factor), frames, fps, width, height, across };
}

type Masks = ReturnType<typeof masksAt>;

/** Mean difference of the two takes at each grid pixel over moments in which neither is occupied there. */
async function visibleDifference(
  a: SeamSide,
  b: SeamSide,
  first: Masks,
  second: Masks,
  plate: CleanPlate,
  frames: number,
  fps: number,
  onProgress: Tell,
): Promise<Float32Array> {
  const size = a.occupancy.width * a.occupancy.height;
  const picks = Array.from({ length: Math.min(frames, COMPARED) }, (_, k) => Math.floor(((k + 0.5) * frames) / Math.min(frames, COMPARED)));
  const pictures: Planes[][] = [];
  for (const side of [a, b]) {
    const grid = new OnGrid(side.take, plate);
    const times = picks.map((f) => side.from + f / fps);
    pictures.push(await framesAt(side.take, times, grid.reduce, (planes, time) => grid.frame(planes, time)));
    onProgress(pictures.length / 3);
  }
  const sum = new Float32Array(size);
  const count = new Uint8Array(size);
  const { width } = a.occupancy;
  const half = width >> 1;
  picks.forEach((f, k) => {
    const [p, q] = [pictures[0][k], pictures[1][k]];
    if (!p || !q) return;
    const busy = [first[f].figure, second[f].figure];
    for (let i = 0; i < size; i++) {
      if (busy.some((m) => m?.data[i])) continue;
      const x = i % width;
      const j = (((i - x) / width) >> 1) * half + (x >> 1);
      sum[i] += Math.abs(p.y[i] - q.y[i]) + Math.abs(p.u[j] - q.u[j]) / 2 + Math.abs(p.v[j] - q.v[j]) / 2;
      count[i]++;
    }
  });
  return sum.map((s, i) => (count[i] ? s / count[i] : 8));
}
