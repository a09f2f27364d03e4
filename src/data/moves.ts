import { boxOf } from '@/core/measure';
import { type MeasuredFall, posesIn, proposeFreeze, proposeRamp, proposeReveal, proposeSplit, proposeWhip } from '@/core/moves';
import { footageOf, layerSecond, type Media, type Move, type Project, type Shot, sceneOf, shotAt, takesOf } from '@/core/shot';
import { anchorAtFrame } from '@/core/time';
import { folder } from '@/media/files';
import { mattePng, stillPng } from '@/media/pictures';
import type { Progress } from './jobs';
import { isPlate, marginFor, takeFall } from './media';
import { takeCourse } from './parts';
import { addShot } from './shots';
import { useProject } from './store';
import { cutFigure, setPlate } from './together';

export type MoveKind = Move['kind'];

/** The takes a move would be made of when nothing is chosen: those of the shot at the playhead first, then those with somebody in them. */
export function likelyTakes(project: Project, kind: MoveKind, frame: number): string[] {
  const here = shotAt(project, frame);
  const plan = kind === 'reveal' ? project.plans.find((p) => p.recipe === 'curtain reveal') : undefined;
  const inSlot = (slot: string) => project.takes.filter((t) => plan && t.plan === plan.id && t.slot === slot);
  const planned = [inSlot('one')[0], inSlot('two').at(-1)].filter((t) => t !== undefined).map((t) => t.id);
  const acted = project.takes.filter((t) => !isPlate(project, t)).map((t) => t.id);
  const all = [
    ...(planned.length === 2 ? planned : []),
    ...(here && kind !== 'reveal' ? takesOf(here) : []),
    ...acted,
    ...project.takes.map((t) => t.id),
  ];
  return [...new Set(all)];
}

/** How many takes a move asks for at least. */
export const TAKES_FOR: Record<MoveKind, number> = { reveal: 2, freeze: 1, whip: 2, ramp: 1, split: 2 };

/** The second of a take at the playhead where a shot shows it there, else its middle. */
function secondHere(project: Project, takeId: string, frame: number): number {
  const shot = shotAt(project, frame);
  const layer = shot?.layers.findLast((l) => l.source.kind === 'take' && l.source.takeId === takeId);
  if (shot && layer) return layerSecond(project, sceneOf(project, shot), layer, frame);
  const { from, to } = footageOf(project, takeId);
  return (from + to) / 2;
}

/** Keeps a picture as a file of the project, in the step of undo that uses it. */
async function keepPicture(
  kind: 'matte' | 'still',
  name: string,
  png: Blob,
  { width, height }: { width: number; height: number },
): Promise<Media> {
  const id = crypto.randomUUID().replaceAll('-', '');
  const writable = await (await (await folder('media')).getFileHandle(id, { create: true })).createWritable();
  await writable.write(png);
  await writable.close();
  return {
    id,
    kind,
    name,
    type: 'image/png',
    bytes: png.size,
    duration: 0,
    width,
    height,
    rotation: 0,
    codec: 'PNG',
    fps: 0,
    variableRate: false,
    hasSound: false,
    colour: { matrix: 'bt709', fullRange: true },
  };
}

/** A figure cut out of a frame and the empty set behind it, both kept; and how high in the frame the figure begins and ends, per cent. */
async function keepFigure(
  project: Project,
  takeId: string,
  time: number,
  onProgress: Progress,
): Promise<{ media: Media[]; matteId: string; plateId: string; top: number; bottom: number }> {
  const take = project.takes.find((t) => t.id === takeId);
  if (!take) throw new Error('That take is no longer in the project.');
  const { planes } = await setPlate(project, take, (p) => onProgress(0.6 * p));
  const { matte } = await cutFigure(project, take, time, null, (p) => onProgress(0.6 + 0.4 * p));
  const box = boxOf({ width: matte.width, height: matte.height, data: matte.alpha.map((a) => (a > 127 ? 1 : 0)) });
  if (!box) throw new Error('Nobody was found in that frame to cut out.');
  const { name } = footageOf(project, takeId);
  const figure = await keepPicture('matte', `Cut-out of ${name} at ${time.toFixed(2)} s`, await mattePng(matte), matte);
  const plate = await keepPicture('still', `Empty set of ${name}`, await stillPng(planes), planes);
  const up = (y: number) => (100 * y) / matte.height;
  return { media: [figure, plate], matteId: figure.id, plateId: plate.id, top: up(box.top), bottom: up(box.bottom) };
}

interface Proposed {
  shot: Shot;
  /** Pictures the shot needs. */
  media: Media[];
  said: string;
}

async function proposed(
  project: Project,
  kind: MoveKind,
  id: string,
  beat: number,
  takes: readonly string[],
  onProgress: Progress,
): Promise<Proposed> {
  const margin = marginFor(project, takes);
  const [first, second] = takes;
  const only = (shot: Shot) => ({ shot, media: [], said: '' });
  switch (kind) {
    case 'reveal': {
      const falls: (MeasuredFall | null)[] = [];
      for (const [i, takeId] of takes.entries()) falls.push(await takeFall(footageOf(project, takeId), 0, (p) => onProgress((i + p) / 2)));
      const chosen = takes.map((takeId, i) => ({ takeId, fall: falls[i] }));
      const said = falls.some((f) => f === null)
        ? 'Nothing clearly falls in one of the takes, so the line runs straight and the takes meet at their middle. Set both by hand.'
        : '';
      return { ...only(proposeReveal(project, id, beat, chosen[0], chosen[1], margin)), said };
    }
    case 'whip':
      return only(proposeWhip(project, id, beat, first, second, margin));
    case 'split':
      return only(proposeSplit(project, id, beat, takes, margin));
    case 'ramp': {
      const { times, movement } = await takeCourse(footageOf(project, first), onProgress);
      const { from, to } = footageOf(project, first);
      const poses = posesIn(times, movement, from + 0.2, to - 0.2, 0.8, 4);
      const said =
        poses.length < 2 ? 'No rests were found in the movement, so the poses are spread over the take. Slide them to where they are.' : '';
      return { ...only(proposeRamp(project, id, beat, first, poses, margin)), said };
    }
    case 'freeze': {
      const time = secondHere(project, first, useProject.getState().playhead);
      const use = { takeId: first, sync: time };
      try {
        const { media, plateId, ...matte } = await keepFigure(project, first, time, onProgress);
        return { shot: proposeFreeze(project, id, beat, use, matte, plateId, margin), media, said: '' };
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        return {
          ...only(proposeFreeze(project, id, beat, use, null, null, margin)),
          said: `The picture freezes, but no parts fly in: ${why}`,
        };
      }
    }
  }
}

/** Lays a move on the score at the playhead's beat from some takes. Returns '' or what to know of it. Throws a sentence when it cannot be. */
export async function layMove(kind: MoveKind, takes: readonly string[], onProgress: Progress): Promise<string> {
  const { project, playhead } = useProject.getState();
  if (!project) return 'No project is open.';
  const least = TAKES_FOR[kind];
  if (takes.length < least)
    return least === 1 ? 'Take in a film under Shoot first.' : `This needs ${least} takes. Take them in under Shoot first.`;
  if (!project.song?.map) return 'There is no beat to put it on yet. Take in a song, or tap its beat, under Song.';
  const { beat } = anchorAtFrame(project.song.map, playhead, project.frame.rate);
  const id = crypto.randomUUID();
  const { shot, media, said } = await proposed(project, kind, id, Math.max(0, beat), takes, onProgress);
  addShot(shot, media);
  return said;
}
