import * as z from 'zod/mini';
import type { Move } from '../shot';
import { type FrameRate, fps } from '../time';
import type { Seconds } from '../units';

/** What is kept of a move: neither takes nor places, and no frames but seconds, so that it is the same at any rate and size. */
const KEPT = {
  reveal: { numbers: ['by', 'angle', 'feather', 'duck', 'reach', 'outOf'], frames: [] },
  freeze: { numbers: ['every', 'shakeSize', 'under'], frames: ['flight', 'shake'] },
  whip: { numbers: ['way', 'travel', 'shutter'], frames: ['frames'] },
  ramp: { numbers: ['hard', 'fastest', 'acceleration', 'between', 'zoom', 'sound', 'hold'], frames: [] },
  split: { numbers: ['columns', 'slant', 'gutter', 'feather', 'stagger', 'delay'], frames: ['frames'] },
} as const satisfies { [K in Move['kind']]: Names<K> };
type Names<K extends Move['kind']> = {
  numbers: readonly (keyof Extract<Move, { kind: K }>)[];
  frames: readonly (keyof Extract<Move, { kind: K }>)[];
};

const keptSchema = z.object({
  name: z.string().check(z.minLength(1), z.maxLength(40)),
  kind: z.enum(['reveal', 'freeze', 'whip', 'ramp', 'split']),
  numbers: z.record(z.string(), z.unknown()),
  seconds: z.record(z.string(), z.number().check(z.nonnegative(), z.lte(60))),
});
export type KeptMove = z.infer<typeof keptSchema>;

/** The moves kept in the browser, as they can be read; what is none of them is left out. */
export function readKept(value: unknown): KeptMove[] {
  return (Array.isArray(value) ? value : []).flatMap((item) => {
    const parsed = keptSchema.safeParse(item);
    return parsed.success ? [parsed.data] : [];
  });
}

/** A move's numbers under a name. */
export function keptMove(name: string, move: Move, rate: FrameRate): KeptMove {
  const values = move as unknown as Record<string, unknown>;
  const { numbers, frames } = KEPT[move.kind];
  return {
    name,
    kind: move.kind,
    numbers: Object.fromEntries(numbers.map((n) => [n, values[n]])),
    seconds: Object.fromEntries(frames.map((n) => [n, (values[n] as number) / fps(rate)])),
  };
}

/** The most frames that a move takes to fly, shake, whip or open, whatever the rate. */
const MOST_FRAMES: Record<string, number> = { shake: 60 };

/** What was kept, for a move of its kind at a rate. A whip has its cut in its middle, so its frames come out even. */
export function ofKept({ kind, numbers, seconds }: KeptMove, rate: FrameRate): Partial<Move> {
  const frames = (s: Seconds) => (kind === 'whip' ? Math.max(4, 2 * Math.round((s * fps(rate)) / 2)) : Math.round(s * fps(rate)));
  const within = (n: string, s: Seconds) => Math.min(MOST_FRAMES[n] ?? 120, frames(s));
  return { ...numbers, ...Object.fromEntries(Object.entries(seconds).map(([n, s]) => [n, within(n, s)])) } as Partial<Move>;
}
