import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { AudioSampleSource, canEncodeAudio, canEncodeVideo, VideoSampleSource } from 'mediabunny';
import type { Project } from '@/core/document';
import { describeFrame, filmFrames } from '@/core/evaluate';
import { blackPlanes, type Planes, planesOver } from '@/core/picture';
import { fps, frameToSeconds } from '@/core/time';
import { say } from '@/core/words';
import { containerOf } from './export';
import { type FilmFault, type Leave, SourceFault } from './fault';
import { mediaSize } from './files';
import { FilmFile } from './film-file';
import { FilmPictures, type Painter } from './film-pictures';
import { filmSound, SoundBeside } from './film-sound';
import { FilmTakes } from './film-takes';
import { madeFrame } from './made-frame';
import { filesOf, paint } from './painting';
import { picturesOf } from './pictures';
import { sentenceOf } from './sentence';

export interface FilmProgress {
  done: number;
  total: number;
  doing: string;
}

/** One frame of the film at full size, from its description. Throws a sentence where something in it cannot be read. */
export async function renderStill(project: Project, frame: number): Promise<Planes> {
  const picture = describeFrame(project, frame);
  const takes = new FilmTakes([picture]);
  const out = blackPlanes(picture.width, picture.height);
  try {
    await paint(picture, out, takes.frame, await picturesOf(project, false, new Set(filesOf(picture))));
  } finally {
    await takes.close();
  }
  return out;
}

function bitrateFor(project: Project): number {
  const { width, height, rate } = project.frame;
  return Math.round(Math.min(60e6, Math.max(2e6, width * height * fps(rate) * 0.32)));
}

/** Where a film goes: its name under `films/` until it is whole, and the file the user chose for it, if any. */
export interface FilmTarget {
  making: string;
  chosen: FileSystemFileHandle | null;
}

/** What became of a film: made, or stopped at something that cannot be read. */
export type FilmMade = { ok: true; name: string; left: number } | { ok: false; fault: FilmFault };

/** How many frames in a row from one on need a file, as far as the film goes. */
function framesInNeed(project: Project, first: number, end: number, from: number, fileId: string): number {
  let frame = from;
  while (frame < end - first && [...filesOf(describeFrame(project, first + frame))].includes(fileId)) frame++;
  return Math.max(1, frame - from);
}

/** The first frame that needs a file which is not in storage as it was taken in; before anything is drawn. */
async function missingAtOnce(project: Project, first: number, end: number, leave: readonly Leave[]): Promise<FilmFault | null> {
  const gone = new Map<string, string>();
  for (const { id, name, bytes } of project.media) {
    const size = await mediaSize(id);
    if (size === bytes || leave.some((l) => l.fileId === id)) continue;
    gone.set(
      id,
      say`The file “${name}” is ${size === null ? say`no longer in the browser’s storage` : say`damaged in the browser’s storage`}.`,
    );
  }
  if (gone.size === 0) return null;
  for (let i = 0; i < end - first; i++)
    for (const fileId of filesOf(describeFrame(project, first + i))) {
      const sentence = gone.get(fileId);
      if (sentence) return { sentence, kind: 'picture', fileId, frame: i, frames: framesInNeed(project, first, end, i, fileId) };
    }
  return null;
}

/**
 * Makes the film and writes it as it goes: to the browser's storage in pieces that play up to where it got, then whole to `films/` or
 * straight to the file the user chose. What is slow to draw is shared out among `helpers`. Decoding, composing and encoding overlap; memory does not grow with the film's length. What
 * cannot be read stops it with its sentence and frame, unless `leave` says what is to be left of it; `left` counts such frames.
 */
