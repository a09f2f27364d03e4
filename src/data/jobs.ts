import * as Comlink from 'comlink';
import type { Footage, Project } from '@/core/document';
import type { ChannelMatch, Course, Crossing, Sync, Thrown } from '@/core/measure';
import type { PlannedOrder, PlannedShot, Tempo, Timetable } from '@/core/plan';
import type { Alignment, SongAnalysis } from '@/core/song';
import type { SoundKind } from '@/core/sounds';
import type { BeatMap } from '@/core/time';
import { say } from '@/core/words';
import type { Leave } from '@/media/fault';
import { makingName, removeSoon } from '@/media/files';
import type { FilmMade, FilmProgress } from '@/media/film';
import type { SeenFall, TakeMeasurement, TakeReadings } from '@/media/measuring';
import { sentenceOf } from '@/media/sentence';
import type { HeardSong } from '@/media/song';
import type { Sound } from '@/media/sound';
import type { FilmApi } from '@/workers/film.worker';
import type { ImportApi, Taken } from '@/workers/import.worker';
import type { MeasureApi } from '@/workers/measure.worker';
import type { PlanApi } from '@/workers/plan.worker';
import type { SongApi } from '@/workers/song.worker';
import type { SoundApi } from '@/workers/sound.worker';
import type { Begun } from './derived';
import { KeptWorker } from './kept-worker';
import { restPictures } from './pictures';

/** Thrown by a job that the user stopped. */
export class Cancelled extends Error {
  constructor() {
    super('Stopped.');
    this.name = 'Cancelled';
  }
}

/** Makes a listener the worker can call; news that arrives after the job has ended is dropped. */
type Tell = <News>(listener: (news: News) => unknown) => ((news: News) => unknown) & Comlink.ProxyMarked;

/** One proxy for each worker, for as long as it lives: when a proxy is collected its worker is told to listen no more. */
const proxies = new WeakMap<Worker, unknown>();
function wrapped<Api>(worker: Worker): Comlink.Remote<Api> {
  const proxy = proxies.get(worker) ?? Comlink.wrap<Api>(worker);
  proxies.set(worker, proxy);
  return proxy as Comlink.Remote<Api>;
}

/** Runs work in a worker of its own. Aborting ends the worker at once; else it is kept for more work where `keep` is given. */
export async function inWorker<Api, T>(
  worker: Worker,
  signal: AbortSignal | undefined,
  work: (api: Comlink.Remote<Api>, tell: Tell) => Promise<T>,
  keep?: (worker: Worker) => void,
): Promise<T> {
  let over = false;
  let whole = false;
  const tell: Tell = (listener) =>
    Comlink.proxy((news) => {
      // What it gives is waited for where the worker does so.
      return over ? undefined : listener(news);
    });
  const stopped = new Promise<never>((_, reject) => {
    if (signal?.aborted) reject(new Cancelled());
    signal?.addEventListener('abort', () => reject(new Cancelled()), { once: true });
    worker.addEventListener(
      'error',
      (event) => reject(new Error(event.message || say`A background task ended unexpectedly. Nothing was lost; try again.`)),
      { once: true },
    );
  });
  try {
    const done = await Promise.race([work(wrapped<Api>(worker), tell), stopped]);
    whole = true;
    return done;
  } finally {
    over = true;
    if (whole && keep) keep(worker);
    else worker.terminate();
  }
}

/** A stop of a job's own, which its caller's sets off too until it is let go. */
function ownStop(signal: AbortSignal | undefined) {
  const control = new AbortController();
  const stop = () => control.abort();
  if (signal?.aborted) stop();
  signal?.addEventListener('abort', stop, { once: true });
  return { signal: control.signal, stop, letGo: () => signal?.removeEventListener('abort', stop) };
}

/** Told how far something is, 0..1. Measuring waits for what it gives. */
export type Progress = (done: number) => unknown;

/** Milliseconds that looking into a file may take: what is whole takes a tenth; long sound without an index is read to its end. */
const looking = (file: File) => 6000 + file.size / 20_000;

/** The worker that took the last file in, kept for the next: starting one takes longer than looking at a film. */
let idleImport: Worker | null = null;

