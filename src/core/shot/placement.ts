import { type Layer, layerNumber, type Scene } from '../layer';
import type { Affine } from '../picture';
import type { Frames, Pixels } from '../units';
import type { Correction, Media, Project } from './schema';

type Size = Pick<Project['frame'], 'width' | 'height'>;

/**
 * Output pixels to source pixels: the source fills the frame (its middle is kept), enlarged by `overscan` per cent,
 * and the measured move is followed so that the picture stands where the reference stood.
 */
export function sourceMap(
  { width, height }: Size,
  media: Pick<Media, 'width' | 'height'>,
  overscan: number,
  move: Omit<Correction['moves'][number], 'time'> | null,
): Affine {
  const fill = Math.max(width / media.width, height / media.height) * (overscan / 100);
  const angle = ((move?.turn ?? 0) * Math.PI) / 180;
  const scale = move?.scale ?? 1;
  const c = (Math.cos(angle) * scale) / fill;
  const s = (Math.sin(angle) * scale) / fill;
  const cx = media.width / 2 + (move?.dx ?? 0);
  const cy = media.height / 2 + (move?.dy ?? 0);
  return { a: c, b: -s, c: cx - (c * width) / 2 + (s * height) / 2, d: s, e: c, f: cy - (s * width) / 2 - (c * height) / 2 };
}

/** Where a layer's picture goes from where it would lie: scaled and turned (clockwise as seen) about its pivot, then moved. Frame pixels. */
export function layerMove(scene: Scene, layer: Layer, frame: Frames, { width, height }: Size): Affine {
  const at = (name: Parameters<typeof layerNumber>[2]) => layerNumber(scene, layer, name, frame);
  const px: Pixels = width * (0.5 + at('pivotX') / 100);
  const py: Pixels = height * (0.5 + at('pivotY') / 100);
  const angle = (at('turn') * Math.PI) / 180;
  const scale = at('scale') / 100;
  const [c, s] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
  const [x, y] = [px + (at('x') / 100) * width, py + (at('y') / 100) * height];
  return { a: c, b: -s, c: x - c * px + s * py, d: s, e: c, f: y - s * px - c * py };
}
