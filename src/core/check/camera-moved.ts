import type { Project, Shot } from '../document';
import { takesOf } from '../edit';
import { correctionAt, sceneOf } from '../evaluate';
import { layerFrames } from '../layer';
import { kindOf } from '../moves';
import { cornersApart, seenBy, UNMOVED } from '../picture';
import type { Pixels } from '../units';
import { say } from '../words';
import type { MeasuredTake, Rule, ShotContext } from './rule';

/** What is let pass: half a pixel at the frame's corner. */
const LIMIT: Pixels = 0.5;

interface Pair {
  below: string;
  above: string;
}

/** The take others of a shot are laid on: that of its lowest layer. Those laid on it where both are seen at once. */
function pairsOf(project: Project, shot: Shot): Pair[] {
  const scene = sceneOf(project, shot);
  const spans = shot.layers.flatMap((layer) =>
    layer.source.kind === 'take' && layer.on && layer.masks.length > 0
      ? [{ takeId: layer.source.takeId, frames: layerFrames(scene, layer) }]
      : [],
  );
  const [below] = takesOf(shot);
  const above = spans.filter((s) => s.takeId !== below && s.frames[1] > s.frames[0]).map((s) => s.takeId);
  return [...new Set(above)].map((takeId) => ({ below, above: takeId }));
}

function pairMoved({ project, pictures, first, measured }: ShotContext, { below, above }: Pair): ReturnType<Rule['check']> {
  const take = project.takes.find((t) => t.id === above);
  const media = project.media.find((m) => m.id === take?.mediaId);
  if (!take || !media) return [];
  const pair = measured.find((m) => m.takeId === above && m.referenceTakeId === below);
  const mixed = pictures.filter(({ layers }) => layers.filter((l) => l.source.kind === 'take').length > 1);
  const begins = mixed[0]?.frame ?? first;
  if (!pair || pair.moves.length === 0)
    return [
      {
        frame: begins,
        weight: 1,
        text: pair
          ? say`These two takes could not be laid over one another: too little of their backgrounds is alike. Set points by hand in Takes.`
          : say`These two takes were not measured against each other, so nobody knows whether the camera moved between them. Measure them in Takes.`,
        fix: { by: 'stage', label: pair ? say`Set points by hand` : say`Measure the takes`, stage: 'takes' },
      },
    ];
  let worst = 0;
  let at = begins;
  for (const { frame, layers } of mixed) {
    for (const { source } of layers) {
      if (source.kind !== 'take' || source.takeId !== take.id) continue;
      const real = nearest(pair.moves, source.time);
      const move = correctionAt(take.correction, source.time);
      const used = move ? seenBy(move, take.correction?.perspective) : UNMOVED;
      const size = cornersApart(seenBy(real, pair.perspective), used, media.width, media.height);
      if (size > worst) {
        worst = size;
        at = frame;
      }
    }
  }
  if (worst <= LIMIT) return [];
  return [
    {
      frame: at,
      weight: worst,
      text: say`The camera stands ${worst.toFixed(1)} px away from the other take while the two are mixed; over ${LIMIT} px shows as a jump behind the line.`,
      fix: { by: 'correction', label: say`Correct the take`, takeId: take.id, referenceTakeId: below },
    },
  ];
}

function nearest(moves: MeasuredTake['moves'], time: number): MeasuredTake['moves'][number] {
  let best = moves[0];
  for (const m of moves) if (Math.abs(m.time - time) < Math.abs(best.time - time)) best = m;
  return best;
}

/** Takes that are mixed in one picture have to lie on one another: camera shift that is not corrected shows as a jump. */
export const cameraMoved: Rule = {
  id: 'camera moved',
  asks: say`the camera stands still between takes`,
  check: (context) => {
    const { project, shot } = context;
    // Panels and whips show takes beside or after one another: nothing of one has to meet the other.
    if (shot.move && !kindOf(shot.move).mixes) return [];
    return pairsOf(project, shot).flatMap((pair) => pairMoved(context, pair));
  },
};
