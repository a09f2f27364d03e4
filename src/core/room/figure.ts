import { clamp, type Metres, type Seconds } from '../units';
import type { Rgb } from './scene';

type Point2 = readonly [number, number];

/** Working clothes of the performer: colours in linear light and a pattern for shirt and suit. */
export interface Outfit {
  shirt: Rgb;
  stripe: Rgb;
  suit: Rgb;
  accent: Rgb;
  cap: Rgb | null;
  pattern: 'stripes' | 'dots';
}

export const OUTFITS: readonly [Outfit, Outfit] = [
  {
    shirt: [0.78, 0.72, 0.6],
    stripe: [0.16, 0.24, 0.34],
    suit: [0.05, 0.23, 0.27],
    accent: [0.78, 0.52, 0.12],
    cap: null,
    pattern: 'stripes',
  },
  {
    shirt: [0.82, 0.76, 0.62],
    stripe: [0.66, 0.2, 0.1],
    suit: [0.55, 0.12, 0.05],
    accent: [0.85, 0.78, 0.62],
    cap: [0.6, 0.4, 0.08],
    pattern: 'dots',
  },
];

const SKIN: Rgb = [0.5, 0.28, 0.18];
const HAIR: Rgb = [0.035, 0.022, 0.018];
const SHOE: Rgb = [0.09, 0.06, 0.05];

/** A tapered limb between two points (metres, in the performer's plane) with radii at its ends. */
interface Limb {
  a: Point2;
  b: Point2;
  ra: Metres;
  rb: Metres;
  colour: (along: number, across: number) => Rgb;
  /** 0 flat to 1 fully round. */
  round: number;
}

/** Where the joints are at one instant. Metres; x right, y up. */
export interface Pose {
  hip: Point2;
  chest: Point2;
  head: Point2;
  handLeft: Point2;
  handRight: Point2;
  footLeft: Point2;
  footRight: Point2;
  /** 1 while the bundle is in the hands, shrinking to 0 as it bursts overhead. */
  bundle: number;
}

const smooth = (a: number, b: number, t: number) => {
  const u = clamp((t - a) / (b - a), 0, 1);
  return u * u * (3 - 2 * u);
};
const lerp = (a: number, b: number, t: number) => a + (b - a) * t;

/** The moments of the performance, in seconds from the start of the take. */
export const PERFORMANCE = { crouch: 2.3, toss: 2.9, open: 4.3 } as const;

/** The performer's pose: waits with a bundle, dips, tosses it overhead, keeps arms up, opens them and sways. */
export function poseAt(t: Seconds, x: Metres): Pose {
  const dip = smooth(PERFORMANCE.crouch, 2.62, t) * (1 - smooth(2.62, PERFORMANCE.toss, t));
  const up = smooth(2.62, PERFORMANCE.toss + 0.08, t);
  const open = smooth(PERFORMANCE.open, PERFORMANCE.open + 0.5, t);
  const beat = (t * 112) / 60;
  const sway = Math.sin(beat * Math.PI) * (0.018 + 0.03 * open);
  const bob = Math.abs(Math.sin(beat * Math.PI)) * 0.012 * (0.4 + open);
  const hip: Point2 = [x + sway, 0.93 - 0.16 * dip - bob];
  const chest: Point2 = [x + sway * 1.5, 1.36 - 0.2 * dip - bob + 0.02 * up];
  const head: Point2 = [x + sway * 1.9, 1.63 - 0.21 * dip - bob + 0.02 * up];
  const hand = (side: -1 | 1): Point2 => {
    const hold: Point2 = [x + side * 0.13, 1.08 - 0.34 * dip];
    const high: Point2 = [x + side * 0.22, 2.02];
    const wide: Point2 = [
      x + side * (0.66 + 0.05 * Math.sin(beat * Math.PI + side)),
      1.5 + 0.14 * Math.sin(beat * Math.PI * 0.5 + side * 0.6),
    ];
    const raised: Point2 = [lerp(hold[0], high[0], up), lerp(hold[1], high[1], up)];
    return [lerp(raised[0], wide[0], open), lerp(raised[1], wide[1], open)];
  };
  return {
    hip,
    chest,
    head,
    handLeft: hand(-1),
    handRight: hand(1),
    footLeft: [x - 0.17, 0.05],
    footRight: [x + 0.18, 0.05],
    bundle: 1 - smooth(PERFORMANCE.toss + 0.05, PERFORMANCE.toss + 0.3, t),
  };
}

/** Middle joint of a two-bone limb bending towards `side`. */
function bend(a: Point2, b: Point2, upper: Metres, lower: Metres, side: number): Point2 {
  const dx = b[0] - a[0];
  const dy = b[1] - a[1];
  const d = Math.min(Math.hypot(dx, dy), upper + lower - 1e-4) || 1e-4;
  const along = (upper * upper - lower * lower + d * d) / (2 * d);
  const off = Math.sqrt(Math.max(0, upper * upper - along * along)) * side;
  return [a[0] + (dx * along - dy * off) / d, a[1] + (dy * along + dx * off) / d];
}

