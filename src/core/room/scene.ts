import { clamp } from '../units';

export type Rgb = readonly [number, number, number];
/** A point in the room in metres: x right, y up, z away from the camera; the floor is y = 0. */
export type Point3 = readonly [number, number, number];

/** The room's fixed camera: at (0, height, 0) looking along +z, level. `widthAt1` is the frame width in metres at 1 m. */
export const CAMERA = { height: 1.22, widthAt1: 36 / 28 } as const;

/** Light-giving balls under the lamp shades. */
const LAMPS: readonly { at: Point3; radius: number; power: number }[] = [
  { at: [-1.55, 2.2, 3.3], radius: 0.13, power: 2.5 },
  { at: [0.15, 2.42, 2.5], radius: 0.16, power: 2.9 },
  { at: [1.72, 2.2, 3.1], radius: 0.13, power: 2.0 },
];
const LAMP_COLOUR: Rgb = [1, 0.86, 0.66];
const AMBIENT: Rgb = [0.1, 0.115, 0.15];

interface Surface {
  albedo: Rgb;
  glow?: Rgb;
}

interface Box {
  min: Point3;
  max: Point3;
  surface: (p: Point3, axis: 0 | 1 | 2) => Surface;
}

const plain = (albedo: Rgb) => () => ({ albedo });
const mix = (a: Rgb, b: Rgb, t: number): Rgb => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
const step = (edge: number, width: number, x: number) => clamp((x - edge) / width + 0.5, 0, 1);

/** Repeatable smooth noise for wear on walls and floor, about -1..1. */
function grain(x: number, y: number): number {
  return (
    (Math.sin(x * 12.7 + Math.sin(y * 7.3) * 2.1) + Math.sin(y * 17.1 + Math.sin(x * 9.9) * 1.7) + Math.sin((x + y) * 31.3) * 0.5) / 2.5
  );
}

const hash = (a: number, b: number) => {
  const s = Math.sin(a * 127.1 + b * 311.7) * 43758.5453;
  return s - Math.floor(s);
};

const BODY: Rgb = [0.62, 0.66, 0.64];
const DRUM: readonly Rgb[] = [
  [0.5, 0.16, 0.1],
  [0.1, 0.27, 0.4],
  [0.62, 0.5, 0.2],
  [0.2, 0.36, 0.22],
  [0.45, 0.2, 0.38],
  [0.15, 0.3, 0.3],
];

/** The face of a machine: rim, glass with washing behind it, panel with knob and lamps. `u`, `v` in metres from its lower left. */
function machineFace(index: number, u: number, v: number, width: number): Surface {
  const r = Math.hypot(u - width / 2, v - 0.47);
  if (r < 0.2) {
    const angle = Math.atan2(v - 0.47, u - width / 2);
    const cloth = DRUM[index % DRUM.length];
    const fold = 0.5 + 0.5 * Math.sin(angle * 3 + r * 26 + index * 1.9) * Math.sin(r * 40 + index);
    const load = step(0.02 + 0.05 * Math.sin(angle * 2 + index), 0.05, 0.13 - (v - 0.47) - r * 0.1);
    const inside = mix([0.035, 0.045, 0.055], mix(cloth, [0.75, 0.72, 0.66], fold * 0.55), load);
    const shine = Math.max(0, 1 - Math.abs(u - width / 2 + 0.07 - (v - 0.55) * 0.4) * 26) * step(0.49, 0.04, v) * 0.35;
    return { albedo: mix(inside, [0.9, 0.95, 1], shine) };
  }
  if (r < 0.255) return { albedo: mix([0.78, 0.8, 0.8], [0.3, 0.32, 0.34], Math.abs((r - 0.2275) / 0.0275) ** 2) };
  if (r < 0.275) return { albedo: [0.12, 0.13, 0.14] };
  if (v > 0.86) {
    if (v > 0.985) return { albedo: [0.3, 0.31, 0.3] };
    if (Math.hypot(u - 0.14, v - 0.925) < 0.035)
      return { albedo: Math.abs(u - 0.14) < 0.006 && v > 0.925 ? [0.9, 0.9, 0.85] : [0.1, 0.1, 0.11] };
    if (u > 0.3 && u < 0.5 && v > 0.9 && v < 0.95)
      return {
        albedo: [0.05, 0.06, 0.05],
        glow: hash(Math.floor(u * 60), index) > 0.45 && v > 0.912 && v < 0.938 ? [0.28, 0.42, 0.2] : undefined,
      };
    if (Math.hypot(u - 0.59, v - 0.925) < 0.014)
      return { albedo: [0.2, 0.05, 0.04], glow: index % 3 ? [0.05, 0.35, 0.12] : [0.8, 0.18, 0.06] };
    return { albedo: mix(BODY, [0.2, 0.34, 0.38], 0.75) };
  }
  if (u < 0.008 || u > width - 0.008 || v < 0.07) return { albedo: [0.14, 0.15, 0.15] };
  return { albedo: mix(BODY, [0.5, 0.52, 0.5], 0.25 + 0.12 * grain(u * 0.6 + index, v * 0.9)) };
}

