import { footageOf, type Project, readProject } from '@/core/document';
import { posterFrame } from '@/core/edit';
import { db, pictureKey } from './db';
import { storedDocument } from './documents';
import { makeStill } from './jobs';
import { takePicture } from './pictures';
import { smallPicture } from './small-picture';

/** Pixels across. */
const WIDTH = 320;

/** What a project looks like: its film at its middle shot, else its first take; '' where there is neither. */
async function pictureOf(project: Project): Promise<string> {
  const middle = project.shots[project.shots.length >> 1];
  if (middle) return smallPicture(await makeStill(project, posterFrame(project, middle)), WIDTH);
  const [take] = project.takes;
  if (!take) return '';
  const media = footageOf(project, take.id);
  const { width, height, rgba } = await takePicture(media.id, media.width, (media.from + media.to) / 2);
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
  return smallPicture(await canvas.convertToBlob(), WIDTH);
}

/** Draws a picture of every project that has changed since the last one, the newest first; one that cannot be drawn has none. */
export async function drawProjects(): Promise<void> {
  const rows = await db.projects.orderBy('changed').reverse().toArray();
  for (const { id, changed, deleted } of rows) {
    const key = pictureKey(id);
    const known = (await db.settings.get(key))?.value as { changed: number } | undefined;
    if (deleted || known?.changed === changed) continue;
    const read = readProject((await storedDocument(id))?.document);
    const url = read.ok ? await pictureOf(read.project).catch(() => '') : '';
    await db.settings.put({ key, value: { changed, url } });
  }
}
