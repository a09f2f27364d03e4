import library from '@techstark/opencv-js';
import type { FeatureLibrary, GrabCutLibrary } from '@/core/measure';

interface Mat {
  data: Uint8Array;
  data32F: Float32Array;
  delete(): void;
}

/** The part of OpenCV.js that finds movement between two pictures. */
export interface FlowLibrary {
  Mat: new () => Mat;
  Size: new (width: number, height: number) => object;
  matFromArray(rows: number, cols: number, type: number, data: ArrayLike<number>): Mat;
  resize(from: Mat, to: Mat, size: object, fx: number, fy: number, by: number): void;
  calcOpticalFlowFarneback(
    from: Mat,
    to: Mat,
    flow: Mat,
    scale: number,
    levels: number,
    window: number,
    rounds: number,
    reach: number,
    sigma: number,
    flags: number,
  ): void;
  CV_8UC1: number;
  INTER_AREA: number;
}

/** OpenCV.js once it has started. In an object, for the library itself has a `then` that an await would wait on for ever. */
export async function openCv(): Promise<{ cv: GrabCutLibrary & FlowLibrary & FeatureLibrary }> {
  const cv = library as unknown as GrabCutLibrary & FlowLibrary & FeatureLibrary & { onRuntimeInitialized?: () => void };
  if (!cv.Mat) {
    await new Promise<void>((done) => {
      cv.onRuntimeInitialized = done;
    });
  }
  return { cv };
}
