import { type MeasuredFall, posesIn, proposeFreeze, proposeRamp, proposeReveal, proposeSplit, proposeWhip } from '@/core/moves';
import { footageOf, layerSecond, type Media, type Move, type Project, type Shot, sceneOf, shotAt, takesOf } from '@/core/shot';
import { anchorAtFrame } from '@/core/time';
import type { Progress } from './jobs';
import { keepCutOut, keepPlate } from './kept';
import { isPlate, marginFor, takeFall } from './media';
import { takeCourse } from './parts';
import { addShot } from './shots';
import { useProject } from './store';

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
      const poses = posesIn(times, movement, from + 0.2, to - 0.3, 0.8, 4);
      const said =
        poses.length < 2 ? 'No rests were found in the movement, so the poses are spread over the take. Slide them to where they are.' : '';
      return { ...only(proposeRamp(project, id, beat, first, poses, margin)), said };
    }
    case 'freeze': {
      const time = secondHere(project, first, useProject.getState().playhead);
      const use = { takeId: first, sync: time };
      try {
        const plate = await keepPlate(project, first, (p) => onProgress(0.6 * p));
        const { media, ...matte } = await keepCutOut(project, first, time, (p) => onProgress(0.6 + 0.4 * p));
        const shot = proposeFreeze(project, id, beat, use, matte, plate.plateId, margin);
        return { shot, media: [...media, ...plate.media], said: '' };
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
  addShot(shot, media, project.id);
  return said;
}
