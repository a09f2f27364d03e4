/** Reads `length` bytes at `at`; fewer at the file's end. */
export type ReadAt = (at: number, length: number) => Uint8Array;

/**
 * Length of the part of a cut-off fragmented MP4 that is whole: up to the last media fragment (moof and its mdat) that is
 * complete (ISO/IEC 14496-12 box structure). 0 when not even the header is whole, so that nothing can be saved.
 */
export function wholeFragments(read: ReadAt, size: number): number {
  let at = 0;
  let whole = 0;
  let [header, pending] = [false, false];
  while (at + 8 <= size) {
    const bytes = read(at, 16);
    if (bytes.length < 8) break;
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const type = String.fromCharCode(...bytes.subarray(4, 8));
    const short = view.getUint32(0);
    const length = short === 1 ? (bytes.length >= 16 ? Number(view.getBigUint64(8)) : 0) : short;
    if (length < 8 || !/^[a-z0-9 ]{4}$/i.test(type) || at + length > size) break;
    at += length;
    if (type === 'moov') header = true;
    if (type === 'moof') pending = true;
    else if (type === 'mdat' && pending && header) {
      pending = false;
      whole = at;
    }
  }
  return whole;
}
