import type { Correction, Media, Project } from '../document';
import { type Affine, type Homography, seenBy, through } from '../picture';
import type { Pixels } from '../units';

/**
 * Pixels of the frame's border, at its worst corner, that the source does not reach; 0 when it covers the frame. `map` leads from the frame
 * to the source as its reference sees it, `perspective` from there into the source itself.
 */
export function edgeGap(map: Affine, media: Media, width: Pixels, height: Pixels, perspective: Homography | null = null): Pixels {
  let worst = 0;
  for (const x of [0, width]) {
    for (const y of [0, height]) {
      const [p, q] = [map.a * x + map.b * y + map.c - media.width / 2, map.d * x + map.e * y + map.f - media.height / 2];
      const seen = perspective ? through(perspective, p, q) : [p, q];
      const [u, v] = [seen[0] + media.width / 2, seen[1] + media.height / 2];
      worst = Math.max(worst, -u, u - media.width, -v, v - media.height);
    }
  }
  return worst / Math.hypot(map.a, map.d);
}

/** An enlargement that hides no edge, however large: the middle of the frame is not in the take. */
const NEVER = 10_000;

/**
 * Smallest enlargement in per cent (over 100, to 0.01) that hides the source's edges for every one of `moves`: the frame about its
 * middle is seen in the take with all four corners within it.
 */
export function overscanFor(project: Project, media: Media, { moves, perspective }: Pick<Correction, 'moves' | 'perspective'>): number {
  const { width, height } = project.frame;
  const fill = Math.max(width / media.width, height / media.height);
  const [x, y] = [width / fill / 2, height / fill / 2];
  const hidden = (map: Homography, percent: number) =>
    [-x, x].every((px) =>
      [-y, y].every((py) => {
        const [u, v] = through(map, (px * 100) / percent, (py * 100) / percent);
        return Math.abs(u) <= media.width / 2 + 1e-9 && Math.abs(v) <= media.height / 2 + 1e-9;
      }),
    );
  let need = 100;
  for (const move of moves) {
    const map = seenBy(move, perspective);
    if (hidden(map, need)) continue;
    let [low, high] = [need, NEVER];
    while (high - low > 1e-4) {
      const middle = (low + high) / 2;
      if (hidden(map, middle)) high = middle;
      else low = middle;
    }
    need = high;
  }
  return Math.ceil(need * 100 - 0.02) / 100;
}

/** The enlargement in per cent that hides the edges of a take as it is corrected; 100 where it is not. */
export function marginOf(project: Project, takeId: string): number {
  const take = project.takes.find((t) => t.id === takeId);
  const media = project.media.find((m) => m.id === take?.mediaId);
  return media && take?.correction?.enabled ? overscanFor(project, media, take.correction) : 100;
}
