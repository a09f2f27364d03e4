import { clamp, type Metres, type Seconds } from '../units';
import { PERFORMANCE } from './figure';
import { randomSource } from './random';
import type { Rgb } from './scene';

/** One folded cloth in the air or on the floor at an instant, as a parallelogram in metres. */
export interface ClothAt {
  x: Metres;
  y: Metres;
  /** Half-sides. */
  e1: readonly [Metres, Metres];
  e2: readonly [Metres, Metres];
  light: number;
  colour: Rgb;
  second: Rgb;
  pattern: number;
}

interface Cloth {
  x: Metres;
  delay: Seconds;
  height: Metres;
  fall: number;
  size: Metres;
  phase: number;
  spin: number;
  swing: Metres;
  colour: Rgb;
  second: Rgb;
  pattern: number;
  rest: Metres;
}

const COLOURS: readonly Rgb[] = [
  [0.78, 0.74, 0.64],
  [0.74, 0.36, 0.16],
  [0.16, 0.36, 0.42],
  [0.72, 0.55, 0.2],
  [0.55, 0.13, 0.1],
  [0.4, 0.5, 0.38],
  [0.82, 0.78, 0.7],
];

/** Falling cloths of one toss. */
export interface ClothFall {
  cloths: readonly Cloth[];
}

/** `count` cloths around `x`, the same for the same seed. */
export function makeFall(seed: number, x: Metres, count = 84): ClothFall {
  const random = randomSource(seed);
  const spread = () => random() + random() - 1;
  const cloths = Array.from({ length: count }, (): Cloth => {
    const colour = Math.floor(random() * COLOURS.length);
    return {
      x: x + spread() * 0.82,
      delay: 0.22 + 0.5 * random() ** 1.3,
      height: 2.72 + random() * 0.45,
      fall: 1.75 * (0.88 + 0.26 * random()),
      size: 0.15 + 0.11 * random(),
      phase: random() * 6.28,
      spin: (1.6 + random() * 2.6) * (random() < 0.5 ? -1 : 1),
      swing: 0.05 + 0.1 * random(),
      colour: COLOURS[colour],
      second: COLOURS[(colour + 2 + Math.floor(random() * 3)) % COLOURS.length],
      pattern: Math.floor(random() * 4),
      rest: 0.03 + random() * 0.1,
    };
  });
  return { cloths };
}

/** When and how high a cloth is: rises hidden in the bundle's burst, then falls at about its terminal speed. */
function heightAt(cloth: Cloth, t: Seconds): Metres {
  const since = t - PERFORMANCE.toss - cloth.delay;
  if (since < 0) return cloth.height;
  // Drag brings the speed to `fall` within about 0.25 s.
  const fallen = cloth.fall * (since - 0.16 * (1 - Math.exp(-since / 0.16)));
  return Math.max(cloth.rest, cloth.height - fallen);
}

/** The cloths to draw at `t`, back to front. None before the toss. */
export function clothsAt(fall: ClothFall, t: Seconds): ClothAt[] {
  if (t < PERFORMANCE.toss) return [];
  return fall.cloths.map((cloth) => {
    const y = heightAt(cloth, t);
    const landed = y <= cloth.rest + 1e-6;
    const time = landed ? 0 : t;
    const tumble = cloth.phase + cloth.spin * time * 1.7;
    const turn = landed ? cloth.phase * 0.2 : 0.5 * Math.sin(cloth.phase + time * 2.1);
    const squash = landed ? 0.22 : 0.35 + 0.65 * Math.abs(Math.cos(tumble));
    const x = cloth.x + (landed ? 0 : cloth.swing * Math.sin(cloth.phase + t * 4.2) * clamp((t - PERFORMANCE.toss) * 2, 0, 1));
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    return {
      x,
      y,
      e1: [cloth.size * c, cloth.size * s],
      e2: [-cloth.size * squash * s, cloth.size * squash * c],
      light: landed ? 0.5 : 0.55 + 0.4 * Math.abs(Math.cos(tumble + 0.7)),
      colour: cloth.colour,
      second: cloth.second,
      pattern: cloth.pattern,
    };
  });
}

/** Truth for the reveal's assist: the median height of the cloths in the air at `t`, or null when fewer than five are. */
export function fallHeight(fall: ClothFall, t: Seconds): Metres | null {
  const heights = fall.cloths
    .map((cloth) => ({ y: heightAt(cloth, t), cloth }))
    .filter(({ y, cloth }) => t > PERFORMANCE.toss + cloth.delay && y > cloth.rest + 1e-6)
    .map(({ y }) => y)
    .sort((a, b) => a - b);
  return heights.length < 5 ? null : heights[heights.length >> 1];
}

/** Colour of a cloth at its own coordinates, both -1..1. */
export function clothColour(cloth: ClothAt, u: number, v: number): Rgb {
  const edge = Math.max(Math.abs(u), Math.abs(v));
  const on = (k: boolean): Rgb => (k ? cloth.second : cloth.colour);
  if (edge > 0.9) return cloth.second;
  if (cloth.pattern === 0) return on(Math.abs((((u + 1) * 2.5) % 1) - 0.5) < 0.14);
  if (cloth.pattern === 1) return on(((u + 1) * 3) % 1 < 0.5 !== ((v + 1) * 3) % 1 < 0.5);
  if (cloth.pattern === 2) return on(Math.hypot((((u + 1) * 2.5) % 1) - 0.5, (((v + 1) * 2.5) % 1) - 0.5) < 0.2);
  return cloth.colour;
}
