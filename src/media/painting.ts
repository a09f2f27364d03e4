import { clearedBy, isClearing, tablesOf, withEffect } from '@/core/effects';
import { type LayerDescription, type PictureDescription, pictureWithin, reducedSource } from '@/core/evaluate';
import {
  type Affine,
  blackPlanes,
  type ComposeLayer,
  type Coverage,
  compose,
  composeAffine,
  enlarged,
  inverted,
  type Motion,
  type Planes,
  type Raster,
  recoloured,
  seenThrough,
  wholeLayer,
} from '@/core/picture';
import { type FrameRequest, type Size, type SourceDescription, sourceKind } from '@/core/sources';
import { say } from '@/core/words';
import { SourceFault } from './fault';
import { between } from './flow';
import { asReduced, type Pictures, type Reduced } from './pictures';
import { fitted, fittedMotion, readMattes, timedMattes } from './timed-mattes';
import { titlePicture } from './titles';

/** Gives the frame of a take shown at a second; asked in the order the picture's layers are drawn. */
export type TakeFrames = (takeId: string, mediaId: string, time: number, path: string) => Promise<Reduced>;

/** What a source is read with: the frames of takes, the kept pictures, and the layer's own path. */
interface ReadEnv {
  frames: TakeFrames;
  pictures: Pictures;
  path: string;
}
type SourceReader<K extends SourceDescription['kind']> = (
  source: Extract<SourceDescription, { kind: K }>,
  env: ReadEnv,
) => Promise<Reduced>;

/** A kept picture; one that cannot be read is missing here, where that is let pass. */
function kept<T>({ faults, lenient }: Pictures, id: string, of: ReadonlyMap<string, T>): T | undefined {
  const fault = faults.get(id);
  if (fault && !lenient) throw fault;
  return of.get(id);
}

/** The files of the cut-outs and outlines a coverage names; of those over time only where they are asked for. */
function* coverageFiles(coverage: Coverage | null, timed: boolean): Generator<string> {
  if (coverage?.kind === 'many') for (const part of coverage.parts) yield* coverageFiles(part.coverage, timed);
  else if (coverage?.kind === 'matte' && (timed || coverage.time === undefined)) yield coverage.matteId;
  else if (coverage?.kind === 'silhouette') yield coverage.silhouetteId;
}

/** A take as it would have been filmed from where its reference was. */
const readTake: SourceReader<'take'> = async (take, env) => {
  const read = await readAsFilmed(take, env);
  if (!take.perspective) return read;
  const { planes, reduce, alpha } = read;
  const from = enlarged(take.perspective, 1 / reduce);
  // Alpha lies as brightness does.
  const seen = alpha && { ...alpha, alpha: seenThrough({ ...planes, y: alpha.alpha }, from).y };
  return { planes: seenThrough(planes, from), reduce, ...(seen && { alpha: seen }) };
};

/** The frame of a take at a second; between two of its frames both, blended or moved towards each other. */
const readAsFilmed: SourceReader<'take'> = async ({ takeId, mediaId, time, next }, { frames, path }) => {
  const here = await frames(takeId, mediaId, time, path);
  if (!next) return here;
  const after = await frames(takeId, mediaId, next.time, `${path}+`);
  if (next.flow) return { ...here, planes: await between(here.planes, after.planes, next.share) };
  const planes = blackPlanes(here.planes.width, here.planes.height);
  compose([wholeLayer(here.planes), wholeLayer(after.planes, { opacity: next.share })], planes);
  return { ...here, planes, ...blendedAlpha(here, after, next.share) };
};

/** The alpha of a picture between two frames. */
function blendedAlpha({ planes: { width, height, y }, alpha }: Reduced, after: Reduced, share: number): Pick<Reduced, 'alpha'> {
  if (!alpha && !after.alpha) return {};
  const [a, b] = [alpha?.alpha, after.alpha?.alpha];
  return { alpha: { width, height, alpha: y.map((_, i) => Math.round((1 - share) * (a?.[i] ?? 255) + share * (b?.[i] ?? 255))) } };
}

