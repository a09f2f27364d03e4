import type { Footage } from '@/core/document';
import type { Planes } from '@/core/picture';
import { openMedia } from './files';
import { FrameReader, planesOf } from './frames';

/**
 * Shows `visit` every frame of a take in order, valid only during the call, and returns the frames' times. Tells how far it is six
 * times a second, and waits for the answer. With the times of frames seen before an interruption it goes on from there: the last of them is shown first, `again`.
 */
export async function eachFrame(
  media: Footage,
  reduce: number,
  onProgress: (done: number) => unknown,
  visit: (planes: Planes, again: boolean) => unknown,
  times: number[] = [],
): Promise<number[]> {
  const reader = await FrameReader.open(await openMedia(media.id));
  const seen = times[times.length - 1] ?? Number.NEGATIVE_INFINITY;
  let told = 0;
  try {
    for await (const sample of reader.samples(Math.max(media.from, seen), media.to)) {
      try {
        const again = sample.timestamp <= seen + 1e-6;
        if (!again) times.push(sample.timestamp);
        await visit(await planesOf(sample, reader, reduce, false), again);
      } finally {
        sample.close();
      }
      if (performance.now() - told > 150) {
        // Whoever is told may let the work wait: while the film plays the machine is the player's.
        await onProgress(Math.min(1, (sample.timestamp - media.from) / (media.to - media.from)));
        told = performance.now();
      }
    }
  } finally {
    reader.close();
  }
  return times;
}
