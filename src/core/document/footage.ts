import * as z from 'zod/mini';
import { finite } from '../layer';
import type { Seconds } from '../units';
import { correctionSchema, type Media, mediaSchema, type Project } from './schema';

/** A take's file and the part of it that is the take, seconds of the file; the whole file for most. */
export interface Footage extends Media {
  from: Seconds;
  to: Seconds;
}

/** Footage as it comes from elsewhere. */
export const footageSchema = z.extend(mediaSchema, { from: finite.check(z.nonnegative()), to: finite.check(z.nonnegative()) });

/** A take as it is laid on its set-up's reference, as it comes from elsewhere. */
export const alignedTakeSchema = z.object({ media: footageSchema, correction: z.nullable(correctionSchema) });

/** A whole file as footage. */
export const wholeOf = (media: Media): Footage => ({ ...media, from: 0, to: media.duration });

/** The footage of a take; throws when the project is inconsistent, which validation prevents. */
export function footageOf(project: Project, takeId: string): Footage {
  const take = project.takes.find((t) => t.id === takeId);
  const media = project.media.find((m) => m.id === take?.mediaId);
  if (!media) throw new Error('This take’s file is not in the project.');
  return { ...media, from: take?.part?.from ?? 0, to: take?.part?.to ?? media.duration };
}

/** What measures of this footage are kept under: the file, and the part when it is not the whole. */
export function footageKey({ id, from, to, duration }: Footage): string {
  return from === 0 && to === duration ? id : `${id}@${from.toFixed(3)}-${to.toFixed(3)}`;
}

/** How a take is called: by its file, and by the part of it when it is not the whole. */
export function footageName({ name, from, to, duration }: Footage): string {
  return from === 0 && to === duration ? name : `${name}, ${from.toFixed(1)} to ${to.toFixed(1)} s`;
}