/** A picture from a file, with where it is clear. */
const readPicture: SourceReader<'picture'> = async ({ mediaId }, { pictures }) =>
  kept(pictures, mediaId, pictures.stills) ?? {
    planes: blackPlanes(2, 2),
    reduce: 1,
    alpha: { width: 2, height: 2, alpha: new Uint8Array(4) },
  };

const readStill: SourceReader<'still'> = async ({ mediaId }, { pictures }) =>
  kept(pictures, mediaId, pictures.stills) ?? { planes: blackPlanes(2, 2), reduce: 1 };

/** A title; in a preview one whose own font cannot be read stands in a font that ships. */
const readTitle: SourceReader<'title'> = async (source, { pictures }) => {
  try {
    return await titlePicture(source);
  } catch (error) {
    const { fontId } = source.title;
    if (fontId && pictures.lenient) return titlePicture({ ...source, title: { ...source.title, fontId: null } });
    throw fontId ? new SourceFault(fontId, 'picture', say`The font of a title cannot be read.`) : error;
  }
};

/** The pixel half of the kinds of source that read files. */
const READERS: { [K in SourceDescription['kind']]?: SourceReader<K> } = {
  take: readTake,
  still: readStill,
  picture: readPicture,
  title: readTitle,
};

/** A layer that is seen only where its picture is: the picture's own alpha, kept under a name, beside its masks. */
function clearIn({ map, coverage, motion }: LayerDescription, matteId: string, reduce: number) {
  const seen = (by: Affine): Coverage => ({ kind: 'matte', matteId, map: reducedSource(by, reduce) });
  const both = (masks: Coverage | null, by: Affine): Coverage =>
    masks === null
      ? seen(by)
      : {
          kind: 'many',
          parts: [
            { coverage: masks, combine: 'add', invert: false },
            { coverage: seen(by), combine: 'intersect', invert: false },
          ],
        };
  const atRest = ({ map: there, ride }: Motion['samples'][number]) => (ride ? composeAffine(there, inverted(ride)) : there);
  return {
    map,
    coverage: both(coverage, map),
    motion: motion && {
      rest: motion.rest && both(motion.rest, atRest(motion.samples[0])),
      samples: motion.samples.map((s) => (motion.rest ? s : { ...s, coverage: both(s.coverage, s.map) })),
    },
  };
}

/** Where a layer's picture is seen: its own alpha, less what its effects clear; null for everywhere. */
function seenOf({ planes, alpha }: Reduced, { colour, effects }: LayerDescription): Raster | null {
  const clearing = effects.filter(isClearing);
  if (clearing.length === 0) return alpha ?? null;
  const left = clearedBy(recoloured(planes, colour), clearing, alpha?.alpha);
  return left && { width: planes.width, height: planes.height, alpha: left };
}

/** What the application made last, by what it says of itself: most of it is the same from frame to frame. */
const made = new Map<string, Reduced>();
const MADE = 6;

function madeHere(source: SourceDescription, size: Size): Reduced | null {
  const kind = sourceKind(source);
  if (!kind.make) return null;
  const key = JSON.stringify([source, size.width, size.height]);
  const known = made.get(key);
  if (known) return known;
  const fresh = asReduced(kind.make(source, size), 1);
  made.set(key, fresh);
  if (made.size > MADE) made.delete(made.keys().next().value as string);
  return fresh;
}

async function sourceOf({ source, size }: LayerDescription, env: ReadEnv): Promise<Reduced> {
  const within = pictureWithin(source);
  if (within) {
    const planes = blackPlanes(within.width, within.height);
    await paint(within, planes, env.frames, env.pictures, `${env.path}/`);
    return { planes, reduce: 1 };
  }
  const made = madeHere(source, size);
  if (made) return made;
  const read = READERS[source.kind] as SourceReader<SourceDescription['kind']> | undefined;
  if (!read) throw new Error(say`Nothing reads sources of the kind “${source.kind}”.`);
  return read(source, env);
}

