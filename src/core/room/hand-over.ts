import { clamp, type Metres, type Seconds } from '../units';
import { type Pose, poseAt } from './figure';

/** The two parts of the hand-over: who gives the bundle, from the left, and who takes it, from the right. */
export type Part = 'gives' | 'takes';

/** Moments of the hand-over in seconds: the giver reaches, holds out, and for `cross` pushes the bundle past the taker's hands. */
const HAND_OVER = { reach: 2.4, out: 3.3, cross: 4.4, crossed: 4.84, back: 5.4, home: 6.3 } as const;

const smooth = (a: number, b: number, t: number) => {
  const u = clamp((t - a) / (b - a), 0, 1);
  return u * u * (3 - 2 * u);
};
const lerp = (a: number, b: number, t: number) => a + (b - a) * t;

/**
 * The pose of one part at `t`, standing at `x`: waits, reaches out with both hands, and goes back. Between `cross` and `crossed`
 * the giver's hands and the bundle are past the taker's, so that no seam can part them.
 */
export function handOverPose(part: Part, t: Seconds, x: Metres): Pose {
  const rest = poseAt(0, x);
  const way = part === 'gives' ? 1 : -1;
  const { reach, out, cross, crossed, back, home } = HAND_OVER;
  const stretched = smooth(reach, out, t) * (1 - smooth(back, home, t));
  const past = part === 'gives' && t >= cross && t < crossed ? Math.sin((Math.PI * (t - cross)) / (crossed - cross)) ** 0.35 : 0;
  const far = x + way * (0.36 + 0.5 * past);
  const sway = Math.sin((t * 112 * Math.PI) / 60) * 0.014;
  const hand = (side: -1 | 1): readonly [Metres, Metres] => {
    const from = side < 0 ? rest.handLeft : rest.handRight;
    return [
      lerp(from[0] + sway, far - way * (side === way ? 0 : 0.09), stretched),
      lerp(from[1], 1.2 + (side === way ? 0 : 0.07), stretched),
    ];
  };
  const lean = 0.05 * way * stretched + 0.07 * way * past;
  const moved = ([a, b]: readonly [Metres, Metres], by: number): readonly [Metres, Metres] => [a + sway + by, b];
  const holds = part === 'gives' ? t < (cross + crossed) / 2 : t >= (cross + crossed) / 2;
  return {
    ...rest,
    hip: moved(rest.hip, lean * 0.4),
    chest: moved(rest.chest, lean),
    head: moved(rest.head, lean * 1.2),
    handLeft: hand(-1),
    handRight: hand(1),
    bundle: holds ? 1 : 0,
  };
}
