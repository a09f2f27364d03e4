import type { Footage, Take } from '@/core/document';
import { curves, withEffect } from '@/core/effects';
import { correctionAt, curvesOf, gainsAt, perspectiveAt } from '@/core/evaluate';
import { type CleanPlate, gridFactor } from '@/core/measure';
import { blackPlanes, compose, enlarged, type Planes, reducedPlanes, seenThrough, takeToProject, wholeLayer } from '@/core/picture';
import { fillFrame } from '@/core/sources';
import { openMedia } from './files';
import { FrameReader, planesOf, reduceFor } from './frames';

/** A take and how it is laid on its set-up's reference; `correction` null when it stands as filmed. */
export interface AlignedTake {
  media: Footage;
  correction: Take['correction'];
}

/** A frame of a take laid on the reference's picture reduced by `factor`, in its light. Where it does not reach, `below` shows. */
export function alignedOn(planes: Planes, { media, correction }: AlignedTake, time: number, factor: number, below: Planes | null): Planes {
  const gains = gainsAt(correction, time);
  const perspective = perspectiveAt(correction, time);
  const map = fillFrame(media, media, 100, perspective ? null : correctionAt(correction, time));
  const seen = perspective ? seenThrough(planes, enlarged(perspective, 1 / factor), below) : planes;
  const left = curvesOf(correction);
  const top = wholeLayer(seen, {
    effects: left ? [(laid: Planes) => withEffect(laid, { kind: curves.kind, resolved: left })] : [],
    map: { ...map, c: map.c / factor, f: map.f / factor },
    colour: takeToProject(media.colour, { r: 1 / gains.r, g: 1 / gains.g, b: 1 / gains.b }),
  });
  const out = blackPlanes(planes.width, planes.height);
  compose(below ? [wholeLayer(below), top] : [top], out);
  return out;
}

/** Lays frames of one take on the set-up's grid: at a finer size first, so that a shift by parts of a grid pixel leaves no edges. */
export class OnGrid {
  private readonly coarse: number;
  /** By how much frames are reduced before they are laid. */
  readonly reduce: number;
  private readonly below: Planes;

  constructor(
    private readonly take: AlignedTake,
    plate: CleanPlate,
  ) {
    const own = gridFactor(plate.planes.width);
    const fine = take.correction && own % 2 === 0 ? own / 2 : take.correction ? 1 : own;
    this.coarse = own / fine;
    this.reduce = fine * reduceFor(take.media);
    this.below = reducedPlanes(plate.planes, fine);
  }

  frame(planes: Planes, time: number): Planes {
    return reducedPlanes(alignedOn(planes, this.take, time, this.reduce, this.below), this.coarse);
  }
}

/** Frames of a take at the given ascending times, laid on the reference. */
export async function laidFrames(
  take: AlignedTake,
  times: readonly number[],
  factor: number,
  below: Planes | null,
  alone = false,
): Promise<Planes[]> {
  return framesAt(take, times, factor, (planes, time, first) => alignedOn(planes, take, time, factor, below ?? first), alone);
}

/** Frames of a take at the given ascending times (or, with `alone`, near them where they are quick to decode), each made of its reduced planes by `make`. */
export async function framesAt<T>(
  take: AlignedTake,
  times: readonly number[],
  reduce: number,
  make: (planes: Planes, time: number, first: T | null) => T,
  alone = false,
): Promise<T[]> {
  const reader = await FrameReader.open(await openMedia(take.media.id));
  const out: T[] = [];
  try {
    for await (const sample of reader.samplesAt(alone ? await reader.standAlone(times, take.media.from) : times)) {
      if (!sample) continue;
      try {
        out.push(make(await planesOf(sample, reader, reduce, false), sample.timestamp, out[0] ?? null));
      } finally {
        sample.close();
      }
    }
  } finally {
    reader.close();
  }
  return out;
}
