import { boxOf } from '@/core/measure';
import { type MeasuredFall, posesIn, proposeFreeze, proposeRamp, proposeReveal, proposeSplit, proposeWhip } from '@/core/moves';
import { footageOf, layerSecond, type Move, type Project, type Shot, sceneOf, shotAt, takesOf } from '@/core/shot';
import { anchorAtFrame } from '@/core/time';
import { folder } from '@/media/files';
import { mattePng } from '@/media/mattes';
import type { Progress } from './jobs';
import { isPlate, marginFor, takeFall } from './media';
import { takeCourse } from './parts';
import { addShot } from './shots';
import { edit, useProject } from './store';
import { cutFigure } from './together';

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

/** How many takes a move asks for at least, and at most. */
export const TAKES_FOR: Record<MoveKind, [number, number]> = { reveal: [2, 2], freeze: [1, 1], whip: [2, 2], ramp: [1, 1], split: [2, 9] };

/** The second of a take at the playhead where a shot shows it there, else its middle. */
function secondHere(project: Project, takeId: string, frame: number): number {
  const shot = shotAt(project, frame);
  const layer = shot?.layers.findLast((l) => l.source.kind === 'take' && l.source.takeId === takeId);
  if (shot && layer) return layerSecond(project, sceneOf(project, shot), layer, frame);
  const { from, to } = footageOf(project, takeId);
  return (from + to) / 2;
}

/** Keeps a cut-out as a file of the project. Returns its id, and how high up in the frame the figure begins and ends, per cent. */
async function keepMatte(
  project: Project,
  takeId: string,
  time: number,
  onProgress: Progress,
): Promise<{ matteId: string; top: number; bottom: number }> {
  const take = project.takes.find((t) => t.id === takeId);
  if (!take) throw new Error('That take is no longer in the project.');
  const { matte } = await cutFigure(project, take, time, null, onProgress);
  const box = boxOf({ width: matte.width, height: matte.height, data: matte.alpha.map((a) => (a > 127 ? 1 : 0)) });
  if (!box) throw new Error('Nobody was found in that frame to cut out.');
  const png = await mattePng(matte);
  const matteId = crypto.randomUUID().replaceAll('-', '');
  const writable = await (await (await folder('media')).getFileHandle(matteId, { create: true })).createWritable();
  await writable.write(png);
  await writable.close();
  edit('Keep a cut-out', (draft) => {
    draft.media.push({
      id: matteId,
      kind: 'matte',
      name: `Cut-out of ${footageOf(project, takeId).name} at ${time.toFixed(2)} s`,
      type: 'image/png',
      bytes: png.size,
      duration: 0,
      width: matte.width,
      height: matte.height,
      rotation: 0,
      codec: 'PNG',
      fps: 0,
      variableRate: false,
      hasSound: false,
      colour: { matrix: 'bt709', fullRange: true },
    });
  });
  return { matteId, top: (100 * box.top) / matte.height, bottom: (100 * box.bottom) / matte.height };
}

async function proposed(
  project: Project,
  kind: MoveKind,
  id: string,
  beat: number,
  takes: readonly string[],
  onProgress: Progress,
): Promise<{ shot: Shot; said: string }> {
  const margin = marginFor(project, takes);
  const [first, second] = takes;
  switch (kind) {
    case 'reveal': {
      const falls: (MeasuredFall | null)[] = [];
      for (const [i, takeId] of takes.entries()) falls.push(await takeFall(footageOf(project, takeId), 0, (p) => onProgress((i + p) / 2)));
      const chosen = takes.map((takeId, i) => ({ takeId, fall: falls[i] }));
      const said = falls.some((f) => f === null)
        ? 'Nothing clearly falls in one of the takes, so the line runs straight and the takes meet at their middle. Set both by hand.'
        : '';
      return { shot: proposeReveal(project, id, beat, chosen[0], chosen[1], margin), said };
    }
    case 'whip':
      return { shot: proposeWhip(project, id, beat, first, second, margin), said: '' };
    case 'split':
      return { shot: proposeSplit(project, id, beat, takes, margin), said: '' };
    case 'ramp': {
      const { times, movement } = await takeCourse(footageOf(project, first), onProgress);
      const { from, to } = footageOf(project, first);
      const poses = posesIn(times, movement, from + 0.2, to - 0.2, 0.8, 4);
      const said =
        poses.length < 2 ? 'No rests were found in the movement, so the poses are spread over the take. Slide them to where they are.' : '';
      return { shot: proposeRamp(project, id, beat, first, poses, margin), said };
    }
    case 'freeze': {
      const frame = useProject.getState().playhead;
      const time = secondHere(project, first, frame);
      const use = { takeId: first, sync: time };
      const plan = project.takes.find((t) => t.id === first)?.plan;
      const empty = project.takes.find((t) => t.plan === plan && isPlate(project, t));
      const plate = empty ? { takeId: empty.id, sync: (footageOf(project, empty.id).from + footageOf(project, empty.id).to) / 2 } : null;
      try {
        const matte = await keepMatte(project, first, time, onProgress);
        return { shot: proposeFreeze(useProject.getState().project ?? project, id, beat, use, matte, plate, margin), said: '' };
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        return {
          shot: proposeFreeze(project, id, beat, use, null, plate, margin),
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
  const [least] = TAKES_FOR[kind];
  if (takes.length < least)
    return least === 1 ? 'Take in a film under Shoot first.' : `This needs ${least} takes. Take them in under Shoot first.`;
  if (!project.song?.map) return 'There is no beat to put it on yet. Take in a song, or tap its beat, under Song.';
  const { beat } = anchorAtFrame(project.song.map, playhead, project.frame.rate);
  const id = crypto.randomUUID();
  const { shot, said } = await proposed(project, kind, id, Math.max(0, beat), takes, onProgress);
  addShot(shot);
  return said;
}
