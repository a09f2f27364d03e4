import { footageKey, footageName, footageOf, type Media, type Project, type Shot, type Take } from '@/core/document';
import { silhouetteFile } from '@/core/exchange';
import { boxOf } from '@/core/measure';
import { type Course, type FigureBox, smoothPath } from '@/core/moves';
import { say } from '@/core/words';
import { contentId } from '@/media/content';
import { hasMedia, storeMedia } from '@/media/files';
import { mattePng, stillPng } from '@/media/pictures';
import type { Progress } from './jobs';
import { boxesOf, cutFigure, occupancyKey, occupancyTrack, plateKey, setPlate } from './set-up';
import { edit } from './store';

export function takeIn(project: Project, takeId: string): Take {
  const take = project.takes.find((t) => t.id === takeId);
  if (!take) throw new Error(say`That take is no longer in the project.`);
  return take;
}

/** Keeps what was worked out as a file of the project, in the step of undo that uses it; the size is that of the picture it lies on. */
export async function keepFile(
  kind: 'matte' | 'still' | 'silhouette' | 'travelling matte',
  name: string,
  file: Blob,
  { width, height }: { width: number; height: number },
  madeFrom: string,
): Promise<Media> {
  const id = await contentId(file);
  await storeMedia(id, file);
  return {
    madeFrom,
    id,
    kind,
    name,
    type: file.type,
    bytes: file.size,
    duration: 0,
    width,
    height,
    rotation: 0,
    codec: kind === 'silhouette' ? 'PBM' : kind === 'travelling matte' ? 'H.264' : 'PNG',
    fps: 0,
    variableRate: false,
    hasSound: false,
    colour: { matrix: 'bt709', fullRange: kind !== 'travelling matte' },
  };
}

/** A short name for what something is made from. */
export const nameOf = (key: string) => contentId(new Blob([key]));

/** The file of a project that was made from the same before, where it is still in storage. */
export async function madeBefore(project: Project, kind: Media['kind'], madeFrom: string): Promise<Media | null> {
  const known = project.media.find((m) => m.kind === kind && m.madeFrom === madeFrom);
  return known && (await hasMedia(known.id)) ? known : null;
}

/** The empty set of a take's set-up, kept as a picture of the project; the one already kept where there is one. */
export async function keepPlate(project: Project, takeId: string, onProgress: Progress): Promise<{ media: Media[]; plateId: string }> {
  const madeFrom = await nameOf(plateKey(project, takeIn(project, takeId)));
  const known = await madeBefore(project, 'still', madeFrom);
  if (known) return { media: [], plateId: known.id };
  const { planes } = await setPlate(project, takeIn(project, takeId), onProgress);
  const kept = await keepFile(
    'still',
    say`Empty set of ${footageName(footageOf(project, takeId))}`,
    await stillPng(planes),
    planes,
    madeFrom,
  );
  return { media: [kept], plateId: kept.id };
}

/** Whether a kept empty set was made before its set-up had the plates it has now; `takeId` is a take of that set-up. */
export async function plateIsOld(project: Project, mediaId: string, takeId: string): Promise<boolean> {
  const madeFrom = project.media.find((m) => m.id === mediaId && m.kind === 'still')?.madeFrom;
  return madeFrom !== undefined && madeFrom !== (await nameOf(plateKey(project, takeIn(project, takeId))));
}

/** A value with one string for another wherever it stands in it; the value itself where it does not. */
function withValue<T>(value: T, from: string, to: string): T {
  if (value === from) return to as T;
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([key, item]) => [key, item, withValue(item, from, to)] as const);
  if (entries.every(([, item, next]) => item === next)) return value;
  return (Array.isArray(value) ? entries.map((e) => e[2]) : Object.fromEntries(entries.map(([key, , next]) => [key, next]))) as T;
}

/** A shot with one kept picture in the place of another, in its layers and in its move. */
function withPicture(shot: Shot, from: string, to: string): Shot {
  const layers = shot.layers.map((layer) =>
    layer.source.kind === 'still' && layer.source.mediaId === from ? { ...layer, source: { kind: 'still' as const, mediaId: to } } : layer,
  );
  const move = withValue(shot.move, from, to);
  return move === shot.move && layers.every((layer, i) => layer === shot.layers[i]) ? shot : { ...shot, layers, move };
}

