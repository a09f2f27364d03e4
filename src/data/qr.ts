import { encodeQR } from 'qr';
import { decodeQR } from 'qr/decode.js';

/** The squares of a QR code (ISO/IEC 18004) of a text, row by row, with the four light ones around it that the standard asks for; true is dark. */
export const qrOf = (text: string): readonly (readonly boolean[])[] => encodeQR(text, 'raw', { ecc: 'low', border: 4 });

/** The text of a QR code somewhere in a picture; null where none is read. */
export function readQr(picture: { data: Uint8ClampedArray; width: number; height: number }): string | null {
  try {
    return decodeQR(picture) || null;
  } catch {
    // That is how it says that it sees none.
    return null;
  }
}