/** Takes a file into the browser's storage. One whose index leads nowhere is given up after some seconds. */
export async function takeIn(file: File, onProgress: Progress, signal?: AbortSignal): Promise<Taken> {
  const worker = idleImport ?? new Worker(new URL('../workers/import.worker.ts', import.meta.url), { type: 'module' });
  idleImport = null;
  const own = ownStop(signal);
  let gaveUp = false;
  const timer = setTimeout(() => {
    gaveUp = true;
    own.stop();
  }, looking(file));
  try {
    return await inWorker<ImportApi, Taken>(
      worker,
      own.signal,
      (api, tell) =>
        api.take(
          file,
          tell<null>(() => clearTimeout(timer)),
          tell(onProgress),
        ) as Promise<Taken>,
      (kept) => {
        idleImport?.terminate();
        idleImport = kept;
      },
    );
  } catch (error) {
    if (signal?.aborted || (error instanceof Cancelled && !gaveUp)) throw new Cancelled();
    return { ok: false, reason: gaveUp ? NOWHERE : sentenceOf(error) };
  } finally {
    clearTimeout(timer);
    own.letGo();
  }
}

/** Takes the film that an animated picture, or numbered pictures, are made into; null where the one picture stands still. */
export function takeInPictures(
  files: readonly File[],
  name: string,
  rate: number,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<Taken | null> {
  const worker = new Worker(new URL('../workers/import.worker.ts', import.meta.url), { type: 'module' });
  return inWorker<ImportApi, Taken | null>(worker, signal, (api, tell) =>
    files.length === 1
      ? (api.takeAnimation(files[0], tell(onProgress)) as Promise<Taken | null>)
      : (api.takeSequence([...files], name, rate, tell(onProgress)) as Promise<Taken>),
  );
}

const NOWHERE = say`The file is damaged: its index promises more than there is, and looking for it was given up. Copy it from the camera again, whole.`;

export const measureWorker = () => new Worker(new URL('../workers/measure.worker.ts', import.meta.url), { type: 'module' });

export function measureTake(
  media: Footage,
  reference: Footage | null,
  { parts, keep }: Begun<TakeReadings>,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<TakeMeasurement> {
  return inWorker<MeasureApi, TakeMeasurement>(
    measureWorker(),
    signal,
    (api, tell) => api.measureTake(media, reference, parts, tell(keep), tell(onProgress)) as Promise<TakeMeasurement>,
  );
}

export function measureFall(media: Footage, angle: number, onProgress: Progress, signal?: AbortSignal): Promise<SeenFall | null> {
  return inWorker<MeasureApi, SeenFall | null>(
    measureWorker(),
    signal,
    (api, tell) => api.measureFall(media, angle, tell(onProgress)) as Promise<SeenFall | null>,
  );
}

/** A sound of the application's own as a WAV file. */
export const soundFile = (kind: SoundKind, seconds: number, seed: number): Promise<File> =>
  inWorker<MeasureApi, File>(measureWorker(), undefined, (api) => api.makeSound(kind, seconds, seed) as Promise<File>);

export const measureCrossing = (media: Footage, onProgress: Progress, signal?: AbortSignal): Promise<Crossing | null> =>
  inWorker<MeasureApi, Crossing | null>(
    measureWorker(),
    signal,
    (api, tell) => api.measureCrossing(media, tell(onProgress)) as Promise<Crossing | null>,
  );

export const measureWhips = (media: Footage, onProgress: Progress, signal?: AbortSignal): Promise<Thrown[]> =>
  inWorker<MeasureApi, Thrown[]>(measureWorker(), signal, (api, tell) => api.measureWhips(media, tell(onProgress)) as Promise<Thrown[]>);

export function courseOf(media: Footage, onProgress: Progress, signal?: AbortSignal): Promise<Course> {
  return inWorker<MeasureApi, Course>(measureWorker(), signal, (api, tell) => api.courseOf(media, tell(onProgress)) as Promise<Course>);
}

/** Where a file's sound is heard in each of some others. */
export function syncMedia(mediaId: string, others: readonly string[], onProgress: Progress, signal?: AbortSignal): Promise<Sync[]> {
  return inWorker<MeasureApi, Sync[]>(
    measureWorker(),
    signal,
    (api, tell) => api.syncMedia(mediaId, others, tell(onProgress)) as Promise<Sync[]>,
  );
}

const songWorker = () => new Worker(new URL('../workers/song.worker.ts', import.meta.url), { type: 'module' });

/** All that is to be found in a stored song: one worker decodes it, one beside it finds the beats. The first that fails stops both. */
export async function hearSong(mediaId: string, onProgress: Progress, signal?: AbortSignal): Promise<HeardSong | null> {
  const { port1, port2 } = new MessageChannel();
  const both = ownStop(signal);
  try {
    const [, heard] = await Promise.all([
      inWorker<SongApi, void>(songWorker(), both.signal, (api, tell) =>
        api.decode(mediaId, Comlink.transfer(port1, [port1]), tell(onProgress)),
      ),
      inWorker<SongApi, HeardSong | null>(
        songWorker(),
        both.signal,
        (api) => api.find(Comlink.transfer(port2, [port2])) as Promise<HeardSong | null>,
      ),
    ]);
    return heard;
  } finally {
    both.stop();
    both.letGo();
  }
}

/** A map solved again around its locked beats. */
export function solveMap(map: BeatMap, heard: SongAnalysis): Promise<BeatMap> {
  return inWorker<SongApi, BeatMap>(songWorker(), undefined, (api) => api.solve(map, heard));
}

/** How another mix of a song lies on it. */
export function alignHeard(old: SongAnalysis, fresh: SongAnalysis, signal?: AbortSignal): Promise<Alignment> {
  return inWorker<SongApi, Alignment>(songWorker(), signal, (api) => api.align(old, fresh));
}

/** Samples of a stored sound, at most two channels, `from` and `to` in seconds. */
export function samplesOf(mediaId: string, from = 0, to = Number.POSITIVE_INFINITY): Promise<Sound | null> {
  return inWorker<SongApi, Sound | null>(songWorker(), undefined, (api) => api.listen(mediaId, from, to) as Promise<Sound | null>);
}

const filmWorker = () => new Worker(new URL('../workers/film.worker.ts', import.meta.url), { type: 'module' });

export function makeFilm(
  project: Project,
  container: string,
  { leave = [], chosen = null }: { leave?: readonly Leave[]; chosen?: FileSystemFileHandle | null },
  onProgress: (p: FilmProgress) => void,
  signal?: AbortSignal,
): Promise<FilmMade> {
  const making = makingName(container);
  restPictures();
  return inWorker<FilmApi, FilmMade>(
    filmWorker(),
    signal,
    (api, tell) => api.makeFilm(project, leave, { making, chosen }, tell(onProgress)) as Promise<FilmMade>,
  ).catch(async (error: unknown) => {
    // The worker that was ended could not clear up after itself.
    await removeSoon('films', making);
    throw error;
  });
}

/** Films that a crash broke off in the making; each plays up to where it got. */
export function cutOffFilms(): Promise<{ name: string; bytes: number }[]> {
  return inWorker<FilmApi, { name: string; bytes: number }[]>(filmWorker(), undefined, (api) => api.cutOffFilms());
}

/** Makes a film of what was broken off. Gives its stored name. */
export function keepCutOffFilm(name: string): Promise<string> {
  return inWorker<FilmApi, string>(filmWorker(), undefined, (api) => api.wholeFilm(name, null));
}

export function makeStill(project: Project, frame: number): Promise<Blob> {
  return inWorker<FilmApi, Blob>(filmWorker(), undefined, (api) => api.still(project, frame) as Promise<Blob>);
}

/** What gives a frame of one project the tones of a frame of another; null where one of them shows nothing. */
export function matchFrames(
  project: Project,
  frame: number,
  like: Project,
  likeFrame: number,
): Promise<[ChannelMatch, ChannelMatch, ChannelMatch] | null> {
  return inWorker<FilmApi, [ChannelMatch, ChannelMatch, ChannelMatch] | null>(filmWorker(), undefined, (api) =>
    api.match(project, frame, like, likeFrame),
  );
}

const planWorker = () => new Worker(new URL('../workers/plan.worker.ts', import.meta.url), { type: 'module' });

/** Order and timetable of a planned shot. */
export function planDay(
  shot: PlannedShot,
  tempo: Tempo,
  projectRate: number,
  signal?: AbortSignal,
): Promise<{ order: PlannedOrder; table: Timetable }> {
  return inWorker<PlanApi, { order: PlannedOrder; table: Timetable }>(planWorker(), signal, (api) => api.planDay(shot, tempo, projectRate));
}

/** The worker that mixes what is heard. */
export const soundWorker = new KeptWorker<SoundApi>(
  () => new Worker(new URL('../workers/sound.worker.ts', import.meta.url), { type: 'module' }),
);
