import { footageKey, footageName, footageOf, type Media, type Project } from '@/core/document';
import type { SomeFacts } from '@/core/edit';
import { layerSecond, sceneOf, shotAt } from '@/core/evaluate';
import type { SeamKeyframe } from '@/core/layer';
import { type FactId, highestRise, touchDown } from '@/core/moves';
import { secondsToBeat } from '@/core/time';
import { say } from '@/core/words';
import { keepAlong, knownAlong } from './cut-along';
import { takeCourse } from './cut-takes';
import { derived } from './derived';
import { measureCrossing, measureWhips, type Progress } from './jobs';
import { figureBoxes, keepCutOut, keepOutline, keepPlate, takeIn } from './kept';
import { lineUpBySound } from './line-up';
import { isPlate, takeFall } from './media';
import { seamBetween, seamKeyframesOf, setUpOf, widestSoft } from './set-up';
import { songAnalysis } from './song';
import { useProject } from './store';
import { subjectOf } from './subject';
import { arrivedIn, edgesIn, emptySetOf, thingBetween } from './thing';

/** What a move is made of. */
interface Asked {
  project: Project;
  takes: readonly string[];
  /** Which way what falls is looked for, degrees; 0 is down. */
  angle: number;
  /** The beat its shot begins on. */
  from?: number;
  /** The seconds at which somebody is cut out, one for each take. */
  seconds?: readonly number[];
}
interface Gathered {
  facts: SomeFacts;
  /** Pictures that were made for it and have to be kept with the project. */
  media: Media[];
}

const reason = (error: unknown): string => (error instanceof Error ? error.message : String(error));

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
    return { facts: { cutOut: { second, matte: null, plate: null, why: reason(error) } }, media: [] };
  }
}

/** Something found in each take by itself, in their order. */
async function inEach<T>({ takes }: Asked, tell: Progress, find: (takeId: string, tell: Progress) => Promise<T>): Promise<T[]> {
  const found: T[] = [];
  for (const [i, takeId] of takes.entries()) found.push(await find(takeId, (p) => tell((i + p) / takes.length)));
  return found;
}

async function fall(asked: Asked, tell: Progress): Promise<Gathered> {
  const found = await inEach(asked, tell, (takeId, own) => takeFall(footageOf(asked.project, takeId), asked.angle, own));
  return { facts: { fall: found }, media: [] };
}

async function movement({ project, takes: [takeId] }: Asked, tell: Progress): Promise<Gathered> {
  return { facts: { movement: await takeCourse(footageOf(project, takeId), tell) }, media: [] };
}

async function movements(asked: Asked, tell: Progress): Promise<Gathered> {
  const found = await inEach(asked, tell, (takeId, own) => takeCourse(footageOf(asked.project, takeId), own));
  return { facts: { movements: found }, media: [] };
}

/** What crosses the lens in each take. */
async function sweep(asked: Asked, tell: Progress): Promise<Gathered> {
  const found = await inEach(asked, tell, (takeId, own) => {
    const footage = footageOf(asked.project, takeId);
    return derived(`crossing:1:${footageKey(footage)}`, () => measureCrossing(footage, own));
  });
  return { facts: { sweep: found }, media: [] };
}

/** Where the camera is thrown round in each take. */
async function whips(asked: Asked, tell: Progress): Promise<Gathered> {
  const found = await inEach(asked, tell, (takeId, own) => {
    const footage = footageOf(asked.project, takeId);
    return derived(`whips:1:${footageKey(footage)}`, () => measureWhips(footage, own));
  });
  return { facts: { whips: found }, media: [] };
}

async function plate({ project, takes: [takeId] }: Asked, tell: Progress): Promise<Gathered> {
  try {
    const { plateId, media } = await keepPlate(project, takeId, tell);
    return { facts: { plate: { plate: plateId, why: '' } }, media };
  } catch (error) {
    return { facts: { plate: { plate: null, why: reason(error) } }, media: [] };
  }
}

async function figures({ project, takes }: Asked, tell: Progress): Promise<Gathered> {
  const found: NonNullable<SomeFacts['figures']>['found'][number][] = [];
  const all: Media[] = [];
  let why = '';
  for (const [i, takeId] of takes.entries()) {
    try {
      const { silhouetteId, media } = await keepOutline(project, takeId, (p) => tell((i + p) / takes.length));
      all.push(...media);
      found.push({ silhouetteId, boxes: await figureBoxes(project, takeId) });
    } catch (error) {
      found.push(null);
      why = why || reason(error);
    }
  }
  return { facts: { figures: { found, why } }, media: all };
}

/**
 * The performer's outline in a take. Told from the empty set a thing that stands there all along would be a part of them: where the set was
 * filmed with the thing in its place, they are told from that.
 */
async function hands({ project, takes: [first, second] }: Asked, tell: Progress): Promise<Gathered> {
  try {
    const { silhouetteId, media } = await keepOutline(second ? toldFrom(project, first, second) : project, first, tell);
    return { facts: { hands: { silhouetteId, why: '' } }, media };
  } catch (error) {
    return { facts: { hands: { silhouetteId: null, why: reason(error) } }, media: [] };
  }
}

