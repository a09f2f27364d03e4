import {
  type CutAlong,
  footageKey,
  footageName,
  footageOf,
  type Media,
  PLAIN_CUT,
  type Project,
  type Stroke,
  type Take,
} from '@/core/document';
import type { BackingColour } from '@/core/measure';
import { type Chroma, hueOfChroma } from '@/core/picture';
import { say } from '@/core/words';
import type { AlignedTake } from '@/media/align';
import type { CarriedCorrection, CutAsk, MattePart } from '@/media/cut-along';
import type { PersonMap } from '@/media/cut-out';
import type { Picture } from '@/media/picture';
import type { SetUpApi } from '@/workers/set-up.worker';
import { derived } from './derived';
import { Cancelled, inWorker, type Progress } from './jobs';
import { keepFile, madeBefore, nameOf, takeIn } from './kept';
import { findPerson } from './person';
import { aligned, correctOnReference, occupancyKey, occupancyTrack, setPlate, setUpWorker } from './set-up';
import { edit } from './store';

/** How a take is cut out along its length. */
export const cutOf = (take: Take): CutAlong => take.cutAlong ?? PLAIN_CUT;

/** Changes how a take is cut out along its length, as a named step. */
export function changeCut(takeId: string, label: string, how: (cut: CutAlong) => CutAlong): void {
  edit(label, (draft) => {
    const take = draft.takes.find((t) => t.id === takeId);
    if (take) take.cutAlong = how(cutOf(take as Take));
  });
}

/** Seconds within which a correction is meant for the same frame. */
const SAME_FRAME = 0.02;

/** Keeps what was painted on a frame, to be carried along from there on; in the place of what was there. */
export function keepCorrection(takeId: string, time: number, strokes: Stroke[]): void {
  changeCut(takeId, say`Correct the cut-out at ${time.toFixed(2)} s`, (cut) => ({
    ...cut,
    corrections: [...cut.corrections.filter((c) => Math.abs(c.time - time) > SAME_FRAME), { time, strokes }].sort(
      (a, b) => a.time - b.time,
    ),
  }));
}

export function forgetCorrection(takeId: string, time: number): void {
  changeCut(takeId, say`Forget a correction of the cut-out`, (cut) => ({
    ...cut,
    corrections: cut.corrections.filter((c) => c.time !== time),
  }));
}

/** Seconds of a take that are worked out and kept at once, at most. */
const STRETCH = 2;
/** Stretches that are worked out side by side. */
const SIDE_BY_SIDE = Math.max(1, Math.min(3, (globalThis.navigator?.hardwareConcurrency ?? 2) as number));

/** A take as it is cut out: by the set on its reference; else as the project shows it. */
export function asShown(project: Project, take: Take): AlignedTake {
  return { media: footageOf(project, take.id), correction: take.correction?.enabled ? take.correction : null };
}

/** What the cut-out along a take is made from. */
function cutAlongKey(project: Project, take: Take): string {
  const { way, tolerance, chosen, corrections } = cutOf(take);
  const from =
    way === 'set' ? occupancyKey(project, take) : `${footageKey(footageOf(project, take.id))} ${JSON.stringify(take.correction)}`;
  return `along:1 ${way} ${way === 'key' ? tolerance : ''} ${chosen && way === 'set' ? JSON.stringify(chosen) : ''} ${from} ${JSON.stringify(corrections)}`;
}

/** What a stretch is made from: only the corrections that reach into it count, so that those before it need not be made again. */
function stretchKey(project: Project, take: Take, from: number, to: number): string {
  const { corrections } = cutOf(take);
  const before = corrections.findLast((c) => c.time <= from);
  const within = corrections.filter((c) => c.time > from && c.time < to);
  const reach = { ...take, cutAlong: { ...cutOf(take), corrections: [...(before ? [before] : []), ...within] } };
  return `${cutAlongKey(project, reach)} ${from.toFixed(4)} ${to.toFixed(4)}`;
}

type Shared = Omit<CutAsk, 'corrections'>;

