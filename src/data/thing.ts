import { footageOf, type Project } from '@/core/document';
import { changedBox, type Luma } from '@/core/measure';
import type { PictureBox } from '@/core/moves';
import type { Picture } from '@/media/picture';
import { takePicture } from './pictures';

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
