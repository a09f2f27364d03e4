import { create } from 'zustand';
import type { Footage } from '@/core/document';
import type { TakeMeasurement } from '@/media/measuring';

/** A take's file to be measured, against another's or by itself. */
export interface Pair {
  media: Footage;
  against: Footage | null;
}

interface Measuring {
  /** What is being measured and how far it is, 0..1. */
  doing: { key: string; name: string; done: number } | null;
  /** What is to be measured after it, in order. */
  queue: readonly (Pair & { key: string })[];
  /** Figures by the pair they are of. */
  measured: ReadonlyMap<string, TakeMeasurement>;
  /** Sentences by the pair that could not be measured. */
  problems: ReadonlyMap<string, string>;
}

export const useMeasuring = create<Measuring>(() => ({ doing: null, queue: [], measured: new Map(), problems: new Map() }));
