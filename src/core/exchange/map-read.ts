import type { BeatMap } from '../time';
import type { Beats } from '../units';
import { say } from '../words';

/** A named place of the song: where a part begins. */
export interface NamedBeat {
  beat: Beats;
  name: string;
}

/** A beat map read from a file, with its parts and what had to be left out; or why it could not be read. */
export type MapRead = { ok: true; map: BeatMap; parts: NamedBeat[]; notes: string[] } | { ok: false; reason: string };

/** A map that has been read, refused where its beats do not ascend. */
export function checkedMap(map: BeatMap, parts: NamedBeat[], notes: string[]): MapRead {
  const wrong = map.beats.findIndex((t, i) => i > 0 && !(t > map.beats[i - 1]));
  if (wrong > 0)
    return { ok: false, reason: say`Beat ${wrong + 1} does not come after the one before it, so this is no beat map. Yours is as it was.` };
  return { ok: true, map, parts, notes };
}
