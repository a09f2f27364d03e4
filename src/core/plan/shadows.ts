import type { Metres, Pixels } from '../units';
import { say } from '../words';
import type { View } from './camera';
import type { Lamp, Place, PlannedShot } from './schema';
import type { Seam } from './zones';

/** The shadow one place throws from one lamp. */
export interface Shadow {
  place: Place;
  lamp: Lamp;
  /** Where the head's shadow falls on floor or back wall. */
  tip: { x: Metres; y: Metres; z: Metres };
  on: 'floor' | 'wall';
  /** Pixels from left to right that it covers within the frame, feet to tip. */
  left: Pixels;
  right: Pixels;
  /** Width of the soft edge at the tip. */
  penumbra: Metres;
  penumbraPixels: Pixels;
}

/** Half the width of what throws the shadow: the shoulders, metres. */
const SHOULDER: Metres = 0.24;

/**
 * Shadows of all places from all lamps on the floor and the back wall, by similar triangles. The penumbra is the lamp's
 * size × (occluder to ground) / (lamp to occluder), geometric optics. A lamp below a head throws its shadow on the wall.
 */
export function shadowsOf(view: View, shot: Pick<PlannedShot, 'places' | 'lamps' | 'room'>): Shadow[] {
  return shot.places.flatMap((place) => shot.lamps.map((lamp) => shadowOf(view, place, lamp, shot.room.back)));
}

function shadowOf(view: View, place: Place, lamp: Lamp, back: Metres): Shadow {
  const head = { x: place.x, y: place.height, z: place.z };
  const d = { x: head.x - lamp.x, y: head.y - lamp.height, z: head.z - lamp.z };
  const toFloor = d.y < 0 ? -head.y / d.y : Number.POSITIVE_INFINITY;
  const toWall = d.z > 0 ? (back - head.z) / d.z : Number.POSITIVE_INFINITY;
  // A lamp level with the head and turned away from the wall throws a shadow without end; 50 m stands for it.
  const t = Math.min(toFloor, toWall, 50 / Math.max(0.01, Math.hypot(d.x, d.y, d.z)));
  const tip = { x: head.x + d.x * t, y: Math.max(0, head.y + d.y * t), z: head.z + d.z * t };
  const lampToHead = Math.max(0.05, Math.hypot(d.x, d.y, d.z));
  const headToTip = lampToHead * t;
  const penumbra = (lamp.size * headToTip) / lampToHead;
  const wide = SHOULDER * (1 + t) + penumbra / 2;
  const points = [
    { p: { x: place.x, y: 0, z: place.z }, half: SHOULDER },
    { p: tip, half: wide },
  ];
  const seen = points
    .flatMap(({ p, half }) => [view.project({ ...p, x: p.x - half }), view.project({ ...p, x: p.x + half })])
    .filter((q) => q.depth > 0.1);
  const end = view.project(tip);
  const inFrame = (x: Pixels) => Math.min(view.width, Math.max(0, x));
  return {
    place,
    lamp,
    tip,
    on: toWall < toFloor ? 'wall' : 'floor',
    left: inFrame(Math.min(...seen.map((q) => q.x))),
    right: inFrame(Math.max(...seen.map((q) => q.x))),
    penumbra,
    penumbraPixels: end.depth > 0.1 ? (penumbra * view.scale) / end.depth : 0,
  };
}

/** A shadow that reaches over a seam, with the feather that hides it or where the lamp should go. */
export interface ShadowCrossing {
  shadow: Shadow;
  seam: Seam;
  over: Pixels;
  feather: Pixels;
  advice: string;
}

/**
 * Shadows that cross seams: one thrown by the left neighbour that reaches right of the seam, or the other way round.
 * A feather as wide as the penumbra hides a soft edge (common practice); if the gap has no room for it the lamp has to
 * move towards the shadow's side.
 */
export function shadowCrossings(shadows: readonly Shadow[], seams: readonly Seam[]): ShadowCrossing[] {
  return seams.flatMap((seam) =>
    shadows.flatMap((shadow): ShadowCrossing[] => {
      const fromLeft = shadow.place.id === seam.left.place.id;
      const fromRight = shadow.place.id === seam.right.place.id;
      const over = fromLeft ? shadow.right - seam.x : fromRight ? seam.x - shadow.left : 0;
      if (over <= 0.5) return [];
      const feather = Math.ceil(shadow.penumbraPixels);
      const fits = feather <= seam.feather && over <= feather / 2;
      const soft = shadow.penumbraPixels > 0.01 * seam.left.perMetre;
      // The tip moves against the lamp, by the ratio of the two distances.
      const tipShift = over / Math.max(1, seam.left.perMetre);
      const ratio =
        Math.max(0.1, Math.hypot(shadow.tip.x - shadow.place.x, shadow.tip.z - shadow.place.z)) /
        Math.max(0.1, Math.hypot(shadow.place.x - shadow.lamp.x, shadow.place.z - shadow.lamp.z));
      const lampShift = Math.max(0.1, Math.ceil((tipShift / ratio) * 10) / 10);
      const advice = fits
        ? say`A feather of ${feather} px hides its soft edge.`
        : say`Move ${shadow.lamp.name} about ${lampShift.toFixed(1)} m to the ${fromLeft ? 'right' : 'left'}, ${soft ? say`or make it larger` : say`or soften it: the edge is hard and would have to be masked exactly`}.`;
      return [{ shadow, seam, over, feather, advice }];
    }),
  );
}
