import { say } from '@/core/words';
import type { PersonMap } from './cut-out';
import type { Picture } from './picture';

/** The model gives 256×256 or less; what it says is asked for at this width. */
const WIDTH = 640;
/** Pixels across of the second look. */
const CLOSE = 256;

/** What a segmentation says of a picture, 0..255, as the alpha of a picture of any size. */
export type Segmentation = (page: OffscreenCanvas) => Promise<CanvasImageSource>;

function canvas(width: number, height: number): { page: OffscreenCanvas; pen: OffscreenCanvasRenderingContext2D } {
  const page = new OffscreenCanvas(width, height);
  const pen = page.getContext('2d', { willReadFrequently: true });
  if (!pen) throw new Error(say`The browser gave no canvas to read the segmentation from.`);
  return { page, pen };
}

/** What the segmentation says of a canvas, at a size of its own. */
async function asked(segmentation: Segmentation, page: OffscreenCanvas, width: number, height: number): Promise<Uint8Array> {
  const { pen } = canvas(width, height);
  pen.drawImage(await segmentation(page), 0, 0, width, height);
  const { data } = pen.getImageData(0, 0, width, height);
  return Uint8Array.from({ length: width * height }, (_, i) => data[4 * i + 3]);
}

/**
 * Where a person is in a picture: how surely, 0..255, at a small size. The segmentation looks twice, the second time at the person
 * alone, for it sees no more than 256 pixels across.
 */
export async function findPerson(segmentation: Segmentation, picture: Picture): Promise<PersonMap> {
  const whole = canvas(picture.width, picture.height);
  whole.pen.putImageData(new ImageData(picture.rgba, picture.width, picture.height), 0, 0);
  const [width, height] = [WIDTH, Math.round((WIDTH * picture.height) / picture.width)];
  const sure = await asked(segmentation, whole.page, width, height);
  const box = boxAround(sure, width, height);
  if (!box) return { width, height, sure };
  const k = picture.width / width;
  const close = canvas(2 * CLOSE, 2 * CLOSE);
  close.pen.drawImage(whole.page, box.left * k, box.top * k, box.side * k, box.side * k, 0, 0, 2 * CLOSE, 2 * CLOSE);
  const near = await asked(segmentation, close.page, CLOSE, CLOSE);
  const out = new Uint8Array(width * height);
  for (let y = Math.max(0, Math.ceil(box.top)); y < Math.min(height, box.top + box.side); y++)
    for (let x = Math.max(0, Math.ceil(box.left)); x < Math.min(width, box.left + box.side); x++) {
      const u = Math.min(CLOSE - 1, Math.floor(((x + 0.5 - box.left) / box.side) * CLOSE));
      const v = Math.min(CLOSE - 1, Math.floor(((y + 0.5 - box.top) / box.side) * CLOSE));
      out[y * width + x] = near[v * CLOSE + u];
    }
  return { width, height, sure: out };
}

/** A square around what is surely a person, with room for hands and hair; null with nobody there. */
function boxAround(sure: Uint8Array, width: number, height: number): { left: number; top: number; side: number } | null {
  let [left, top, right, bottom] = [width, height, -1, -1];
  sure.forEach((v, i) => {
    if (v < 128) return;
    const x = i % width;
    const y = (i - x) / width;
    [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(bottom, y)];
  });
  if (right < left) return null;
  const side = 1.25 * Math.max(right - left + 1, bottom - top + 1);
  return { left: (left + right + 1 - side) / 2, top: (top + bottom + 1 - side) / 2, side };
}
