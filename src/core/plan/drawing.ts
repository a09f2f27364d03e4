import type { Metres, Pixels, Unit } from '../units';
import type { SetPoint, View } from './camera';
import type { Place, PlannedShot, Prop } from './schema';

/** A flat piece of the set as seen: corners in pixels of the frame, furthest first in a list. */
export interface Face {
  id: string;
  kind: 'floor' | 'wall' | 'prop' | 'structure';
  points: [Pixels, Pixels][];
  /** 0 dark to 1 light, by which way it looks. */
  shade: Unit;
}

/** Nothing nearer than this is drawn, metres. */
const NEAR: Metres = 0.15;

/** Corners in pixels of a flat piece of the set, cut off at the near plane; fewer than three when it lies behind the camera. */
export function projected(view: View, corners: readonly SetPoint[]): [Pixels, Pixels][] {
  const out: [Pixels, Pixels][] = [];
  const seen = corners.map((p) => ({ p, ...view.project(p) }));
  seen.forEach((a, i) => {
    const b = seen[(i + 1) % seen.length];
    if (a.depth >= NEAR) out.push([a.x, a.y]);
    if (a.depth >= NEAR !== b.depth >= NEAR) {
      const t = (NEAR - a.depth) / (b.depth - a.depth);
      const mix = (from: number, to: number) => from + (to - from) * t;
      // A hair beyond the plane, so that the division by depth stays sound.
      const cut = view.project({ x: mix(a.p.x, b.p.x), y: mix(a.p.y, b.p.y), z: mix(a.p.z, b.p.z) });
      out.push([cut.x, cut.y]);
    }
  });
  return out.length < 3 ? [] : out;
}

/** How high the back wall is drawn, metres. Common practice for a room one films in. */
const CEILING: Metres = 3;

/** The room, props and structures as faces from the furthest to the nearest. */
export function setFaces(view: View, shot: Pick<PlannedShot, 'room' | 'props'>): Face[] {
  const { left, right, back } = shot.room;
  const faces: Face[] = [];
  const add = (id: string, kind: Face['kind'], shade: Unit, corners: SetPoint[]) => {
    const points = projected(view, corners);
    if (points.length) faces.push({ id, kind, shade, points });
  };
  const wall = (x0: Metres, z0: Metres, x1: Metres, z1: Metres): SetPoint[] => [
    { x: x0, y: 0, z: z0 },
    { x: x1, y: 0, z: z1 },
    { x: x1, y: CEILING, z: z1 },
    { x: x0, y: CEILING, z: z0 },
  ];
  add('wall-back', 'wall', 0.8, wall(-left, back, right, back));
  add('wall-left', 'wall', 0.6, wall(-left, -1, -left, back));
  add('wall-right', 'wall', 0.6, wall(right, -1, right, back));
  const floor = (x0: Metres, x1: Metres, z0: Metres, z1: Metres): SetPoint[] => [
    { x: x0, y: 0, z: z0 },
    { x: x1, y: 0, z: z0 },
    { x: x1, y: 0, z: z1 },
    { x: x0, y: 0, z: z1 },
  ];
  add('floor', 'floor', 1, floor(-left, right, -1, back));
  // A chequer of metres on the floor tells distances at a glance.
  for (let x = Math.floor(-left); x < right; x++)
    for (let z = 0; z < back; z++)
      if ((x + z) % 2 === 0)
        add(`tile${x}_${z}`, 'floor', 0.75, floor(Math.max(-left, x), Math.min(right, x + 1), z, Math.min(back, z + 1)));
  for (const prop of [...shot.props].sort((a, b) => b.z - b.depth / 2 - (a.z - a.depth / 2)))
    boxFaces(prop).forEach(({ corners, shade }, i) => void add(`${prop.id}-${i}`, prop.kind, shade, corners));
  return faces;
}