/** The project as if a take's set-up were that take and another one of it as its empty set. */
function toldFrom(project: Project, takeId: string, emptyId: string): Project {
  const take = takeIn(project, takeId);
  const slots = setUpOf(project, take);
  const plate = slots.find((t) => isPlate(project, t));
  return plate
    ? {
        ...project,
        takes: project.takes.flatMap((t) =>
          t.id === takeId ? [t] : t.id === emptyId ? [{ ...t, plan: plate.plan, slot: plate.slot }] : [],
        ),
      }
    : project;
}

async function along({ project, takes: [takeId] }: Asked, tell: Progress): Promise<Gathered> {
  try {
    const { matteId, begins, media } = await keepAlong(project, takeId, tell);
    return { facts: { along: { matte: { matteId, begins }, why: '' } }, media };
  } catch (error) {
    return { facts: { along: { matte: null, why: reason(error) } }, media: [] };
  }
}

async function cutBefore({ project, takes: [takeId] }: Asked): Promise<Gathered> {
  const known = await knownAlong(project, takeId);
  return { facts: { knownAlong: known && { matteId: known.matteId, begins: known.begins } }, media: [] };
}

async function subject({ project, takes: [takeId] }: Asked, tell: Progress): Promise<Gathered> {
  return { facts: { subject: await subjectOf(project, takeIn(project, takeId), tell) }, media: [] };
}

/** A figure cut out at a second of a take; without where it could not be, with the reason. */
async function cutAt(project: Project, takeId: string, second: number, tell: Progress) {
  try {
    const { matteId, media } = await keepCutOut(project, takeId, second, tell);
    return { at: { second, matteId }, media, why: '' };
  } catch (error) {
    return { at: { second, matteId: null }, media: [], why: reason(error) };
  }
}

async function cutOuts({ project, takes, seconds = [] }: Asked, tell: Progress): Promise<Gathered> {
  const cut = [];
  for (const [i, takeId] of takes.entries()) cut.push(await cutAt(project, takeId, seconds[i] ?? 0, (p) => tell((i + p) / takes.length)));
  const why = [...new Set(cut.map((c) => c.why))].filter(Boolean).join(' ');
  return { facts: { cutOuts: { mattes: cut.map((c) => c.at.matteId), why } }, media: cut.flatMap((c) => c.media) };
}

/** Whoever is in the takes after the first, each cut out where the take is seen now. */
async function cutOthers({ project, takes }: Asked, tell: Progress): Promise<Gathered> {
  const others = takes.slice(1).filter((takeId) => takeId !== takes[0]);
  const cut = [];
  for (const [i, takeId] of others.entries()) {
    const made = await cutAt(project, takeId, secondHere(project, takeId), (p) => tell((i + p) / others.length));
    cut.push({ takeId, ...made });
  }
  return {
    facts: {
      cutOthers: {
        cut: cut.flatMap(({ takeId, at: { second, matteId } }) => (matteId ? [{ takeId, second, matteId }] : [])),
        why: [...new Set(cut.map((c) => c.why))].filter(Boolean).join(' '),
      },
    },
    media: cut.flatMap((c) => c.media),
  };
}

async function jump({ project, takes }: Asked, tell: Progress): Promise<Gathered> {
  const [first, second = first] = takes;
  const empty = await plate({ project, takes: [first], angle: 0 }, (p) => tell(0.3 * p));
  const seen = await figures({ project, takes: first === second ? [first] : [first, second], angle: 0 }, (p) => tell(0.3 + 0.4 * p));
  const [leaps, lands = leaps] = seen.facts.figures?.found ?? [];
  const [highest, landed] = [leaps && highestRise(leaps.boxes), lands && touchDown(lands.boxes)];
  const up = highest ? await cutAt(project, first, highest, (p) => tell(0.7 + 0.15 * p)) : null;
  const down = landed ? await cutAt(project, second, landed, (p) => tell(0.85 + 0.15 * p)) : null;
  const lost = [
    empty.facts.plate?.why,
    highest ? up?.why : seen.facts.figures?.why || say`Nobody was seen to jump: slide the take to the highest of the jump.`,
    landed ? down?.why : say`Nobody was seen to land: slide the second take to where both feet are down.`,
  ];
  return {
    facts: {
      jump: {
        up: up?.at ?? null,
        down: down?.at ?? null,
        plate: empty.facts.plate?.plate ?? null,
        why: [...new Set(lost)].filter(Boolean).join(' '),
      },
    },
    // Outlines were only looked at: the move needs the cut-outs.
    media: [...empty.media, ...(up?.media ?? []), ...(down?.media ?? [])],
  };
}

