import { type ColourMatrix, composeColour, type Planes, recoloured } from '../picture';
import type { Pixels } from '../units';
import { blur } from './blur';
import { exposure } from './exposure';
import type { EffectKind } from './kind';
import { spill } from './spill';

/** Every kind of effect, in the order in which they are offered. */
export const EFFECTS = [exposure, blur, spill] as readonly EffectKind<unknown>[];
export const EFFECT_NAMES = EFFECTS.map(({ kind }) => kind) as [string, ...string[]];

/** What is known of a kind of effect. */
export function effectKind(kind: string): EffectKind<unknown> {
  const known = EFFECTS.find((k) => k.kind === kind);
  if (!known) throw new Error(`There is no effect of the kind “${kind}”.`);
  return known;
}

/** An effect with its numbers resolved for a frame; plain data. */
export interface AppliedEffect {
  kind: string;
  resolved: unknown;
}

/** An effect with these numbers on a frame; null where it changes nothing. */
export function appliedEffect(
  kind: string,
  numbers: Readonly<Record<string, number>>,
  frame: { width: Pixels; height: Pixels },
): AppliedEffect | null {
  const resolved = effectKind(kind).resolve(numbers, frame);
  return resolved === null ? null : { kind, resolved };
}

/** The effects on a frame drawn at `factor` of its size. */
export const scaledEffects = (effects: readonly AppliedEffect[], factor: number): AppliedEffect[] =>
  effects.map(({ kind, resolved }) => ({ kind, resolved: effectKind(kind).scale(resolved, factor) }));

/** A chain's colour up to the first effect that does more than that, laid over a source's own, and the effects that are left. */
export function foldedColour(colour: ColourMatrix, effects: readonly AppliedEffect[]): { colour: ColourMatrix; effects: AppliedEffect[] } {
  const [first, ...rest] = effects;
  const matrix = first && effectKind(first.kind).colour?.(first.resolved);
  return matrix ? foldedColour(composeColour(matrix, colour), rest) : { colour, effects: [...effects] };
}

/** A picture after an effect. */
export function withEffect(planes: Planes, { kind, resolved }: AppliedEffect): Planes {
  const known = effectKind(kind);
  if (known.apply) return known.apply(planes, resolved);
  return known.colour ? recoloured(planes, known.colour(resolved)) : planes;
}