/** Makes a kept empty set anew from the plates there are now, and shows it wherever the old one was shown. */
export async function renewPlate(project: Project, mediaId: string, takeId: string, onProgress: Progress): Promise<void> {
  const { media, plateId } = await keepPlate(project, takeId, onProgress);
  edit(
    say`Make the empty set anew`,
    (draft) => {
      for (const made of media) draft.media = [...draft.media.filter((m) => m.id !== made.id), made];
      for (const list of ['shots', 'nestedShots', 'unplacedShots'] as const)
        draft[list].forEach((shot, i) => {
          const now = withPicture(shot as Shot, mediaId, plateId);
          if (now !== shot) draft[list][i] = now;
        });
    },
    project.id,
  );
}

/** A figure cut out of a frame, kept; and how high in the frame it begins and ends, per cent. */
export async function keepCutOut(
  project: Project,
  takeId: string,
  time: number,
  onProgress: Progress,
): Promise<{ media: Media[]; matteId: string; top: number; bottom: number }> {
  const { matte } = await cutFigure(project, takeIn(project, takeId), time, null, onProgress);
  const box = boxOf({ width: matte.width, height: matte.height, data: matte.alpha.map((a) => (a > 127 ? 1 : 0)) });
  if (!box) throw new Error(say`Nobody was found in that frame to cut out.`);
  const footage = footageOf(project, takeId);
  const madeFrom = await nameOf(`cut-out ${plateKey(project, takeIn(project, takeId))} ${footageKey(footage)} ${time}`);
  const figure = await keepFile('matte', say`Cut-out of ${footage.name} at ${time.toFixed(2)} s`, await mattePng(matte), matte, madeFrom);
  const up = (y: number) => (100 * y) / matte.height;
  return { media: [figure], matteId: figure.id, top: up(box.top), bottom: up(box.bottom) };
}

/** Where somebody is in a take on every frame, kept as a file of the project; the file there is already where it is kept. */
export async function keepOutline(
  project: Project,
  takeId: string,
  onProgress: Progress,
): Promise<{ media: Media[]; silhouetteId: string }> {
  const name = say`Outline over time of ${footageName(footageOf(project, takeId))}`;
  const madeFrom = await nameOf(`outline ${occupancyKey(project, takeIn(project, takeId))}`);
  const known = await madeBefore(project, 'silhouette', madeFrom);
  if (known) return { media: [], silhouetteId: known.id };
  const { width, height, times, figure } = await occupancyTrack(project, takeIn(project, takeId), onProgress);
  if (figure.every((bits) => !bits?.some((b) => b > 0))) throw new Error(say`Nobody was found in that take.`);
  const empty = new Uint8Array(Math.ceil((width * height) / 8));
  const plain = silhouetteFile({ width, height, times, frames: figure.map((bits) => bits ?? empty) });
  const packed = await new Response(new Blob([plain]).stream().pipeThrough(new CompressionStream('gzip'))).arrayBuffer();
  const kept = await keepFile('silhouette', name, new Blob([packed], { type: 'application/gzip' }), footageOf(project, takeId), madeFrom);
  return { media: [kept], silhouetteId: kept.id };
}

/** Seconds to either side over which a followed place is evened out: a held subject must not tremble with its outline. */
const EVEN = 0.3;

/** Where somebody is in a take, reading by reading: per cent of the picture; frames with nobody are left out. */
export async function figureBoxes(project: Project, takeId: string): Promise<FigureBox[]> {
  const take = takeIn(project, takeId);
  const { times } = await occupancyTrack(project, take, () => undefined);
  const boxes = await boxesOf(project, take);
  const { width, height } = footageOf(project, takeId);
  const [across, down] = [(v: number) => (100 * v) / width, (v: number) => (100 * v) / height];
  return boxes.flatMap((box, i) =>
    box
      ? [{ source: times[i], left: across(box.left_px), right: across(box.right_px), top: down(box.top_px), bottom: down(box.bottom_px) }]
      : [],
  );
}

/** Where somebody is in a take, as a course that is followed: the middle of their outline, evened out. */
export async function courseOf(project: Project, takeId: string, onProgress: Progress): Promise<Course> {
  await occupancyTrack(project, takeIn(project, takeId), onProgress);
  const seen = (await figureBoxes(project, takeId)).map((b) => ({
    source: b.source,
    x: (b.left + b.right) / 2,
    y: (b.top + b.bottom) / 2,
  }));
  if (seen.length === 0) throw new Error(say`Nobody was found in that take to follow.`);
  return smoothPath(seen, EVEN).map(({ source, x, y }) => ({ source, x: Math.round(100 * x) / 100, y: Math.round(100 * y) / 100 }));
}