const blend = (a: Rgb, b: Rgb, t: number): Rgb => [lerp(a[0], b[0], t), lerp(a[1], b[1], t), lerp(a[2], b[2], t)];

function clothes(outfit: Outfit): { sleeve: Limb['colour']; suit: Limb['colour']; leg: Limb['colour'] } {
  const weave = (u: number, v: number) => 0.06 * Math.sin(u * 55) * Math.sin(v * 14);
  const tint = (c: Rgb, k: number): Rgb => [c[0] * (1 + k), c[1] * (1 + k), c[2] * (1 + k)];
  const sleeve: Limb['colour'] =
    outfit.pattern === 'stripes'
      ? (u) => blend(outfit.shirt, outfit.stripe, clamp((Math.sin(u * 26) + 0.1) * 4 + 0.5, 0, 1))
      : (u, v) =>
          blend(
            outfit.shirt,
            outfit.stripe,
            clamp((0.33 - Math.hypot(((u * 5) % 1) - 0.5, ((v * 1.6 + Math.floor(u * 5) * 0.5 + 9) % 1) - 0.5)) * 12, 0, 1),
          );
  return {
    sleeve,
    suit: (u, v) => tint(outfit.suit, weave(u, v)),
    leg: (u, v) => tint(Math.abs(v) > 0.82 ? blend(outfit.suit, outfit.accent, 0.25) : outfit.suit, weave(u * 1.4, v)),
  };
}

/** The figure's parts from back to front. */
export function figureLimbs(pose: Pose, outfit: Outfit): Limb[] {
  const { sleeve, suit, leg } = clothes(outfit);
  const { hip, chest, head } = pose;
  const limbs: Limb[] = [];
  const flat = (c: Rgb) => () => c;
  for (const side of [-1, 1] as const) {
    const foot = side < 0 ? pose.footLeft : pose.footRight;
    const top: Point2 = [hip[0] + side * 0.085, hip[1] - 0.02];
    const knee = bend(top, [foot[0], foot[1] + 0.06], 0.4, 0.41, side);
    limbs.push({
      a: [foot[0] - side * 0.01, 0.055],
      b: [foot[0] + side * 0.1, 0.045],
      ra: 0.055,
      rb: 0.043,
      colour: flat(SHOE),
      round: 0.9,
    });
    limbs.push({ a: knee, b: [foot[0], foot[1] + 0.08], ra: 0.078, rb: 0.062, colour: leg, round: 1 });
    limbs.push({ a: top, b: knee, ra: 0.105, rb: 0.08, colour: leg, round: 1 });
  }
  limbs.push({
    a: [chest[0], chest[1] + 0.02],
    b: [head[0], head[1] - 0.09],
    ra: 0.06,
    rb: 0.05,
    colour: flat(blend(SKIN, [0, 0, 0], 0.25)),
    round: 1,
  });
  limbs.push({ a: [chest[0], chest[1] + 0.01], b: [hip[0], hip[1] + 0.22], ra: 0.178, rb: 0.15, colour: sleeve, round: 0.85 });
  limbs.push({ a: [chest[0], chest[1] - 0.11], b: hip, ra: 0.135, rb: 0.158, colour: suit, round: 0.85 });
  for (const side of [-1, 1] as const) {
    limbs.push({
      a: [chest[0] + side * 0.1, chest[1] + 0.15],
      b: [chest[0] + side * 0.085, chest[1] - 0.08],
      ra: 0.026,
      rb: 0.03,
      colour: suit,
      round: 0.6,
    });
    limbs.push({
      a: [chest[0] + side * 0.083, chest[1] - 0.03],
      b: [chest[0] + side * 0.083, chest[1] - 0.032],
      ra: 0.016,
      rb: 0.016,
      colour: flat(outfit.accent),
      round: 1,
    });
  }
  limbs.push({
    a: [chest[0] - 0.05, chest[1] - 0.15],
    b: [chest[0] + 0.05, chest[1] - 0.15],
    ra: 0.04,
    rb: 0.04,
    colour: flat(blend(outfit.suit, [0, 0, 0], 0.3)),
    round: 0.3,
  });
  limbs.push(...headParts(head, outfit));
  for (const side of [-1, 1] as const) {
    const hand = side < 0 ? pose.handLeft : pose.handRight;
    const shoulder: Point2 = [chest[0] + side * 0.165, chest[1] + 0.08];
    const elbow = bend(shoulder, hand, 0.31, 0.32, hand[1] > shoulder[1] + 0.25 ? side * -1 : side);
    limbs.push({ a: shoulder, b: elbow, ra: 0.074, rb: 0.058, colour: sleeve, round: 1 });
    const wrist: Point2 = [lerp(elbow[0], hand[0], 0.86), lerp(elbow[1], hand[1], 0.86)];
    limbs.push({ a: elbow, b: wrist, ra: 0.058, rb: 0.046, colour: sleeve, round: 1 });
    limbs.push({ a: wrist, b: hand, ra: 0.042, rb: 0.047, colour: flat(SKIN), round: 1 });
  }
  if (pose.bundle > 0.02) {
    const rise = (1 - pose.bundle) * 0.5;
    const middle: Point2 = [(pose.handLeft[0] + pose.handRight[0]) / 2, (pose.handLeft[1] + pose.handRight[1]) / 2 + 0.03 + rise];
    const cloth: Limb['colour'] = (u, v) => blend([0.78, 0.73, 0.62], [0.55, 0.5, 0.42], 0.5 + 0.5 * Math.sin(v * 7 + u * 9));
    limbs.push({
      a: [middle[0] - 0.07, middle[1]],
      b: [middle[0] + 0.07, middle[1] + 0.02],
      ra: 0.135,
      rb: 0.13,
      colour: cloth,
      round: 0.9,
    });
    limbs.push({
      a: [middle[0], middle[1] + 0.12],
      b: [middle[0] + 0.02, middle[1] + 0.19],
      ra: 0.03,
      rb: 0.06,
      colour: cloth,
      round: 0.8,
    });
  }
  return limbs;
}

