import {
  type ColourMatrix,
  type ColourTable,
  composeColour,
  copiedPlanes,
  type Planes,
  recoloured,
  tableOf,
  throughTable,
} from '../picture';
import { say } from '../words';
import { blur } from './blur';
import { chromaKey } from './chroma-key';
import { chromaticShift } from './chromatic-shift';
import { colourTable } from './colour-table';
import { contrast } from './contrast';
import { crystals } from './crystals';
import { curves } from './curves';
import { directionalBlur } from './directional-blur';
import { displace } from './displace';
import { dissolve } from './dissolve';
import { exposure } from './exposure';
import { flicker } from './flicker';
import { glow } from './glow';
import { grain } from './grain';
import { hue } from './hue';
import { invert } from './invert';
import type { ColourCubes, EffectFrame, EffectKind } from './kind';
import { lensDistortion } from './lens-distortion';
import { liftGammaGain } from './lift-gamma-gain';
import { lumaKey } from './luma-key';
import { mirror } from './mirror';
import { mosaic } from './mosaic';
import { posterise } from './posterise';
import { saturation } from './saturation';
import { sharpen } from './sharpen';
import { spill } from './spill';
import { spinBlur } from './spin-blur';
import { temperature } from './temperature';
import { tile } from './tile';
import { tones } from './tones';
import { vignette } from './vignette';
import { zoomBlur } from './zoom-blur';

/** Every kind of effect, in the order in which they are offered. */
export const EFFECTS = [
  exposure,
  contrast,
  saturation,
  temperature,
  hue,
  curves,
  liftGammaGain,
  tones,
  colourTable,
  invert,
  posterise,
  blur,
  directionalBlur,
  zoomBlur,
  spinBlur,
  sharpen,
  glow,
  vignette,
  grain,
  flicker,
  mosaic,
  crystals,
  displace,
  lensDistortion,
  chromaticShift,
  mirror,
  tile,
  dissolve,
  chromaKey,
  lumaKey,
  spill,
] as readonly EffectKind<unknown>[];
export const EFFECT_NAMES = EFFECTS.map(({ kind }) => kind) as [string, ...string[]];

/** What is known of a kind of effect. */
export function effectKind(kind: string): EffectKind<unknown> {
  const known = EFFECTS.find((k) => k.kind === kind);
  if (!known) throw new Error(say`There is no effect of the kind “${kind}”.`);
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
  frame: EffectFrame,
  tableId?: string,
): AppliedEffect | null {
  const resolved = effectKind(kind).resolve(numbers, frame, tableId);
  return resolved === null ? null : { kind, resolved };
}

/** Whether an effect looks at no pixel but the one it changes. */
export const staysInPlace = ({ kind, resolved }: AppliedEffect): boolean => effectKind(kind).reach(resolved) === 0;

/** Whether an effect clears its layer in part. */
export const isClearing = ({ kind }: AppliedEffect): boolean => effectKind(kind).clears !== undefined;

/** How much of each pixel of a layer's picture all of its effects leave to be seen of what is `seen` of it, 0 to 255; null where nothing is cleared. */
export function clearedBy(planes: Planes, effects: readonly AppliedEffect[], seen: Uint8Array | null = null): Uint8Array | null {
  let left = seen;
  for (const { kind, resolved } of effects) {
    const own = effectKind(kind).clears?.(planes, resolved);
    if (own) left = left ? left.map((a, i) => (a * own[i] + 127) / 255) : own;
  }
  return left;
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

/** Tables made last, by what they were made of. */
const tables = new Map<string, ColourTable>();
const TABLES = 8;

/** The table of an effect that treats every pixel alike; null where what it goes by is missing. */
function tableFor({ kind, resolved }: AppliedEffect, rgb: NonNullable<EffectKind<unknown>['rgb']>, cubes: ColourCubes): ColourTable | null {
  const key = `${kind} ${JSON.stringify(resolved)}`;
  let known = tables.get(key);
  if (!known) {
    const change = rgb(resolved, cubes);
    if (!change) return null;
    known = tableOf(change);
  }
  tables.delete(key);
  tables.set(key, known);
  for (const oldest of tables.keys()) if (tables.size > TABLES) tables.delete(oldest);
  return known;
}

/** The files of the colour tables that effects go by. */
export const tablesOf = (effects: readonly AppliedEffect[]): string[] =>
  effects.flatMap(({ kind, resolved }) => effectKind(kind).tables?.(resolved) ?? []);

/** A picture after an effect. */
export function withEffect(planes: Planes, effect: AppliedEffect, cubes: ColourCubes = new Map()): Planes {
  const { apply, colour, rgb } = effectKind(effect.kind);
  if (apply) return apply(planes, effect.resolved);
  if (colour) return recoloured(planes, colour(effect.resolved));
  const table = rgb && tableFor(effect, rgb, cubes);
  if (!table) return planes;
  const out = copiedPlanes(planes);
  throughTable(out, table);
  return out;
}
