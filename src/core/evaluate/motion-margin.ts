import type { Project, Shot } from '../document';
import { type Layer, layerFrames, layerNumber } from '../layer';
import { applied, inverted } from '../picture';
import type { Frames, Percent } from '../units';
import { layerMove } from './placement';
import { sceneOf } from './shot-scene';

const MOVES = ['x', 'y', 'scale', 'turn'] as const;
/** A layer made smaller than this is meant to show what is around it. */
const MEANT: Percent = 95;

/** Whether a layer is there to fill the frame with a picture that has edges. */
const fills = ({ on, edge, masks, source }: Layer): boolean =>
  on && edge === 'clear' && masks.every((m) => !m.on) && (source.kind === 'take' || source.kind === 'shot');

/**
 * The smallest enlargement in per cent (100 or more, to 0.01) at which the motion of a shot's lowest full picture, a take or a shot within
 * it, shows no edge on any frame of it, and the frame that asks for it. A layer that is shrunk on purpose, cut out, mirrored at its edges or faint does not count.
 */
export function motionMargin(project: Project, shot: Shot): { percent: Percent; frame: Frames } {
  const { width, height } = project.frame;
  const scene = sceneOf(project, shot);
  const moving = shot.layers.filter((l) => fills(l) && MOVES.some((name) => l.numbers[name]));
  let [need, at] = [100, scene.first];
  if (moving.length === 0) return { percent: need, frame: at };
  const lowest = (frame: Frames) =>
    shot.layers.find((l) => {
      const [from, to] = layerFrames(scene, l);
      return l.on && frame >= from && frame < to && layerNumber(scene, l, 'opacity', frame) > 0;
    });
  for (let frame = scene.first; frame < scene.end; frame++) {
    const layer = lowest(frame);
    if (!layer || !moving.includes(layer) || layerNumber(scene, layer, 'scale', frame) < MEANT) continue;
    const back = inverted(layerMove(scene, layer, frame, project.frame));
    for (const x of [0, width])
      for (const y of [0, height]) {
        const corner = applied(back, { x, y });
        const asks = 200 * Math.max(Math.abs(corner.x - width / 2) / width, Math.abs(corner.y - height / 2) / height);
        if (asks > need) [need, at] = [asks, frame];
      }
  }
  return { percent: Math.ceil(need * 100 - 0.02) / 100, frame: at };
}
