import * as Comlink from 'comlink';
import { featureGuesses, freeCut } from '@/core/measure';
import type { VisionApi } from '@/media/vision';
import { type FlowLibrary, openCv } from './opencv';

/**
 * What OpenCV does, in a worker of its own: the library makes code out of text, which no other part of the application may. It is
 * built by `scripts/vision.ts` into a file that alone is served with that right.
 */
const api: VisionApi = {
  async flow(a, b, factor) {
    const cv: FlowLibrary = (await openCv()).cv;
    const [width, height] = [Math.floor(a.width / factor), Math.floor(a.height / factor)];
    const size = new cv.Size(width, height);
    const [first, second, flow] = [new cv.Mat(), new cv.Mat(), new cv.Mat()];
    try {
      for (const [{ data }, small] of [
        [a, first],
        [b, second],
      ] as const) {
        const whole = cv.matFromArray(a.height, a.width, cv.CV_8UC1, data);
        cv.resize(whole, small, size, 0, 0, cv.INTER_AREA);
        whole.delete();
      }
      cv.calcOpticalFlowFarneback(first, second, flow, 0.5, 4, 15, 3, 5, 1.2, 0);
      return { width, height, move: flow.data32F.slice() };
    } finally {
      for (const mat of [first, second, flow]) mat.delete();
    }
  },
  async featureGuesses(a, b) {
    const { cv } = await openCv();
    return featureGuesses(cv, a, b);
  },
  async freeCut(frame, sure, strokes) {
    const { cv } = await openCv();
    return freeCut(cv, frame, sure, strokes);
  },
};
Comlink.expose(api);
