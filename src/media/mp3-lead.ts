import type { Seconds } from '@/core/units';

/** What an MP3 decoder itself adds in front: 528 samples and one (from memory of the LAME tag's description; common practice). */
const DECODER = 529;
/** How far into the file the first frame is looked for, behind an ID3v2 tag. */
const LOOK = 4096;

/** Sample rates by MPEG version bits (0 is 2.5, 2 is 2, 3 is 1) and index: ISO/IEC 11172-3, 13818-3. */
const RATES: Record<number, readonly number[]> = { 0: [11025, 12000, 8000], 2: [22050, 24000, 16000], 3: [44100, 48000, 32000] };

const textAt = (bytes: Uint8Array, at: number, length: number) => String.fromCharCode(...bytes.subarray(at, at + length));

/** Length of an ID3v2 tag at the beginning, bytes. */
function id3(bytes: Uint8Array): number {
  if (textAt(bytes, 0, 3) !== 'ID3') return 0;
  return 10 + bytes.subarray(6, 10).reduce((sum, b) => sum * 128 + (b & 127), 0);
}

/**
 * Silence that an encoder put in front of an MP3's sound and that does not belong to it: what its Xing or Info header says (the LAME tag's
 * encoder delay) and the decoder's own. 0 for other files and where nothing is said.
 */
export async function mp3Lead(file: Blob): Promise<Seconds> {
  const tag = id3(new Uint8Array(await file.slice(0, 10).arrayBuffer()));
  const bytes = new Uint8Array(await file.slice(tag, tag + LOOK).arrayBuffer());
  const at = bytes.findIndex((b, i) => b === 0xff && (bytes[i + 1] & 0xe6) === 0xe2);
  // Far from the beginning such bytes are chance, not a frame.
  if (at < 0 || at > LOOK / 2 || (tag === 0 && at > 0)) return 0;
  const version = (bytes[at + 1] >> 3) & 3;
  const mono = bytes[at + 3] >> 6 === 3;
  const rate = RATES[version]?.[(bytes[at + 2] >> 2) & 3];
  const side = version === 3 ? (mono ? 17 : 32) : mono ? 9 : 17;
  const head = at + 4 + side;
  if (!rate || !/^(Xing|Info)$/.test(textAt(bytes, head, 4))) return 0;
  const flags = bytes[head + 7];
  const lame = head + 8 + (flags & 1 ? 4 : 0) + (flags & 2 ? 4 : 0) + (flags & 4 ? 100 : 0) + (flags & 8 ? 4 : 0);
  // Nine letters of the encoder's name; the delay stands 21 bytes in, twelve bits.
  if (lame + 24 > bytes.length || !/^[\w. ]{4}/.test(textAt(bytes, lame, 4))) return 0;
  const delay = (bytes[lame + 21] << 4) | (bytes[lame + 22] >> 4);
  return (delay + DECODER) / rate;
}
