import * as Comlink from 'comlink';
import * as z from 'zod/mini';
import { footageSchema } from '@/core/document';
import { SOUND_KINDS } from '@/core/sounds';
import { courseOf } from '@/media/course';
import { madeSoundFile } from '@/media/made-sound';
import { measureCrossing, measureFall, measureTake, measureWhips } from '@/media/measuring';
import { syncMedia } from '@/media/syncing';
import { trackPoint } from '@/media/track-point';
import { checked } from './checked';

const api = {
  courseOf: checked([footageSchema], courseOf),
  measureTake: checked([footageSchema, z.nullable(footageSchema)], measureTake),
  measureFall: checked([footageSchema, z.number()], measureFall),
  measureCrossing: checked([footageSchema], measureCrossing),
  measureWhips: checked([footageSchema], measureWhips),
  makeSound: checked([z.enum(SOUND_KINDS), z.number(), z.number()], madeSoundFile),
  syncMedia: checked([z.string(), z.array(z.string())], syncMedia),
  trackPoint: checked([footageSchema], trackPoint),
};
export type MeasureApi = typeof api;
Comlink.expose(api);
