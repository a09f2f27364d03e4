import type { Project, Shot } from '../document';
import { footageOf } from '../document';
import { type Layer, layerFrames, layerTime, type Scene } from '../layer';
import { frames, kindOf, type Move, type Problem } from '../moves';
import { frameToSeconds } from '../time';
import { say } from '../words';
import { moveContext } from './move-context';

/** Where a layer asks for more than its take has: how many frames stand still for want of footage, at its start and its end. */
function missingFrames(project: Project, scene: Scene, layer: Layer): { before: number; after: number } {
  if (layer.source.kind !== 'take') return { before: 0, after: 0 };
  const { from, to, fps: rate } = footageOf(project, layer.source.takeId);
  const time = layerTime(scene, layer);
  const [first, end] = layerFrames(scene, layer);
  let [before, after] = [0, 0];
  for (let frame = first; frame < end; frame++) {
    const at = time.sourceAt(frameToSeconds(frame, scene.rate));
    if (at < from - 0.5 / (rate || 25)) before++;
    else if (at > to + 0.5 / (rate || 25)) after++;
  }
  return { before, after };
}

function footageProblems(project: Project, scene: Scene, shot: Shot): Problem<Move>[] {
  return shot.layers.flatMap((layer): Problem<Move>[] => {
    const { before, after } = missingFrames(project, scene, layer);
    if (layer.source.kind !== 'take' || before + after === 0) return [];
    const { name } = footageOf(project, layer.source.takeId);
    const where = before > 0 ? say`begins ${frames(before)} after` : say`is over ${frames(after)} before`;
    return [
      {
        text: say`“${name}” ${where} the layer “${layer.name}” needs it: the picture stands still there. Shorten the shot by that much, or slide the take ${before > 0 ? 'on' : 'back'}.`,
        nearest: null,
      },
    ];
  });
}

/** What stands in the way of a shot's move, and what can be had instead. Empty where it is all possible. */
export function moveProblems(project: Project, shot: Shot): Problem<Move>[] {
  const context = moveContext(project, shot);
  const own = shot.move ? kindOf(shot.move).problems(context, shot.move) : [];
  return [...own, ...footageProblems(project, context.scene, shot)];
}
