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
import { cutFrame, freeFrame, keyFrame } from '@/media/cut-out';
import { makeSetPlate, masksAt, seekSeam, surveyTake, type TakeSurvey } from '@/media/together';
import { checked } from './checked';

const figures = (survey: TakeSurvey) => masksAt(survey, survey.times).map((m) => m.figure);

const sideSchema = z.looseObject({ take: alignedTakeSchema, from: z.number() });

const api = {
  makeSetPlate: checked([z.array(z.extend(alignedTakeSchema, { nobody: z.boolean() }))], makeSetPlate),
  surveyTake: checked([alignedTakeSchema], surveyTake),
  seekSeam: checked([sideSchema, sideSchema], seekSeam),
  cutFrame: checked([alignedTakeSchema], cutFrame),
  keyFrame: checked([footageSchema, z.number()], keyFrame),
  freeFrame: checked([footageSchema, z.number()], freeFrame),
  /** Share of the take in which each grid pixel is occupied by the figure, 0..255. */
  union(survey: TakeSurvey): Uint8Array {
    return unionOf(
      figures(survey).filter((m) => m !== null),
      survey.width,
      survey.height,
    );
  },
  /** The box around the figure on each frame, pixels of the picture. */
  boxes(survey: TakeSurvey) {
    return figures(survey).map((mask) => {
      const box = mask && boxOf(mask);
      if (!box) return null;
      const k = survey.factor;
      return { left_px: box.left * k, top_px: box.top * k, right_px: box.right * k, bottom_px: box.bottom * k, share: box.share };
    });
  },
  /** The best frames to jump from one take to another; for a loop, twice the same and the least it must last. */
  cuts(first: TakeSurvey, second: TakeSurvey, least: number | null): Cut[] {
    return bestCuts(posesOf(figures(first)), posesOf(figures(second)), 5, least);
  },
  /** The second of its file at which a take's figure reaches furthest towards a side; null when nobody is seen. */
  furthest(survey: TakeSurvey, side: 'left' | 'right'): number | null {
    const frame = furthestReach(figures(survey), side);
    return frame === null ? null : survey.times[frame];
  },
  /** Where a take's figure reaches towards a side at a second of its file. */
  reach(survey: TakeSurvey, take: string, at: number, side: 'left' | 'right', exposure: number): Reach | null {
    const next = survey.times.findIndex((t) => t > at + 1e-4);
    return reachAt(take, figures(survey), Math.max(0, (next < 0 ? survey.times.length : next) - 1), side, null, exposure);
  },
  /** Where the figures of two takes overlap when they run side by side from the given seconds on. */
  collide(first: TakeSurvey, from: number, second: TakeSurvey, into: number, seconds: number, fps: number): Collision[] {
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
export type TogetherApi = typeof api;
Comlink.expose(api);
