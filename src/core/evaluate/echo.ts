import { type AppliedEffect, appliedEffect } from '../effects';
import { type Affine, composeAffine, inverted, type Motion, STAY } from '../picture';
import type { Again, Size } from '../sources';
import type { LayerDescription } from './description';

/** Black, whatever was there. */
function black(frame: Size): AppliedEffect[] {
  const of = (part: string, whole: number, each: number) => ['', 'R', 'G', 'B'].map((c) => [part + c, c ? each : whole] as const);
  const numbers = Object.fromEntries([...of('lift', 0, 0), ...of('gamma', 100, 100), ...of('gain', 0, 100)]);
  return [appliedEffect('lift gamma gain', numbers, { ...frame, index: 0 })].filter((dark) => dark !== null);
}

/** Places about the middle of a disc, evenly spread (Vogel 1979): as many as make an outline smooth. */
const DISC = Array.from({ length: 24 }, (_, k) => {
  const [r, a] = [Math.sqrt((k + 0.5) / 24), k * Math.PI * (3 - Math.sqrt(5))];
  return [r * Math.cos(a), r * Math.sin(a)] as const;
});

/**
 * A layer shown once more: `shown` is what it was described as, `move` how the echo lies in the frame (from where the layer lies to where
 * the echo does). What its masks let through goes along: as one stand of an exposure, or as many about a disc where the outline is soft.
 */
export function echoed(
  shown: LayerDescription,
  again: Again,
  own: Pick<LayerDescription, 'layerId' | 'opacity' | 'blend' | 'effects'>,
  move: Affine,
  frame: Size,
): LayerDescription {
  const back = inverted(move);
  const soft = (again.soft / 100) * frame.height;
  const stands = soft > 0 ? DISC.map(([x, y]) => ({ ...STAY, c: (x * soft) / 2, f: (y * soft) / 2 })) : [STAY, STAY];
  const rides = shown.coverage !== null || shown.motion !== null || soft > 0;
  const still = soft === 0 && (isStay(move) || !rides);
  const motion = still
    ? shown.motion
    : stood(
        shown,
        stands.map((offset) => composeAffine(back, inverted(offset))),
      );
  return {
    ...shown,
    ...own,
    opacity: shown.opacity * own.opacity,
    map: composeAffine(shown.map, back),
    coverage: still ? shown.coverage : null,
    effects: [...shown.effects, ...(again.shown === 'as a shadow' ? black(frame) : []), ...own.effects],
    motion,
  };
}

const isStay = ({ a, b, c, d, e, f }: Affine) => a === 1 && b === 0 && c === 0 && d === 0 && e === 1 && f === 0;

/** The layer's picture and what its masks let through, at each of the stands (from the frame to where it lies without them). */
function stood(shown: LayerDescription, stands: readonly Affine[]): Motion {
  const { motion } = shown;
  // One that smears already is taken as it is in the middle of the exposure, unless its masks ride on it.
  const rest = motion?.rest ?? shown.coverage;
  const inner = motion?.rest ? motion.samples.map((s) => ({ map: s.map, ride: s.ride ?? STAY })) : [{ map: shown.map, ride: STAY }];
  return {
    rest,
    samples: stands.flatMap((stand) =>
      inner.map(({ map, ride }) => ({ map: composeAffine(map, stand), coverage: null, ride: composeAffine(ride, stand) })),
    ),
  };
}
