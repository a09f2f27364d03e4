import type { Sounding } from '@/core/evaluate';
import type { Laid } from '@/core/song';
import { pitchKept } from './pitch-kept';
import type { Sound } from './sound';

/** Seconds stretched in one piece, and over how many a piece gives way to the next. */
const PIECE = 20;
const OVERLAP = 0.05;
/** Seconds of the file around what a piece runs through: the stretcher looks ahead and back. */
const AROUND = 0.5;

/** A run through a file's sound, and by how many semitones it is higher than recorded. */
type Run = Omit<Sounding, 'pitchKept'> & { semitones?: number };

/** Part of a run with its pitch kept: its sound, and when it is heard. */
export interface StretchedPiece {
  sound: Sound;
  laid: Laid;
}

/** Pieces made last: what is played is asked for a second at a time. */
const made = new Map<string, Promise<Sound | null>>();
const KEPT = 6;

/** The seconds of the file that a stretch of a run goes through, looked at fifty times a second. */
export function reached(run: Pick<Sounding, 'secondAt'>, first: number, last: number): number[] {
  // A run may turn within the stretch: what it reaches is looked for, not only its ends.
  const steps = Math.max(1, Math.ceil(50 * (last - first)));
  return Array.from({ length: steps + 1 }, (_, k) => run.secondAt(first + (k / steps) * (last - first)));
}

/**
 * The pieces of a run with its pitch kept that are heard between two song times; each gives way softly to the next. `heard` reads a stretch of
 * the run's file.
 */
export async function stretchedPieces(
  run: Run,
  from: number,
  to: number,
  heard: (from: number, to: number) => Promise<Sound | null>,
): Promise<StretchedPiece[]> {
  const out: StretchedPiece[] = [];
  const first = Math.max(0, Math.floor((from - run.from) / PIECE));
  for (let k = first; run.from + k * PIECE - OVERLAP < Math.min(to, run.to); k++) {
    const start = run.from + k * PIECE - (k > 0 ? OVERLAP : 0);
    const end = Math.min(run.to, run.from + (k + 1) * PIECE);
    const seconds = reached(run, start, end);
    const key = JSON.stringify([run.mediaId, run.semitones, start, end, seconds.map((s) => Math.round(1e4 * s))]);
    const piece = made.get(key) ?? stretched(run, start, end, seconds, heard);
    made.delete(key);
    made.set(key, piece);
    piece.catch(() => made.delete(key));
    for (const oldest of made.keys()) if (made.size > KEPT) made.delete(oldest);
    const sound = await piece;
    if (sound)
      out.push({ sound, laid: { start, length: end - start, gain: 0, fadeIn: k > 0 ? OVERLAP : 0, fadeOut: end < run.to ? OVERLAP : 0 } });
  }
  return out;
}

async function stretched(
  run: Run,
  start: number,
  end: number,
  seconds: readonly number[],
  heard: (from: number, to: number) => Promise<Sound | null>,
): Promise<Sound | null> {
  const begin = Math.max(0, Math.min(...seconds) - AROUND);
  const sound = await heard(begin, Math.max(...seconds) + AROUND);
  if (!sound) return null;
  const { sampleRate } = sound;
  const count = Math.ceil((end - start) * sampleRate);
  return { sampleRate, channels: await pitchKept(sound, (t) => run.secondAt(start + t) - begin, count, run.semitones) };
}
