import type { Footage } from '@/core/document';
import { type Course, type Luma, lumaOf, movement, shrink, soundCourse } from '@/core/measure';
import { eachFrame } from './each-frame';
import { openMedia } from './files';
import { reduceFor } from './frames';
import { decodeSound } from './sound';

/** Seconds of sound decoded at a time, so that a long recording stays small. */
const PIECE = 30;

/** A recording as a course of movement and sound, over the whole of its file's part. */
export async function courseOf(footage: Footage, onProgress: (done: number) => void): Promise<Course> {
  const moves: number[] = [];
  let before: Luma | null = null;
  const times = await eachFrame(
    footage,
    reduceFor(footage),
    (p) => onProgress(0.85 * p),
    (planes) => {
      const small = shrink(lumaOf(planes), Math.max(1, Math.round(planes.width / 160)));
      moves.push(before ? movement(before, small) : 0);
      before = small;
    },
  );
  const level: number[] = [];
  const tone: number[] = [];
  if (footage.hasSound) {
    const file = await openMedia(footage.id);
    for (let from = 0; from < footage.to; from += PIECE) {
      const sound = await decodeSound(file, undefined, from, Math.min(footage.to, from + PIECE));
      if (!sound) break;
      const piece = soundCourse(sound.channels[0], sound.sampleRate);
      level.push(...piece.level);
      tone.push(...piece.tone);
      onProgress(0.85 + 0.15 * Math.min(1, (from + PIECE) / footage.to));
    }
  }
  return { times, movement: moves, level, tone };
}
