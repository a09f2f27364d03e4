/** A repeatable random source: the same seed gives the same room, take and song on every machine (mulberry32). */
export function randomSource(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A source of its own for each step of something seeded: a frame, a piece, a letter. */
export const randomAt = (seed: number, step: number): (() => number) => randomSource(Math.round(seed) * 7919 + step);