/** Seams from each take to the next, lined up by their sound where they have one in common, else from their beginnings. */
async function seams({ project, takes }: Asked, tell: Progress): Promise<Gathered> {
  const used = takes.map((takeId) => footageOf(project, takeId));
  let why = '';
  const from = used.map((f) => f.from);
  const share = takes.length;
  for (let i = 1; i < used.length; i++) {
    const lined = await lineUpBySound(used[0], used[i], (p) => tell((0.3 * (i - 1 + p)) / share)).catch(() => null);
    // Later than the first take begins only where the second does.
    if (lined?.ok) from[i] = lined.from[1] - lined.from[0] + used[0].from;
  }
  const late = Math.max(0, ...used.map((f, i) => f.from - from[i]));
  for (let i = 0; i < from.length; i++) from[i] += late;
  const seconds = Math.min(20, ...used.map((f, i) => f.to - from[i]));
  const keyframes: SeamKeyframe[][] = [];
  for (let i = 1; i < used.length; i++) {
    const span = {
      first: { take: takeIn(project, takes[i - 1]), from: from[i - 1] },
      second: { take: takeIn(project, takes[i]), from: from[i] },
      seconds,
    };
    try {
      const { seam, collisions } = await seamBetween(project, span, (p) => tell((0.3 * share + 0.7 * (i - 1 + p)) / share));
      keyframes.push(seamKeyframesOf(seam, project.frame.height));
      if (collisions.length > 0)
        why = say`Two places touch at ${collisions.length === 1 ? say`one moment` : say`${collisions.length} moments`}: look at the seam there, or let what crosses lie over it.`;
    } catch (error) {
      keyframes.push([]);
      why = say`${reason(error)} The takes are joined along an upright line.`;
    }
  }
  const feather = Math.max(0.3, ...keyframes.filter((k) => k.length > 0).map(widestSoft));
  return { facts: { seams: { from, keyframes, feather, why } }, media: [] };
}

async function arrivals({ project, takes }: Asked, tell: Progress): Promise<Gathered> {
  const found: NonNullable<SomeFacts['arrivals']>[number][] = [];
  for (const [i, takeId] of takes.entries()) {
    found.push(await arrivedIn(project, takeId));
    tell((i + 1) / takes.length);
  }
  return { facts: { arrivals: found }, media: [] };
}

async function structure({ project, takes: [takeId] }: Asked): Promise<Gathered> {
  return { facts: { structure: await edgesIn(project, takeId) }, media: [] };
}

/** What is in one of the last two takes and not in the other; of a single take and its empty set nothing is known. */
async function thing({ project, takes }: Asked): Promise<Gathered> {
  const [first, second] = takes.slice(-2);
  return { facts: { thing: second ? await thingBetween(project, first, second) : null }, media: [] };
}

/** What is in the second of its takes and not in a plate of the first one's set-up. */
async function hidden({ project, takes: [first, second] }: Asked): Promise<Gathered> {
  const plate = setUpOf(project, takeIn(project, first)).find((t) => isPlate(project, t) && t.id !== second);
  return { facts: { hidden: plate && second ? await thingBetween(project, plate.id, second) : null }, media: [] };
}

/**
 * What stands in a take and not in the empty set of its set-up: where it is, and the outline of all that moves before it, told from the take's
 * own middle picture, in which it stands too.
 */
async function support({ project, takes: [takeId] }: Asked, tell: Progress): Promise<Gathered> {
  const take = takeIn(project, takeId);
  const none = (why: string): Gathered => ({ facts: { support: { plate: null, box: null, silhouetteId: null, why } }, media: [] });
  try {
    const found = await emptySetOf(project, take);
    if (!found)
      return none(
        say`No plate shows the set of “${footageName(footageOf(project, takeId))}” without it. Film the empty set with it taken away, and put that into the slot of a plate.`,
      );
    const { plate: empty, box } = found;
    // Alone with its own empty set: other scenes of the plan were filmed elsewhere.
    const alone = { ...project, takes: [{ ...take, plan: empty.plan, slot: null }, empty] };
    const made = await keepPlate(alone, takeId, (p) => tell(0.4 * p));
    const before = await keepOutline({ ...project, takes: [take] }, takeId, (p) => tell(0.5 + 0.5 * p)).catch(() => null);
    const why = box ? '' : say`What stands there was not found by itself: move the patch onto it.`;
    return {
      facts: { support: { plate: made.plateId, box, silhouetteId: before?.silhouetteId ?? null, why } },
      // It is not the empty set of the set-up, so it does not grow old with that.
      media: [...made.media.map(({ madeFrom, ...patch }) => patch), ...(before?.media ?? [])],
    };
  } catch (error) {
    return none(reason(error));
  }
}

async function hits({ project, from }: Asked, tell: Progress): Promise<Gathered> {
  const { song } = project;
  const heard = song?.map ? await songAnalysis(song.mediaId, tell) : null;
  const { map } = song ?? {};
  const found = map ? (heard?.hits ?? []).map(({ time, strength }) => ({ beat: secondsToBeat(map, time) - (from ?? 0), strength })) : [];
  return { facts: { hits: found }, media: [] };
}

const GATHER: Record<FactId, (asked: Asked, tell: Progress) => Promise<Gathered>> = {
  fall,
  sweep,
  whips,
  movement,
  movements,
  cutOut,
  cutOuts,
  cutOthers,
  plate,
  figures,
  hands,
  along,
  knownAlong: cutBefore,
  subject,
  jump,
  seams,
  arrivals,
  structure,
  thing,
  hidden,
  support,
  hits,
};

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