function machine(index: number, x: number): Box {
  const width = 0.68;
  return {
    min: [x, 0.04, 4.45],
    max: [x + width, 1.08, 5.2],
    surface: (p, axis) =>
      axis === 2 ? machineFace(index, p[0] - x, p[1] - 0.04, width) : { albedo: axis === 1 ? [0.5, 0.52, 0.5] : [0.4, 0.42, 0.4] },
  };
}

const wood = (p: Point3): Surface => ({
  albedo: mix(
    [0.5, 0.31, 0.16],
    [0.33, 0.19, 0.1],
    0.5 + 0.5 * Math.sin(p[0] * 5 + Math.sin(p[2] * 22 + p[1] * 30) * 1.4 + grain(p[0], p[2] * 4)),
  ),
});

const legs = (x0: number, x1: number, z0: number, z1: number, height: number, colour: Rgb): Box[] =>
  [x0, x1].flatMap((x) =>
    [z0, z1].map((z): Box => ({ min: [x - 0.02, 0, z - 0.02], max: [x + 0.02, height, z + 0.02], surface: plain(colour) })),
  );

const stack = (x: number, y: number, z: number, colours: readonly Rgb[]): Box[] =>
  colours.map(
    (c, i): Box => ({
      min: [x - 0.15 + hash(i, x) * 0.02, y + i * 0.055, z - 0.12],
      max: [x + 0.15 - hash(x, i) * 0.02, y + (i + 1) * 0.055 - 0.006, z + 0.12],
      surface: (p) => ({ albedo: mix(c, [0.9, 0.88, 0.82], Math.sin(p[0] * 90 + i) > 0.75 ? 0.5 : 0) }),
    }),
  );

