import * as z from 'zod/mini';
import { type FrameRate, fps } from '../time';
import { clamp, type Seconds } from '../units';
import type { Field, NumberField } from './fields';
import { kindOf, MOVES, type Move } from './registry';

const KINDS = MOVES.map(({ kind }) => kind) as [Move['kind'], ...Move['kind'][]];
const presetSchema = z.object({
  name: z.string().check(z.minLength(1), z.maxLength(40)),
  kind: z.enum(KINDS),
  numbers: z.record(z.string(), z.unknown()),
  seconds: z.record(z.string(), z.number().check(z.nonnegative(), z.lte(60))),
});
/** A move's numbers under a name: neither takes nor places, and no frames but seconds, so that it is the same at any rate and size. */
export type Preset = z.infer<typeof presetSchema>;

/** The presets in a stored value, as far as they can be read. */
export function readPresets(value: unknown): Preset[] {
  return (Array.isArray(value) ? value : []).flatMap((item) => {
    const parsed = presetSchema.safeParse(item);
    return parsed.success ? [parsed.data] : [];
  });
}

const isFrames = (field: Field<Move>): field is NumberField<Move> => field.is === 'number' && field.unit === 'f' && field.preset !== false;

/** The names under which a field's value stands in its move, where it is kept as it is. */
function keptAs(field: Field<Move>): string[] {
  if (field.is === 'reading') return field.preset ? [field.preset] : [];
  if ((field.is === 'number' || field.is === 'choice' || field.is === 'tick') && field.preset !== false && !isFrames(field))
    return [field.of];
  return [];
}

/** A move's numbers under a name, at a frame rate. */
export function presetOf(name: string, move: Move, rate: FrameRate): Preset {
  const values = move as unknown as Record<string, unknown>;
  const { fields } = kindOf(move);
  return {
    name,
    kind: move.kind,
    numbers: Object.fromEntries(fields.flatMap(keptAs).map((n) => [n, values[n]])),
    seconds: Object.fromEntries(fields.filter(isFrames).map(({ of }) => [of, (values[of] as number) / fps(rate)])),
  };
}

/** What a preset gives to a move of its kind at a frame rate, within what may be typed. */
export function fromPreset(preset: Preset, rate: FrameRate): Partial<Move> {
  const frames = ({ even, min, max }: NumberField<Move>, s: Seconds) =>
    clamp(even ? 2 * Math.round((s * fps(rate)) / 2) : Math.round(s * fps(rate)), min, max);
  const timed = kindOf(preset)
    .fields.filter(isFrames)
    .flatMap((field) => (preset.seconds[field.of] === undefined ? [] : [[field.of, frames(field, preset.seconds[field.of])]]));
  return { ...preset.numbers, ...Object.fromEntries(timed) } as Partial<Move>;
}
