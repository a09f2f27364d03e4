import type { Media, Project, Shot, SoundClip } from '@/core/document';
import { moveContext } from '@/core/edit';
import { beatMapOf } from '@/core/evaluate';
import { kindOf, type SoundCue } from '@/core/moves';
import { type SoundKind, VOICES } from '@/core/sounds';
import { anchorAtFrame, fps, frameToSeconds, resolveAnchor } from '@/core/time';
import { say } from '@/core/words';
import { type Progress, soundFile, takeIn } from './jobs';
import { takingIn } from './storage-lock';
import { ELSEWHERE, edit, openNow, useProject, withFiles } from './store';

/** What is heard of a shot's move; nothing where it has none. */
export function soundsOf(project: Project, shot: Shot): readonly SoundCue[] {
  return (shot.move && kindOf(shot.move).sounds?.(moveContext(project, shot), shot.move)) ?? [];
}

const secondsOf = ({ sound, seconds }: SoundCue) => Math.round(100 * (seconds ?? VOICES[sound].usual)) / 100;
const fileKey = (cue: SoundCue) => `${cue.sound} ${secondsOf(cue)}`;

/**
 * Where a made sound lies: so many frames ahead of its beat that the instant of it that is meant falls there to the sample.
 */
export function clipFor(project: Project, shot: Pick<Shot, 'start'>, cue: SoundCue, mediaId: string): SoundClip {
  const { rate } = project.frame;
  const map = beatMapOf(project);
  const seconds = secondsOf(cue);
  const meets = VOICES[cue.sound].meets * seconds;
  const whole = Math.ceil(meets * fps(rate) - 1e-9);
  const start = { beat: shot.start.beat + cue.at.beat, offset: shot.start.offset + cue.at.offset - whole };
  const nudge = whole / fps(rate) - meets;
  const begins = frameToSeconds(resolveAnchor(map, start, rate), rate) + nudge;
  // What would begin before the song does is cut there.
  const early = begins < 0;
  return {
    id: crypto.randomUUID(),
    thread: 'effects',
    mediaId,
    from: early ? Math.min(-begins, seconds - 0.01) : 0,
    to: seconds,
    ...(early ? { start: anchorAtFrame(map, 0, rate, 1), nudge: 0 } : { start, nudge }),
    gain: cue.gain ?? 0,
    fadeIn: 0,
    fadeOut: 0.01,
  };
}

/** A sound that the application makes, kept as a file. */
async function keepSound(kind: SoundKind, seconds: number, seed: number, onProgress: Progress): Promise<Media> {
  const taken = await takeIn(await soundFile(kind, seconds, seed), onProgress);
  if (!taken.ok) throw new Error(taken.reason);
  return { ...taken.media, name: kind };
}

/** Lays what is heard of a shot's move on the effects thread, each sound on its frame; what lies there already is left. Returns a sentence. */
export async function layMoveSounds(shotId: string, onProgress: Progress): Promise<string> {
  const here = openNow();
  const { project } = useProject.getState();
  const shot = project?.shots.find((s) => s.id === shotId);
  if (!project || !shot) throw new Error(say`That shot is no longer in the project.`);
  const cues = soundsOf(project, shot);
  if (cues.length === 0) return say`Nothing is heard of this move by itself.`;
  const kinds = [...new Map(cues.map((cue) => [fileKey(cue), cue])).values()];
  const files = new Map<string, Media>();
  await takingIn(async () => {
    for (const [i, cue] of kinds.entries())
      files.set(fileKey(cue), await keepSound(cue.sound, secondsOf(cue), 1, (p) => onProgress((i + p) / kinds.length)));
  });
  const now = useProject.getState().project;
  if (!now || !here.same()) return ELSEWHERE;
  const same = (a: SoundClip, b: SoundClip) =>
    a.mediaId === b.mediaId && a.start.beat === b.start.beat && a.start.offset === b.start.offset;
  const clips = cues.flatMap((cue) => {
    const media = files.get(fileKey(cue));
    const clip = media && clipFor(now, shot, cue, media.id);
    return clip && !now.sound.clips.some((c) => same(c, clip)) ? [clip] : [];
  });
  if (clips.length === 0) return say`Its sounds lie there already.`;
  edit(say`Lay the sounds of a move`, (draft) => {
    withFiles(draft, [...files.values()]);
    draft.sound.clips.push(...clips);
  });
  return say`${clips.length === 1 ? say`One sound lies` : say`${clips.length} sounds lie`} on the effects now, under Song.`;
}

/** Lays a sound of the application's own so that it meets the playhead. */
export async function layMadeSound(kind: SoundKind, seconds: number, seed: number, onProgress: Progress): Promise<string> {
  const here = openNow();
  const media = await takingIn(() => keepSound(kind, seconds, seed, onProgress));
  const { project, playhead } = useProject.getState();
  if (!project || !here.same()) return ELSEWHERE;
  const anchor = anchorAtFrame(beatMapOf(project), playhead, project.frame.rate, 1);
  const clip = clipFor(project, { start: anchor }, { sound: kind, at: { beat: 0, offset: 0 }, seconds }, media.id);
  edit(say`Lay a ${kind}`, (draft) => {
    withFiles(draft, [media]);
    draft.sound.clips.push(clip);
  });
  return '';
}
