import { blackPlanes, type ComposeLayer, type Coverage, compose, fromRgba, type Planes, wholeLayer } from '@/core/picture';
import { type LayerDescription, type PictureDescription, reducedSource } from '@/core/shot';
import { between } from './flow';
import type { Pictures, Reduced } from './pictures';

/** Gives the frame of a take shown at a second; asked in the order the picture's layers are drawn. */
export type TakeFrames = (takeId: string, mediaId: string, time: number, path: string) => Promise<Reduced>;

function evenColour({ r, g, b }: { r: number; g: number; b: number }): Planes {
  const pixel = [r, g, b, 1].map((v) => Math.round(255 * v));
  return fromRgba(Uint8Array.from([...pixel, ...pixel, ...pixel, ...pixel]), 2, 2);
}

/** A kept picture; one that cannot be read is missing here, where that is let pass. */
function kept<T>({ faults, lenient }: Pictures, id: string, of: ReadonlyMap<string, T>): T | undefined {
  const fault = faults.get(id);
  if (fault && !lenient) throw fault;
  return of.get(id);
}

/** The files of the cut-outs and outlines a coverage names. */
function* coverageFiles(coverage: Coverage | null): Generator<string> {
  if (coverage?.kind === 'many') for (const part of coverage.parts) yield* coverageFiles(part.coverage);
  else if (coverage?.kind === 'matte') yield coverage.matteId;
  else if (coverage?.kind === 'figure') yield coverage.figureId;
}

async function sourceOf(layer: LayerDescription, path: string, frames: TakeFrames, pictures: Pictures): Promise<Reduced> {
  const { source } = layer;
  if (source.kind === 'colour') return { planes: evenColour(source), reduce: 1 };
  if (source.kind === 'still') return kept(pictures, source.mediaId, pictures.stills) ?? { planes: blackPlanes(2, 2), reduce: 1 };
  if (source.kind === 'picture') {
    const planes = blackPlanes(source.picture.width, source.picture.height);
    await paint(source.picture, planes, frames, pictures, `${path}/`);
    return { planes, reduce: 1 };
  }
  const here = await frames(source.takeId, source.mediaId, source.time, path);
  if (!source.next) return here;
  const next = await frames(source.takeId, source.mediaId, source.next.time, `${path}+`);
  if (source.next.flow) return { ...here, planes: await between(here.planes, next.planes, source.next.share) };
  const planes = blackPlanes(here.planes.width, here.planes.height);
  compose([wholeLayer(here.planes), wholeLayer(next.planes, { opacity: source.next.share })], planes);
  return { ...here, planes };
}

/** Draws a picture from its description: sources first, all at once, then the layers over one another. The only way anything is drawn. */
export async function paint(picture: PictureDescription, out: Planes, frames: TakeFrames, pictures: Pictures, path = ''): Promise<void> {
  // All are waited for, also where one fails: the takes are read in order.
  const asked = await Promise.allSettled(
    picture.layers.map(async (layer): Promise<ComposeLayer> => {
      for (const id of coverageFiles(layer.coverage)) kept(pictures, id, pictures.mattes);
      const { planes, reduce } = await sourceOf(layer, `${path}${picture.shotId}.${layer.layerId}`, frames, pictures);
      const { map, colour, coverage, opacity, blend, edge, soften, motion } = layer;
      return {
        planes,
        map: layer.source.kind === 'colour' ? WHOLE : reducedSource(map, reduce),
        colour,
        coverage,
        opacity,
        blend,
        edge: layer.source.kind === 'colour' ? 'mirror' : edge,
        soften,
        motion: motion && { ...motion, stands: motion.stands.map((stand) => ({ ...stand, map: reducedSource(stand.map, reduce) })) },
      };
    }),
  );
  const layers = asked.map((layer) => {
    if (layer.status === 'rejected') throw layer.reason;
    return layer.value;
  });
  compose(layers, out, pictures.mattes);
}

/** An even colour is the same wherever it is looked at. */
const WHOLE = { a: 0, b: 0, c: 1, d: 0, e: 0, f: 1 };

/** Every file a picture needs: those of its takes, kept pictures and cut-outs. */
export function* filesOf(picture: PictureDescription): Generator<string> {
  for (const { source, coverage } of picture.layers) {
    yield* coverageFiles(coverage);
    if (source.kind === 'picture') yield* filesOf(source.picture);
    if (source.kind === 'take' || source.kind === 'still') yield source.mediaId;
  }
}

/** Every take a picture asks for, with its second, in the order it is asked. */
export function* asked(picture: PictureDescription, path = ''): Generator<{ takeId: string; mediaId: string; time: number; path: string }> {
  for (const layer of picture.layers) {
    const here = `${path}${picture.shotId}.${layer.layerId}`;
    const { source } = layer;
    if (source.kind === 'picture') yield* asked(source.picture, `${here}/`);
    if (source.kind !== 'take') continue;
    yield { takeId: source.takeId, mediaId: source.mediaId, time: source.time, path: here };
    if (source.next) yield { takeId: source.takeId, mediaId: source.mediaId, time: source.next.time, path: `${here}+` };
  }
}