export async function makeFilm(
  project: Project,
  leave: readonly Leave[],
  { making, chosen }: FilmTarget,
  onProgress: (p: FilmProgress) => void,
  helpers: () => Painter[],
): Promise<FilmMade> {
  const [first, end] = filmFrames(project);
  const total = end - first;
  if (total <= 0) throw new Error(say`There is nothing to deliver yet: put a shot on the score first.`);
  const { width, height, rate } = project.frame;
  const missing = await missingAtOnce(project, first, end, leave);
  if (missing) return { ok: false, fault: missing };
  const {
    video: { codec: videoCodec, name: codecName },
    audio: audioCodec,
  } = containerOf(making);
  const lead = audioCodec === 'aac' ? await aacLead() : 0;
  if (!(await canEncodeVideo(videoCodec, { width, height })))
    throw new Error(say`This browser cannot write ${codecName} at ${width}×${height}. Try the other format.`);
  const film = await FilmFile.begin(making);
  const video = new VideoSampleSource({ codec: videoCodec, bitrate: bitrateFor(project), keyFrameInterval: 2, latencyMode: 'quality' });
  const audio = new AudioSampleSource({ codec: audioCodec, bitrate: 192e3 });
  film.output.addVideoTrack(video, { frameRate: fps(rate) });
  film.output.addAudioTrack(audio);
  await film.output.start();
  const pictures = new FilmPictures(project, first, end, await picturesOf(project, false), helpers);
  const sound = new SoundBeside(filmSound(project, first, end, leave), audio, lead);
  let frame = 0;
  let left = 0;
  // Two pictures by turns: the one in the making, and the last that could be read.
  const [one, other] = [0, 1].map(() => new Uint8Array((width * height * 3) / 2));
  let last: Uint8Array | null = null;
  try {
    let told = 0;
    for (; frame < total; frame++) {
      const time = frameToSeconds(frame, rate);
      sound.reach(time);
      const bytes: Uint8Array<ArrayBuffer> = last === one ? other : one;
      const planes = planesOver(bytes, width, height);
      try {
        await pictures.into(first + frame, planes, bytes);
        last = bytes;
      } catch (error) {
        standIn(error, leave, planes, bytes, last);
        left++;
      }
      const sample = madeFrame(bytes, width, height, time, frameToSeconds(frame + 1, rate) - time);
      await video.add(sample);
      sample.close();
      film.check();
      if (performance.now() - told > 100) {
        told = performance.now();
        onProgress({ done: frame + 1, total, doing: say`Composing and encoding` });
      }
    }
    await sound.end();
    onProgress({ done: total, total, doing: say`Closing the file` });
    return { ok: true, name: await film.finish(chosen), left };
  } catch (error) {
    sound.stop();
    await film.drop();
    if (!(error instanceof SourceFault)) throw new Error(sentenceOf(error));
    const { fileId, kind, message } = error;
    const at = kind === 'sound' ? Math.floor(sound.at * fps(rate)) : frame;
    const name = project.media.find((m) => m.id === fileId)?.name ?? '';
    const frames = kind === 'sound' ? total - at : framesInNeed(project, first, end, at, fileId);
    return { ok: false, fault: { sentence: say`“${name}” cannot be read. ${message}`, kind, fileId, frame: at, frames } };
  } finally {
    sound.stop();
    await pictures.close();
  }
}

/** Whether the encoder that ships is used, where the browser has none. */
let ownAac: boolean | null = null;
/** Samples by which the AAC encoder that ships delays its sound: one frame, which it does not say itself. */
const AAC_DELAY = 1024;

async function aacLead(): Promise<number> {
  if (ownAac === null) {
    ownAac = !(await canEncodeAudio('aac'));
    if (ownAac) registerAacEncoder();
  }
  return ownAac ? AAC_DELAY : 0;
}

/** What is shown instead of a frame that cannot be read, as the user let it pass; else throws the error on. */
function standIn(error: unknown, leave: readonly Leave[], { y, u, v }: Planes, bytes: Uint8Array, last: Uint8Array | null): void {
  const how = error instanceof SourceFault && leave.find((l) => l.fileId === error.fileId)?.how;
  if (!how) throw error;
  if (how === 'hold' && last) bytes.set(last);
  else {
    y.fill(16);
    u.fill(128);
    v.fill(128);
  }
}
