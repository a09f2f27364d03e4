import type { Footage } from '@/core/document';
import { correctionFrom } from '@/core/edit';
import { gainsAt } from '@/core/evaluate';
import { curvesThrough, type TakeLock, ToneLevels, transferOf } from '@/core/measure';
import { type Planes, recoloured, takeToProject } from '@/core/picture';
import { alignedOn, framesAt } from './align';
import { reduceFor } from './frames';
import type { Baseline } from './series';

/** Frames of a take by which its tones are compared. */
const TONE_FRAMES = 9;

/** How a take's tones lie against its reference's once it is laid on it and its gains are taken out, and the tone curve they tell of. */
export async function tonesOf(media: Footage, { planes, media: { colour } }: Baseline, lock: TakeLock) {
  const correction = correctionFrom(lock, '');
  const reference = recoloured(planes, takeToProject(colour, { r: 1, g: 1, b: 1 }));
  const seen = lock.times.filter((_, i) => lock.readings[i].trusted);
  const times = [...new Set(Array.from({ length: TONE_FRAMES }, (_, k) => seen[Math.floor(((k + 0.5) / TONE_FRAMES) * seen.length)]))];
  if (seen.length === 0) return null;
  const levels = new ToneLevels();
  const take = { media, correction };
  const reduce = reduceFor(media);
  const look = (frame: Planes, time: number) =>
    levels.see(reference, alignedOn(frame, take, time, reduce, null), gainsAt(correction, time));
  await framesAt(take, times, reduce, look, true);
  const found = levels.levels();
  return { curves: curvesThrough(found), transfer: transferOf(found, (lock.light as NonNullable<TakeLock['light']>).gains) };
}
