import { type Affine, meanOfMaps, type Planes, samplesFor, travelOf } from '../picture';

/**
 * A picture streaked along a movement: the mean of it at even stages of the way. `at` gives where it lies (pixels of the result to
 * pixels of the picture) from -0.5 to 0.5 of the way. Beyond its edges it goes on mirrored.
 */
export function streaked(planes: Planes, at: (share: number) => Affine): Planes {
  const { width, height } = planes;
  const [begin, middle, end] = [-0.5, 0, 0.5].map(at);
  const count = samplesFor(travelOf(begin, middle, width, height) + travelOf(middle, end, width, height));
  if (count < 2) return planes;
  return meanOfMaps(
    planes,
    Array.from({ length: count }, (_, k) => at((k + 0.5) / count - 0.5)),
  );
}
