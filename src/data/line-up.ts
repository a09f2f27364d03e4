import { type Footage, footageOf, type Project, type Take } from '@/core/document';
import type { Sync } from '@/core/measure';
import { say } from '@/core/words';
import { type Progress, syncMedia } from './jobs';
import { takeMeasurement } from './media';
import { referenceFor } from './set-up';
import { heardInSong } from './threads';

/** Where two takes begin so that they run together, seconds of their files, and a sentence on it; or why they cannot be lined up. */
export type LinedUp = { ok: true; from: [number, number]; said: string } | { ok: false; said: string };

/** The earliest seconds at which both takes have picture when the second runs `later` seconds after the first. */
function together(first: Footage, second: Footage, later: number): [number, number] {
  const start = Math.max(first.from, second.from - later);
  return [start, start + later];
}

/** Lines two takes up by a sound that both have recorded. */
export async function lineUpBySound(first: Footage, second: Footage, onProgress: Progress, signal?: AbortSignal): Promise<LinedUp> {
  const [found] = await syncMedia(first.id, [second.id], onProgress, signal);
  if (!found.ok) return { ok: false, said: found.reason };
  const { offset, spread } = found.match;
  const where = `${Math.abs(offset).toFixed(4)} s ${offset >= 0 ? 'later' : 'earlier'}`;
  return {
    ok: true,
    from: together(first, second, offset),
    said: say`The same sound is heard ${where} in the second, to ${(spread * 1000).toFixed(2)} ms.`,
  };
}

/** Lines two takes up by the song that was played while each was filmed, so that both stand on the same beat. */
export async function lineUpByBeat(
  song: string,
  first: Footage,
  second: Footage,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<LinedUp> {
  const heard: Sync[] = [];
  for (const [i, { id }] of [first, second].entries()) heard.push(await heardInSong(id, song, (p) => onProgress((i + p) / 2), signal));
  const [a, b] = heard;
  if (!a.ok || !b.ok)
    return { ok: false, said: say`The song is not heard in ${a.ok ? second.name : first.name}, so its beats cannot be told there.` };
  const from = together(first, second, a.match.offset - b.match.offset);
  return { ok: true, from, said: say`Both begin at second ${(from[0] + a.match.offset).toFixed(2)} of the song.` };
}

/** Lines two takes up where their cameras pass the same places, as they were measured against their reference. */
export async function lineUpByMove(
  project: Project,
  first: Take,
  second: Take,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<LinedUp> {
  const reference = referenceFor(project, first);
  const passes: { offset: number; rate: number }[] = [];
  for (const [i, take] of [first, second].entries()) {
    const footage = footageOf(project, take.id);
    if (take.id === reference.id) passes.push({ offset: 0, rate: 1 });
    else {
      const { against, reason } = await takeMeasurement(footage, footageOf(project, reference.id), (p) => onProgress((i + p) / 2), signal);
      if (!against?.match)
        return { ok: false, said: reason || say`${footage.name} is not filmed by a camera that moves as in the reference.` };
      passes.push(against.match);
    }
  }
  // The earliest moment of the move at which both have picture.
  const moment = Math.max(...[first, second].map((take, i) => passes[i].offset + passes[i].rate * footageOf(project, take.id).from));
  const from = passes.map(({ offset, rate }) => (moment - offset) / rate) as [number, number];
  return { ok: true, from, said: say`At these seconds both cameras are in the same place, and go on alike.` };
}