function headParts(head: Point2, outfit: Outfit): Limb[] {
  const flat = (c: Rgb) => () => c;
  const [x, y] = head;
  const dot = (dx: number, dy: number, r: number, colour: Rgb, wide = 0): Limb => ({
    a: [x + dx - wide, y + dy],
    b: [x + dx + wide + 1e-4, y + dy],
    ra: r,
    rb: r,
    colour: flat(colour),
    round: 0.2,
  });
  return [
    { a: [x, y + 0.055], b: [x, y - 0.005], ra: 0.118, rb: 0.112, colour: flat(HAIR), round: 0.9 },
    { a: [x, y + 0.02], b: [x, y - 0.045], ra: 0.098, rb: 0.078, colour: flat(SKIN), round: 0.8 },
    dot(-0.038, 0.012, 0.011, [0.02, 0.015, 0.015]),
    dot(0.038, 0.012, 0.011, [0.02, 0.015, 0.015]),
    dot(-0.038, 0.04, 0.005, HAIR, 0.016),
    dot(0.038, 0.04, 0.005, HAIR, 0.016),
    dot(0.002, -0.018, 0.013, blend(SKIN, [0.3, 0.13, 0.08], 0.35)),
    dot(0, -0.062, 0.007, [0.35, 0.08, 0.06], 0.02),
    dot(-0.06, -0.03, 0.018, blend(SKIN, [0.6, 0.18, 0.12], 0.3)),
    dot(0.06, -0.03, 0.018, blend(SKIN, [0.6, 0.18, 0.12], 0.3)),
    { a: [x - 0.06, y + 0.09], b: [x + 0.06, y + 0.09], ra: 0.062, rb: 0.062, colour: flat(outfit.cap ?? HAIR), round: 0.9 },
    ...(outfit.cap
      ? [
          {
            a: [x - 0.085, y + 0.062] as Point2,
            b: [x + 0.085, y + 0.062] as Point2,
            ra: 0.022,
            rb: 0.022,
            colour: flat(blend(outfit.cap, [0, 0, 0], 0.35)),
            round: 0.8,
          },
        ]
      : []),
  ];
}

/** Signed distance from a point to a limb, with where along (0..1 of its length) and across (-1..1) it is. */
export function limbDistance(limb: Limb, x: Metres, y: Metres): { distance: Metres; along: number; across: number; radius: Metres } {
  const dx = limb.b[0] - limb.a[0];
  const dy = limb.b[1] - limb.a[1];
  const length = Math.hypot(dx, dy) || 1e-6;
  const px = x - limb.a[0];
  const py = y - limb.a[1];
  const h = clamp((px * dx + py * dy) / (length * length), 0, 1);
  const radius = lerp(limb.ra, limb.rb, h);
  const distance = Math.hypot(px - h * dx, py - h * dy) - radius;
  return { distance, along: h * length * 6, across: clamp((px * dy - py * dx) / length / radius, -1, 1), radius };
}

/** Light on a rounded surface: `nx`, `ny` are the normal's share sideways and up. */
function roundLight(nx: number, ny: number): number {
  const nz = Math.sqrt(Math.max(0, 1 - nx * nx - ny * ny));
  return 0.42 + 0.75 * Math.max(0, nx * -0.3 + ny * 0.62 + nz * 0.66) + 0.14 * Math.max(0, nx * 0.85 + nz * 0.1);
}

/** Light off a limb at a place given by `limbDistance`, in linear R, G, B. */
export function limbLight(limb: Limb, d: { along: number; across: number }): Rgb {
  const lx = limb.b[0] - limb.a[0];
  const ly = limb.b[1] - limb.a[1];
  const length = Math.hypot(lx, ly) || 1;
  const across = d.across * limb.round * 0.94;
  const tint = limb.colour(d.along, d.across);
  const light = roundLight((across * ly) / length, (-across * lx) / length) * 0.92;
  return [tint[0] * light, tint[1] * light * 0.97, tint[2] * light * 0.92];
}
