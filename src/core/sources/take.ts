import * as z from 'zod/mini';
import { type Homography, takeToProject } from '../picture';
import type { Seconds, Unit } from '../units';
import { say } from '../words';
import { idSchema } from './id';
import type { SourceKind } from './kind';
import { fillFrame } from './placing';

const schema = z.object({ kind: z.literal('take'), takeId: idSchema });

/** A frame of a take's file; `next` brings the frame after it in by a share, blended or moved along what moves. */
export interface TakeDescription {
  kind: 'take';
  takeId: string;
  mediaId: string;
  time: Seconds;
  next: { time: Seconds; share: Unit; flow: boolean } | null;
  /** How the picture that is shown is seen in the take, where it was filmed from elsewhere. */
  perspective: Homography | null;
  /** It is clear in places. */
  clear?: true;
}

/** A take: a film, laid on the reference of its set-up where it is corrected. */
export const take: SourceKind<z.infer<typeof schema>, TakeDescription> = {
  kind: 'take',
  schema,
  name: say`Take`,
  settings: [],
  endless: false,
  clear: (description) => description.clear === true,
  describe: ({ frame, overscan, second, frameInterpolation, take: takeAt }, { takeId }) => {
    const found = takeAt(takeId);
    if (!found) return null;
    const { mediaId, size, duration, colour, clear, move, perspective, gains, curves } = found;
    const rate = found.fps || 25;
    const share = second * rate - Math.floor(second * rate + 1e-6);
    // Only a run that does not meet the take's own frames needs one between them.
    const blend = frameInterpolation !== 'repeat' && share > 0.05 && share < 0.95;
    const next = { time: Math.min(second + 1 / rate, duration - 0.5 / rate), share, flow: frameInterpolation === 'flow' };
    return {
      source: { kind: 'take', takeId, mediaId, time: second, next: blend ? next : null, perspective, ...(clear && { clear }) },
      size,
      base: fillFrame(frame, size, overscan, perspective ? null : move),
      colour: takeToProject(colour, { r: 1 / gains.r, g: 1 / gains.g, b: 1 / gains.b }),
      curves,
    };
  },
  requests: ({ takeId, mediaId, time, next }) => [{ takeId, mediaId, time }, ...(next ? [{ takeId, mediaId, time: next.time }] : [])],
  stills: () => [],
};
