/**
 * Peak signal-to-noise ratio of two equally long 8-bit planes in decibels: 10·log10(255² / mean squared difference).
 * Infinity when they are the same. Common definition.
 */
export function psnr(a: Uint8Array, b: Uint8Array): number {
  if (a.length !== b.length) throw new RangeError(`psnr: planes differ in length, ${a.length} and ${b.length}`);
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] - b[i]) ** 2;
  return sum === 0 ? Number.POSITIVE_INFINITY : 10 * Math.log10((255 * 255 * a.length) / sum);
}
