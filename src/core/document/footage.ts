import * as z from 'zod/mini';
import { finite } from '../layer';
import type { Seconds } from '../units';
import { say } from '../words';
import { correctionSchema, type Media, mediaSchema, type Project, pointPairs, type Take } from './schema';

/** A take's file and the part of it that is the take, seconds of the file; the whole file for most. */
export interface Footage extends Media {
  from: Seconds;
  to: Seconds;
  /** The same spots in it and in the footage of this key, as pairs of x, y there and x, y here; from the middles. */
  byHand?: { reference: string; pairs: z.infer<typeof pointPairs> } | undefined;
}

/** Footage as it comes from elsewhere. */
export const footageSchema = z.extend(mediaSchema, {
  from: finite.check(z.nonnegative()),
  to: finite.check(z.nonnegative()),
  byHand: z.optional(z.object({ reference: z.string(), pairs: pointPairs })),
});

/** A take as it is laid on its set-up's reference, as it comes from elsewhere. */
export const alignedTakeSchema = z.object({ media: footageSchema, correction: z.nullable(correctionSchema) });

/** A whole file as footage. */
export const wholeOf = (media: Media): Footage => ({ ...media, from: 0, to: media.duration });

function partOf(project: Project, take: Take | undefined): Footage | null {
  const media = project.media.find((m) => m.id === take?.mediaId);
  return media ? { ...media, from: take?.part?.from ?? 0, to: take?.part?.to ?? media.duration } : null;
}

/** The footage of a take; throws when the project is inconsistent, which validation prevents. */
export function footageOf(project: Project, takeId: string): Footage {
  const take = project.takes.find((t) => t.id === takeId);
  const whole = partOf(project, take);
  if (!whole) throw new Error(say`This take’s file is not in the project.`);
  const byHand = take?.byHand;
  if (!byHand) return whole;
  const reference = partOf(
    project,
    project.takes.find((t) => t.id === byHand.referenceTakeId),
  );
  return reference ? { ...whole, byHand: { reference: footageKey(reference), pairs: byHand.pairs } } : whole;
}

/** The file a take is heard from, and which second of it at a second of the take's own file; null where there is no sound. */
export function soundOfTake(project: Project, takeId: string): { mediaId: string; at: (second: number) => number } | null {
  const footage = footageOf(project, takeId);
  const { mic } = project.takes.find((t) => t.id === takeId) ?? {};
  if (mic && project.media.some((m) => m.id === mic.mediaId))
    return { mediaId: mic.mediaId, at: (second) => mic.offset + second * mic.rate };
  return footage.hasSound ? { mediaId: footage.id, at: (second) => second } : null;
}

/** What measures of this footage are kept under: the file, and the part when it is not the whole. */
export function footageKey({ id, from, to, duration }: Footage): string {
  return from === 0 && to === duration ? id : `${id}@${from.toFixed(3)}-${to.toFixed(3)}`;
}

/** The points that lay footage on another, where they were set by hand for that one. */
export const pointsOn = (footage: Footage, reference: Footage | null) =>
  reference && footage.byHand?.reference === footageKey(reference) ? footage.byHand.pairs : null;

/** How a take is called: by its file, and by the part of it when it is not the whole. */
export function footageName({ name, from, to, duration }: Footage): string {
  return from === 0 && to === duration ? name : `${name}, ${from.toFixed(1)} to ${to.toFixed(1)} s`;
}
