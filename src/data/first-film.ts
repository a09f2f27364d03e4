import { footageOf, type Project, type Shot, type Take } from '@/core/document';
import { beatMapOf, shotFrames } from '@/core/evaluate';
import { partsOf, unpacked } from '@/core/measure';
import { RECIPES, type SeenTake, type SortedTakes, sortTakes } from '@/core/plan';
import { barToBeat } from '@/core/time';
import { say } from '@/core/words';
import type { Progress } from './jobs';
import { layPlan } from './lay-plan';
import { takeMeasurement } from './media';
import { layMoveOn } from './moves';
import { newShotOf } from './plans';
import { seek } from './playback';
import { occupancyTrack, ofOneSize } from './set-up';
import { moveShot, trimShot } from './shots';
import { ELSEWHERE, edit, openNow, useProject } from './store';

/** Takes that are put together by nothing but what they look like. */
export const unsorted = (project: Project): Take[] => project.takes.filter((t) => t.plan === null && !t.overlay);

/** How sure it must be that two takes show one place before one camera. */
const SAME_PLACE = 0.3;

/** Takes that are already known to show one place. */
type Place = Take[];

async function placesOf(project: Project, tell: Progress, signal?: AbortSignal): Promise<Place[]> {
  const takes = unsorted(project);
  const places: Place[] = [];
  for (const [i, take] of takes.entries()) {
    let found: Place | undefined;
    for (const place of places) {
      if (!ofOneSize(project, take, place[0])) continue;
      const [own, first] = [footageOf(project, take.id), footageOf(project, place[0].id)];
      const { against } = await takeMeasurement(own, first, (p) => tell((i + p) / takes.length), signal);
      if (!against || against.trusted < SAME_PLACE) continue;
      found = place;
      break;
    }
    if (found) found.push(take);
    else places.push([take]);
  }
  return places;
}

/** Columns that somebody is in for a tenth of the time they are there are theirs. */
const OFTEN = 0.1;
/** Less of the frame than this is a speck: somebody a tenth of its height tall. */
const SPECK = 0.002;

/** In how much of a take somebody is, how large, and where: by the largest thing in each frame that is not the set. */
async function seen(
  project: Project,
  take: Take,
  tell: Progress,
  signal?: AbortSignal,
): Promise<Pick<SeenTake, 'there' | 'size' | 'span'>> {
  const { width, height, figure } = await occupancyTrack(project, take, tell, signal);
  const columns = new Float64Array(width);
  const sizes: number[] = [];
  for (const bits of figure) {
    const parts = bits ? partsOf(unpacked(bits, width, height), 1) : [];
    const largest = parts.reduce<Int32Array>((a, { pixels }) => (pixels.length > a.length ? pixels : a), new Int32Array());
    const size = largest.length / (width * height);
    if (size < SPECK) continue;
    sizes.push(size);
    for (const x of new Set(largest.map((i) => i % width))) columns[x]++;
  }
  if (sizes.length === 0) return { there: 0, size: 0, span: null };
  const theirs = [...columns.keys()].filter((x) => columns[x] >= OFTEN * sizes.length);
  const span = [theirs[0] / width, (theirs[theirs.length - 1] + 1) / width] as const;
  return { there: sizes.length / figure.length, size: sizes.toSorted((x, y) => x - y)[sizes.length >> 1], span };
}

/** What is taken for granted of a take that nothing could be told of: somebody, anywhere. */
const ANYBODY = { there: 1, size: 1, span: [0, 1] as const };

/** Looks at every take that nobody has planned: which show one place, who is where in them, and so what can be made of them. */
export async function lookAtTakes(project: Project, tell: Progress, signal?: AbortSignal): Promise<SortedTakes[]> {
  const places = await placesOf(project, (p) => tell(0.5 * p), signal);
  const takes: SeenTake[] = [];
  const all = places.flat().length;
  for (const [place, members] of places.entries()) {
    // Each place by itself: what is elsewhere is no part of its empty set.
    const alone = { ...project, takes: members };
    for (const take of members) {
      const done = takes.length;
      const known =
        members.length > 1
          ? await seen(alone, take, (p) => tell(0.5 + (0.5 * (done + p)) / all), signal).catch((error: unknown) => {
              if (signal?.aborted) throw error;
              return ANYBODY;
            })
          : ANYBODY;
      takes.push({ id: take.id, place, ...known });
    }
  }
  return sortTakes(takes);
}

