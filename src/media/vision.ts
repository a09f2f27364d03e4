import * as Comlink from 'comlink';
import type { Luma, Matte, Strokes } from '@/core/measure';
import type { Flow, Homography, Planes } from '@/core/picture';
import { say } from '@/core/words';

/** What is asked of OpenCV. */
export interface VisionApi {
  /** How far what is seen moves from one picture to another of its size, both reduced by a whole factor: Farnebäck 2003. */
  flow(a: Luma, b: Luma, factor: number): Promise<Flow>;
  /** About how one picture lies in another of its size, however the camera was moved between them; several where it may be one or another. */
  featureGuesses(a: Luma, b: Luma): Promise<Homography[]>;
  /** A figure cut out of a picture with nothing known of what is behind it. Throws a sentence where nobody is found. */
  freeCut(frame: Planes, sure: ArrayLike<number> | null, strokes: Strokes | null): Promise<Matte>;
}

/** Where `scripts/setup.sh` builds the worker that OpenCV runs in. */
const WORKER = '/vision/opencv.worker.js';

let started: { api: Comlink.Remote<VisionApi>; failed: Promise<never> } | null = null;

/** Asks OpenCV, which is started when it is first asked; a sentence where it cannot be. */
export function vision<T>(ask: (api: Comlink.Remote<VisionApi>) => Promise<T>): Promise<T> {
  if (!started) {
    const worker = new Worker(WORKER);
    const failed = new Promise<never>((_, reject) => {
      worker.addEventListener('error', () => {
        started = null;
        reject(new Error(say`The part that tells movement and figures apart could not be loaded. Check the connection and try again.`));
      });
    });
    failed.catch(() => undefined);
    started = { api: Comlink.wrap<VisionApi>(worker), failed };
  }
  return Promise.race([ask(started.api), started.failed]);
}
