/** Milliseconds between parts handed over by long work: about what a reload costs. */
const EVERY = 600;

/** The arrays of a record of arrays that grow together, one entry a frame or about so. */
const arraysOf = (all: object) => Object.entries(all) as [string, unknown[]][];

/** Parts of growing arrays put together again, after `empty`, which stays as it is. */
export function concat<T extends object>(empty: T, parts: readonly T[]): T {
  const all = arraysOf(empty).map(([key]) => [key, parts.flatMap((p) => p[key as keyof T] as unknown[])]);
  return Object.fromEntries(all) as T;
}

/** Hands over what growing arrays gained, now and then. */
export class Parts<T extends object> {
  private handed: Record<string, number> = {};
  private at = performance.now();

  constructor(
    private readonly all: T,
    private readonly keep: (part: T) => void,
  ) {
    this.count();
  }

  private count(): void {
    this.handed = Object.fromEntries(arraysOf(this.all).map(([key, values]) => [key, values.length]));
  }

  /** Call between frames, when all arrays are whole. */
  offer(): void {
    const now = performance.now();
    if (now - this.at < EVERY) return;
    this.at = now;
    this.keep(Object.fromEntries(arraysOf(this.all).map(([key, values]) => [key, values.slice(this.handed[key])])) as T);
    this.count();
  }
}
