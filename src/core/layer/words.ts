import type { FRAME_INTERPOLATIONS, SOUNDS } from './schema';

/** What is shown between two frames of a take, in words. */
export const BETWEEN_FRAMES: readonly (readonly [(typeof FRAME_INTERPOLATIONS)[number], string])[] = [
  ['repeat', 'the frame before again'],
  ['blend', 'both frames blended'],
  ['flow', 'both moved along what moves'],
];

/** What is heard of a take, in words. */
export const TAKE_SOUNDS: readonly (readonly [(typeof SOUNDS)[number], string])[] = [
  ['none', 'muted'],
  ['kept', 'kept as recorded'],
  ['stretched', 'runs as the picture runs'],
  ['pitch kept', 'runs as the picture runs, pitch kept'],
];
