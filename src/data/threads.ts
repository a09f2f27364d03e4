import { footageName, footageOf, type Media, type Project, type SoundClip, soundOfTake } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import type { Sync } from '@/core/measure';
import { type Anchor, anchorAtFrame, frameToSeconds, nearestFrame, resolveAnchor } from '@/core/time';
import { say } from '@/core/words';
import { derived } from './derived';
import { type Progress, syncMedia, takeIn } from './jobs';
import { takingIn } from './storage-lock';
import { ELSEWHERE, edit, openNow, useProject, withFiles } from './store';

/** The threads sound lies on. */
export const THREADS = ['song', 'takes', 'effects'] as const;
export type Thread = (typeof THREADS)[number];

/** The anchor and the rest in seconds of a song time, so that a sound begins on it to the sample. */
function placedAt(project: Project, time: number): { start: Anchor; nudge: number } {
  const { rate } = project.frame;
  const start = anchorAtFrame(beatMapOf(project), nearestFrame(time, rate), rate, 1);
  return { start, nudge: time - frameToSeconds(resolveAnchor(beatMapOf(project), start, rate), rate) };
}

const plain = { gain: 0, fadeIn: 0, fadeOut: 0 };

/** Where a file's sound is heard in the song, worked out once. */
export function heardInSong(mediaId: string, song: string, onProgress: Progress = () => undefined, signal?: AbortSignal): Promise<Sync> {
  return derived(`heard:1:${mediaId}:${song}`, async () => (await syncMedia(mediaId, [song], onProgress, signal))[0]);
}

/** Lays a take's own sound where it is heard in the song. Returns '' or a sentence. */
export async function layTakeSound(takeId: string, onProgress: Progress, signal?: AbortSignal): Promise<string> {
  const here = openNow();
  const before = useProject.getState().project;
  if (!before) return say`No project is open.`;
  const footage = footageOf(before, takeId);
  const found = before.song && (await heardInSong(footage.id, before.song.mediaId, onProgress, signal));
  const heard = found?.ok ? found.match.offset : null;
  const { project } = useProject.getState();
  if (!project || !here.same()) return ELSEWHERE;
  const at = heard === null ? frameToSeconds(useProject.getState().playhead, project.frame.rate) : heard + footage.from;
  // What was recorded before the song begins is not heard with it.
  const from = footage.from + Math.max(0, -at);
  const source = soundOfTake(project, takeId);
  if (!source) return say`${footageName(footage)} has no sound.`;
  if (from >= footage.to - 0.01) return say`${footageName(footage)} ends before the song begins.`;
  edit(say`Lay the sound of a take`, (draft) => {
    draft.sound.clips.push({
      id: crypto.randomUUID(),
      thread: 'takes',
      mediaId: source.mediaId,
      from: Math.max(0, source.at(from)),
      to: source.at(footage.to),
      ...placedAt(project, Math.max(0, at)),
      ...plain,
      fadeIn: 0.02,
      fadeOut: 0.02,
    });
  });
  return heard === null ? say`The song is not heard in this take, so its sound begins at the playhead.` : '';
}

/** Takes a sound file in as an effect that begins at the playhead. Returns '' or a sentence. */
export async function layEffect(file: File, onProgress: Progress, signal?: AbortSignal): Promise<string> {
  const here = openNow();
  return takingIn(async () => {
    const taken = await takeIn(file, onProgress, signal);
    if (!taken.ok) return taken.reason;
    return here.same() ? layStored(taken.media) : ELSEWHERE;
  });
}

/** Lays a sound that is in storage as an effect that begins at the playhead. Returns '' or a sentence. */
export function layStored(media: Media): string {
  const { project, playhead } = useProject.getState();
  if (!project) return say`No project is open.`;
  if (!media.hasSound) return say`${media.name} has no sound.`;
  edit(say`Lay ${media.name}`, (draft) => {
    withFiles(draft, [media]);
    draft.sound.clips.push({
      id: crypto.randomUUID(),
      thread: 'effects',
      mediaId: media.id,
      from: 0,
      to: media.duration,
      ...placedAt(project, frameToSeconds(playhead, project.frame.rate)),
      ...plain,
    });
  });
  return '';
}

export function changeClip(id: string, label: string, change: (clip: SoundClip) => void): void {
  edit(label, (draft) => {
    const clip = draft.sound.clips.find((c) => c.id === id);
    if (clip) change(clip);
  });
}

/** A laid sound begins at the playhead. */
export function clipToPlayhead(id: string): void {
  const { project, playhead } = useProject.getState();
  if (project)
    changeClip(id, say`Move a sound`, (clip) => void Object.assign(clip, placedAt(project, frameToSeconds(playhead, project.frame.rate))));
}

/** The beat that is meant by a place near it; elsewhere the place itself. */
export const meantBeat = (beat: number): number => (Math.abs(beat - Math.round(beat)) < 0.2 ? Math.round(beat) : beat);

/** Sets the gain of a thread at a beat; `instead` is the key that it takes the place of. */
export function setGain(thread: Thread, beat: number, gain: number, instead?: number): void {
  edit(say`Set a gain`, (draft) => {
    const { gains } = draft.sound[thread];
    const kept = gains.filter((k, i) => i !== instead && Math.abs(k.beat - beat) > 0.01);
    draft.sound[thread].gains = [...kept, { beat, gain: Math.round(Math.min(12, Math.max(-60, gain)) * 10) / 10 }].sort(
      (a, b) => a.beat - b.beat,
    );
  });
}

export function removeGain(thread: Thread, index: number): void {
  edit(say`Take a gain away`, (draft) => {
    draft.sound[thread].gains.splice(index, 1);
  });
}
