import * as z from 'zod/mini';
import { say } from '../words';
import { arrive } from './arrive';
import { beam } from './beam';
import { clones } from './clones';
import { dolly } from './dolly';
import { fill } from './fill';
import { freeze } from './freeze';
import { impact } from './impact';
import { iris } from './iris';
import { isolate } from './isolate';
import { jump } from './jump';
import type { MoveKind } from './kind';
import { orbit } from './orbit';
import { passing } from './passing';
import { ramp } from './ramp';
import { reflection } from './reflection';
import { reveal } from './reveal';
import { split } from './split';
import { stills } from './stills';
import { strike } from './strike';
import { title } from './title';
import { trail } from './trail';
import { vanish } from './vanish';
import { whip } from './whip';

/** Every kind of move, in the order in which they are offered. */
export const MOVES = [
  reveal,
  freeze,
  whip,
  ramp,
  split,
  clones,
  reflection,
  passing,
  fill,
  arrive,
  jump,
  strike,
  vanish,
  trail,
  isolate,
  dolly,
  impact,
  orbit,
  stills,
  title,
  iris,
  beam,
] as const;

/** The inputs of a move. All its places count from the beat its shot begins on. */
export type Move = z.infer<(typeof MOVES)[number]['schema']>;
export type MoveOf<Kind extends Move['kind']> = Extract<Move, { kind: Kind }>;

export const moveSchema = z.discriminatedUnion(
  'kind',
  MOVES.map(({ schema }) => schema) as unknown as readonly [z.core.$ZodTypeDiscriminable],
) as unknown as z.ZodMiniType<Move>;

/** What is known of a kind of move. A kind takes no moves but its own, which only its name tells apart here. */
export function kindOf({ kind }: { kind: Move['kind'] }): MoveKind<Move> {
  const known = MOVES.find((k) => k.kind === kind);
  if (!known) throw new Error(say`There is no move of the kind “${kind}”.`);
  return known as unknown as MoveKind<Move>;
}
