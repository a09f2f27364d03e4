import type { Metres, Seconds, Unit } from '../units';
import { say } from '../words';

export interface DollyZoom {
  /** Enlargement at both ends; the subject keeps its size. */
  from: number;
  to: number;
  /** Pixels needed across, as a factor of the delivered width. */
  pixels: number;
  /** Metres a second the camera walks. */
  speed: number;
  track: Metres;
  /** Size of the background at each depth behind the subject at the end, against the start: 1.4 is 40 % larger. */
  background: { behind: Metres; growth: number }[];
  verdict: 'good' | 'unsure' | 'fix';
  text: string;
}

/**
 * Dolly zoom: the camera goes from `start` to `end` metres from the subject while the picture is scaled by d/min(d), so that
 * the subject stays the same size: scale(t) = wanted height / measured height. Something `b` metres behind the subject
 * changes by (d + b) at the start over the end, divided by the subject's own. From pinhole geometry.
 */
export function dollyZoom(start: Metres, end: Metres, duration: Seconds, behind: readonly Metres[]): DollyZoom {
  const nearest = Math.min(start, end);
  // Seen size is proportional to 1/d; the picture is only ever enlarged, so the nearest point is shown as filmed.
  const from = start / nearest;
  const to = end / nearest;
  const background = behind.map((b) => ({ behind: b, growth: to / (end + b) / (from / (start + b)) }));
  const track = Math.abs(end - start);
  const speed = track / Math.max(duration, 1e-3);
  const strongest = Math.max(1, ...background.map((b) => Math.max(b.growth, 1 / b.growth)));
  const change = Math.round((strongest - 1) * 100);
  const verdict = strongest < 1.15 ? 'fix' : speed > 1.5 || strongest < 1.3 ? 'unsure' : 'good';
  const most = background.length ? Math.max(...background.map((b) => b.behind)) : 0;
  const text =
    background.length === 0
      ? say`Nothing stands behind the subject: nobody will see a dolly zoom. Sky or sea alone shows nothing.`
      : strongest < 1.15
        ? say`The background changes by only ${change} %: hardly anyone will see it. Bring the subject nearer to the lens, walk further, or choose more depth behind (now ${most.toFixed(1)} m).`
        : speed > 1.5
          ? say`The background changes by ${change} %, which shows, but the camera must walk ${speed.toFixed(1)} m/s: faster than a steady walk. Give it more beats.`
          : strongest < 1.3
            ? say`The background changes by ${change} %: visible to those who look. More depth or a longer walk makes it plain.`
            : say`The background changes by ${change} % while the subject stays: it will show plainly.`;
  return { from, to, pixels: Math.max(from, to), speed, track, background, verdict, text };
}

/** Distance from lens to subject at a share `u` of the move, walked evenly. */
export function dollyDistance(start: Metres, end: Metres, u: Unit): Metres {
  return start + (end - start) * u;
}
