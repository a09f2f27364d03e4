import type { Project } from '../document';
import { type Layer, type Mask, maskNumberAt, type Scene, type SeamKeyframe } from '../layer';
import {
  type Affine,
  applied,
  type Coverage,
  composeAffine,
  ellipsePoints,
  inverted,
  lineExtent,
  outlinePoints,
  type Point,
  rectanglePoints,
} from '../picture';
import { fillFrame } from '../sources';
import { frameToSeconds } from '../time';
import type { Frames, Pixels, Seconds } from '../units';

/** What masks need to know of the layer they are on. */
export interface MaskGround {
  scene: Scene;
  frame: Project['frame'];
  overscan: number;
  /** Size of the layer's source, and of each stored cut-out. */
  source: { width: Pixels; height: Pixels };
  matteSize(matteId: string): { width: Pixels; height: Pixels } | null;
  /** Second of its source that a layer of the shot shows; of the layer the masks are on with null. */
  second(layerId: string | null): Seconds;
  /** The same at the frame itself, wherever within its exposure the masks are. */
  frameSecond(layerId: string | null): Seconds;
  /** Where the layer's picture goes (frame pixels). */
  move: Affine;
}

/** How many points a drawn mask has. */
function pointCount(mask: Mask): number {
  let count = 0;
  while (mask.numbers[`x${count}`]) count++;
  return count;
}

/** The places of a drawn mask's points at a film frame, per cent of the frame. */
export function maskPoints(scene: Scene, mask: Mask, frame: Frames): Point[] {
  return Array.from({ length: pointCount(mask) }, (_, i) => ({
    x: maskNumberAt(scene, mask, `x${i}`, frame),
    y: maskNumberAt(scene, mask, `y${i}`, frame),
  }));
}

/** The seam that stands at a film frame, in per cent of the reference take's picture. */
export function seamKeyframeAt(scene: Scene, keyframes: readonly SeamKeyframe[], frame: Frames): SeamKeyframe {
  const at = frameToSeconds(frame - scene.first, scene.rate) + 1e-6;
  return keyframes.findLast((s) => s.from <= at) ?? keyframes[0];
}

/** The corners of a closed mask on the frame, pixels, before it rides. */
function corners(ground: MaskGround, mask: Mask, at: Frames): Point[] {
  const { width, height } = ground.frame;
  const n = (name: string) => maskNumberAt(ground.scene, mask, name, at);
  if (mask.kind === 'polygon' || mask.kind === 'outline') {
    const points = maskPoints(ground.scene, mask, at).map(({ x, y }) => ({ x: (x / 100) * width, y: (y / 100) * height }));
    return mask.kind === 'outline' ? outlinePoints(points) : points;
  }
  const make = mask.kind === 'ellipse' ? ellipsePoints : rectanglePoints;
  return make((n('x') / 100) * width, (n('y') / 100) * height, (n('width') / 200) * width, (n('height') / 200) * height, n('turn'));
}

function coverageOf(ground: MaskGround, mask: Mask, at: Frames): Coverage {
  const { frame, scene, move } = ground;
  const { width, height } = frame;
  const soft = (name: string) => (maskNumberAt(scene, mask, name, at) / 100) * height;
  if (mask.kind === 'line') {
    const angle = maskNumberAt(scene, mask, 'angle', at);
    const [inside, outside] = [soft('inside'), soft('outside')];
    const position = (maskNumberAt(scene, mask, 'at', at) / 100 - 0.5) * lineExtent(angle, width, height) + (outside - inside) / 2;
    return { kind: 'line', angle, position, feather: inside + outside };
  }
  if (mask.kind === 'seam') {
    const { source, overscan } = ground;
    const onFrame = inverted(fillFrame(frame, source, overscan, null));
    const push = maskNumberAt(scene, mask, 'shift', at);
    const keyframe = seamKeyframeAt(scene, mask.keyframes, at);
    const across = keyframe.across === true;
    const [right, down] = across ? [0, push] : [push, 0];
    const points = keyframe.points.map(({ x, y, soft: room }) => ({
      ...applied(onFrame, { x: ((x + right) / 100) * source.width, y: ((y + down) / 100) * source.height }),
      ...(room !== undefined && { soft: (room / 100) * height }),
    }));
    return { kind: 'path', points, feather: soft('outside'), ...(across && { across }) };
  }
  if (mask.kind === 'matte' || mask.kind === 'travelling') {
    const size = ground.matteSize(mask.matteId) ?? ground.source;
    const base = fillFrame(frame, ground.source, ground.overscan, null);
    const [sx, sy] = [size.width / ground.source.width, size.height / ground.source.height];
    const toMatte = composeAffine({ a: sx, b: 0, c: 0, d: 0, e: sy, f: 0 }, base);
    const map = mask.attachedToLayer ? composeAffine(toMatte, inverted(move)) : toMatte;
    if (mask.kind === 'matte') return { kind: 'matte', matteId: mask.matteId, map };
    // One frame of it for all of an exposure: what it shows does not change while the shutter is open.
    return { kind: 'matte', matteId: mask.matteId, time: Math.max(0, ground.frameSecond(mask.layerId) - mask.begins), map };
  }
  if (mask.kind === 'silhouette') {
    const picture = ground.matteSize(mask.silhouetteId) ?? ground.source;
    const base = fillFrame(frame, picture, ground.overscan, null);
    return {
      kind: 'silhouette',
      silhouetteId: mask.silhouetteId,
      time: ground.second(mask.layerId),
      map: mask.attachedToLayer ? composeAffine(base, inverted(move)) : base,
      across: picture.width,
      grow: soft('grow'),
      feather: soft('outside'),
    };
  }
  const points = corners(ground, mask, at);
  const grown = mask.attachedToLayer ? Math.hypot(move.a, move.d) : 1;
  return {
    kind: 'shape',
    points: mask.attachedToLayer ? points.map((p) => applied(move, p)) : points,
    inside: soft('inside') * grown,
    outside: soft('outside') * grown,
  };
}

/** What a layer's masks let through at a film frame (fractions allowed); null where there are none. */
export function layerCoverage(ground: MaskGround, layer: Layer, at: Frames): Coverage | null {
  const masks = layer.masks.filter((m) => m.on);
  if (masks.length === 0) return null;
  const [only] = masks;
  if (masks.length === 1 && !only.invert && only.combine !== 'subtract') return coverageOf(ground, only, at);
  return {
    kind: 'many',
    parts: masks.map((mask) => ({ coverage: coverageOf(ground, mask, at), combine: mask.combine, invert: mask.invert })),
  };
}
