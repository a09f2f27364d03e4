import type { Mask } from './grid';
import type { SeamInput } from './seam';

function turned<Values extends Uint8Array | Float32Array>(data: Values, width: number, height: number): Values {
  const out = data.slice() as Values;
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[x * height + y] = data[y * width + x];
  return out;
}

/** The same with columns for rows: a seam sought through it runs from left to right, the first take above it and the second below. */
export function inputAcross(input: SeamInput): SeamInput {
  const { width, height } = input;
  const masks = (all: readonly (Mask | null)[]) =>
    all.map((mask) => mask && { width: height, height: width, data: turned(mask.data, width, height) });
  return {
    width: height,
    height: width,
    first: masks(input.first),
    second: masks(input.second),
    firstShadow: masks(input.firstShadow),
    secondShadow: masks(input.secondShadow),
    difference: turned(input.difference, width, height),
    set: turned(input.set, width, height),
  };
}
