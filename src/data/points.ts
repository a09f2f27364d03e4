import { footageKey, footageOf, type Project, type Take, type TrackedPoint } from '@/core/document';
import { say } from '@/core/words';
import type { PointCourse } from '@/media/track-point';
import type { MeasureApi } from '@/workers/measure.worker';
import { db } from './db';
import { derived } from './derived';
import { inWorker, measureWorker, type Progress } from './jobs';
import { edit } from './store';

/** Seconds within which a place is meant for the same frame. */
const SAME_FRAME = 0.02;

/** A place of a take's picture at a second, per cent. */
export interface PlaceAt {
  time: number;
  x: number;
  y: number;
}

function changePoints(takeId: string, label: string, how: (points: TrackedPoint[]) => TrackedPoint[]): void {
  edit(label, (draft) => {
    const take = draft.takes.find((t) => t.id === takeId);
    if (take) take.points = how((take.points ?? []) as TrackedPoint[]);
  });
}

/** Marks a place to be followed. Gives its id. */
export function addPoint(project: Project, takeId: string, at: PlaceAt, radius: number): string {
  const id = crypto.randomUUID();
  const count = project.takes.find((t) => t.id === takeId)?.points?.length ?? 0;
  changePoints(takeId, say`Mark a point`, (points) => [...points, { id, name: say`Point ${count + 1}`, radius, keys: [at] }]);
  return id;
}

export function changePoint(takeId: string, id: string, label: string, how: (point: TrackedPoint) => TrackedPoint): void {
  changePoints(takeId, label, (points) => points.map((p) => (p.id === id ? how(p) : p)));
}

/** Puts a followed place right at a second; the first place that is known moves where it is the same frame. */
export function putRight(takeId: string, id: string, at: PlaceAt): void {
  changePoint(takeId, id, say`Put a point right`, (point) => ({
    ...point,
    keys: [...point.keys.filter((k) => Math.abs(k.time - at.time) > SAME_FRAME), at].sort((a, b) => a.time - b.time),
  }));
}

/** Forgets that a place was put right at a second; one is always known. */
export function forgetPlace(takeId: string, id: string, time: number): void {
  changePoint(takeId, id, say`Forget a place`, (point) => ({
    ...point,
    keys: point.keys.length > 1 ? point.keys.filter((k) => k.time !== time) : point.keys,
  }));
}

export function removePoint(takeId: string, id: string): void {
  changePoints(takeId, say`Remove a point`, (points) => points.filter((p) => p.id !== id));
}

const courseKey = (project: Project, take: Take, { radius, keys }: TrackedPoint) =>
  `point:1:${footageKey(footageOf(project, take.id))}:${radius}:${keys.map((k) => [k.time, k.x, k.y]).join()}`;

/** Where a marked place is on every frame of its take; followed once. Pixels of the take's picture. */
export function pointCourse(
  project: Project,
  take: Take,
  point: TrackedPoint,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<PointCourse> {
  const footage = footageOf(project, take.id);
  const { width, height } = footage;
  const ask = {
    radius: (point.radius * height) / 100,
    keys: point.keys.map(({ time, x, y }) => ({ time, x: (x * width) / 100, y: (y * height) / 100 })),
  };
  return derived(courseKey(project, take, point), () =>
    inWorker<MeasureApi, PointCourse>(
      measureWorker(),
      signal,
      (api, tell) => api.trackPoint(footage, ask, tell(onProgress)) as Promise<PointCourse>,
    ),
  );
}

/** The same where it was followed already; null where not. */
export async function knownCourse(project: Project, take: Take, point: TrackedPoint): Promise<PointCourse | null> {
  return ((await db.derived.get(courseKey(project, take, point)))?.value as PointCourse | undefined) ?? null;
}
