import { type Flow, inBetween, type Planes } from '@/core/picture';
import type { FlowLibrary } from './opencv';

/** About how wide the pictures are between which movement is sought. */
const FLOW_WIDTH = 320;

/** How far what is seen moves between two frames of one size: Farnebäck 2003, by OpenCV, on pictures reduced to about 320 pixels. */
async function flowBetween(a: Planes, b: Planes): Promise<Flow> {
  // Large, and wanted by few: only now.
  const { openCv } = await import('./opencv');
  const cv: FlowLibrary = (await openCv()).cv;
  const factor = Math.max(1, Math.round(a.width / FLOW_WIDTH));
  const [width, height] = [Math.floor(a.width / factor), Math.floor(a.height / factor)];
  const size = new cv.Size(width, height);
  const [first, second, flow] = [new cv.Mat(), new cv.Mat(), new cv.Mat()];
  try {
    for (const [planes, small] of [
      [a, first],
      [b, second],
    ] as const) {
      const whole = cv.matFromArray(a.height, a.width, cv.CV_8UC1, planes.y);
      cv.resize(whole, small, size, 0, 0, cv.INTER_AREA);
      whole.delete();
    }
    cv.calcOpticalFlowFarneback(first, second, flow, 0.5, 4, 15, 3, 5, 1.2, 0);
    return { width, height, move: flow.data32F.slice() };
  } finally {
    for (const mat of [first, second, flow]) mat.delete();
  }
}

/** Movement between pairs asked for last: a slow stretch asks for many pictures between the same two frames. */
const recent = new WeakMap<Planes, { next: Planes; flow: Promise<Flow> }>();

/** The picture some share of the way from one frame of a take to the next, both moved towards it along what moves. */
export async function between(a: Planes, b: Planes, share: number): Promise<Planes> {
  const known = recent.get(a);
  const flow = known?.next === b ? known.flow : flowBetween(a, b);
  recent.set(a, { next: b, flow });
  return inBetween(a, b, await flow, share);
}
