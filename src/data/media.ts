import {
  type Footage,
  footageKey,
  footageOf,
  type Media,
  MOST_OVERSCAN,
  type Project,
  pointsOn,
  type Shot,
  type Take,
  type TakeLive,
} from '@/core/document';
import { correctionFrom, correctionsCost, plannedSlots, takesOf, withMotion } from '@/core/edit';
import { matchSlot, type SlotMatch, sequencesIn } from '@/core/log';
import type { Sync } from '@/core/measure';
import { fps, standardRate } from '@/core/time';
import { say } from '@/core/words';
import type { SeenFall, TakeMeasurement, TakeReadings } from '@/media/measuring';
import { sentenceOf } from '@/media/sentence';
import { db } from './db';
import { derived, derivedInParts, keepDerived } from './derived';
import { Cancelled, measureFall, measureTake, type Progress, syncMedia, takeIn, takeInPictures } from './jobs';
import { takeInSong } from './song';
import { takingIn } from './storage-lock';
import { ELSEWHERE, edit, openNow, useProject, withFiles } from './store';

const NO_SETTINGS = { shutter: '', aperture: '', iso: '', whiteBalance: '', lens: '' };
/** Where a take filmed here belongs, and what was seen while it was filmed. */
export interface Filmed {
  plan: string;
  slot: string;
  filmedAt: number;
  live: TakeLive | null;
  settings: Take['settings'];
}

/** When and where a film from elsewhere was found to belong. */
interface Placed {
  match: SlotMatch;
  filmedAt: number | null;
}

/** Adds a film to the project as a take; `drawn` where it was not filmed. False where that could not be done; the store says why. */
function addTake(media: Media, filmed: Filmed | null, placed: Placed | null, drawn = false): boolean {
  return edit(say`Take in ${media.name}`, (draft) => {
    if (draft.takes.some((t) => t.mediaId === media.id)) return;
    const first = draft.takes.length === 0 && draft.shots.length === 0;
    withFiles(draft, [media]);
    if (first) {
      // The first take sets the film's frame: its size, at most 1080 lines, and the standard rate nearest to its own.
      const scale = Math.min(1, 1920 / Math.max(media.width, media.height), 1080 / Math.min(media.width, media.height));
      draft.frame.width = Math.max(16, 2 * Math.round((media.width * scale) / 2));
      draft.frame.height = Math.max(16, 2 * Math.round((media.height * scale) / 2));
      draft.frame.rate = standardRate(media.fps);
    }
    const { plan, slot } = filmed ?? placed?.match ?? { plan: null, slot: null };
    draft.takes.push({
      id: crypto.randomUUID(),
      mediaId: media.id,
      plan,
      slot,
      number: draft.takes.filter((t) => t.plan === plan && t.slot === slot).length + 1,
      tape: draft.takes.length % 12,
      rating: 0,
      note: '',
      settings: filmed?.settings ?? { ...NO_SETTINGS },
      filmedAt: filmed?.filmedAt ?? placed?.filmedAt ?? null,
      live: filmed?.live ?? null,
      part: null,
      correction: null,
      // What is clear in places was drawn as well.
      ...((drawn || media.clear) && { overlay: true as const }),
    });
  });
}

/** How many logged takes a film's sound is looked for in: the latest, for a day's filming goes slot by slot. */
const HEARD_IN = 6;

/** Goes on with something else where work failed, but not where the user stopped it. */
const unlessStopped =
  <T>(instead: T) =>
  (error: unknown): T => {
    if (error instanceof Cancelled) throw error;
    return instead;
  };

/** Finds a film from elsewhere its slot, by its name alone when that tells, else by sound, time and length. */
async function placeOf(media: Media, beganAt: number | null, onProgress: Progress, signal?: AbortSignal): Promise<Placed> {
  const { project, selectedPlan } = useProject.getState();
  if (!project) return { match: { plan: null, slot: null, by: null }, filmedAt: beganAt };
  const film = { name: media.name, duration: media.duration, beganAt, heardIn: null as string | null, songAt: null as number | null };
  const sounding = project.takes.filter((t) => t.slot && footageOf(project, t.id).hasSound && t.mediaId !== media.id).slice(-HEARD_IN);
  if (media.hasSound && matchSlot(project, selectedPlan, film).by !== 'name') {
    const song = project.song?.mediaId;
    const others = [...sounding.map((t) => t.mediaId), ...(song ? [song] : [])];
    // A film whose sound cannot be read is placed without it.
    const found = others.length ? await syncMedia(media.id, others, onProgress, signal).catch(unlessStopped<Sync[]>([])) : [];
    const heard = sounding.filter((_, i) => found[i]?.ok);
    // Where the song was played on set it is heard in the takes of other slots too: then it tells the bars, not the slot.
    if (new Set(heard.map((t) => `${t.plan} ${t.slot}`)).size === 1) film.heardIn = heard[0].id;
    const inSong = found[sounding.length];
    if (inSong?.ok) film.songAt = inSong.match.offset;
  }
  return { match: matchSlot(project, selectedPlan, film), filmedAt: beganAt };
}

