import type { Project, Shot } from '../document';
import { layerMove, sceneOf } from '../evaluate';
import { type Key, keyAt, type Layer, layerNumber, type Mask, maskNumberAt } from '../layer';
import { applied, inverted } from '../picture';
import type { Frames } from '../units';
import { say } from '../words';
import { type Followed, type FollowHow, framesOf, keysOf, nearestTo, onRest, type Pose, turned } from './followed';

/** How a followed place is seen on each film frame of a stretch; `on` is the layer it is followed in. */
function seenIn(project: Project, shot: Shot, on: Layer, course: Followed, frames: readonly Frames[]): Pose[] {
  const scene = sceneOf(project, shot);
  return frames.map((frame) => {
    const rest = onRest(project, shot, scene, on, course, frame);
    const turn = rest.turn + layerNumber(scene, on, 'turn', frame);
    const scale = (rest.scale * layerNumber(scene, on, 'scale', frame)) / 100;
    return { turn, scale, ...applied(layerMove(scene, on, frame, project.frame), rest) };
  });
}

/**
 * Attaches a layer to a place that is followed in another layer of its shot: from a film frame on which it lies as it is now it goes along
 * with it, by its turn and size too where that is wished.
 */
export function attachLayer(project: Project, shot: Shot, layer: Layer, on: Layer, course: Followed, from: Frames, how: FollowHow): Layer {
  const scene = sceneOf(project, shot);
  const { width, height } = project.frame;
  const frames = framesOf(scene, layer);
  const seen = seenIn(project, shot, on, course, frames);
  const still = nearestTo(frames, from);
  const begin = seen[still];
  const lies = layerMove(scene, layer, frames[still], project.frame);
  // It turns and grows about the place itself.
  const pivot = applied(inverted(lies), begin);
  const [turn, scale] = [layerNumber(scene, layer, 'turn', frames[still]), layerNumber(scene, layer, 'scale', frames[still])];
  const still1 = (value: number): Key[] => [keyAt(0, 0, Math.round(1000 * value) / 1000)];
  const numbers: Layer['numbers'] = {
    ...layer.numbers,
    pivotX: still1((100 * pivot.x) / width - 50),
    pivotY: still1((100 * pivot.y) / height - 50),
    x: keysOf(
      scene,
      frames,
      seen.map((p) => (100 * (p.x - pivot.x)) / width),
    ),
    y: keysOf(
      scene,
      frames,
      seen.map((p) => (100 * (p.y - pivot.y)) / height),
    ),
  };
  if (how.turn)
    numbers.turn = keysOf(
      scene,
      frames,
      seen.map((p) => turn + p.turn - begin.turn),
    );
  if (how.scale)
    numbers.scale = keysOf(
      scene,
      frames,
      seen.map((p) => (scale * p.scale) / begin.scale),
    );
  return { ...layer, numbers };
}

/** Attaches a drawn mask of a layer to a place that is followed in a layer of the shot, as `attachLayer` does. */
export function attachMask(
  project: Project,
  shot: Shot,
  layer: Layer,
  mask: Mask,
  on: Layer,
  course: Followed,
  from: Frames,
  how: FollowHow,
): Mask {
  const scene = sceneOf(project, shot);
  const { width, height } = project.frame;
  const frames = framesOf(scene, layer);
  const seen = seenIn(project, shot, on, course, frames).map((p, i): Pose => {
    // A mask that rides on its layer lies where the layer is at rest.
    return mask.attachedToLayer ? { ...p, ...applied(inverted(layerMove(scene, layer, frames[i], project.frame)), p) } : p;
  });
  const still = nearestTo(frames, from);
  const begin = seen[still];
  const number = (name: string) => maskNumberAt(scene, mask, name, frames[still]);
  const goes = (nx: string, ny: string) => {
    const [x, y] = [(number(nx) / 100) * width - begin.x, (number(ny) / 100) * height - begin.y];
    const at = seen.map((p) => turned({ x, y }, how.turn ? p.turn - begin.turn : 0, how.scale ? p.scale / begin.scale : 1));
    return {
      [nx]: keysOf(
        scene,
        frames,
        at.map((q, i) => (100 * (seen[i].x + q.x)) / width),
      ),
      [ny]: keysOf(
        scene,
        frames,
        at.map((q, i) => (100 * (seen[i].y + q.y)) / height),
      ),
    };
  };
  const points = Object.keys(mask.numbers).flatMap((name) => (/^x\d*$/.test(name) ? [name.slice(1)] : []));
  if (points.length === 0) throw new Error(say`Only a mask that is drawn about a place or through points can be attached to one.`);
  const numbers = Object.assign({ ...mask.numbers }, ...points.map((n) => goes(`x${n}`, `y${n}`))) as Mask['numbers'];
  if (how.turn && mask.numbers.turn)
    numbers.turn = keysOf(
      scene,
      frames,
      seen.map((p) => number('turn') + p.turn - begin.turn),
    );
  if (how.scale)
    for (const name of ['width', 'height'])
      if (mask.numbers[name])
        numbers[name] = keysOf(
          scene,
          frames,
          seen.map((p) => (number(name) * p.scale) / begin.scale),
        );
  return { ...mask, numbers };
}
