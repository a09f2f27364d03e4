import { createSHA256 } from 'hash-wasm';

const PIECE = 1 << 20;
const hex = (bytes: Uint8Array) => [...bytes.subarray(0, 12)].map((b) => b.toString(16).padStart(2, '0')).join('');

/** A short id from a file's size and its first, middle and last megabyte: the same file gets the same id, and quickly. */
export async function contentId(file: Blob): Promise<string> {
  const parts = [0, Math.max(0, Math.floor(file.size / 2) - PIECE / 2), Math.max(0, file.size - PIECE)].map((at) =>
    file.slice(at, at + PIECE),
  );
  const bytes = await new Blob([String(file.size), ...parts]).arrayBuffer();
  return hex(new Uint8Array(await crypto.subtle.digest('SHA-256', bytes)));
}

/** The SHA-256 of all of a file, in hexadecimal digits; in flat memory however large it is. */
export async function wholeHash(file: Blob): Promise<string> {
  const sum = await createSHA256();
  sum.init();
  const reader = file.stream().getReader();
  for (let next = await reader.read(); !next.done; next = await reader.read()) sum.update(next.value);
  return sum.digest('hex');
}

/** An id for a file whose samples are those of another that differs from it elsewhere. */
export async function wholeId(file: Blob): Promise<string> {
  return (await wholeHash(file)).slice(0, 24);
}

/** Whether two files hold the same bytes; read side by side, in flat memory. */
export async function sameContent(a: Blob, b: Blob): Promise<boolean> {
  if (a.size !== b.size) return false;
  for (let at = 0; at < a.size; at += 8 * PIECE) {
    const [left, right] = await Promise.all([a, b].map(async (f) => new Uint8Array(await f.slice(at, at + 8 * PIECE).arrayBuffer())));
    if (left.some((byte, i) => byte !== right[i])) return false;
  }
  return true;
}
