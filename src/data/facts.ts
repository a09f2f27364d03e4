import { footageOf, type Media, type Project } from '@/core/document';
import type { SomeFacts } from '@/core/edit';
import { layerSecond, sceneOf, shotAt } from '@/core/evaluate';
import type { FactId } from '@/core/moves';
import { takeCourse } from './cut-takes';
import type { Progress } from './jobs';
import { keepCutOut, keepPlate } from './kept';
import { takeFall } from './media';
import { useProject } from './store';

/** What a move is made of. */
interface Asked {
  project: Project;
  takes: readonly string[];
  /** Which way what falls is looked for, degrees; 0 is down. */
  angle: number;
}
interface Gathered {
  facts: SomeFacts;
  /** Pictures that were made for it and have to be kept with the project. */
  media: Media[];
}

/** The second of a take at the playhead where a shot shows it there, else its middle. */
function secondHere(project: Project, takeId: string): number {
  const frame = useProject.getState().playhead;
  const shot = shotAt(project, frame);
  const layer = shot?.layers.findLast((l) => l.source.kind === 'take' && l.source.takeId === takeId);
  if (shot && layer) return layerSecond(project, sceneOf(project, shot), layer, frame);
  const { from, to } = footageOf(project, takeId);
  return (from + to) / 2;
}

async function cutOut({ project, takes: [takeId] }: Asked, tell: Progress): Promise<Gathered> {
  const second = secondHere(project, takeId);
  try {
    const { plateId: plate, media } = await keepPlate(project, takeId, (p) => tell(0.6 * p));
    const found = await keepCutOut(project, takeId, second, (p) => tell(0.6 + 0.4 * p));
    const { matteId, top, bottom } = found;
    return { facts: { cutOut: { second, matte: { matteId, top, bottom }, plate, why: '' } }, media: [...media, ...found.media] };
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    return { facts: { cutOut: { second, matte: null, plate: null, why } }, media: [] };
  }
}

async function fall({ project, takes, angle }: Asked, tell: Progress): Promise<Gathered> {
  const found: NonNullable<SomeFacts['fall']>[number][] = [];
  for (const [i, takeId] of takes.entries())
    found.push(await takeFall(footageOf(project, takeId), angle, (p) => tell((i + p) / takes.length)));
  return { facts: { fall: found }, media: [] };
}

async function movement({ project, takes: [takeId] }: Asked, tell: Progress): Promise<Gathered> {
  return { facts: { movement: await takeCourse(footageOf(project, takeId), tell) }, media: [] };
}

const GATHER: Record<FactId, (asked: Asked, tell: Progress) => Promise<Gathered>> = { fall, movement, cutOut };

/** Measures what a move asks to know of its takes, as far as that is not known yet. */
export async function gatherFacts(needs: readonly FactId[], asked: Asked, tell: Progress): Promise<Gathered> {
  const all: Gathered = { facts: {}, media: [] };
  for (const [i, fact] of needs.entries()) {
    const { facts, media } = await GATHER[fact](asked, (p) => tell((i + p) / needs.length));
    Object.assign(all.facts, facts);
    all.media.push(...media);
  }
  return all;
}
