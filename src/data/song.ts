import type { Media, Part, Project } from '@/core/document';
import { movedShot, retimed, retimedToRecording } from '@/core/edit';
import { beatMapOf } from '@/core/evaluate';
import { type MapRead, mapOfList, mapOfMidi } from '@/core/exchange';
import type { Alignment } from '@/core/song';
import { type BeatMap, frameToSeconds, inBars, secondsToBeat, tappedBeats, tempo, withStretch } from '@/core/time';
import { say } from '@/core/words';
import type { HeardSong } from '@/media/song';
import { ask } from './ask';
import { derived } from './derived';
import { alignHeard, hearSong, type Progress, solveMap } from './jobs';
import { ELSEWHERE, edit, openNow, useProject, withFiles } from './store';
import { layStored } from './threads';

/** All that was found in a stored song, found once. */
export function songAnalysis(mediaId: string, onProgress: Progress = () => undefined, signal?: AbortSignal): Promise<HeardSong | null> {
  return derived(`song:5:${mediaId}`, () => hearSong(mediaId, onProgress, signal));
}

/** The parts that were heard, as they are named at first: by letters, those that sound alike on the same tape. */
function partsOf(heard: HeardSong | null): Part[] {
  const letters = [...new Set(heard?.parts.map((p) => p.letter))];
  return (heard?.parts ?? []).map(({ beat, letter }) => ({ beat, name: letter, tape: letters.indexOf(letter) % 12 }));
}

/** Share of a song that must be heard again in another file for that to be the same song. */
const SAME_SONG = 0.3;

/** What a sound beside the song is, as the user says. */
async function whatItIs(media: Media, song: Media | undefined, alignment: Alignment | null): Promise<string | null> {
  const same = alignment && alignment.share >= SAME_SONG;
  return ask({
    title: say`“${media.name}” beside the song`,
    text: same
      ? say`It is ${alignmentWords(alignment)} Used as the song it takes the place of “${song?.name ?? say`the song`}”, and all you laid slides along.`
      : say`It is not the song that is there. Used as the song it takes the place of “${song?.name ?? say`the song`}”; what you laid stays on its bars and beats.`,
    answers: [
      { id: 'effect', label: say`Lay it as a sound at the playhead` },
      { id: 'song', label: say`Use it as the song instead` },
      { id: 'none', label: say`Leave it out` },
    ],
  });
}

/**
 * Makes a stored sound the song: slides it in where it is another mix or edit of the one that is there. Where there is a song already
 * the user is asked, unless they have said so before. What became of it is told.
 */
export async function takeInSong(
  media: Media,
  said: boolean,
  onProgress: (doing: string, done: number) => void,
  signal?: AbortSignal,
): Promise<{ problem: string; placed: string }> {
  const here = openNow();
  const found = await songAnalysis(media.id, (p) => onProgress(say`finding the beats`, p), signal);
  if (!here.same()) return { problem: ELSEWHERE, placed: '' };
  const before = useProject.getState().project?.song;
  if (before?.mediaId === media.id) return { problem: '', placed: say`it is the song already; your beats are as they were.` };
  const old = before?.map ? await songAnalysis(before.mediaId, undefined, signal).catch(() => null) : null;
  onProgress(say`comparing it with the song`, 1);
  const alignment = old && found ? await alignHeard(old, found, signal) : null;
  if (!here.same()) return { problem: ELSEWHERE, placed: '' };
  if (before && !said) {
    const { project } = useProject.getState();
    const song = project?.media.find((m) => m.id === before.mediaId);
    const answer = await whatItIs(media, song, alignment);
    if (!here.same()) return { problem: ELSEWHERE, placed: '' };
    if (answer === 'effect') return { problem: layStored(media), placed: say`begins at the playhead, as a sound beside the song.` };
    if (answer !== 'song') return { problem: '', placed: 'was left out; the song is as it was.' };
  }
  if (alignment && alignment.share >= SAME_SONG && found) return { problem: '', placed: slideIn(media, alignment, found) };
  edit(say`Use the song ${media.name}`, (draft) => {
    withFiles(draft, [media]);
    draft.song = { mediaId: media.id, map: found?.map ?? null, parts: partsOf(found) };
  });
  return {
    problem: '',
    placed: old ? say`it is not the song that was there: what you laid stays on its bars and beats. Undo brings the other song back.` : '',
  };
}

/** What was heard, in words: where the new mix begins and how fast it runs. */
function alignmentWords({ pieces, share }: Alignment): string {
  const [first] = pieces;
  const starts =
    Math.abs(first.offset) < 0.005
      ? say`begins with it`
      : say`begins ${Math.abs(first.offset).toFixed(3)} s ${first.offset > 0 ? 'later' : 'earlier'}`;
  const faster = 100 * (1 / first.rate - 1);
  const runs = Math.abs(faster) < 0.01 ? say`runs as fast` : say`runs ${Math.abs(faster).toFixed(2)} % ${faster > 0 ? 'faster' : 'slower'}`;
  const cuts = pieces.length > 1 ? say`; ${pieces.length} stretches of it, in a new edit` : '';
  return say`another mix of the song: it ${starts} and ${runs}${cuts}. ${Math.round(100 * share)} % of the old one is in it.`;
}

