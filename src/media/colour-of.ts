import type { InputVideoTrack } from 'mediabunny';
import { BT709, type ColourSpace, type WideColour } from '@/core/picture';

type Tags = { [K in keyof VideoColorSpaceInit]?: string | boolean | null };

/**
 * How a file's pixels are to be understood: by its tags, else as is usual for its size (BT.601 below 576 lines). What is wider than BT.709
 * is `wide`; its frames are brought to BT.709 as they are read, which is then their `space`. With `rgb` the three planes are R'G'B' themselves.
 */
export async function colourOf(track: InputVideoTrack): Promise<{ space: ColourSpace; wide: WideColour | null; rgb: boolean }> {
  const tags: Tags = await track.getColorSpace();
  if (tags.matrix === 'rgb') return { space: BT709, wide: null, rgb: true };
  const small = Math.min(await track.getDisplayWidth(), await track.getDisplayHeight()) < 576;
  const fullRange = tags.fullRange === true;
  const guess = small ? 'bt601' : 'bt709';
  const transfer = tags.transfer === 'pq' || tags.transfer === 'hlg' ? tags.transfer : 'sdr';
  const primaries = tags.primaries === 'bt2020' ? 'bt2020' : tags.primaries === 'smpte432' ? 'p3' : 'bt709';
  const is2020 = tags.matrix === 'bt2020-ncl';
  const matrix = tags.matrix === 'bt709' ? 'bt709' : tags.matrix ? 'bt601' : guess;
  if (transfer === 'sdr' && primaries === 'bt709' && !is2020) return { space: { matrix, fullRange }, wide: null, rgb: false };
  // A matrix that is not told is that of the primaries.
  const own = is2020 || (!tags.matrix && primaries === 'bt2020') ? 'bt2020' : matrix;
  return {
    space: BT709,
    wide: { transfer, primaries: is2020 && !tags.primaries ? 'bt2020' : primaries, matrix: own, fullRange },
    rgb: false,
  };
}
