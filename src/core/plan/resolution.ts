import type { Pixels } from '../units';
import { say } from '../words';
import type { PlannedShot } from './schema';

export interface ResolutionNeed {
  /** Captured size needed, as held, pixels. */
  width: Pixels;
  height: Pixels;
  /** What the camera has over what is needed, 1 is exactly enough. */
  ratio: number;
  factors: { what: string; factor: number }[];
  verdict: 'good' | 'fix';
  text: string;
}

/**
 * Captured size a shot needs: delivered size × scale moves × overscan × stabilising, and × what is cut away when the
 * delivered or another shape of frame is cut from the captured one. Enlarging past 100 % loses sharpness (common practice).
 */
export function resolutionNeed(
  delivered: { width: Pixels; height: Pixels },
  captured: { width: Pixels; height: Pixels },
  delivery: PlannedShot['delivery'],
  dollyScale: number,
): ResolutionNeed {
  const shape = captured.width / captured.height;
  // Width of the captured picture that must be `delivered.width` after filling the delivered frame, and the same for the other shape.
  const fill = (w: number, h: number) => Math.max(w, h * shape);
  const main = fill(delivered.width, delivered.height);
  const longSide = Math.max(delivered.width, delivered.height);
  const { cropAspect } = delivery;
  const cropped =
    cropAspect === 0 ? 0 : fill(cropAspect >= 1 ? longSide : longSide * cropAspect, cropAspect >= 1 ? longSide / cropAspect : longSide);
  const crop = Math.max(1, cropped / main);
  const factors = [
    { what: say`cut from the captured shape`, factor: main / delivered.width },
    { what: say`scale moves`, factor: delivery.scale / 100 },
    { what: say`dolly zoom`, factor: dollyScale },
    { what: say`overscan`, factor: delivery.overscan / 100 },
    { what: say`stabilising`, factor: delivery.stabilise / 100 },
    { what: say`another shape of frame`, factor: crop },
  ].filter((f) => Math.abs(f.factor - 1) > 1e-6);
  const all = factors.reduce((product, f) => product * f.factor, 1);
  const width = Math.ceil(delivered.width * all - 1e-6);
  const height = Math.ceil((delivered.width * all) / shape - 1e-6);
  const ratio = captured.width / width;
  const text =
    ratio >= 0.999
      ? say`${captured.width}×${captured.height} is enough: ${width}×${height} is needed.`
      : say`${captured.width}×${captured.height} is too small: ${width}×${height} is needed, so at the largest move a pixel is drawn ${(1 / ratio).toFixed(2)} times its size. Film at ${standardSize(width, height)}, or make the moves smaller.`;
  return { width, height, ratio, factors, verdict: ratio >= 0.999 ? 'good' : 'fix', text };
}

/** Sizes cameras offer, longer side first. Common practice. */
const SIZES = [
  [1280, 720],
  [1920, 1080],
  [2560, 1440],
  [2704, 1520],
  [3840, 2160],
  [4096, 2160],
  [5120, 2880],
  [6144, 3456],
  [7680, 4320],
] as const;

function standardSize(width: number, height: number): string {
  const [long, short] = [Math.max(width, height), Math.min(width, height)];
  const found = SIZES.find(([w, h]) => w >= long - 1 && h >= short - 1);
  return found
    ? `${found[0]}×${found[1]}`
    : say`more than ${SIZES[SIZES.length - 1][0]}×${SIZES[SIZES.length - 1][1]} (no common camera does)`;
}
