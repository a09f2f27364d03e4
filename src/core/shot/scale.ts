import type { Affine, Coverage } from '../picture';
import type { PictureDescription } from './describe';

/** The same picture drawn at `factor` of its size (0.5 is half); width and height stay even. */
export function scaledPicture(picture: PictureDescription, factor: number): PictureDescription {
  if (factor === 1) return picture;
  const width = Math.max(2, 2 * Math.round((picture.width * factor) / 2));
  const height = Math.max(2, 2 * Math.round((picture.height * factor) / 2));
  const sx = picture.width / width;
  const sy = picture.height / height;
  return {
    ...picture,
    width,
    height,
    layers: picture.layers.map((layer) => ({
      ...layer,
      map: scaledMap(layer.map, sx, sy),
      coverage: layer.coverage && scaledCoverage(layer.coverage, 1 / sx, 1 / sy),
    })),
  };
}

function scaledMap(map: Affine, sx: number, sy: number): Affine {
  return { a: map.a * sx, b: map.b * sy, c: map.c, d: map.d * sx, e: map.e * sy, f: map.f };
}

function scaledCoverage(coverage: Coverage, fx: number, fy: number): Coverage {
  return coverage.kind === 'line'
    ? { ...coverage, position: coverage.position * fx, feather: coverage.feather * fx }
    : {
        ...coverage,
        points: coverage.points.map(({ x, y, soft }) => ({ x: x * fx, y: y * fy, ...(soft !== undefined && { soft: soft * fx }) })),
        feather: coverage.feather * fx,
      };
}

/** The map when the source itself was reduced `by` a whole factor beforehand. */
export function reducedSource(map: Affine, by: number): Affine {
  return { a: map.a / by, b: map.b / by, c: map.c / by, d: map.d / by, e: map.e / by, f: map.f / by };
}
