import * as Comlink from 'comlink';
import * as z from 'zod/mini';
import { alignedTakeSchema, footageSchema } from '@/core/document';
import {
  bestCuts,
  boxOf,
  type Collision,
  type Cut,
  collisions,
  furthestReach,
  posesOf,
  type Reach,
  reachAt,
  unionOf,
} from '@/core/measure';
import { backingOf, carryAlong, cutStretch, joinStretches, onlyChosen } from '@/media/cut-along';
import { cutFrame, freeFrame, keyFrame } from '@/media/cut-out';
import { makeSetPlate, masksAt, type OccupancyTrack, seekSeam, trackOccupancy } from '@/media/set-up';
import { checked } from './checked';

const figures = (occupancy: OccupancyTrack) => masksAt(occupancy, occupancy.times).map((m) => m.figure);

const sideSchema = z.looseObject({ take: alignedTakeSchema, from: z.number() });

const api = {
  makeSetPlate: checked([z.array(z.extend(alignedTakeSchema, { nobody: z.boolean() }))], makeSetPlate),
  trackOccupancy: checked([alignedTakeSchema], trackOccupancy),
  seekSeam: checked([sideSchema, sideSchema], seekSeam),
  cutFrame: checked([alignedTakeSchema], cutFrame),
  keyFrame: checked([footageSchema, z.number()], keyFrame),
  freeFrame: checked([footageSchema, z.number()], freeFrame),
  backingOf: checked([alignedTakeSchema], backingOf),
  carryAlong: checked([alignedTakeSchema], carryAlong),
  cutStretch: checked([z.looseObject({ take: alignedTakeSchema }), z.number(), z.number()], cutStretch),
  joinStretches,
  onlyChosen,
  /** Share of the take in which each grid pixel is occupied by the figure, 0..255. */
  union(occupancy: OccupancyTrack): Uint8Array {
    return unionOf(
      figures(occupancy).filter((m) => m !== null),
      occupancy.width,
      occupancy.height,
    );
  },
  /** The box around the figure on each frame, pixels of the picture. */
  boxes(occupancy: OccupancyTrack) {
    return figures(occupancy).map((mask) => {
      const box = mask && boxOf(mask);
      if (!box) return null;
      const k = occupancy.factor;
      return { left_px: box.left * k, top_px: box.top * k, right_px: box.right * k, bottom_px: box.bottom * k, share: box.share };
    });
  },
  /** The best frames to jump from one take to another; for a loop, twice the same and the least it must last. */
  cuts(first: OccupancyTrack, second: OccupancyTrack, least: number | null): Cut[] {
    return bestCuts(posesOf(figures(first)), posesOf(figures(second)), 5, least);
  },
  /** The second of its file at which a take's figure reaches furthest towards a side; null when nobody is seen. */
  furthest(occupancy: OccupancyTrack, side: 'left' | 'right'): number | null {
    const frame = furthestReach(figures(occupancy), side);
    return frame === null ? null : occupancy.times[frame];
  },
  /** Where a take's figure reaches towards a side at a second of its file. */
  reach(occupancy: OccupancyTrack, take: string, at: number, side: 'left' | 'right', exposure: number): Reach | null {
    const next = occupancy.times.findIndex((t) => t > at + 1e-4);
    return reachAt(take, figures(occupancy), Math.max(0, (next < 0 ? occupancy.times.length : next) - 1), side, null, exposure);
  },
  /** Where the figures of two takes overlap when they run side by side from the given seconds on. */
  collide(first: OccupancyTrack, from: number, second: OccupancyTrack, into: number, seconds: number, fps: number): Collision[] {
    const frames = Math.round(seconds * fps);
    const moments = (start: number) => Array.from({ length: frames }, (_, f) => start + f / fps);
    const [a, b] = [masksAt(first, moments(from)), masksAt(second, moments(into))];
    return collisions(
      frames,
      (f) => a[f].figure,
      (f) => b[f].figure,
    );
  },
};
export type SetUpApi = typeof api;
Comlink.expose(api);