/** All that every stretch of a take needs. */
async function shared(project: Project, take: Take, onProgress: Progress, signal?: AbortSignal): Promise<Shared> {
  const { way, tolerance, chosen } = cutOf(take);
  const own: Shared = {
    take: asShown(project, take),
    way,
    plate: null,
    occupancy: null,
    only: false,
    backing: null,
    tolerance: tolerance / 100,
  };
  if (way === 'key')
    return { ...own, backing: await inWorker<SetUpApi, CutAsk['backing']>(setUpWorker(), signal, (api) => api.backingOf(own.take)) };
  if (way === 'person') return own;
  const track = await occupancyTrack(project, take, onProgress, signal);
  const plate = await setPlate(project, take, () => undefined, signal);
  const lies = await aligned(project, take, () => undefined, signal);
  const occupancy = chosen
    ? await inWorker<SetUpApi, CutAsk['occupancy']>(setUpWorker(), signal, (api) => api.onlyChosen(track, chosen))
    : track;
  return { ...own, take: lies, plate, occupancy, only: chosen !== null };
}

/** The hue of a take's coloured backing; null where it is not cut out by it. */
export async function backingHue(project: Project, takeId: string): Promise<number | null> {
  const take = takeIn(project, takeId);
  if (cutOf(take).way !== 'key') return null;
  return hueOfChroma(await backingChroma(project, takeId));
}

/** The chroma of a take's blue or green backing, code values from the middle, and how far it spreads. Throws a sentence where there is none. */
export async function backingChroma(project: Project, takeId: string): Promise<Chroma & { spread: number }> {
  const take = takeIn(project, takeId);
  const { u, v, spread } = await inWorker<SetUpApi, BackingColour>(setUpWorker(), undefined, (api) =>
    api.backingOf(asShown(project, take)),
  );
  return { u: u - 128, v: v - 128, spread };
}

/** What was painted on each frame, with how it goes along until the next; each followed once. */
async function carried(project: Project, take: Take, ask: Shared, signal?: AbortSignal): Promise<CarriedCorrection[]> {
  const { corrections } = cutOf(take);
  const out: CarriedCorrection[] = [];
  for (const [i, { time, strokes }] of corrections.entries()) {
    const until = corrections[i + 1]?.time ?? ask.take.media.to;
    const key = await nameOf(
      say`${cutAlongKey(project, { ...take, cutAlong: { ...cutOf(take), corrections: [{ time, strokes }] } })} until ${until}`,
    );
    out.push(
      await derived(`carried:1:${key}`, () =>
        inWorker<SetUpApi, CarriedCorrection>(
          setUpWorker(),
          signal,
          (api, tell) =>
            api.carryAlong(
              ask.take,
              { time, strokes },
              until,
              tell(() => undefined),
            ) as Promise<CarriedCorrection>,
        ),
      ),
    );
  }
  return out;
}

/** Only what a stretch needs of where the figure is and of what was painted. */
function within(ask: CutAsk, from: number, to: number): CutAsk {
  const { occupancy, corrections } = ask;
  if (!occupancy) return { ...ask, corrections: corrections.filter((c) => c.time < to) };
  const first = Math.max(0, occupancy.times.findIndex((t) => t >= from - 0.5) - 1);
  const later = occupancy.times.findIndex((t) => t > to + 0.5);
  const end = later < 0 ? occupancy.times.length : later + 1;
  const cut = <T>(list: T[]) => list.slice(first, end);
  return {
    ...ask,
    occupancy: { ...occupancy, times: cut(occupancy.times), figure: cut(occupancy.figure), shadow: cut(occupancy.shadow) },
    corrections: corrections.filter((c) => c.time < to),
  };
}

/** Works every item out, a few side by side; the first that fails stops the rest. */
async function sideBySide<T, R>(items: readonly T[], most: number, work: (item: T, i: number) => Promise<R>): Promise<R[]> {
  const out: R[] = [];
  let next = 0;
  const run = async () => {
    for (let i = next++; i < items.length; i = next++) out[i] = await work(items[i], i);
  };
  await Promise.all(Array.from({ length: Math.min(most, items.length) }, run));
  return out;
}

