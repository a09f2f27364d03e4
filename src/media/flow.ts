import { lumaOf } from '@/core/measure';
import { type Flow, inBetween, type Planes } from '@/core/picture';
import { vision } from './vision';

/** About how wide the pictures are between which movement is sought. */
const FLOW_WIDTH = 320;

/** How far what is seen moves between two frames of one size, on pictures reduced to about 320 pixels. */
function flowBetween(a: Planes, b: Planes): Promise<Flow> {
  return vision((api) => api.flow(lumaOf(a), lumaOf(b), Math.max(1, Math.round(a.width / FLOW_WIDTH))) as Promise<Flow>);
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
