import { numberKind } from '../motion';
import { randomAt } from '../room';
import type { Pixels, Unit } from '../units';
import { say } from '../words';
import { cellsOf } from './cells';
import type { EffectKind } from './kind';
import { fieldAt } from './noise-field';

/** How soon each pixel goes, 0 first and 1 last, evenly spread; kept for the frames after. */
const orders = new Map<string, Float32Array>();

function orderOf(width: Pixels, height: Pixels, size: Pixels, seed: number, pieces: boolean): Float32Array {
  const key = `${width}x${height} ${size.toFixed(2)} ${seed} ${pieces}`;
  const known = orders.get(key);
  if (known) return known;
  const out = new Float32Array(width * height);
  if (pieces) {
    const { of, x } = cellsOf(width, height, size, seed);
    const soon = Float32Array.from(x, (_, k) => randomAt(seed + 1, k)());
    for (let i = 0; i < out.length; i++) out[i] = soon[of[i]];
  } else {
    const [coarse, fine] = [fieldAt(seed, 0), fieldAt(seed, 1)];
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) out[i] = coarse(x / size, y / size) + 0.4 * fine((3 * x) / size, (3 * y) / size);
    // By rank, so that at half of the way half of the picture is gone.
    const sorted = Float32Array.from({ length: 1024 }, (_, k) => out[Math.floor((k * (out.length - 1)) / 1023 / 7) * 7]).sort();
    for (let i = 0; i < out.length; i++) {
      let [low, high] = [0, 1023];
      while (low < high) {
        const middle = (low + high) >> 1;
        if (sorted[middle] < out[i]) low = middle + 1;
        else high = middle;
      }
      out[i] = low / 1023;
    }
  }
  orders.set(key, out);
  for (const oldest of orders.keys()) if (orders.size > 4) orders.delete(oldest);
  return out;
}

/** The picture falls apart: in patches of noise or in random pieces, one after another, until nothing is left. */
export const dissolve: EffectKind<{ gone: Unit; size: Pixels; soft: Unit; pieces: boolean; seed: number }> = {
  kind: 'dissolve',
  name: say`Dissolve away`,
  about: say`Falls apart in grains or pieces until nothing is left.`,
  numbers: {
    amount: numberKind('Gone', '%', 0, 100, 0, 1, 1),
    pieces: numberKind(say`In: 0 patches, 1 pieces`, '', 0, 1, 0),
    size: numberKind(say`Size, of the height`, '%', 0.3, 50, 6, 0.1, 1),
    soft: numberKind('Soft', '%', 0, 50, 4, 1, 0),
    seed: numberKind('Seed', '', 0, 9999, 1),
  },
  usual: { amount: 50 },
  resolve: ({ amount, pieces, size, soft, seed }, { height }) =>
    amount > 0
      ? {
          gone: amount / 100,
          size: Math.max(1, (size / 100) * height),
          soft: soft / 100,
          pieces: Math.round(pieces) === 1,
          seed: Math.round(seed),
        }
      : null,
  scale: ({ size, ...rest }, factor) => ({ ...rest, size: Math.max(1, size * factor) }),
  reach: () => 0,
  clears: ({ width, height }, { gone, size, soft, pieces, seed }) => {
    const order = orderOf(width, height, size, seed, pieces);
    // From nothing gone to all gone, the soft edge included.
    const front = gone * (1 + soft);
    const out = new Uint8Array(order.length);
    for (let i = 0; i < out.length; i++) {
      const left = soft > 0 ? (order[i] - front) / soft + 1 : order[i] > front || gone === 0 ? 1 : 0;
      out[i] = left <= 0 ? 0 : left >= 1 ? 255 : 255 * left + 0.5;
    }
    return out;
  },
};