/** A cut-out over time as it is kept: the grey film, and the second of the take at which it begins. */
export interface KeptAlong {
  /** Files to be added to the project. */
  media: Media[];
  matteId: string;
  begins: number;
}

/** The cut-out over time that is there already for what a take asks for; null where there is none. */
export async function knownAlong(project: Project, takeId: string): Promise<KeptAlong | null> {
  const take = takeIn(project, takeId);
  const known = await madeBefore(project, 'travelling matte', await nameOf(cutAlongKey(project, take)));
  return known && { media: [], matteId: known.id, begins: footageOf(project, takeId).from };
}

/**
 * Cuts a take out along its length and keeps the grey film as a file of the project. Stretch by stretch, each kept: broken off it goes on,
 * and a correction has only those made again that it reaches.
 */
export async function keepAlong(project: Project, takeId: string, onProgress: Progress, signal?: AbortSignal): Promise<KeptAlong> {
  const known = await knownAlong(project, takeId);
  if (known) return known;
  const take = takeIn(project, takeId);
  const footage = footageOf(project, takeId);
  const { from, to } = footage;
  const ask = await shared(project, take, (p) => onProgress(0.2 * p), signal);
  const corrections = await carried(project, take, ask, signal);
  // As many for each that works beside the others, so that none waits for the last.
  const count = SIDE_BY_SIDE * Math.max(1, Math.ceil((to - from) / (SIDE_BY_SIDE * STRETCH) - 1e-6));
  const long = (to - from) / count;
  const stretches = Array.from({ length: count }, (_, k): [number, number] => [
    from + k * long,
    k + 1 < count ? from + (k + 1) * long : to + 1e-3,
  ]);
  const done = stretches.map(() => 0);
  const tell = (i: number, share: number) => {
    done[i] = share;
    return onProgress(0.2 + 0.75 * (done.reduce((a, b) => a + b, 0) / count));
  };
  const find = (picture: Picture): Promise<PersonMap> => findPerson(picture);
  // A worker goes on to the next stretch: what it has learnt of the work stays.
  const free: Worker[] = [];
  let over = false;
  const cut = sideBySide(stretches, SIDE_BY_SIDE, async ([start, end], i) => {
    if (signal?.aborted) throw new Cancelled();
    const key = await nameOf(stretchKey(project, take, start, end));
    const part = await derived(`stretch:1:${key}`, () =>
      inWorker<SetUpApi, MattePart>(
        free.pop() ?? setUpWorker(),
        signal,
        (api, told) =>
          api.cutStretch(
            within({ ...ask, corrections }, start, end),
            start,
            end,
            told(find as (news: Picture) => unknown) as unknown as typeof find,
            told((p: number) => tell(i, p)),
          ) as Promise<MattePart>,
        // Where one stretch failed the others may end later: nobody takes their workers any more.
        (worker) => (over ? worker.terminate() : free.push(worker)),
      ),
    );
    await tell(i, 1);
    return part;
  });
  const parts = await cut.finally(() => {
    over = true;
    for (const worker of free) worker.terminate();
  });
  const joined = await inWorker<SetUpApi, { file: Blob; width: number; height: number; duration: number }>(
    setUpWorker(),
    signal,
    (api) => api.joinStretches(parts) as Promise<{ file: Blob; width: number; height: number; duration: number }>,
  );
  const name = say`Cut-out over time of ${footageName(footage)}`;
  const kept = await keepFile('travelling matte', name, joined.file, joined, await nameOf(cutAlongKey(project, take)));
  return { media: [{ ...kept, duration: joined.duration, fps: footage.fps }], matteId: kept.id, begins: from };
}

/** Corrects a take that lies on a reference as it was cut out: what lets it through and what is seen must lie on each other. */
export async function correctedForCut(project: Project, takeId: string): Promise<void> {
  const take = takeIn(project, takeId);
  if (cutOf(take).way === 'set') await correctOnReference(project, take);
}
