import { randomSource } from '../room';
import { type BeatMap, withBarsFrom } from '../time';

/** A map with up to six changes of its bars' length at places a seed gives, on bar lines and off them. */
export function withRandomBars(map: BeatMap, seed: number): BeatMap {
  const random = randomSource(seed);
  let out = map;
  for (let k = 0; k < seed % 7; k++) out = withBarsFrom(out, 1 + Math.floor(60 * random()), 1 + Math.floor(7 * random()));
  return out;
}