/** Gives takes that belong together a planned shot whose slots they fill. Gives the ids of the planned shots, null for takes by themselves. */
function planned(sorted: readonly SortedTakes[]): (string | null)[] {
  const ids = sorted.map(({ recipe }) => (recipe === null ? null : crypto.randomUUID()));
  edit(say`Sort the takes into planned shots`, (draft) => {
    sorted.forEach(({ recipe: wanted, takes }, i) => {
      const recipe = RECIPES.find((r) => r.id === wanted);
      const id = ids[i];
      if (!recipe || !id) return;
      const plan = newShotOf(draft, id, recipe);
      const places = takes.filter(({ slot }) => slot.startsWith('place-')).length;
      for (let n = plan.places.length; n < places; n++)
        plan.places.push({
          ...structuredClone(plan.places[n - 1]),
          id: `p${n + 1}`,
          name: say`Place ${n + 1}`,
          x: plan.places[n - 1].x + 0.9,
        });
      draft.plans.push(plan);
      for (const { id: takeId, slot } of takes) Object.assign(draft.takes.find((t) => t.id === takeId) ?? {}, { plan: id, slot });
    });
  });
  return ids;
}

const here = (): Project => {
  const { project } = useProject.getState();
  if (!project) throw new Error(say`No project is open.`);
  return project;
};

/** Lays one more shot and moves it onto the first whole bar that is free. */
async function next(lay: () => Promise<string>): Promise<string> {
  const before = new Set(here().shots.map((s) => s.id));
  const { beatsPerBar } = beatMapOf(here());
  const free = Math.max(0, ...here().shots.map((s) => s.end.beat));
  const said = await lay();
  const made = here().shots.find((s) => !before.has(s.id));
  if (made) {
    const by = Math.ceil((free - made.start.beat) / beatsPerBar - 1e-6) * beatsPerBar;
    if (by !== 0) moveShot(made.id, by);
  }
  return said;
}

/** Leaves no black between the shots: each lasts until the next begins. */
function closeGaps(): void {
  const order = (project: Project): Shot[] => project.shots.toSorted((a, b) => shotFrames(project, a)[0] - shotFrames(project, b)[0]);
  for (const [i, shot] of order(here()).slice(0, -1).entries()) {
    const [start] = shotFrames(here(), order(here())[i + 1]);
    if (shotFrames(here(), shot)[1] < start) trimShot(shot.id, 'end', start);
  }
}

/**
 * A first film of takes as they were sorted: for each place the move that fits it, whips between takes that stand by themselves, a pulse on
 * the beats for one alone; one after another from bar 1, without a gap. Gives what to know of it. What cannot be laid is said, and the rest goes on.
 */
export async function firstFilm(sorted: readonly SortedTakes[], tell: Progress): Promise<string> {
  const { same } = openNow();
  const ids = planned(sorted);
  const alone = sorted.filter(({ recipe }) => recipe === null).map(({ takes }) => takes[0].id);
  const steps: (() => Promise<string>)[] = [];
  const at = () => barToBeat(beatMapOf(here()), 1);
  let step = 0;
  const share: Progress = (p) => tell((step + p) / Math.max(1, steps.length));
  for (const id of ids) if (id) steps.push(() => layPlan(id, share));
  for (let i = 0; i + 1 < alone.length; i++) steps.push(() => layMoveOn('whip', [alone[i], alone[i + 1]], at() + 4, share));
  if (alone.length === 1) steps.push(() => layMoveOn('impact', alone, at(), share));
  const said: string[] = [];
  for (const lay of steps) {
    if (!same()) return ELSEWHERE;
    said.push(await next(lay).catch((e: unknown) => (e instanceof Error ? e.message : String(e))));
    step++;
  }
  if (!same()) return ELSEWHERE;
  closeGaps();
  const { shots } = here();
  if (shots.length > 0) {
    seek(Math.min(...shots.map((s) => shotFrames(here(), s)[0])));
    useProject.setState({ selectedShot: shots.toSorted((a, b) => a.start.beat - b.start.beat)[0].id });
  }
  return [...new Set(said.filter(Boolean))].join(' ');
}
