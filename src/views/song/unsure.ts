import type { BeatMap } from '@/core/time';
import type { HeardSong } from '@/media/song';

/** Below this a beat does not stand out from what lies between. */
const UNSURE = 0.4;

/** Stretches of the song, in seconds, whose beats are not sure; those set by hand are. */
export function unsureStretches(heard: HeardSong, map: BeatMap | null): [number, number][] {
  const beats = heard.map?.beats ?? [];
  const locked = map?.locked?.map((i) => map.beats[i]) ?? [];
  const out: [number, number][] = [];
  heard.sureness.forEach((sure, i) => {
    if (sure >= UNSURE || i + 1 >= beats.length) return;
    const [from, to] = [beats[i], beats[i + 1]];
    if (locked.some((t) => t >= from - 0.05 && t <= to + 0.05)) return;
    const open = out.at(-1);
    if (open && from - open[1] < 1e-6) open[1] = to;
    else out.push([from, to]);
  });
  return out;
}
