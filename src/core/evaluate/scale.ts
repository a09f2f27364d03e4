import { scaledEffects } from '../effects';
import type { Affine, Coverage, MotionSample } from '../picture';
import { sourceKind } from '../sources';
import { pictureWithin } from './describe';
import type { LayerDescription, PictureDescription } from './description';

/** The same picture drawn at `factor` of its size (0.5 is half); width and height stay even. */
export function scaledPicture(picture: PictureDescription, factor: number): PictureDescription {
  if (factor === 1) return picture;
  const width = Math.max(2, 2 * Math.round((picture.width * factor) / 2));
  const height = Math.max(2, 2 * Math.round((picture.height * factor) / 2));
  return {
    ...picture,
    width,
    height,
    layers: picture.layers.map((layer) => scaledLayer(layer, picture.width / width, picture.height / height, factor)),
  };
}

function scaledLayer(layer: LayerDescription, sx: number, sy: number, factor: number): LayerDescription {
  const kind = sourceKind(layer.source);
  // A picture within the picture, and what the application makes, are drawn smaller themselves.
  const picture = pictureWithin(layer.source);
  const within = picture && scaledPicture(picture, factor);
  const smaller = within !== null || kind.make !== undefined;
  const toSource = (map: Affine): Affine => (smaller ? ridden(map, sx, sy) : scaledMap(map, sx, sy));
  const stand = ({ map, coverage }: MotionSample): MotionSample => ({
    map: toSource(map),
    coverage: coverage && scaledCoverage(coverage, 1 / sx, 1 / sy),
  });
  const { map, coverage } = stand(layer);
  return {
    ...layer,
    source: within && kind.around ? kind.around(layer.source, within) : layer.source,
    size: smaller ? { width: Math.round(layer.size.width / sx), height: Math.round(layer.size.height / sy) } : layer.size,
    map,
    coverage,
    effects: scaledEffects(layer.effects, factor),
    motion: layer.motion && {
      rest: layer.motion.rest && scaledCoverage(layer.motion.rest, 1 / sx, 1 / sy),
      samples: thinned(layer.motion.samples, factor).map(({ ride, ...sample }) => ({
        ...stand(sample),
        ride: ride && ridden(ride, sx, sy),
      })),
    },
  };
}

/** As many of the samples of an exposure as a smaller picture needs, three at least. */
function thinned<S>(samples: readonly S[], factor: number): readonly S[] {
  const count = Math.max(3, Math.ceil(samples.length * factor));
  return count >= samples.length
    ? samples
    : Array.from({ length: count }, (_, k) => samples[Math.floor(((k + 0.5) * samples.length) / count)]);
}

/** A map from the frame to the frame, both drawn smaller. */
function ridden({ a, b, c, d, e, f }: Affine, sx: number, sy: number): Affine {
  return { a, b: (b * sy) / sx, c: c / sx, d: (d * sx) / sy, e, f: f / sy };
}

function scaledMap(map: Affine, sx: number, sy: number): Affine {
  return { a: map.a * sx, b: map.b * sy, c: map.c, d: map.d * sx, e: map.e * sy, f: map.f };
}

function scaledCoverage(coverage: Coverage, fx: number, fy: number): Coverage {
  switch (coverage.kind) {
    case 'line':
      return { ...coverage, position: coverage.position * fx, feather: coverage.feather * fx };
    case 'path':
      return {
        ...coverage,
        points: coverage.points.map(({ x, y, soft }) => ({ x: x * fx, y: y * fy, ...(soft !== undefined && { soft: soft * fx }) })),
        feather: coverage.feather * fx,
      };
    case 'shape':
      return {
        ...coverage,
        points: coverage.points.map(({ x, y }) => ({ x: x * fx, y: y * fy })),
        inside: coverage.inside * fx,
        outside: coverage.outside * fx,
      };
    case 'matte':
      return { ...coverage, map: scaledMap(coverage.map, 1 / fx, 1 / fy) };
    case 'silhouette':
      return { ...coverage, map: scaledMap(coverage.map, 1 / fx, 1 / fy), grow: coverage.grow * fx, feather: coverage.feather * fx };
    case 'many':
      return { ...coverage, parts: coverage.parts.map((part) => ({ ...part, coverage: scaledCoverage(part.coverage, fx, fy) })) };
  }
}

/** The map when the source itself was reduced `by` a whole factor beforehand. */
export function reducedSource(map: Affine, by: number): Affine {
  return { a: map.a / by, b: map.b / by, c: map.c / by, d: map.d / by, e: map.e / by, f: map.f / by };
}