/** Whether a take shows the empty set. */
export function isPlate(project: Project, take: Project['takes'][number]): boolean {
  const plan = project.plans.find((p) => p.id === take.plan);
  return plan !== undefined && plannedSlots(project, plan).some((s) => s.id === take.slot && s.plate !== null);
}

/** What became of a file: a problem, or for a film where it was put. */
export interface TakenIn {
  name: string;
  problem: string;
  placed: string;
}

const TOLD_BY = {
  name: say`by its name`,
  sound: say`by its sound`,
  time: say`by the time it was filmed`,
  bars: say`by the bars of the song heard in it, and its length`,
  length: say`by its length alone: check it`,
};

function placedWords(project: Project | null, { plan: planId, slot, by }: SlotMatch): string {
  const plan = project?.plans.find((p) => p.id === planId);
  if (!project || !plan || !by) return '';
  const name = plannedSlots(project, plan).find((s) => s.id === slot)?.name ?? '';
  return say`put with “${name}” of “${plan.name}” ${TOLD_BY[by]}.`;
}

/**
 * Takes files in one after another: films become takes, sound becomes the song; with `asSong` also where there is one already, else that is
 * asked. Files that cannot be used are named with the reason.
 */
export async function takeInFiles(
  files: readonly File[],
  onProgress: (name: string, done: number) => void,
  signal?: AbortSignal,
  asSong = false,
): Promise<TakenIn[]> {
  const results: TakenIn[] = [];
  for (const taking of sequencesIn(files)) {
    const name = taking.kind === 'file' ? taking.file.name : taking.name;
    onProgress(name, 0);
    const pictures = taking.kind === 'sequence' ? taking.files : isPicture(taking.file) ? [taking.file] : null;
    // One bad file does not stop those after it.
    const taken = await takingIn(() =>
      taking.kind === 'file' && !pictures
        ? takeInOne(taking.file, onProgress, signal, null, asSong)
        : takeInDrawn(pictures ?? [], name, (p) => onProgress(name, p), signal),
    ).catch((error: unknown) => {
      if (error instanceof Cancelled) throw error;
      return { problem: sentenceOf(error), placed: '' };
    });
    results.push({ name, problem: taken.problem, placed: taken.placed });
  }
  return results;
}

const isPicture = (file: File) => file.type.startsWith('image/') || /\.(png|jpe?g|gif|webp|avif|svg)$/i.test(file.name);

/** Why a picture is not taken in as a film, and where it can be used. */
const STANDS_STILL = say`is a picture that stands still. Put it on a shot: Score, “Add a layer”, “a picture from a file”. Numbered pictures taken in together become a film.`;

