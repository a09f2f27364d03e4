import type { Project } from '../document';
import { type Layer, layerNumber, type Scene } from '../layer';
import type { Affine } from '../picture';
import type { Frames, Pixels } from '../units';

type Size = Pick<Project['frame'], 'width' | 'height'>;

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
