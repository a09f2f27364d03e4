import type { Draft } from 'immer';
import { footageKey, footageOf, type Project, type Take } from '@/core/document';
import { correctionFrom, plannedSlots, proposeSeam } from '@/core/edit';
import type { SeamKeyframe } from '@/core/layer';
import type { CleanPlate, Collision, Cut, Strokes } from '@/core/measure';
import { fps } from '@/core/time';
import { say } from '@/core/words';
import type { AlignedTake } from '@/media/align';
import type { CutOutResult, PersonMap } from '@/media/cut-out';
import type { Picture } from '@/media/picture';
import type { OccupancyPart, OccupancyTrack, SeamResult } from '@/media/set-up';
import type { SetUpApi } from '@/workers/set-up.worker';
import { derived, derivedInParts } from './derived';
import { inWorker, type Progress } from './jobs';
import { correctTake, isPlate, marginFor, takeMeasurement } from './media';
import { findPerson } from './person';
import { takePicture } from './pictures';
import { edit, useProject } from './store';

export const setUpWorker = () => new Worker(new URL('../workers/set-up.worker.ts', import.meta.url), { type: 'module' });

/** Whether the pictures of two takes have the same size. */
export function ofOneSize(project: Project, a: Take, b: Take): boolean {
  const [one, other] = [footageOf(project, a.id), footageOf(project, b.id)];
  return one.width === other.width && one.height === other.height;
}

/**
 * The takes of the set-up a take belongs to: those of its planned shot, or all without one, of its size; slots in their own order. An
 * overlay is alone.
 */
export function setUpOf(project: Project, take: Take): Take[] {
  if (take.overlay) return [take];
  const plan = project.plans.find((p) => p.id === take.plan);
  const slots = plan ? plannedSlots(project, plan).map((s) => s.id) : [];
  const order = (t: Take) => slots.indexOf(t.slot ?? '');
  return project.takes.filter((t) => t.plan === take.plan && !t.overlay && ofOneSize(project, t, take)).sort((a, b) => order(a) - order(b));
}

/** The take that the others of its set-up are laid on: the first with somebody in it. */
export function referenceFor(project: Project, take: Take): Take {
  const takes = setUpOf(project, take);
  return takes.find((t) => !isPlate(project, t)) ?? takes[0];
}

/** How a take is laid on its reference, measured when it was not yet. Throws a sentence when it cannot be. */
export async function aligned(project: Project, take: Take, onProgress: Progress, signal?: AbortSignal): Promise<AlignedTake> {
  const media = footageOf(project, take.id);
  const reference = referenceFor(project, take);
  if (reference.id === take.id) return { media, correction: null };
  const { against, reason } = await takeMeasurement(media, footageOf(project, reference.id), onProgress, signal);
  if (!against || against.trusted < 0.3)
    throw new Error(
      reason ||
        say`${media.name} could not be laid on ${footageOf(project, reference.id).name}: too little of their background is the same.`,
    );
  return {
    media,
    correction: correctionFrom(against, reference.id),
  };
}

export type SetPlate = CleanPlate & { frames: number };

/** What the clean plate of a take's set-up is made from. */
export const plateKey = (project: Project, take: Take) => {
  const takes = setUpOf(project, take);
  const used = takes.some((t) => isPlate(project, t)) ? takes.filter((t) => isPlate(project, t)) : takes;
  return `plate:5:${[referenceFor(project, take), ...used].map((t) => footageKey(footageOf(project, t.id))).join()}`;
};

/** Part of the frame's width that a camera may go and still have one empty set before it. */
const ONE_SET = 0.1;

/** Throws a sentence where the camera moves so far through a take that there is no one empty set. */
async function standing(project: Project, take: Take, onProgress: Progress, signal?: AbortSignal): Promise<void> {
  const media = footageOf(project, take.id);
  const reference = referenceFor(project, take);
  const other = reference.id === take.id ? null : footageOf(project, reference.id);
  const { own, against } = await takeMeasurement(media, other, onProgress, signal);
  const far = own?.travel ? Math.hypot(own.travel.dx, own.travel.dy, own.travel.grows) / media.width : 0;
  if (against?.match || (!other && far > ONE_SET))
    throw new Error(
      say`The camera moves in ${media.name}, so there is no one empty set to tell the performer from. Cut the performer out as a person, or draw a mask.`,
    );
}

/** The clean plate of a take's set-up, made once for its takes. */
export function setPlate(project: Project, take: Take, onProgress: Progress, signal?: AbortSignal): Promise<SetPlate> {
  return derived(plateKey(project, take), async () => {
    const takes = setUpOf(project, take);
    const nobody = takes.some((t) => isPlate(project, t));
    const sources: (AlignedTake & { nobody: boolean })[] = [];
    const used = takes.filter((t) => !nobody || isPlate(project, t));
    const laid = async (t: Take, i: number) => {
      await standing(project, t, (p) => onProgress((0.7 * (i + p)) / used.length), signal);
      return { ...(await aligned(project, t, () => undefined, signal)), nobody: isPlate(project, t) };
    };
    for (const [i, t] of used.entries()) {
      // Takes that nobody planned together may be of other places: those are left out.
      const source = await laid(t, i).catch((e: Error) => {
        if (take.plan !== null || t.id === take.id || signal?.aborted) throw e;
        return null;
      });
      if (source) sources.push(source);
    }
    return inWorker<SetUpApi, SetPlate>(setUpWorker(), signal, (api, tell) =>
      api.makeSetPlate(
        sources,
        tell((p: number) => onProgress(0.7 + 0.3 * p)),
      ),
    );
  });
}

