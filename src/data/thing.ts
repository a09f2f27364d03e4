import { footageOf, type Project, type Take } from '@/core/document';
import { changedBox, type Luma, medianLuma, restlessIn, shrink, structureEdges, withoutRestless } from '@/core/measure';
import type { Facts, PictureBox } from '@/core/moves';
import type { Picture } from '@/media/picture';
import { isPlate } from './media';
import { takePicture } from './pictures';
import { ofOneSize } from './set-up';

/** The brightness of a picture for the screen (BT.709 weights), at half its size. */
function brightness({ width, height, rgba }: Picture): Luma {
  const [w, h] = [width >> 1, height >> 1];
  const data = new Uint8Array(w * h);
  for (let y = 0, out = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const at = 4 * (2 * y * width + 2 * x);
      data[out++] = 0.2126 * rgba[at] + 0.7152 * rgba[at + 1] + 0.0722 * rgba[at + 2];
    }
  return { width: w, height: h, data };
}

const at = async (project: Project, takeId: string, second: number): Promise<Luma> => {
  const { id, width } = footageOf(project, takeId);
  return brightness(await takePicture(id, width, second));
};

/** Where two takes differ in their middles; null where they do not, or are of other sizes. */
export async function thingBetween(project: Project, first: string, second: string): Promise<PictureBox | null> {
  const middle = (takeId: string) => {
    const { from, to } = footageOf(project, takeId);
    return at(project, takeId, (from + to) / 2);
  };
  const [a, b] = [await middle(first), await middle(second)];
  return a.width === b.width && a.height === b.height ? changedBox(a, b) : null;
}

/** Where a take's end differs from its beginning; null where it does not. */
export async function arrivedIn(project: Project, takeId: string): Promise<PictureBox | null> {
  const { from, to } = footageOf(project, takeId);
  const step = Math.min(0.2, (to - from) / 10);
  return changedBox(await at(project, takeId, from + step), await at(project, takeId, to - step));
}

/** Frames of a take that what stands in it is told from, and pixels across. */
const [LOOKS, ACROSS] = [9, 320];

/** Pictures spread over a take, small. */
async function looksAt(project: Project, takeId: string): Promise<Luma[]> {
  const { from, to } = footageOf(project, takeId);
  const seen: Luma[] = [];
  for (let k = 0; k < LOOKS; k++) {
    const picture = await at(project, takeId, from + ((to - from) * (k + 0.5)) / LOOKS);
    seen.push(shrink(picture, Math.max(1, Math.round(picture.width / ACROSS))));
  }
  return seen;
}

/** The clearest straight edges of the set across a take's picture that nobody crosses. */
export async function edgesIn(project: Project, takeId: string): Promise<Facts['structure']> {
  const seen = await looksAt(project, takeId);
  const still = medianLuma(seen);
  return structureEdges(still, restlessIn(seen, still));
}

/** Brightness by which half of two pictures' pixels may differ, of 255, and still show one set. */
const ONE_SET = 10;

/**
 * The plate that shows the set of a take, of all plates of its size the most alike, and where something stands all along the take that is
 * not in the plate (null where nothing does); null where no plate shows it.
 */
export async function emptySetOf(project: Project, take: Take): Promise<{ plate: Take; box: PictureBox | null } | null> {
  const plates = project.takes.filter((t) => t.id !== take.id && isPlate(project, t) && ofOneSize(project, t, take));
  if (plates.length === 0) return null;
  const seen = await looksAt(project, take.id);
  const stood = medianLuma(seen);
  let best: { plate: Take; empty: Luma } | null = null;
  let least = ONE_SET;
  for (const plate of plates) {
    const empty = medianLuma(await looksAt(project, plate.id));
    const offs = Uint8Array.from(empty.data, (v, i) => Math.abs(v - stood.data[i])).sort();
    const off = offs[offs.length >> 1];
    if (off < least) [best, least] = [{ plate, empty }, off];
  }
  return best && { plate: best.plate, box: changedBox(best.empty, withoutRestless(seen, best.empty)) };
}