/** Draws a picture from its description: sources first, all at once, then the layers over one another. The only way anything is drawn. */
export async function paint(picture: PictureDescription, out: Planes, frames: TakeFrames, pictures: Pictures, path = ''): Promise<void> {
  const mattes = new Map(pictures.mattes);
  // All are waited for, also where one fails: the takes are read in order.
  const asked = await Promise.allSettled(
    picture.layers.map(async (layer): Promise<ComposeLayer> => {
      for (const id of coverageFiles(layer.coverage, false)) kept(pictures, id, pictures.mattes);
      for (const id of tablesOf(layer.effects)) kept(pictures, id, pictures.tables);
      const own = `${path}${picture.shotId}.${layer.layerId}`;
      const [read, { rasters, reduced }] = await allOf([
        sourceOf(layer, { frames, pictures, path: own }),
        readMattes(timedMattes(layer), ({ matteId, time }, i) => frames('', matteId, time, mattePath(own, i))),
      ]);
      for (const [key, raster] of rasters) mattes.set(key, raster);
      const { endless, shows } = sourceKind(layer.source);
      const { colour, opacity, blend, edge, effects } = layer;
      const { planes, reduce } = read;
      const alpha = seenOf(read, layer);
      const key = `${own}#alpha`;
      if (alpha) mattes.set(key, alpha);
      const { map, coverage, motion } = alpha ? clearIn(layer, key, reduce) : layer;
      return {
        planes,
        map: endless ? WHOLE : reducedSource(map, reduce),
        colour,
        coverage: fitted(coverage, reduced),
        opacity,
        blend,
        edge: endless ? 'mirror' : edge,
        below: shows === 'below',
        effects: effects.map((effect) => (before: Planes) => withEffect(before, effect, pictures.tables)),
        motion:
          shows === 'below'
            ? null
            : fittedMotion(
                motion && { ...motion, samples: motion.samples.map((sample) => ({ ...sample, map: reducedSource(sample.map, reduce) })) },
                reduced,
              ),
      };
    }),
  );
  const layers = asked.map((layer) => {
    if (layer.status === 'rejected') throw layer.reason;
    return layer.value;
  });
  compose(layers, out, mattes);
}

/** Both, once neither is at work any more; where one failed, its reason. */
async function allOf<A, B>([a, b]: [Promise<A>, Promise<B>]): Promise<[A, B]> {
  await Promise.allSettled([a, b]);
  return [await a, await b];
}

/** The path of a frame of a layer's cut-out over time. */
const mattePath = (layer: string, i: number) => `${layer}~${i}`;

/** An even colour is the same wherever it is looked at. */
const WHOLE = { a: 0, b: 0, c: 1, d: 0, e: 0, f: 1 };

/** Every file a picture needs: those of its takes, kept pictures and cut-outs. */
export function* filesOf(picture: PictureDescription): Generator<string> {
  for (const { source, coverage, effects } of picture.layers) {
    yield* coverageFiles(coverage, true);
    yield* tablesOf(effects);
    const within = pictureWithin(source);
    if (within) yield* filesOf(within);
    const kind = sourceKind(source);
    yield* kind.stills(source);
    for (const { mediaId } of kind.requests(source)) yield mediaId;
  }
}

/** Every frame of a take that a picture asks for, in the order it is asked; two of one layer are told apart by their path. */
export function* asked(picture: PictureDescription, path = ''): Generator<FrameRequest & { path: string }> {
  for (const layer of picture.layers) {
    const here = `${path}${picture.shotId}.${layer.layerId}`;
    const within = pictureWithin(layer.source);
    if (within) yield* asked(within, `${here}/`);
    for (const [i, request] of sourceKind(layer.source).requests(layer.source).entries()) yield { ...request, path: here + '+'.repeat(i) };
    for (const [i, { matteId, time }] of timedMattes(layer).entries())
      yield { takeId: '', mediaId: matteId, time, path: mattePath(here, i) };
  }
}