function slideIn(media: Media, alignment: Alignment, found: HeardSong): string {
  const { project } = useProject.getState();
  if (!project) return '';
  const slidProject = retimedToRecording(project, beatMapOf(project), alignment, found.map, found.duration);
  edit(say`Slide in ${media.name}`, (draft) => {
    withFiles(draft, [media]);
    draft.song = { mediaId: media.id, map: slidProject.map, parts: slidProject.parts };
    draft.shots = slidProject.shots;
    draft.unplacedShots.push(...slidProject.unplacedShots);
    draft.sound = slidProject.sound;
    draft.plans = slidProject.plans;
  });
  const { lost } = slidProject;
  const rest = lost.length ? say` No longer in it: ${lost.join(', ')}.` : say` Everything laid on it went along.`;
  return `${alignmentWords(alignment)}${rest}`;
}

/** Puts a changed map in place; what hangs on the song stays at its instants, or moves with the beats when `follow`. `parts` are new ones, if any. */
export function changeMap(label: string, next: BeatMap | null, follow = false, parts: Part[] = []): void {
  const { project } = useProject.getState();
  if (!project || !next) return;
  const before = beatMapOf(project);
  edit(label, (draft) => {
    if (!draft.song) return;
    if (!follow) {
      const hung = retimed(draft as Project, before, next);
      draft.shots = hung.shots;
      draft.nestedShots = hung.nestedShots;
      draft.song.parts = hung.parts;
      draft.sound = hung.sound;
    }
    draft.song.map = next;
    if (parts.length) draft.song.parts = parts;
  });
}

/** Tracks everything between and around the locked beats again. */
export async function solveRest(): Promise<void> {
  const song = useProject.getState().project?.song;
  const heard = song && (await songAnalysis(song.mediaId));
  if (song?.map?.locked?.length && heard) changeMap(say`Solve the rest again`, await solveMap(song.map, heard), true);
}

/** A stretch tapped along to: its beats are set and locked, and the rest is solved again around it. Returns '' or a sentence. */
export async function tapStretch(taps: readonly number[]): Promise<string> {
  const song = useProject.getState().project?.song;
  const heard = song && (await songAnalysis(song.mediaId).catch(() => null));
  const beats = tappedBeats(taps, heard?.hits);
  if (!song?.map || !beats) return say`These taps are not even enough to be beats. Tap at least four, on every beat.`;
  const tapped = withStretch(song.map, beats, true);
  changeMap(say`Tap a stretch`, heard ? await solveMap(tapped, heard) : tapped, true);
  return '';
}

/** Reads a beat map from a MIDI file or a list of times. Returns what was read, or why it was not. */
export async function readBeats(file: File): Promise<string> {
  const { project } = useProject.getState();
  if (!project?.song) return say`There is no song to put these beats on yet. Take it in first.`;
  const bytes = new Uint8Array(await file.arrayBuffer());
  const midi = String.fromCharCode(...bytes.subarray(0, 4)) === 'MThd';
  const read: MapRead = midi ? mapOfMidi(bytes) : mapOfList(new TextDecoder().decode(bytes));
  if (!read.ok) return read.reason;
  const { map, parts, notes } = read;
  const names = [...new Set(parts.map((p) => p.name))];
  const named = parts.map(({ beat, name }) => ({ beat, name: name.slice(0, 60), tape: names.indexOf(name) % 12 }));
  changeMap(say`Read beats from ${file.name}`, map, false, named);
  return [say`${map.beats.length} beats read, ${tempo(map).toFixed(2)} BPM, ${inBars(map)}.`, ...notes].join(' ');
}

/** A shot that had lost its place lies on the score again, from the playhead's beat on. */
export function layAside(id: string): void {
  const { project, playhead } = useProject.getState();
  const shot = project?.unplacedShots.find((s) => s.id === id);
  if (!project || !shot) return;
  const map = beatMapOf(project);
  const beat = Math.round(secondsToBeat(map, frameToSeconds(playhead, project.frame.rate)));
  edit(say`Lay a shot again`, (draft) => {
    draft.unplacedShots = draft.unplacedShots.filter((s) => s.id !== id);
    draft.shots.push(movedShot(project, shot, beat - Math.round(shot.start.beat)));
  });
}

export function dropAside(id: string): void {
  edit(say`Give a shot up`, (draft) => {
    draft.unplacedShots = draft.unplacedShots.filter((s) => s.id !== id);
  });
}