const BOXES: readonly Box[] = [
  ...[-2.78, -2.06, -1.34, -0.62, 0.1, 0.82].map((x, i) => machine(i, x)),
  // The pillar and the cupboard beyond it: upright structures for seams.
  {
    min: [1.56, 0, 4.25],
    max: [1.86, 3.2, 4.55],
    surface: (p, axis) => ({
      albedo:
        p[1] < 0.16
          ? [0.16, 0.16, 0.17]
          : mix([0.5, 0.43, 0.34], [0.42, 0.34, 0.26], step(0, 0.3, grain(p[0 + (axis === 0 ? 2 : 0)] * 2, p[1])) * 0.6),
    }),
  },
  {
    min: [1.95, 0, 4.75],
    max: [3.2, 2.05, 5.2],
    surface: (p, axis) => ({
      albedo:
        axis === 2 && (Math.abs(((p[0] - 1.95) % 0.42) - 0.21) > 0.2 || Math.abs((p[1] % 0.68) - 0.34) > 0.33)
          ? [0.08, 0.12, 0.12]
          : [0.2, 0.33, 0.33],
    }),
  },
  // Folding table, right; bench, left.
  { min: [1.3, 0.84, 2.95], max: [2.75, 0.89, 3.65], surface: wood },
  ...legs(1.36, 2.69, 3.0, 3.6, 0.84, [0.15, 0.15, 0.16]),
  ...stack(1.62, 0.89, 3.3, [
    [0.62, 0.22, 0.15],
    [0.75, 0.7, 0.6],
    [0.2, 0.38, 0.42],
    [0.72, 0.56, 0.25],
  ]),
  ...stack(2.12, 0.89, 3.35, [
    [0.7, 0.68, 0.62],
    [0.3, 0.42, 0.3],
  ]),
  { min: [-2.75, 0.42, 3.45], max: [-1.45, 0.47, 3.85], surface: wood },
  ...legs(-2.66, -1.54, 3.5, 3.8, 0.42, [0.12, 0.2, 0.2]),
  {
    min: [-2.4, 0.47, 3.5],
    max: [-1.98, 0.75, 3.8],
    surface: (p) => ({
      albedo:
        Math.abs(((p[1] * 22) % 1) - 0.5) + Math.abs(((p[0] * 22 + p[2] * 22) % 1) - 0.5) > 0.62 ? [0.5, 0.36, 0.18] : [0.28, 0.19, 0.1],
    }),
  },
  // Shelf above the machines with jars.
  { min: [-2.7, 1.62, 4.95], max: [0.9, 1.66, 5.2], surface: wood },
  ...[-2.4, -2.15, -1.5, -1.32, -0.4, 0.35, 0.6].map((x, i): Box => {
    const c: Rgb = (
      [
        [0.65, 0.3, 0.16],
        [0.18, 0.4, 0.42],
        [0.75, 0.62, 0.3],
        [0.7, 0.68, 0.6],
      ] as const
    )[i % 4];
    return {
      min: [x, 1.66, 5.0],
      max: [x + 0.15, 1.86 + 0.06 * (i % 3), 5.12],
      surface: (p) => ({ albedo: p[1] > 1.83 + 0.06 * (i % 3) ? [0.8, 0.78, 0.72] : p[1] > 1.72 && p[1] < 1.79 ? [0.85, 0.8, 0.68] : c }),
    };
  }),
];

/** Back wall: tiles below, paint above, a dark window with the night outside, the clock. */
function wall(p: Point3): Surface {
  const [x, y] = p;
  const clock = Math.hypot(x - 1.32, y - 2.02);
  if (clock < 0.21) {
    if (clock > 0.18) return { albedo: [0.1, 0.11, 0.11] };
    const angle = Math.atan2(x - 1.32, y - 2.02);
    const hand = (a: number, long: number) => clock < long && Math.abs(Math.sin((angle - a) / 2)) * clock < 0.006;
    const tick = clock > 0.145 && clock < 0.17 && Math.abs(Math.sin(angle * 6)) * clock < 0.02;
    return { albedo: hand(1.15, 0.1) || hand(4.1, 0.15) || tick ? [0.06, 0.06, 0.06] : [0.86, 0.83, 0.74], glow: [0.05, 0.045, 0.03] };
  }
  if (x > -1.25 && x < 0.25 && y > 1.9 && y < 2.65) {
    const frame = x < -1.2 || x > 0.2 || y < 1.95 || y > 2.6 || Math.abs(x + 0.5) < 0.02;
    if (frame) return { albedo: [0.28, 0.2, 0.13] };
    const spot = Math.max(0, 1 - Math.hypot(x + 0.9, y - 2.3) * 9) + 0.8 * Math.max(0, 1 - Math.hypot(x + 0.14, y - 2.15) * 12);
    return { albedo: [0.015, 0.02, 0.035], glow: [0.02 + spot * 0.5, 0.03 + spot * 0.3, 0.07 + spot * 0.12] };
  }
  if (y < 1.5) {
    const row = Math.floor(y / 0.1);
    const u = (x + 10 + (row % 2) * 0.1) / 0.2;
    const line = Math.min(u - Math.floor(u), Math.ceil(u) - u) * 0.2 < 0.004 || Math.min(y / 0.1 - row, 1 - (y / 0.1 - row)) * 0.1 < 0.004;
    const tone = hash(Math.floor(u), row) * 0.16;
    return { albedo: line ? [0.36, 0.38, 0.36] : mix([0.26, 0.44, 0.43], [0.42, 0.58, 0.54], tone * 4) };
  }
  return {
    albedo:
      y < 1.55
        ? [0.56, 0.3, 0.16]
        : mix([0.5, 0.4, 0.3], [0.43, 0.33, 0.23], 0.5 + 0.5 * grain(x * 0.5, y * 0.6) + 0.2 * grain(x * 5, y * 6)),
  };
}

