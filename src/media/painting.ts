import { blackPlanes, type ComposeLayer, compose, fromRgba, type Planes, wholeLayer } from '@/core/picture';
import { type LayerDescription, type PictureDescription, reducedSource } from '@/core/shot';
import { between } from './flow';
import type { Pictures } from './pictures';

/** A decoded frame of a take, reduced by a whole factor. */
export interface TakeFrame {
  planes: Planes;
  reduce: number;
}

/** Gives the frame of a take shown at a second; asked in the order the picture's layers are drawn. */
export type TakeFrames = (takeId: string, mediaId: string, time: number, path: string) => Promise<TakeFrame>;

function evenColour({ r, g, b }: { r: number; g: number; b: number }): Planes {
  const pixel = [r, g, b, 1].map((v) => Math.round(255 * v));
  return fromRgba(Uint8Array.from([...pixel, ...pixel, ...pixel, ...pixel]), 2, 2);
}

async function sourceOf(layer: LayerDescription, path: string, frames: TakeFrames, pictures: Pictures): Promise<TakeFrame> {
  const { source } = layer;
  if (source.kind === 'colour') return { planes: evenColour(source), reduce: 1 };
  if (source.kind === 'still') return { planes: pictures.stills.get(source.mediaId) ?? blackPlanes(2, 2), reduce: 1 };
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
  const layers = await Promise.all(
    picture.layers.map(async (layer): Promise<ComposeLayer> => {
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
  compose(layers, out, pictures.mattes);
}

/** An even colour is the same wherever it is looked at. */
const WHOLE = { a: 0, b: 0, c: 1, d: 0, e: 0, f: 1 };

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
