import library from '@techstark/opencv-js';
import type { GrabCutLibrary } from '@/core/measure';

/** OpenCV.js once it has started. In an object, for the library itself has a `then` that an await would wait on for ever. */
export async function openCv(): Promise<{ cv: GrabCutLibrary }> {
  const cv = library as unknown as GrabCutLibrary & { onRuntimeInitialized?: () => void };
  if (!cv.Mat) {
    await new Promise<void>((done) => {
      cv.onRuntimeInitialized = done;
    });
  }
  return { cv };
}