function floor(p: Point3): Surface {
  const i = Math.floor(p[0] / 0.4 + 50);
  const k = Math.floor(p[2] / 0.4);
  const edge = Math.min(Math.abs(p[0] / 0.4 + 50 - Math.round(p[0] / 0.4 + 50)), Math.abs(p[2] / 0.4 - Math.round(p[2] / 0.4))) < 0.008;
  const base: Rgb = (i + k) % 2 ? [0.52, 0.47, 0.38] : [0.2, 0.16, 0.14];
  return { albedo: edge ? [0.14, 0.12, 0.1] : mix(base, [0.3, 0.26, 0.22], 0.2 + 0.2 * grain(p[0] * 3, p[2] * 3)) };
}

interface Hit {
  distance: number;
  axis: 0 | 1 | 2;
  box: Box | null;
}

function hitBox(box: Box, o: Point3, d: Point3, limit: number): { t: number; axis: 0 | 1 | 2 } | null {
  let near = 1e-4;
  let far = limit;
  let axis: 0 | 1 | 2 = 0;
  for (const a of [0, 1, 2] as const) {
    const inverse = 1 / d[a];
    let t0 = (box.min[a] - o[a]) * inverse;
    let t1 = (box.max[a] - o[a]) * inverse;
    if (t0 > t1) [t0, t1] = [t1, t0];
    if (t0 > near) {
      near = t0;
      axis = a;
    }
    if (t1 < far) far = t1;
    if (near > far) return null;
  }
  return near > 1e-4 ? { t: near, axis } : null;
}

function nearestHit(o: Point3, d: Point3): Hit {
  let hit: Hit = { distance: (5.2 - o[2]) / d[2], axis: 2, box: null };
  if (d[1] < 0) {
    const t = -o[1] / d[1];
    if (t < hit.distance) hit = { distance: t, axis: 1, box: null };
  }
  for (const box of BOXES) {
    const found = hitBox(box, o, d, hit.distance);
    if (found) hit = { distance: found.t, axis: found.axis, box };
  }
  return hit;
}

function blocked(from: Point3, to: Point3): boolean {
  const d: Point3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  return BOXES.some((box) => hitBox(box, from, d, 0.999) !== null);
}

/** Light arriving at a point with the given normal: lamps as small balls sampled for soft shadows, plus a cool ambient. */
function lightAt(p: Point3, normal: Point3, jitter: () => number, shadowRays: number): Rgb {
  let sum = 0;
  for (const lamp of LAMPS) {
    let lit = 0;
    for (let s = 0; s < shadowRays; s++) {
      const target: Point3 = [
        lamp.at[0] + (jitter() - 0.5) * 2 * lamp.radius,
        lamp.at[1] + (jitter() - 0.5) * lamp.radius,
        lamp.at[2] + (jitter() - 0.5) * 2 * lamp.radius,
      ];
      if (!blocked(p, target)) lit++;
    }
    if (!lit) continue;
    const d = [lamp.at[0] - p[0], lamp.at[1] - p[1], lamp.at[2] - p[2]];
    const length = Math.hypot(d[0], d[1], d[2]);
    const facing = Math.max(0, (d[0] * normal[0] + d[1] * normal[1] + d[2] * normal[2]) / length);
    sum += (lit / shadowRays) * facing * (lamp.power / (length * length + 0.35));
  }
  const open = 0.55 + 0.45 * clamp(p[1] / 1.2, 0, 1);
  return [AMBIENT[0] * open + sum * LAMP_COLOUR[0], AMBIENT[1] * open + sum * LAMP_COLOUR[1], AMBIENT[2] * open + sum * LAMP_COLOUR[2]];
}

