import { say } from '../words';
import type { FRAME_INTERPOLATIONS, SOUNDS } from './schema';

/** What is shown between two frames of a take, in words. */
export const BETWEEN_FRAMES: readonly (readonly [(typeof FRAME_INTERPOLATIONS)[number], string])[] = [
  ['repeat', say`the frame before again`],
  ['blend', say`both frames blended`],
  ['flow', say`both moved along what moves`],
];

/** What is heard of a take, in words. */
export const TAKE_SOUNDS: readonly (readonly [(typeof SOUNDS)[number], string])[] = [
  ['none', 'muted'],
  ['kept', say`kept as recorded`],
  ['stretched', say`runs as the picture runs`],
  ['pitch kept', say`runs as the picture runs, pitch kept`],
];
