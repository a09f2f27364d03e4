import type { MovingSilhouette } from '../picture';
import { say } from '../words';

/**
 * Where somebody is in a take, frame by frame, as a sequence of PBM pictures (Netpbm's P4, which allows many in one file): black where they
 * are. A comment in each header says the second at which its frame is shown. Kept compressed by gzip.
 */
export function silhouetteFile({ width, height, times, frames }: MovingSilhouette): Uint8Array<ArrayBuffer> {
  const across = (width + 7) >> 3;
  const heads = times.map((t) => new TextEncoder().encode(`P4\n# ${t.toFixed(6)} s\n${width} ${height}\n`));
  const out = new Uint8Array(heads.reduce((sum, h) => sum + h.length, 0) + frames.length * across * height);
  let at = 0;
  for (const [k, bits] of frames.entries()) {
    out.set(heads[k], at);
    at += heads[k].length;
    for (let i = 0; i < width * height; i++) {
      if (!((bits[i >> 3] >> (i & 7)) & 1)) continue;
      const x = i % width;
      // Rows begin on a byte of their own, the highest bit first.
      out[at + ((i - x) / width) * across + (x >> 3)] |= 0x80 >> (x & 7);
    }
    at += across * height;
  }
  return out;
}

const HEAD = /^P4\n# (-?[\d.]+) s\n(\d{1,5}) (\d{1,5})\n/;

/** Reads what `figureFile` writes. Throws a sentence when it is something else. */
export function readSilhouetteFile(bytes: Uint8Array): MovingSilhouette {
  const times: number[] = [];
  const frames: Uint8Array[] = [];
  let [width, height, at] = [0, 0, 0];
  while (at < bytes.length) {
    const head = HEAD.exec(new TextDecoder('latin1').decode(bytes.subarray(at, at + 64)));
    const [w, h] = [Number(head?.[2]), Number(head?.[3])];
    const across = (w + 7) >> 3;
    if (!head || !(w > 0 && h > 0) || (width > 0 && (w !== width || h !== height)) || at + head[0].length + across * h > bytes.length)
      throw new Error(say`This is not a file of where somebody is in a take: a sequence of PBM pictures of one size with their seconds.`);
    [width, height] = [w, h];
    at += head[0].length;
    const bits = new Uint8Array(Math.ceil((width * height) / 8));
    for (let i = 0; i < width * height; i++) {
      const x = i % width;
      if (bytes[at + ((i - x) / width) * across + (x >> 3)] & (0x80 >> (x & 7))) bits[i >> 3] |= 1 << (i & 7);
    }
    at += across * height;
    times.push(Number(head[1]));
    frames.push(bits);
  }
  if (frames.length === 0) throw new Error(say`This file of where somebody is in a take is empty.`);
  return { width, height, times, frames };
}