/** Takes in a picture that moves, or numbered pictures, as a film that is part of no set-up; `takeId` is its take. */
export async function takeInDrawn(
  files: readonly File[],
  name: string,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<Omit<TakenIn, 'name'> & { takeId: string | null }> {
  const refused = (problem: string) => ({ problem, placed: '', takeId: null });
  const here = openNow();
  const rate = useProject.getState().project?.frame.rate;
  const taken = await takeInPictures(files, name, rate ? fps(rate) : 25, onProgress, signal);
  if (!taken) return refused(STANDS_STILL);
  if (!taken.ok) return refused(taken.reason);
  if (!here.same()) return refused(ELSEWHERE);
  const { media } = taken;
  const takeOf = () => useProject.getState().project?.takes.find((t) => t.mediaId === media.id)?.id ?? null;
  if (!takeOf() && !addTake(media, null, null, true)) return refused(useProject.getState().problem);
  const seconds = `${media.duration.toFixed(1)} s`;
  return {
    problem: '',
    placed: `made a film of ${seconds}${media.clear ? say`, clear in places` : ''}, part of no set-up.`,
    takeId: takeOf(),
  };
}

/** Takes one file in; `filmed` when it was recorded here. */
export async function takeInOne(
  file: File,
  onProgress: (name: string, done: number) => void,
  signal?: AbortSignal,
  filmed: Filmed | null = null,
  asSong = false,
): Promise<Omit<TakenIn, 'name'>> {
  const refused = (problem: string) => ({ problem, placed: '' });
  const room = await navigator.storage?.estimate?.().catch(() => undefined);
  if (room?.quota !== undefined && room.usage !== undefined && room.quota - room.usage < file.size) {
    return refused(
      say`There is not enough room for it: ${megabytes(file.size)} needed, ${megabytes(room.quota - room.usage)} left to this browser. Nothing was lost. Free some space, then import it again.`,
    );
  }
  const here = openNow();
  const taken = await takeIn(file, (p) => onProgress(file.name, p), signal);
  if (!taken.ok) return refused(taken.reason);
  if (!here.same()) return refused(ELSEWHERE);
  const { media } = taken;
  if (media.kind === 'audio') return takeInSong(media, asSong, (doing, p) => onProgress(`${file.name}: ${doing}`, p), signal);
  if (filmed) {
    return refused(addTake(media, filmed, null) ? '' : useProject.getState().problem);
  }
  // A file written long before it is taken in was written last when its recording ended.
  const beganAt = Date.now() - file.lastModified > 60_000 ? file.lastModified - 1000 * media.duration : null;
  const nowhere: Placed = { match: { plan: null, slot: null, by: null }, filmedAt: null };
  const placed = media.clear
    ? nowhere
    : await placeOf(media, beganAt, (p) => onProgress(say`${file.name}: finding where it belongs`, p), signal);
  if (!here.same()) return refused(ELSEWHERE);
  const { project } = useProject.getState();
  if (project?.takes.some((t) => t.mediaId === media.id))
    return { problem: '', placed: say`is in the project already: the same film, byte for byte.` };
  if (!addTake(media, null, placed)) return refused(useProject.getState().problem);
  return { problem: '', placed: placedWords(useProject.getState().project, placed.match) };
}

const megabytes = (bytes: number) => `${Math.max(0, bytes / 1e6).toFixed(0)} MB`;

/** Under what a take's figures against another are kept. */
export function measurementKey(take: Footage, reference: Footage | null): string {
  const points = pointsOn(take, reference);
  return `lock:7:${footageKey(take)}:${reference ? footageKey(reference) : ''}${points ? `:${points.join()}` : ''}`;
}
const fallKey = (take: Footage, angle: number) => `fall:2:${footageKey(take)}:${angle}`;

/** What is known of a take's figures against another; nothing is measured. */
export async function knownMeasurement(media: Footage, reference: Footage | null): Promise<TakeMeasurement | null> {
  const row = await db.derived.get(measurementKey(media, reference));
  return (row?.value as TakeMeasurement | undefined) ?? null;
}

/** A take's figures, measured once for each pair and kept. */
export function takeMeasurement(
  media: Footage,
  reference: Footage | null,
  onProgress: Progress = () => undefined,
  signal?: AbortSignal,
): Promise<TakeMeasurement> {
  return derivedInParts<TakeMeasurement, TakeReadings>(measurementKey(media, reference), async (begun) => {
    // It is told at once how far it was before: the worker first looks at the take anew.
    const last = begun.parts.at(-1)?.times.at(-1);
    if (last !== undefined) onProgress(Math.min(1, (last - media.from) / (media.to - media.from)));
    const measured = await measureTake(media, reference, begun, onProgress, signal);
    if (measured.fall) await keepDerived(fallKey(media, 0), measured.fall);
    return measured;
  });
}

export function takeFall(
  media: Footage,
  angle: number,
  onProgress: Progress = () => undefined,
  signal?: AbortSignal,
): Promise<SeenFall | null> {
  return derived(fallKey(media, angle), () => measureFall(media, angle, onProgress, signal));
}

/** Sets the same spots in a take and its reference by hand, or forgets them. */
export const setHandPoints = (takeId: string, referenceTakeId: string, pairs: [number, number, number, number][] | null) =>
  edit(pairs ? say`Lay the take by points` : say`Forget the points`, (draft) => {
    const take = draft.takes.find((t) => t.id === takeId);
    if (!take) return;
    if (pairs) take.byHand = { referenceTakeId, pairs };
    else delete take.byHand;
  });

/** Turns a take's measured move and light into its correction, and gives shots that use it the margin that costs. */
export function correctTake(takeId: string, referenceTakeId: string, measured: TakeMeasurement): void {
  const { against } = measured;
  if (!against) return;
  edit(say`Correct the take`, (draft) => {
    const take = draft.takes.find((t) => t.id === takeId);
    if (!take) return;
    take.correction = correctionFrom(against, referenceTakeId);
    giveMargin(draft as Project);
  });
}

/** Raises each shot's enlargement to what its corrected takes need. */
function giveMargin(draft: Project): void {
  for (const shot of [...draft.shots, ...draft.nestedShots]) shot.overscan = Math.max(shot.overscan, marginFor(draft, takesOf(shot)));
}

/** Enlargement in per cent that hides every edge of a shot: what the corrections of its takes cost, and its motion. */
export const marginNeeded = (project: Project, shot: Shot): number => withMotion(project, shot, marginFor(project, takesOf(shot)));

/** Enlargement in per cent that the corrections of these takes cost, as far as a shot may be enlarged; an edge that is left is found by the check. */
export function marginFor(project: Project, takeIds: readonly string[]): number {
  return Math.min(MOST_OVERSCAN, correctionsCost(project, takeIds));
}