/** Faces of a prop that can be seen from a camera in front of it: sides first, then top, then front. */
function boxFaces(p: Prop): { corners: SetPoint[]; shade: Unit }[] {
  const [x0, x1, z0, z1] = [p.x - p.width / 2, p.x + p.width / 2, p.z - p.depth / 2, p.z + p.depth / 2];
  const [y0, y1] = [p.base, p.base + p.height];
  const side = (x: Metres): SetPoint[] => [
    { x, y: y0, z: z0 },
    { x, y: y0, z: z1 },
    { x, y: y1, z: z1 },
    { x, y: y1, z: z0 },
  ];
  const flat = (y: Metres): SetPoint[] => [
    { x: x0, y, z: z0 },
    { x: x1, y, z: z0 },
    { x: x1, y, z: z1 },
    { x: x0, y, z: z1 },
  ];
  return [
    ...(x1 < 0 ? [{ corners: side(x1), shade: 0.45 }] : x0 > 0 ? [{ corners: side(x0), shade: 0.45 }] : []),
    { corners: flat(y1), shade: 0.95 },
    {
      corners: [
        { x: x0, y: y0, z: z0 },
        { x: x1, y: y0, z: z0 },
        { x: x1, y: y1, z: z0 },
        { x: x0, y: y1, z: z0 },
      ],
      shade: 0.7,
    },
  ];
}

/** One rounded limb of a mannequin as seen. Pixels. */
export interface LimbSeen {
  from: [Pixels, Pixels];
  to: [Pixels, Pixels];
  radius: Pixels;
  part: 'skin' | 'clothes' | 'shoe';
}

/** A place lower than this holds a thing, not a person, metres. */
const THING: Metres = 0.9;

function thing(view: View, place: Place, x: Metres, lift: Metres): LimbSeen[] {
  const half = Math.min(place.reach, 0.3) * 0.6;
  const [a, b] = [-half, half].map((dx) => view.project({ x: x + dx, y: place.height / 2 + lift, z: place.z }));
  return a.depth < NEAR ? [] : [{ from: [a.x, a.y], to: [b.x, b.y], radius: ((place.height / 2) * view.scale) / a.depth, part: 'clothes' }];
}

/**
 * A mannequin at a place, limb by limb from back to front. `arms` 0 hangs, 1 is overhead, 0.5 reaches forward to the
 * sides; `dx` and `lift` move it in metres. A place under 0.9 m holds a thing instead. Proportions after common artists' canons (seven and a half heads).
 */
export function mannequin(view: View, place: Place, arms: Unit, dx: Metres = 0, lift: Metres = 0): LimbSeen[] {
  const x = place.x + dx;
  if (place.height < THING) return thing(view, place, x, lift);
  const h = place.height / 1.72;
  const at = (ox: Metres, y: Metres): SetPoint => ({ x: x + ox * h, y: y * h + lift, z: place.z });
  const shoulder = 0.19;
  const angle = (-0.42 + arms * 0.95) * Math.PI;
  const hand = (side: -1 | 1): SetPoint => at(side * (shoulder + Math.cos(angle) * 0.52), 1.42 + Math.sin(angle) * 0.52);
  const elbow = (side: -1 | 1): SetPoint => at(side * (shoulder + Math.cos(angle) * 0.27 + 0.03), 1.42 + Math.sin(angle) * 0.27 - 0.02);
  const limbs: [SetPoint, SetPoint, Metres, LimbSeen['part']][] = [];
  for (const side of [-1, 1] as const) {
    limbs.push([at(side * 0.13, 0.05), at(side * 0.19, 0.04), 0.045, 'shoe']);
    limbs.push(
      [at(side * 0.09, 0.88), at(side * 0.12, 0.48), 0.085, 'clothes'],
      [at(side * 0.12, 0.48), at(side * 0.13, 0.1), 0.065, 'clothes'],
    );
  }
  limbs.push(
    [at(0, 1.5), at(0, 1.54), 0.05, 'skin'],
    [at(0, 1.32), at(0, 0.98), 0.16, 'clothes'],
    [at(0, 1.62), at(0, 1.6), 0.105, 'skin'],
  );
  for (const side of [-1, 1] as const) {
    limbs.push(
      [at(side * shoulder, 1.42), elbow(side), 0.06, 'clothes'],
      [elbow(side), hand(side), 0.048, 'clothes'],
      [hand(side), hand(side), 0.05, 'skin'],
    );
  }
  return limbs.flatMap(([a, b, radius, part]) => {
    const [from, to] = [view.project(a), view.project(b)];
    return from.depth < NEAR || to.depth < NEAR
      ? []
      : [
          {
            from: [from.x, from.y] as [number, number],
            to: [to.x, to.y] as [number, number],
            radius: (radius * h * view.scale) / from.depth,
            part,
          },
        ];
  });
}
