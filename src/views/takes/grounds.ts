import { say } from '@/core/words';
/** What a cut-out is seen on. */
export const GROUNDS = [
  ['checks', say`checks`],
  ['black', say`black`],
  ['white', say`white`],
  ['edge', say`its edge over the picture`],
] as const;
export type Ground = (typeof GROUNDS)[number][0];

/** Draws a picture as far as it is covered (0..255, one value a pixel) on a ground. */
export function drawOn(
  canvas: HTMLCanvasElement,
  { width, height, rgba, alpha }: { width: number; height: number; rgba: Uint8ClampedArray; alpha: ArrayLike<number> },
  ground: Ground,
): void {
  const out = new Uint8ClampedArray(rgba);
  for (let i = 0; i < alpha.length; i++) {
    const a = alpha[i] / 255;
    const [x, y] = [i % width, Math.floor(i / width)];
    const check = ((x >> 4) + (y >> 4)) & 1 ? 150 : 100;
    const behind = ground === 'black' ? 0 : ground === 'white' ? 255 : check;
    for (let c = 0; c < 3; c++) {
      const at = 4 * i + c;
      // The edge view keeps the picture, greys what is outside and draws where coverage is between.
      if (ground === 'edge') out[at] = a > 0.03 && a < 0.97 ? [255, 90, 60][c] : a >= 0.97 ? rgba[at] : rgba[at] * 0.45 + 60;
      else out[at] = rgba[at] * a + behind * (1 - a);
    }
  }
  canvas.width = width;
  canvas.height = height;
  canvas.getContext('2d')?.putImageData(new ImageData(out, width, height), 0, 0);
  canvas.dataset.drawn = ground;
}
