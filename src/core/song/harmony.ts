import { type BandFlux, CHROMA_HOP } from './band-flux';

/** How much the harmony of `span` values after a place differs from that before it, 0..1 (one less the cosine between them). */
export type HarmonyTurn = (at: number, span: number) => number;

/** Hears where the harmony of a sound turns: mean of its logarithms before and after a place, 0 at the ends of the sound. */
export function harmonyTurns({ chroma }: BandFlux): HarmonyTurn {
  const sums = new Float64Array(12 * (chroma.length + 1));
  chroma.forEach((row, i) => {
    for (let c = 0; c < 12; c++) sums[12 * (i + 1) + c] = sums[12 * i + c] + row[c];
  });
  return (at, span) => {
    const middle = Math.round(at / CHROMA_HOP);
    const from = Math.max(0, Math.round((at - span) / CHROMA_HOP));
    const to = Math.min(chroma.length, Math.round((at + span) / CHROMA_HOP));
    if (from >= middle || middle >= to) return 0;
    let [both, own, other] = [0, 0, 0];
    for (let c = 0; c < 12; c++) {
      const before = (sums[12 * middle + c] - sums[12 * from + c]) / (middle - from);
      const after = (sums[12 * to + c] - sums[12 * middle + c]) / (to - middle);
      both += before * after;
      own += before * before;
      other += after * after;
    }
    return 1 - both / Math.sqrt(own * other + 1e-12);
  };
}
