import { footageOf, type Project, type Shot, type Take } from '@/core/document';
import { attachLayer, attachMask, type Followed, type FollowHow, type HoldAt, handHeld, holdPoint } from '@/core/edit';
import type { Layer } from '@/core/layer';
import { say } from '@/core/words';
import type { Progress } from './jobs';
import { takeMeasurement } from './media';
import { pointCourse } from './points';
import { changeShot } from './shots';
import { useProject } from './store';

/** What is followed in a take: a marked point by its id, or the camera itself. */
export const CAMERA = 'the camera';

const ENOUGH = 0.6;

/** How a take's own camera moved, from its first second on, as a place in the middle of its picture. Throws a sentence where it cannot be told. */
async function cameraCourse(project: Project, take: Take, onProgress: Progress): Promise<Followed> {
  const footage = footageOf(project, take.id);
  const { own, reason } = await takeMeasurement(footage, null, onProgress);
  const trusted = own?.readings.flatMap((r, i) => (r.trusted ? [{ time: own.times[i], ...r }] : [])) ?? [];
  if (!own || trusted.length < ENOUGH * own.readings.length)
    throw new Error(reason || say`How the camera moved cannot be told in ${footage.name}: too little of its picture stands still.`);
  const { width, height } = footage;
  return {
    times: trusted.map((r) => r.time),
    points: trusted.map(({ dx, dy, turn, scale }) => ({ x: width / 2 + dx, y: height / 2 + dy, turn, scale })),
  };
}

function takeOf(project: Project, layer: Layer | undefined): Take {
  const { source } = layer ?? {};
  const take = source?.kind === 'take' ? project.takes.find((t) => t.id === source.takeId) : undefined;
  if (!take) throw new Error(say`That layer shows no take.`);
  return take;
}

async function courseOf(project: Project, take: Take, what: string, onProgress: Progress): Promise<Followed> {
  if (what === CAMERA) return cameraCourse(project, take, onProgress);
  const point = take.points?.find((p) => p.id === what);
  if (!point) throw new Error(say`That point is no longer marked in the take. Mark it under Takes, Points.`);
  return pointCourse(project, take, point, onProgress);
}

/** The open project with a shot and a layer of it; throws a sentence where they are gone. */
function here(shotId: string, layerId: string): { project: Project; shot: Shot; layer: Layer } {
  const { project } = useProject.getState();
  const shot = project && [...project.shots, ...project.nestedShots].find((s) => s.id === shotId);
  const layer = shot?.layers.find((l) => l.id === layerId);
  if (!project || !shot || !layer) throw new Error(say`That layer is no longer in the project.`);
  return { project, shot, layer };
}

/** Numbers of a layer that are the user's from now on. */
const takenOver = (shot: Shot, layer: Layer, before: Layer): string[] => {
  if (!shot.move) return shot.overrides;
  const changed = Object.entries(layer.numbers).flatMap(([name, keys]) =>
    keys === before.numbers[name as keyof Layer['numbers']] ? [] : [`${layer.id}.${name}`],
  );
  return [...new Set([...shot.overrides, ...changed])];
};

const put = (shot: Shot, layer: Layer): Shot => ({
  ...shot,
  overrides: takenOver(shot, layer, shot.layers.find((l) => l.id === layer.id) ?? layer),
  layers: shot.layers.map((l) => (l.id === layer.id ? layer : l)),
});

/** What became of a hold, in words. */
const enlargedWords = (enlarged: number | null): string =>
  enlarged === null
    ? say`Its edges would have to be hidden by more than four times its size, so it was left as large as it was: an edge shows.`
    : enlarged > 100
      ? say`It is shown at ${enlarged.toFixed(1)} % of its size, so that no edge shows.`
      : say`No edge shows.`;

/** Holds a followed place of a layer's take, as large as it must be. Returns what to know of it. */
export async function holdInLayer(shotId: string, layerId: string, what: string, at: HoldAt, onProgress: Progress): Promise<string> {
  const before = here(shotId, layerId);
  const course = await courseOf(before.project, takeOf(before.project, before.layer), what, onProgress);
  const { project, shot, layer } = here(shotId, layerId);
  // A camera is undone whole; a place is held where it is.
  const how = { turn: what === CAMERA, scale: what === CAMERA };
  const { layer: held, enlarged } = holdPoint(project, shot, layer, course, at, how, true);
  changeShot(shotId, what === CAMERA ? say`Steady a layer` : say`Hold a point`, (s) => put(s, held), [], before.project.id);
  return enlargedWords(enlarged);
}

/** Attaches a layer, or with `maskId` one of its masks, to a point of another layer's take. */
export async function attachTo(
  shotId: string,
  layerId: string,
  maskId: string | null,
  on: { layerId: string; pointId: string },
  how: FollowHow,
  onProgress: Progress,
): Promise<void> {
  const before = here(shotId, on.layerId);
  const course = await courseOf(before.project, takeOf(before.project, before.layer), on.pointId, onProgress);
  const { project, shot, layer } = here(shotId, layerId);
  const { layer: other } = here(shotId, on.layerId);
  const frame = useProject.getState().playhead;
  const mask = layer.masks.find((m) => m.id === maskId);
  if (!mask) {
    changeShot(
      shotId,
      say`Attach a layer`,
      (s) => put(s, attachLayer(project, shot, layer, other, course, frame, how)),
      [],
      before.project.id,
    );
    return;
  }
  const moved = attachMask(project, shot, layer, mask, other, course, frame, how);
  changeShot(
    shotId,
    say`Attach a mask`,
    (s) => put(s, { ...layer, masks: layer.masks.map((m) => (m.id === maskId ? moved : m)) }),
    [],
    before.project.id,
  );
}

/** Lays the motion of a take's camera on a layer. Returns what to know of it. */
export async function shakeLike(shotId: string, layerId: string, takeId: string, onProgress: Progress): Promise<string> {
  const before = here(shotId, layerId);
  const take = before.project.takes.find((t) => t.id === takeId);
  if (!take) throw new Error(say`That take is no longer in the project.`);
  const course = await cameraCourse(before.project, take, onProgress);
  const { project, shot, layer } = here(shotId, layerId);
  const { layer: made, enlarged } = handHeld(project, shot, layer, course, footageOf(project, takeId));
  changeShot(shotId, say`Move like a take’s camera`, (s) => put(s, made), [], before.project.id);
  return enlargedWords(enlarged);
}
