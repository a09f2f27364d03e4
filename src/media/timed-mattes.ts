import { type LayerDescription, reducedSource } from '@/core/evaluate';
import { type Coverage, coverageOfGrey, type MatteCoverage, type Mattes, type Motion, matteKey, type Raster } from '@/core/picture';
import type { Reduced } from './pictures';

/** A coverage that is one frame of a cut-out over time. */
export type TimedMatte = MatteCoverage & { time: number };

function* timedIn(coverage: Coverage | null): Generator<TimedMatte> {
  if (coverage?.kind === 'many') for (const part of coverage.parts) yield* timedIn(part.coverage);
  else if (coverage?.kind === 'matte' && coverage.time !== undefined) yield coverage as TimedMatte;
}

/** The frames of cut-outs over time that a layer needs, each once, in the order they are asked for. */
export function timedMattes({ coverage, motion }: Pick<LayerDescription, 'coverage' | 'motion'>): TimedMatte[] {
  const all = new Map<string, TimedMatte>();
  const note = (c: Coverage | null) => {
    for (const timed of timedIn(c)) all.set(matteKey(timed), timed);
  };
  note(coverage);
  note(motion?.rest ?? null);
  for (const sample of motion?.samples ?? []) note(sample.coverage);
  return [...all.values()];
}

/** Frames of cut-outs over time by the names they are asked for, and by how much each is reduced. */
export interface ReadMattes {
  rasters: Mattes;
  reduced: ReadonlyMap<string, number>;
}

/** Reads what `frame` gives of each: the grey picture as coverage. */
export async function readMattes(
  timed: readonly TimedMatte[],
  frame: (matte: TimedMatte, i: number) => Promise<Reduced>,
): Promise<ReadMattes> {
  const rasters = new Map<string, Raster>();
  const reduced = new Map<string, number>();
  await Promise.all(
    timed.map(async (matte, i) => {
      const { planes, reduce } = await frame(matte, i);
      rasters.set(matteKey(matte), { width: planes.width, height: planes.height, alpha: coverageOfGrey(planes) });
      reduced.set(matteKey(matte), reduce);
    }),
  );
  return { rasters, reduced };
}

/** A coverage that looks into its cut-outs as they were read, at the size they were read at. */
export function fitted<C extends Coverage | null>(coverage: C, reduced: ReadonlyMap<string, number>): C {
  if (coverage === null || reduced.size === 0) return coverage;
  if (coverage.kind === 'many')
    return { ...coverage, parts: coverage.parts.map((part) => ({ ...part, coverage: fitted(part.coverage, reduced) })) };
  if (coverage.kind !== 'matte' || coverage.time === undefined) return coverage;
  return { ...coverage, map: reducedSource(coverage.map, reduced.get(matteKey(coverage)) ?? 1) };
}

/** The same through an exposure. */
export const fittedMotion = (motion: Motion | null, reduced: ReadonlyMap<string, number>): Motion | null =>
  motion && {
    ...motion,
    rest: fitted(motion.rest, reduced),
    samples: motion.samples.map((sample) => ({ ...sample, coverage: fitted(sample.coverage, reduced) })),
  };