/** What a take's occupancy is worked out from: its footage and the clean plate it is told apart from. */
export const occupancyKey = (project: Project, take: Take) =>
  `survey:4:${footageKey(footageOf(project, take.id))}:${plateKey(project, take)}`;

/** Where the performer is on every frame of a take, worked out once. */
export async function occupancyTrack(project: Project, take: Take, onProgress: Progress, signal?: AbortSignal): Promise<OccupancyTrack> {
  const plate = await setPlate(project, take, (p) => onProgress(0.4 * p), signal);
  const lies = await aligned(project, take, () => undefined, signal);
  return derivedInParts<OccupancyTrack, OccupancyPart>(occupancyKey(project, take), ({ parts, keep }) =>
    inWorker<SetUpApi, OccupancyTrack>(setUpWorker(), signal, (api, tell) =>
      api.trackOccupancy(
        lies,
        plate,
        parts,
        tell(keep),
        tell((p: number) => onProgress(0.4 + 0.6 * p)),
      ),
    ),
  );
}

/** Where the performer of a take ever is: share of its frames, 0..255, on the set-up's grid. */
export async function occupancyMap(
  project: Project,
  take: Take,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<{ width: number; height: number; share: Uint8Array; untold: number }> {
  const occupancy = await occupancyTrack(project, take, onProgress, signal);
  const share = await inWorker<SetUpApi, Uint8Array>(setUpWorker(), signal, (api) => api.union(occupancy));
  return {
    width: occupancy.width,
    height: occupancy.height,
    share,
    untold: occupancy.figure.filter((f) => f === null).length / occupancy.figure.length,
  };
}

/** The box around the performer on each frame of a take, pixels of the picture; null with nobody there or where it cannot be told. */
export async function boxesOf(
  project: Project,
  take: Take,
): Promise<({ left_px: number; top_px: number; right_px: number; bottom_px: number; share: number } | null)[]> {
  const occupancy = await occupancyTrack(project, take, () => undefined);
  return inWorker<SetUpApi, Awaited<ReturnType<typeof boxesOf>>>(setUpWorker(), undefined, (api) => api.boxes(occupancy));
}

/** A span of two takes, laid side by side: the seconds of each file at which it begins, and how long it lasts. */
export interface Span {
  first: { take: Take; from: number };
  second: { take: Take; from: number };
  seconds: number;
  /** Whether the seam is to run from left to right, the first take above it. */
  across?: boolean;
}

/** The best seam between two takes of one set-up and where their figures collide. */
export async function seamBetween(
  project: Project,
  { first, second, seconds, across = false }: Span,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<{ seam: SeamResult; collisions: Collision[] }> {
  const sides = [];
  for (const [i, { take, from }] of [first, second].entries()) {
    const occupancy = await occupancyTrack(project, take, (p) => onProgress(0.4 * (i + p)), signal);
    sides.push({ take: await aligned(project, take, () => undefined, signal), occupancy, from });
  }
  const plate = await setPlate(project, first.take, () => undefined, signal);
  const rate = fps(project.frame.rate);
  const [a, b] = sides;
  return inWorker<SetUpApi, { seam: SeamResult; collisions: Collision[] }>(setUpWorker(), signal, async (api, tell) => ({
    seam: (await api.seekSeam(
      a,
      b,
      plate,
      seconds,
      rate,
      across,
      tell((p: number) => onProgress(0.8 + 0.2 * p)),
    )) as SeamResult,
    collisions: await api.collide(a.occupancy, a.from, b.occupancy, b.from, seconds, rate),
  }));
}

/** The keyframes of a found seam as a shot keeps them: seconds of the shot, per cent of the picture; few points, for hands. */
export function seamKeyframesOf({ paths, feather, fps: rate, width, height, across }: SeamResult, tall: number): SeamKeyframe[] {
  const [long, wide] = across ? [width, height] : [height, width];
  return paths.map(({ from, x }, k) => {
    const step = 3;
    const rows = Array.from({ length: Math.ceil((long - 1) / step) }, (_, k) => k * step);
    return {
      from: from / rate,
      ...(across && { across }),
      points: [...rows, long - 1].map((row) => {
        const [off, along] = [(100 * x[row]) / wide, (100 * (row + 0.5)) / long];
        return { x: across ? along : off, y: across ? off : along, soft: Math.min(100, (100 * feather[k][row]) / tall) };
      }),
    };
  });
}

/** The widest soft edge of a seam, per cent of the height. */
export const widestSoft = (keyframes: SeamKeyframe[]) => Math.max(0.3, ...keyframes.flatMap((s) => s.points.map((p) => p.soft ?? 0)));

/** Lays a take on its set-up's reference, measured where it was not yet; one that is the reference or lies on one already stays as it is. */
export async function correctOnReference(project: Project, take: Take, onProgress: Progress = () => undefined): Promise<void> {
  const reference = referenceFor(project, take);
  if (take.id === reference.id || take.correction) return;
  const measured = await takeMeasurement(footageOf(project, take.id), footageOf(project, reference.id), onProgress);
  if (useProject.getState().project?.id === project.id) correctTake(take.id, reference.id, measured);
}

/** Lays two takes on the score along their seam, from a beat on; both are corrected first where their measures ask for it. */
export async function laySeam(project: Project, span: Span, keyframes: SeamKeyframe[], beat: number): Promise<string> {
  for (const { take } of [span.first, span.second]) await correctOnReference(project, take);
  const id = crypto.randomUUID();
  const use = ({ take, from }: Span['first']) => ({ takeId: take.id, sync: from });
  const lay = (draft: Draft<Project>) => {
    const now = draft as Project;
    const margin = marginFor(now, [span.first.take.id, span.second.take.id]);
    draft.shots.push(proposeSeam(now, id, beat, span.seconds, use(span.first), use(span.second), keyframes, widestSoft(keyframes), margin));
  };
  if (edit(say`Lay two takes along a seam`, lay, project.id)) useProject.setState({ selectedShot: id });
  return id;
}

/** The best frames to jump between two takes of one set-up; in seconds of their files. */
export async function cutsBetween(
  project: Project,
  first: Take,
  second: Take,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<(Cut & { outAt: number; intoAt: number })[]> {
  const a = await occupancyTrack(project, first, (p) => onProgress(0.45 * p), signal);
  const b = await occupancyTrack(project, second, (p) => onProgress(0.45 + 0.45 * p), signal);
  const loop = first.id === second.id ? Math.round(fps(project.frame.rate)) : null;
  const found = await inWorker<SetUpApi, Cut[]>(setUpWorker(), signal, (api) => api.cuts(a, b, loop));
  return found.map((c) => ({ ...c, outAt: a.times[c.out], intoAt: b.times[c.into] }));
}

/**
 * Cuts the figure out of one frame of a take by its difference from the empty set, painted corrections included. Where the set
 * itself moves, or the figure stands in it for the whole take, a person segmentation joins in.
 */
export async function cutFigure(
  project: Project,
  take: Take,
  time: number,
  strokes: Strokes | null,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<CutOutResult> {
  const plate = await setPlate(project, take, (p) => onProgress(0.9 * p), signal);
  const lies = await aligned(project, take, () => undefined, signal);
  const key = say`laid ${plateKey(project, take)} ${footageKey(lies.media)} ${time}`;
  const cut = (person: PersonMap | null) =>
    inWorker<SetUpApi, CutOutResult & { wants: boolean }>(
      setUpWorker(),
      signal,
      (api) => api.cutFrame(lies, plate, time, strokes, person) as Promise<CutOutResult & { wants: boolean }>,
    );
  const known = lastPerson?.key === key ? lastPerson.found : null;
  const made = await cut(known);
  if (!made.wants || known) return made;
  const { found, reason } = await personIn(key, async () => ({ ...made.matte, rgba: made.rgba }));
  return found ? cut(found) : { ...made, note: reason };
}

/** Cuts the figure out of one frame of a take by the colour of the backing behind it. */
export function keyFigure(project: Project, take: Take, time: number, tolerance: number, signal?: AbortSignal): Promise<CutOutResult> {
  return inWorker<SetUpApi, CutOutResult>(
    setUpWorker(),
    signal,
    (api) => api.keyFrame(footageOf(project, take.id), time, tolerance) as Promise<CutOutResult>,
  );
}

let lastPerson: { key: string; found: PersonMap } | null = null;

/** The person in one frame, asked once for it however often it is drawn on; null with a reason where the segmentation does not work. */
async function personIn(key: string, picture: () => Promise<Picture>): Promise<{ found: PersonMap | null; reason: string }> {
  if (lastPerson?.key === key) return { found: lastPerson.found, reason: '' };
  try {
    const found = await findPerson(await picture());
    lastPerson = { key, found };
    return { found, reason: '' };
  } catch (error) {
    return { found: null, reason: error instanceof Error ? error.message : String(error) };
  }
}

/**
 * Cuts a figure or object out of one frame with nothing known of what is behind it: where a person is recognised, and by what was
 * drawn around or on it; by what was drawn alone where the segmentation does not work.
 */
export async function freeFigure(
  project: Project,
  take: Take,
  time: number,
  strokes: Strokes | null,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<CutOutResult> {
  const footage = footageOf(project, take.id);
  const { id, width } = footage;
  const { found, reason } = await personIn(`${id} ${time}`, () => takePicture(id, width, time));
  onProgress(0.5);
  const made = await inWorker<SetUpApi, CutOutResult>(
    setUpWorker(),
    signal,
    (api) => api.freeFrame(footage, time, found, strokes) as Promise<CutOutResult>,
  );
  return reason ? { ...made, note: reason } : made;
}
