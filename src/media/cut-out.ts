import type { Footage } from '@/core/document';
import {
  backingColour,
  type CleanPlate,
  colourKey,
  cutOut,
  joinedCut,
  type Matte,
  type MatteOptions,
  makeBackdrop,
  occupied,
  removeSpill,
  resized,
  restless,
  type Strokes,
  smearOf,
  standsInPlate,
} from '@/core/measure';
import { type Planes, toRgba } from '@/core/picture';
import { say } from '@/core/words';
import { type AlignedTake, framesAt, laidFrames, OnGrid } from './align';
import { reduceFor } from './frames';
import { vision } from './vision';

/** A cut-out: coverage, and the picture it is cut from, on the reference. */
export interface CutOutResult {
  matte: Matte;
  /** What to know about it, or ''. */
  note: string;
  rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** How surely each pixel shows a person, 0..255, at a size of its own. */
export interface PersonMap {
  width: number;
  height: number;
  sure: Uint8Array;
}

/** Share of the picture that may move by itself before the difference is not trusted alone. */
const RESTLESS_SHARE = 0.01;
/** Smaller than this share of the picture is nobody. */
const NOBODY = 0.0005;

const STANDS_IN_SET = say`The figure stands in the empty set itself, so it was told by what looks like a person.`;

const share = (data: Uint8Array, above: number) => data.reduce((n, v) => n + (v > above ? 1 : 0), 0) / data.length;

/**
 * Cuts the figure out of one frame of a take by its difference from the set, and with `person` by what looks like a person where
 * the set itself moves; strokes on the plate's own grid. `wants` says that the difference says too little here, and that a person
 * segmentation of this very picture would help.
 */
export async function cutFrame(
  take: AlignedTake,
  plate: CleanPlate,
  time: number,
  strokes: Strokes | null,
  person: PersonMap | null,
): Promise<CutOutResult & { wants: boolean }> {
  const [frame] = await laidFrames(take, [time], reduceFor(take.media), plate.planes);
  if (!frame) throw new Error(say`There is no picture at that place of the take.`);
  const backdrop = makeBackdrop(plate, 1);
  const moving = share(restless(backdrop).data, 0);
  // Leaves that come and go shift what is taken for the figure's middle.
  const blur = moving > RESTLESS_SHARE ? { dx: 0, dy: 0 } : await smearAt(take, plate, time);
  const matte = cutOut(frame, backdrop, { blur, strokes });
  const nobody = share(matte.alpha, 127) < NOBODY;
  const wants = moving > RESTLESS_SHARE || nobody;
  const rgba = rgbaOf(frame);
  if (!wants || !person) return { matte, note: '', rgba, wants };
  const sure = sureOf(person, frame);
  if (nobody || standsInPlate(frame, backdrop, sure)) return { ...(await freeOf(frame, person, strokes, STANDS_IN_SET)), wants };
  const where = say`The set itself moves, or is not known, in ${Math.ceil(100 * moving)} % of the picture.`;
  if (!sure.some((p) => p > 0.7))
    return { matte, note: say`${where} Nobody was recognised there: look at the edge, and mend it by hand.`, rgba, wants };
  const note = say`${where} There what looks like a person counts as well.`;
  return { matte: joinedCut(backdrop, matte, sure, strokes), note, rgba, wants };
}

/** The figure's smear at a moment, pixels of the frames, from where it is a frame before and after; a shutter of 180° is common practice. */
async function smearAt(take: AlignedTake, plate: CleanPlate, time: number): Promise<MatteOptions['blur']> {
  const step = 1 / take.media.fps;
  if (time - step < take.media.from || time + step > take.media.to) return { dx: 0, dy: 0 };
  const grid = new OnGrid(take, plate);
  const backdrop = makeBackdrop(plate);
  const seen = await framesAt(take, [time - step, time, time + step], grid.reduce, (p, at) => occupied(grid.frame(p, at), backdrop));
  const [before, now, after] = seen.map((s) => s?.figure);
  if (!before || !now || !after) return { dx: 0, dy: 0 };
  const { dx, dy } = smearOf(before, now, after, 0.5);
  return { dx: dx * backdrop.factor, dy: dy * backdrop.factor };
}

const sureOf = (person: PersonMap, { width, height }: Planes) =>
  resized(person.sure, person.width, person.height, width, height).map((v) => v / 255);

/** Cuts a figure or object out of one frame with nothing known of what is behind it; OpenCV comes in only when this is asked for. */
export async function freeFrame(media: Footage, time: number, person: PersonMap | null, strokes: Strokes | null): Promise<CutOutResult> {
  const [frame] = await laidFrames({ media, correction: null }, [time], reduceFor(media), null);
  if (!frame) throw new Error(say`There is no picture at that place of the take.`);
  return freeOf(frame, person, strokes, '');
}

async function freeOf(frame: Planes, person: PersonMap | null, strokes: Strokes | null, note: string): Promise<CutOutResult> {
  const rgba = rgbaOf(frame);
  try {
    return { matte: await vision((api) => api.freeCut(frame, person && sureOf(person, frame), strokes) as Promise<Matte>), note, rgba };
  } catch (error) {
    // The whole frame comes back, to be drawn on.
    const { width, height } = frame;
    const why = error instanceof Error ? error.message : String(error);
    return { matte: { width, height, alpha: new Uint8Array(width * height).fill(255) }, note: why, rgba };
  }
}

function rgbaOf(frame: Planes): CutOutResult['rgba'] {
  const rgba = new Uint8ClampedArray(4 * frame.width * frame.height);
  toRgba(frame, rgba);
  return rgba;
}

/** Cuts the figure out of one frame of a take by its blue or green backing, and takes the backing's colour off it. Throws when there is none. */
export async function keyFrame(media: Footage, time: number, tolerance: number): Promise<CutOutResult> {
  const [frame] = await laidFrames({ media, correction: null }, [time], reduceFor(media), null);
  if (!frame) throw new Error(say`There is no picture at that place of the take.`);
  const backing = backingColour(frame);
  if (!backing) throw new Error(say`There is no blue or green backing in this frame: nothing of that colour covers a tenth of it.`);
  const matte = colourKey(frame, backing, tolerance);
  removeSpill(frame, backing);
  return { matte, note: '', rgba: rgbaOf(frame) };
}
