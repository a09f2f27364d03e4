import { footageOf, type Project, type Take } from '@/core/document';
import { type Mask, meetingOf, type PairFit, type Reach, rankPairs, unpacked } from '@/core/measure';
import { fps } from '@/core/time';
import type { OccupancyTrack, SeamResult } from '@/media/set-up';
import type { SetUpApi } from '@/workers/set-up.worker';
import { Cancelled, inWorker, type Progress } from './jobs';
import { takeMeasurement } from './media';
import { aligned, occupancyTrack, referenceFor, setPlate, setUpWorker } from './set-up';

/** A take and the second of its file at which it touches its partner. */
export interface Contact {
  take: Take;
  at: number;
}

/** Pairs, best first, and how wide the grid is that their points of contact stand on. */
export interface Ranked {
  fits: PairFit[];
  across: number;
}

/** Seconds around the contact over which the seam is looked at. */
const AROUND_CONTACT = 0.4;

/** The second at which the take's figure reaches furthest towards its partner; null when nobody is seen in it. */
export async function furthestIn(
  project: Project,
  take: Take,
  side: 'left' | 'right',
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<number | null> {
  const occupancy = await occupancyTrack(project, take, onProgress, signal);
  return inWorker<SetUpApi, number | null>(setUpWorker(), signal, (api) => api.furthest(occupancy, side));
}

/**
 * Every take at the left against every take at the right, at their instants of contact, best first: gap, height, approach, light
 * and how clean the seam between them is. Takes in which nobody is seen then are left out.
 */
export async function rankContacts(
  project: Project,
  left: readonly Contact[],
  right: readonly Contact[],
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<Ranked> {
  const seen = async (contact: Contact, side: 'left' | 'right'): Promise<Reach | null> => {
    const { take, at } = contact;
    const reference = referenceFor(project, take);
    const other = reference.id === take.id ? null : footageOf(project, reference.id);
    const { against } = await takeMeasurement(footageOf(project, take.id), other, () => undefined, signal);
    const occupancy = await occupancyTrack(project, take, () => undefined, signal);
    return inWorker<SetUpApi, Reach | null>(setUpWorker(), signal, (api) =>
      api.reach(occupancy, take.id, at, side, against?.light?.exposure ?? 0),
    );
  };
  const reaches: (Reach | null)[] = [];
  const all = [...left.map((c) => [c, 'right'] as const), ...right.map((c) => [c, 'left'] as const)];
  for (const [i, [contact, side]] of all.entries()) {
    reaches.push(await seen(contact, side));
    onProgress((0.4 * (i + 1)) / all.length);
  }
  const figures = new Map<string, Mask>();
  for (const { take, at } of [...left, ...right]) {
    const figure = figureAt(await occupancyTrack(project, take, () => undefined, signal), at);
    if (figure) figures.set(take.id, figure);
  }
  const there = (list: (Reach | null)[]) => list.filter((r) => r !== null);
  const [a, b] = [there(reaches.slice(0, left.length)), there(reaches.slice(left.length))];
  const seams = new Map<string, number>();
  for (const [i, p] of a.entries()) {
    for (const [j, q] of b.entries()) {
      if (signal?.aborted) throw new Cancelled();
      const contacts = [left.find((c) => c.take.id === p.take), right.find((c) => c.take.id === q.take)];
      const step = await seamStep(project, contacts as [Contact, Contact], signal);
      if (step !== null) seams.set(`${p.take} ${q.take}`, step);
      onProgress(0.4 + (0.6 * (i * b.length + j + 1)) / (a.length * b.length));
    }
  }
  const occupancy = left[0] && (await occupancyTrack(project, left[0].take, () => undefined, signal));
  const tall = left[0] ? footageOf(project, left[0].take.id).height : 1;
  return {
    fits: rankPairs(
      a,
      b,
      occupancy?.factor ?? 1,
      tall,
      (p, q) => seams.get(`${p.take} ${q.take}`) ?? null,
      (p, q) => {
        const [own, theirs] = [figures.get(p.take), figures.get(q.take)];
        return own && theirs ? meetingOf(own, theirs) : null;
      },
    ),
    across: occupancy?.width ?? 1,
  };
}

/** The figure of a take as it is at a second; null where it could not be told. */
function figureAt({ times, figure, width, height }: OccupancyTrack, at: number): Mask | null {
  const bits =
    figure[
      Math.max(
        0,
        times.findLastIndex((t) => t <= at + 1e-4),
      )
    ];
  return bits ? unpacked(bits, width, height) : null;
}

/** What is seen of the best seam around a contact, code values; null where none stands. */
async function seamStep(project: Project, contacts: [Contact, Contact], signal?: AbortSignal): Promise<number | null> {
  const sides = [];
  for (const { take, at } of contacts) {
    const { from } = footageOf(project, take.id);
    const occupancy = await occupancyTrack(project, take, () => undefined, signal);
    sides.push({ take: await aligned(project, take, () => undefined, signal), occupancy, from: Math.max(from, at - AROUND_CONTACT / 2) });
  }
  const [a, b] = sides;
  const plate = await setPlate(project, contacts[0].take, () => undefined, signal);
  const found = await inWorker<SetUpApi, SeamResult>(
    setUpWorker(),
    signal,
    (api, tell) =>
      api.seekSeam(
        a,
        b,
        plate,
        AROUND_CONTACT,
        fps(project.frame.rate),
        false,
        tell(() => undefined),
      ) as Promise<SeamResult>,
  );
  return found.paths.length > 0 ? found.step : null;
}