function shade(o: Point3, d: Point3, jitter: () => number, shadowRays: number): Rgb {
  const lamp = lampGlow(o, d);
  const hit = nearestHit(o, d);
  const p: Point3 = [o[0] + d[0] * hit.distance, o[1] + d[1] * hit.distance, o[2] + d[2] * hit.distance];
  const surface = hit.box ? hit.box.surface(p, hit.axis) : hit.axis === 1 ? floor(p) : wall(p);
  const normal: Point3 = [hit.axis === 0 ? -Math.sign(d[0]) : 0, hit.axis === 1 ? -Math.sign(d[1]) : 0, hit.axis === 2 ? -1 : 0];
  const off: Point3 = [p[0] + normal[0] * 1e-3, p[1] + normal[1] * 1e-3, p[2] + normal[2] * 1e-3];
  const light = lightAt(off, normal, jitter, shadowRays);
  const glow = surface.glow ?? [0, 0, 0];
  const out = [0, 1, 2].map((c) => surface.albedo[c] * light[c] + glow[c]);
  if (lamp.depth < hit.distance) return [lamp.colour[0], lamp.colour[1], lamp.colour[2]];
  return [out[0] + lamp.halo * LAMP_COLOUR[0], out[1] + lamp.halo * LAMP_COLOUR[1], out[2] + lamp.halo * LAMP_COLOUR[2]];
}

/** The visible lamps: cord, enamel shade, bulb, and a faint halo. */
function lampGlow(o: Point3, d: Point3): { depth: number; colour: Rgb; halo: number } {
  let halo = 0;
  for (const { at, radius } of LAMPS) {
    const t = at[2] / d[2];
    const x = o[0] + d[0] * t - at[0];
    const y = o[1] + d[1] * t - at[1];
    const r = radius * 1.7;
    if (y > 0.02 && y < 0.3 && Math.abs(x) < r * (1 - (y / 0.3) ** 0.6 * 0.82)) {
      const round = 1 - (x / r) ** 2;
      return { depth: t, colour: y < 0.035 ? [0.75, 0.6, 0.4] : [0.05 + 0.1 * round, 0.16 + 0.16 * round, 0.17 + 0.15 * round], halo: 0 };
    }
    if (y >= 0.3 && Math.abs(x) < 0.008) return { depth: t, colour: [0.03, 0.03, 0.03], halo: 0 };
    if (Math.hypot(x, y) < radius * 0.8 && y <= 0.02) return { depth: t, colour: [2.2, 1.95, 1.45], halo: 0 };
    halo += 0.05 * Math.exp(-Math.hypot(x, y) * 4.2);
  }
  return { depth: Number.POSITIVE_INFINITY, colour: [0, 0, 0], halo };
}

/** A picture in linear light, three floats a pixel. */
export interface LinearPicture {
  width: number;
  height: number;
  data: Float32Array;
}

/**
 * The empty room in linear light. `width`×`height` samples cover the frame and `margin` (a share of the frame) beyond each edge,
 * so that a bumped camera still sees room. `onRow` gets 0..1.
 */
export function bakeRoom(
  width: number,
  height: number,
  margin: number,
  jitter: () => number,
  shadowRays = 4,
  onRow?: (done: number) => void,
): LinearPicture {
  const data = new Float32Array(width * height * 3);
  const aspect = height / width;
  const o: Point3 = [0, CAMERA.height, 0];
  for (let y = 0; y < height; y++) {
    onRow?.(y / height);
    for (let x = 0; x < width; x++) {
      const u = ((x + 0.5) / width - 0.5) * CAMERA.widthAt1 * (1 + 2 * margin);
      const v = (0.5 - (y + 0.5) / height) * CAMERA.widthAt1 * aspect * (1 + 2 * margin);
      data.set(shade(o, [u, v, 1], jitter, shadowRays), (y * width + x) * 3);
    }
  }
  return { width, height, data };
}
