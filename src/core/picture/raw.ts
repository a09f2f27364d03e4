import type { Pixels } from '../units';
import { blackPlanes, type Planes } from './planes';

/** How the planes of a decoded frame are stored. */
export interface RawForm {
  /** Bits of a value; more than 8 are stored in two bytes, the least significant first. */
  depth: 8 | 10 | 12;
  /** Luma pixels that share one chroma value, across and down. */
  across: 1 | 2;
  down: 1 | 2;
  /** Chroma in one plane, U and V in turn. */
  paired: boolean;
  /** How much of each pixel is there, in a plane of its own after the others. */
  alpha: boolean;
}

/** The form of a pixel format by its name in the WebCodecs standard; null for R'G'B' and what is not known. */
export function rawForm(format: string | null): RawForm | null {
  if (format === 'NV12') return { depth: 8, across: 2, down: 2, paired: true, alpha: false };
  const found = /^I(420|422|444)(?:P(10|12))?(A?)(?:P(10|12))?$/.exec(format ?? '');
  if (!found) return null;
  const bits = found[2] ?? found[4];
  const depth = bits === '10' ? 10 : bits === '12' ? 12 : 8;
  return { depth, across: found[1] === '444' ? 1 : 2, down: found[1] === '420' ? 2 : 1, paired: false, alpha: found[3] === 'A' };
}

/** Where each plane begins and how many bytes its rows take, packed without gaps; `size` is all of it. Width and height are even. */
export function rawLayout(form: RawForm, width: Pixels, height: Pixels): { layout: { offset: number; stride: number }[]; size: number } {
  const bytes = form.depth > 8 ? 2 : 1;
  const luma = width * height * bytes;
  const stride = (width / form.across) * bytes * (form.paired ? 2 : 1);
  const chroma = stride * (height / form.down);
  const whole = width * bytes;
  const layout = [{ offset: 0, stride: whole }];
  for (let n = 0; n < (form.paired ? 1 : 2); n++) layout.push({ offset: luma + n * chroma, stride });
  const size = luma + chroma * (layout.length - 1);
  if (!form.alpha) return { layout, size };
  return { layout: [...layout, { offset: size, stride: whole }], size: size + luma };
}

/**
 * A decoded frame, packed as `rawLayout` says, as 8-bit 4:2:0 planes with the same coded range: deeper values are rounded, chroma is
 * averaged over the pixels that come to share it (box filter).
 */
export function planesFromRaw(bytes: Uint8Array, form: RawForm, width: Pixels, height: Pixels): Planes {
  const out = blackPlanes(width, height);
  const { layout, size } = rawLayout(form, width, height);
  const values = form.depth > 8 ? new Uint16Array(bytes.buffer, bytes.byteOffset, size / 2) : bytes;
  const unit = form.depth > 8 ? 2 : 1;
  const drop = form.depth - 8;
  const half = drop > 0 ? 1 << (drop - 1) : 0;
  for (let i = 0; i < out.y.length; i++) out.y[i] = Math.min(255, (values[i] + half) >> drop);
  const [sx, sy] = [2 / form.across, 2 / form.down];
  const step = form.paired ? 2 : 1;
  const [w, h] = [width / 2, height / 2];
  for (const [n, plane] of [out.u, out.v].entries()) {
    const start = form.paired ? layout[1].offset / unit + n : layout[1 + n].offset / unit;
    const stride = layout[form.paired ? 1 : 1 + n].stride / unit;
    const shift = drop + (sx === 2 ? 1 : 0) + (sy === 2 ? 1 : 0);
    const round = shift > 0 ? 1 << (shift - 1) : 0;
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        let sum = round;
        for (let j = 0; j < sy; j++) for (let i = 0; i < sx; i++) sum += values[start + (y * sy + j) * stride + (x * sx + i) * step];
        plane[y * w + x] = Math.min(255, sum >> shift);
      }
  }
  return out;
}

/** How much of each pixel of a frame that `planesFromRaw` reads is seen, 0..255; null where its form does not say, and where all is. */
export function alphaFromRaw(bytes: Uint8Array, form: RawForm, width: Pixels, height: Pixels): Uint8Array | null {
  if (!form.alpha) return null;
  const { layout } = rawLayout(form, width, height);
  const { offset } = layout[layout.length - 1];
  const count = width * height;
  const own =
    form.depth > 8
      ? Uint8Array.from(new Uint16Array(bytes.buffer, bytes.byteOffset + offset, count), (v) => Math.min(255, v >> (form.depth - 8)))
      : bytes.slice(offset, offset + count);
  return own.every((a) => a === 255) ? null : own;
}

/** A frame of three full planes that hold G', B' and R' (H.273 matrix 0), 8 bits, as RGBA bytes. */
export function rgbaFromRaw(bytes: Uint8Array, width: Pixels, height: Pixels): Uint8Array {
  const count = width * height;
  const out = new Uint8Array(4 * count).fill(255);
  for (let i = 0; i < count; i++) {
    out[4 * i] = bytes[2 * count + i];
    out[4 * i + 1] = bytes[i];
    out[4 * i + 2] = bytes[count + i];
  }
  return out;
}
