import type { Project } from '@/core/document';
import { beatMapOf, clipLength, clipSecond, clipStart, soundings } from '@/core/evaluate';
import { type Duck, duckedAt, type GainPoint, gainPoints, type Laid, levelAt, linearGain, mixIn, mixRun, panned } from '@/core/song';
import { say } from '@/core/words';
import { openMedia } from './files';
import { sentenceOf } from './sentence';
import { decodeSound, type Sound } from './sound';
import { reached, stretchedPieces } from './stretched-runs';

/** Seconds decoded before what is wanted: compressed frames lean on those before them. */
const PREROLL = 0.25;

/** A sound as it lies in the film: what of a file, where, how loud over time. */
interface Voice {
  mediaId: string;
  laid: Laid;
  points: readonly GainPoint[];
  /** Second of the file that is heard at the start; where it runs otherwise than as recorded, the second heard so long after. */
  offset: number;
  runs?: (since: number) => number;
  /** Semitones it is higher than recorded, however fast it runs; without, its pitch goes with its speed. */
  pitch?: number;
  pan: number;
  /** What the sound goes down under. */
  under: readonly Duck[];
}

/** Where the song goes down under what is laid over it. */
function ducksOf(project: Project): Duck[] {
  return project.sound.clips.flatMap((clip) => {
    const { duck = 0, thread } = clip;
    if (duck === 0 || !project.sound[thread].on) return [];
    const from = clipStart(project, clip);
    return [{ from, to: from + clipLength(clip), by: duck }];
  });
}

/** Everything that is heard in a project, thread by thread. */
function voicesOf(project: Project): Voice[] {
  const map = beatMapOf(project);
  const { sound, song } = project;
  const voices: Voice[] = [];
  const media = project.media.find((m) => m.id === song?.mediaId);
  if (media && sound.song.on) {
    const { fadeIn, fadeOut, gains } = sound.song;
    voices.push({
      mediaId: media.id,
      offset: 0,
      pan: 0,
      under: ducksOf(project),
      points: gainPoints(gains, map),
      laid: { start: 0, length: media.duration, gain: 0, fadeIn, fadeOut },
    });
  }
  for (const clip of sound.clips) {
    if (!sound[clip.thread].on) continue;
    const { mediaId, from, gain, fadeIn, fadeOut, speed = 1, reverse, pitch, pan = 0 } = clip;
    const laid = { start: clipStart(project, clip), length: clipLength(clip), gain, fadeIn, fadeOut };
    const as = speed !== 1 || reverse || pitch ? { runs: (since: number) => clipSecond(clip, since), pitch } : {};
    voices.push({ mediaId, offset: from, ...as, pan, under: [], points: gainPoints(sound[clip.thread].gains, map), laid });
  }
  return voices;
}

/** Told of a file whose sound cannot be read, with the reason. */
type Unread = (mediaId: string, reason: string) => void;

/** A stretch of a file's sound; null where there is none, or where it cannot be read and that is let pass. */
async function heard(mediaId: string, from: number, to: number, unread: Unread): Promise<Sound | null> {
  try {
    const sound = await decodeSound(await openMedia(mediaId), undefined, from, to);
    if (!sound) unread(mediaId, say`There is no sound in it that can be decoded.`);
    return sound;
  } catch (error) {
    unread(mediaId, sentenceOf(error));
    return null;
  }
}

/**
 * What a project sounds like from song second `from` on: `count` samples of left and right at `sampleRate`. Decodes only what is needed;
 * of a file that cannot be read `unread` is told, and it is silent where that throws nothing. The one mix that is played and delivered.
 */
export async function mixedSound(
  project: Project,
  from: number,
  count: number,
  sampleRate: number,
  unread: Unread = () => undefined,
): Promise<[Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]> {
  const out: [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] = [new Float32Array(count), new Float32Array(count)];
  const to = from + count / sampleRate;
  for (const { mediaId, laid, points, offset, runs, pitch, pan, under } of voicesOf(project)) {
    const first = Math.max(0, from - laid.start);
    const last = Math.min(laid.length, to - laid.start);
    if (last <= first) continue;
    const level = (t: number) => levelAt(laid, points, t) * (under.length > 0 ? linearGain(-duckedAt(under, t)) : 1);
    if (runs && pitch !== undefined) {
      const run = {
        mediaId,
        from: laid.start,
        to: laid.start + laid.length,
        secondAt: (t: number) => runs(t - laid.start),
        semitones: pitch,
      };
      await addPieces(run, out, [from, to], sampleRate, level, pan, unread);
      continue;
    }
    // A decoder that begins in the middle needs some frames before it is right; and the samples between need their neighbours.
    const ends = runs ? [runs(first), runs(last)] : [offset + first, offset + last];
    const begin = Math.max(0, Math.min(...ends) - PREROLL);
    const sound = await heard(mediaId, begin, Math.max(...ends) + 0.05, unread);
    if (!sound) continue;
    const channels = panned(sound.channels, pan);
    if (runs) mixRun(out, sampleRate, from, channels, sound.sampleRate, begin, (t) => runs(t - laid.start), level);
    else mixIn(out, sampleRate, from, channels, sound.sampleRate, laid.start - offset + begin, level);
  }
  if (project.sound.takes.on) await addRuns(project, out, from, to, sampleRate, unread);
  return out;
}

/** Short fades where a take's sound sets in and breaks off with its shot, so that it does not click. */
const CLICK = 0.01;

/** Adds a run whose pitch does not go with its speed, as much of it as lies between two song times. */
async function addPieces(
  run: Parameters<typeof stretchedPieces>[0],
  out: Float32Array[],
  [from, to]: readonly [number, number],
  sampleRate: number,
  level: (t: number) => number,
  pan: number,
  unread: Unread,
): Promise<void> {
  const read = (begin: number, end: number) => heard(run.mediaId, begin, end, unread);
  for (const { sound, laid } of await stretchedPieces(run, Math.max(from, run.from), Math.min(to, run.to), read))
    mixIn(out, sampleRate, from, panned(sound.channels, pan), sound.sampleRate, laid.start, (t) => level(t) * levelAt(laid, [], t));
}

/** Adds what shots let be heard of their takes, as fast as they run. */
async function addRuns(project: Project, out: Float32Array[], from: number, to: number, sampleRate: number, unread: Unread): Promise<void> {
  const points = gainPoints(project.sound.takes.gains, beatMapOf(project));
  for (const run of soundings(project)) {
    const [first, last] = [Math.max(from, run.from), Math.min(to, run.to)];
    if (last <= first) continue;
    const laid = { start: run.from, length: run.to - run.from, gain: 0, fadeIn: CLICK, fadeOut: CLICK };
    const level = (t: number) => levelAt(laid, points, t);
    if (run.pitchKept) {
      await addPieces(run, out, [from, to], sampleRate, level, 0, unread);
      continue;
    }
    const seconds = reached(run, first, last);
    const begin = Math.max(0, Math.min(...seconds) - PREROLL);
    const sound = await heard(run.mediaId, begin, Math.max(...seconds) + 0.05, unread);
    if (sound) mixRun(out, sampleRate, from, sound.channels, sound.sampleRate, begin, run.secondAt, level);
  }
}
