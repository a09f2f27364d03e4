import type { Correction, Media, Project } from '../document';
import type { Affine } from '../picture';
import { fillFrame } from '../sources';
import type { Pixels } from '../units';

/** Pixels of the frame's border, at its worst corner, that the source does not reach; 0 when it covers the frame. */
export function edgeGap(map: Affine, media: Media, width: Pixels, height: Pixels): Pixels {
  let worst = 0;
  for (const x of [0, width]) {
    for (const y of [0, height]) {
      const u = map.a * x + map.b * y + map.c;
      const v = map.d * x + map.e * y + map.f;
      worst = Math.max(worst, -u, u - media.width, -v, v - media.height);
    }
  }
  return worst / Math.hypot(map.a, map.d);
}

/**
 * Smallest enlargement in per cent (over 100, to 0.01) that hides the source's edges for every one of `moves`:
 * the worst corner of the moved-back frame against half the width and half the height.
 */
export function overscanFor(project: Project, media: Media, moves: readonly Correction['moves'][number][]): number {
  const { width, height } = project.frame;
  let need = 100;
  for (const move of moves) {
    const base = fillFrame(project.frame, media, 100, move);
    // Corner offsets shrink as 100 / overscan about the moved centre.
    const cx = media.width / 2 + move.dx;
    const cy = media.height / 2 + move.dy;
    for (const x of [0, width]) {
      for (const y of [0, height]) {
        const u = base.a * x + base.b * y + base.c - cx;
        const v = base.d * x + base.e * y + base.f - cy;
        const roomX = u > 0 ? media.width - cx : cx;
        const roomY = v > 0 ? media.height - cy : cy;
        need = Math.max(need, (100 * Math.abs(u)) / roomX, (100 * Math.abs(v)) / roomY);
      }
    }
  }
  return Math.ceil(need * 100 - 1e-6) / 100;
}
