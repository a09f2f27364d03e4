import * as z from 'zod/mini';
import {
  finite,
  id,
  type Key,
  keyAt,
  type Layer,
  type Mask,
  type Place,
  plainEffect,
  plainMask,
  silhouetteMask,
  still,
  travellingMask,
} from '../layer';
import type { Degrees, Frames, Percent, Seconds } from '../units';
import { say } from '../words';
import type { Facts, PictureBox } from './facts';
import type { Field } from './fields';
import { chosen, type TakeUse } from './kind';

/** What lets only the performer of a take through: cut out over time, or within their outline; null where neither is known. */
export const figureSchema = z.nullable(
  z.discriminatedUnion('by', [
    z.object({ by: z.literal('cut-out'), matteId: id, begins: finite }),
    z.object({ by: z.literal('outline'), silhouetteId: id }),
  ]),
);
export type FigureOf = z.infer<typeof figureSchema>;

/** The best of what is known of the performer, and what to know of it. */
export function figureFrom(known: Facts['knownAlong'], figures: Facts['figures']): { figure: FigureOf; said: string } {
  if (known) return { figure: { by: 'cut-out', ...known }, said: '' };
  const silhouetteId = figures.found[0]?.silhouetteId;
  if (!silhouetteId) return { figure: null, said: say`Nobody was found to be set apart: ${figures.why}` };
  return {
    figure: { by: 'outline', silhouetteId },
    said: say`The performer’s outline is used, which is coarse at hair and hands. “Cut the performer out” takes longer and is finer.`,
  };
}

/** A mask of the performer, at the second shown by a layer (its own with null). */
export function figureMask(figure: NonNullable<FigureOf>, layerId: string | null, more: Partial<Omit<Mask, 'kind'>> = {}): Mask {
  if (figure.by === 'cut-out') return { ...travellingMask('figure', figure.matteId, figure.begins), layerId, ...more } as Mask;
  return silhouetteMask(
    'figure',
    figure.silhouetteId,
    layerId,
    { grow: still(0.3), outside: still(0.8) },
    { attachedToLayer: true, ...more },
  );
}

/** What lets a patch duck under whoever moves in a layer, within their outline; nothing where that is not known. */
export const duckUnder = (silhouetteId: string | null, layerId: string): Mask[] =>
  silhouetteId ? [silhouetteMask('duck', silhouetteId, layerId, { grow: still(0.5), outside: still(1) }, { combine: 'subtract' })] : [];

/** The press that cuts the performer out, for a move that sets them apart. */
export const cutOutField = <M extends { use: TakeUse; figure: FigureOf }>(): Field<M> => ({
  is: 'measure',
  label: say`Cut the performer out`,
  said: say`Cut the performer out`,
  needs: 'along',
  when: ({ figure }) => figure?.by !== 'cut-out',
  takes: ({ use }) => [use.takeId],
  apply: (_, { along }) =>
    along.matte ? { change: { figure: { by: 'cut-out', ...along.matte } } as Partial<M>, said: '' } : { change: null, said: along.why },
});

/** A move that sets the performer apart with its take chosen anew: who is in one take says nothing of another. */
export function withUse<M extends { use: TakeUse; figure: FigureOf }>(move: M, choose: (takeId: string, second: Seconds) => string): M {
  const use = chosen(move.use, choose);
  return { ...move, use, figure: use.takeId === move.use.takeId ? move.figure : null };
}

/** An effect of a move by its kind, with the numbers that differ from doing nothing. */
export const effect = (kind: string, numbers: Record<string, number | Key[]>): Layer['effects'][number] =>
  plainEffect(
    `move-${kind.replaceAll(' ', '-')}`,
    kind,
    Object.fromEntries(Object.entries(numbers).map(([name, v]) => [name, typeof v === 'number' ? still(v) : v])),
  );

/** The picture laid over with one hue; nothing where it is laid on by nothing. */
export const tinted = ({ tint, tintHue }: { tint: Percent; tintHue: Degrees }): Layer['effects'] =>
  tint > 0 ? [effect('tones', { amount: tint, darkHue: tintHue, middleHue: tintHue, lightHue: tintHue })] : [];

/** Keys some frames from a place, one after another. */
export const keysAt = (place: Place, keys: readonly (readonly [offset: Frames, value: number, easing?: Key['easing']])[]): Key[] =>
  keys.map(([offset, value, easing]) => keyAt(place.beat, place.offset + offset, value, easing));

/** In over some frames from a place on, and out over as many before another. */
export const inAndOut = (at: Place, until: Place, frames: Frames, full: number): Key[] =>
  frames > 0
    ? [
        ...keysAt(at, [
          [0, 0, 'ease in and out'],
          [frames, full],
        ]),
        ...keysAt(until, [
          [-frames, full, 'ease in and out'],
          [0, 0],
        ]),
      ]
    : [...keysAt(at, [[0, full]])];

/** A soft ellipse around a part of the picture, `room` larger to each side, per cent. */
export const ellipseAround = (
  { left, top, right, bottom }: PictureBox,
  room: Percent,
  soft: Percent,
  more: Partial<Omit<Mask, 'kind'>> = {},
): Mask =>
  plainMask(
    'around',
    'ellipse',
    {
      x: still((left + right) / 2),
      y: still((top + bottom) / 2),
      // An ellipse holds a box when it is √2 of its sides.
      width: still(Math.SQRT2 * (right - left) + 2 * room),
      height: still(Math.SQRT2 * (bottom - top) + 2 * room),
      turn: still(0),
      inside: still(0),
      outside: still(soft),
    },
    more,
  );

/** The four sides of a part of the picture, as they are typed. */
export const boxFields = <M extends { box: PictureBox }>(what: string, said: string): Field<M>[] =>
  (['left', 'top', 'right', 'bottom'] as const).map((side) => ({
    is: 'reading',
    label: `${what}: ${side}`,
    unit: '%',
    min: -50,
    max: 150,
    step: 0.5,
    digits: 1,
    said,
    get: ({ box }) => box[side],
    set: ({ box }, v) => ({ box: { ...box, [side]: v } }) as unknown as Partial<M>,
  }));

export const boxSchema = z.object({ left: finite, top: finite, right: finite, bottom: finite });
