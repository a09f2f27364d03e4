import { MOST_OVERSCAN } from '../document';
import { correctionsCost, takesOf, withMotion } from '../edit';
import { edgeGap, motionMargin } from '../evaluate';
import type { Percent } from '../units';
import { say } from '../words';
import type { Rule, ShotContext } from './rule';

function check({ project, shot, first, pictures }: ShotContext): ReturnType<Rule<{ percent: Percent }>['check']> {
  const { width, height } = project.frame;
  const moves = new Set(shot.layers.filter((l) => (['x', 'y', 'scale', 'turn'] as const).some((n) => l.numbers[n])).map((l) => l.id));
  let worst = 0;
  let at = first;
  let frames = 0;
  for (const { frame, layers } of pictures) {
    for (const { source, map, edge, layerId } of layers) {
      if (source.kind !== 'take' || edge === 'mirror' || moves.has(layerId)) continue;
      const media = project.media.find((m) => m.id === source.mediaId);
      const gap = media ? edgeGap(map, media, width, height, source.perspective) : 0;
      if (gap > 0.1) frames++;
      if (gap > worst) {
        worst = gap;
        at = frame;
      }
    }
  }
  const motion = motionMargin(project, shot);
  const need = withMotion(project, shot, correctionsCost(project, takesOf(shot)));
  const short = ((need - shot.overscan) / 200) * width;
  if (worst <= 0.1) {
    if (motion.percent <= 100 || short <= 0.1) return [];
    return [
      {
        frame: motion.frame,
        weight: 2 + short,
        text: say`The shot's motion shows the picture's edge by up to ${short.toFixed(1)} px.`,
        fix: need > MOST_OVERSCAN ? null : { by: 'edit', label: say`Enlarge the shot to ${need.toFixed(2)} %`, data: { percent: need } },
      },
    ];
  }
  return [
    {
      frame: at,
      weight: 2 + worst,
      text: say`The picture's edge shows by up to ${worst.toFixed(1)} px on ${frames} ${frames === 1 ? 'frame' : 'frames'}.`,
      fix: { by: 'edit', label: say`Enlarge the shot to ${need.toFixed(2)} %`, data: { percent: need } },
    },
  ];
}

/** The source's edge lies inside the frame anywhere in the shot, where the layer is neither cut out nor meant to move. A tenth of a pixel is let pass. */
export const edgeShows: Rule<{ percent: Percent }> = {
  id: 'edge shows',
  asks: say`no picture edge shows`,
  check,
  fix: (_, shot, { percent }) => ({ ...shot, overscan: Math.min(MOST_OVERSCAN, Math.max(shot.overscan, percent)) }),
};
