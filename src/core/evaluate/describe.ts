import type { Correction, Project, Shot, SoundClip, Transition } from '../document';
import { footageOf } from '../document';
import { appliedEffect, curves, foldedColour, isClearing, staysInPlace } from '../effects';
import { effectNumbers, type Layer, layerFrames, layerNumber, placeFrame, type Scene, sourceAt, sourceSecond } from '../layer';
import {
  type Affine,
  type Coverage,
  composeAffine,
  fills,
  type Gains,
  type Homography,
  inverted,
  type Motion,
  STAY,
  samplesFor,
  seenBy,
  travelOf,
} from '../picture';
import { nestedIn, type Size, type SourceContext, type SourceDescription, sourceKind } from '../sources';
import { beatOfFrame, type FrameRate, frameToSeconds, resolveAnchor } from '../time';
import type { Frames, Seconds } from '../units';
import type { LayerDescription, PictureDescription } from './description';
import { echoed } from './echo';
import { layerCoverage, type MaskGround } from './mask-coverage';
import { layerMove } from './placement';
import { beatMapOf, sceneOf, sceneWithin, shotFrames, shotOverAll } from './shot-scene';
import { goneOnBeyond, transitionAt, transitionPicture } from './transition';

/** Song second at which a laid sound begins. */
export function clipStart(project: Project, clip: SoundClip): Seconds {
  const { rate } = project.frame;
  return frameToSeconds(resolveAnchor(beatMapOf(project), clip.start, rate), rate) + clip.nudge;
}

/** How long a laid sound is heard, at the speed it runs. */
export const clipLength = ({ from, to, speed = 1 }: SoundClip): Seconds => (to - from) / speed;

/** The second of its file that is heard so long after a laid sound began. */
export const clipSecond = ({ from, to, speed = 1, reverse }: SoundClip, since: Seconds): Seconds =>
  reverse ? to - since * speed : from + since * speed;

/** Second of a layer's source at a film frame; for a take within its footage. */
export function layerSecond(project: Project, scene: Scene, layer: Layer, frame: Frames): Seconds {
  const time = sourceSecond(scene, layer, frameToSeconds(frame, scene.rate));
  if (layer.source.kind !== 'take') return time;
  const { from, to, fps } = footageOf(project, layer.source.takeId);
  return Math.min(Math.max(time, from), Math.max(from, to - 0.5 / (fps || 25)));
}

/** The measurements before and after a time, and how far it lies from the first to the second; beyond the ends, the end twice. */
function bracket<Reading extends { time: Seconds }>(series: readonly Reading[], time: Seconds): [Reading, Reading, number] {
  const last = series.length - 1;
  if (time <= series[0].time) return [series[0], series[0], 0];
  if (time >= series[last].time) return [series[last], series[last], 0];
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (series[middle].time <= time) low = middle;
    else high = middle;
  }
  return [series[low], series[high], (time - series[low].time) / (series[high].time - series[low].time)];
}

/** The measured gains of a corrected take at a source time, linear between measurements; all 1 when it is not corrected. */
export function gainsAt(correction: Correction | null, time: Seconds): Gains {
  if (!correction?.enabled) return { r: 1, g: 1, b: 1 };
  const [a, b, k] = bracket(correction.gains, time);
  return { r: a.r + k * (b.r - a.r), g: a.g + k * (b.g - a.g), b: a.b + k * (b.b - a.b) };
}

/** What is left of a corrected take's light after the gains; null where nothing is. */
export const curvesOf = (correction: Correction | null) => (correction?.enabled && correction.curves) || null;

/** The measured move of a corrected take at a source time, linear between measurements; null when it is not corrected. */
export function correctionAt(correction: Correction | null, time: Seconds): Correction['moves'][number] | null {
  if (!correction?.enabled) return null;
  const [a, b, k] = bracket(correction.moves, time);
  const mix = (pick: (m: typeof a) => number) => pick(a) + k * (pick(b) - pick(a));
  return { time, dx: mix((m) => m.dx), dy: mix((m) => m.dy), turn: mix((m) => m.turn), scale: mix((m) => m.scale) };
}

/** How the reference is seen in a corrected take at a source time, perspective and all; null where moves alone say it. */
export function perspectiveAt(correction: Correction | null, time: Seconds): Homography | null {
  const move = correctionAt(correction, time);
  return move && correction?.perspective ? seenBy(move, correction.perspective) : null;
}

/** How deep shots may lie within shots. */
const DEEPEST = 6;

const runSince = (scene: Scene, from: Frames, frame: Frames) => ({
  frames: frame - from,
  beats: beatOfFrame(scene.map, frame, scene.rate) - beatOfFrame(scene.map, from, scene.rate),
});

/** What a layer's source describes of itself at a frame; null where nothing is seen of it. */
function stageOf(project: Project, shot: Shot, scene: Scene, layer: Layer, frame: Frames, depth: number) {
  const second = layerSecond(project, scene, layer, frame);
  const context: SourceContext = {
    frame: project.frame,
    overscan: shot.overscan,
    second,
    // What began before the shot, as the later part of one that was split, goes on.
    run: runSince(scene, layer.from ? placeFrame(scene, layer.from) : scene.first, frame),
    frameInterpolation: layer.frameInterpolation,
    take: (takeId) => {
      const take = project.takes.find((t) => t.id === takeId);
      const media = project.media.find((m) => m.id === take?.mediaId);
      if (!take || !media) return null;
      const { id: mediaId, fps, duration, colour } = media;
      const [move, gains] = [correctionAt(take.correction, second), gainsAt(take.correction, second)];
      const perspective = perspectiveAt(take.correction, second);
      const curves = curvesOf(take.correction);
      return { mediaId, size: media, fps, duration, colour, clear: media.clear ?? false, move, perspective, gains, curves };
    },
    still: (mediaId) => project.media.find((m) => m.id === mediaId) ?? null,
    shot: (shotId) => {
      const inner = project.nestedShots.find((s) => s.id === shotId) ?? project.shots.find((s) => s.id === shotId);
      if (!inner || depth >= DEEPEST) return null;
      const there = sceneWithin(project, scene, layer, inner);
      const run = Math.round((second * scene.rate.num) / scene.rate.den);
      return describeShot(project, inner, there, Math.min(there.first + Math.max(run, 0), there.end - 1), depth + 1);
    },
  };
  return sourceKind(layer.source).describe(context, sourceAt(scene, layer, frame));
}

/** The picture within what a layer shows; null where there is none. Only pictures described here lie within others. */
export const pictureWithin = (source: SourceDescription) => nestedIn(source) as PictureDescription | null;

/** What a layer's masks stand on at a time within a frame's exposure. */
const maskGround = (project: Project, shot: Shot, scene: Scene, layer: Layer, source: Size, frame: Frames, at: Frames): MaskGround => ({
  scene,
  frame: project.frame,
  overscan: shot.overscan,
  source,
  matteSize: (id) => project.media.find((m) => m.id === id) ?? null,
  second: (id) => layerSecond(project, scene, shot.layers.find((l) => l.id === id) ?? layer, at),
  frameSecond: (id) => layerSecond(project, scene, shot.layers.find((l) => l.id === id) ?? layer, frame),
  move: layerMove(scene, layer, at, project.frame),
});

/** What one mask of a shot lets through at a frame, be it switched on or not; null where it is not there or its layer shows nothing. */
function maskWithin(project: Project, shot: Shot, scene: Scene, at: Transition['mask'], frame: Frames): Coverage | null {
  const layer = shot.layers.find((l) => l.id === at?.layerId);
  const mask = layer?.masks.find((m) => m.id === at?.maskId);
  const stage = layer && mask && stageOf(project, shot, scene, layer, frame, 1);
  if (!stage) return null;
  const ground = maskGround(project, shot, scene, layer, stage.size, frame, frame);
  return layerCoverage(ground, { ...layer, masks: [{ ...mask, on: true }] }, frame);
}

/** A layer at a frame; null where nothing is seen of it. */
function describeLayer(project: Project, shot: Shot, scene: Scene, layer: Layer, frame: Frames, depth: number): LayerDescription | null {
  const [from, to] = layerFrames(scene, layer);
  const opacity = layerNumber(scene, layer, 'opacity', frame) / 100;
  if (!layer.on || frame < from || frame >= to || opacity <= 0) return null;
  const { frame: film } = project;
  const chain = layer.effects.flatMap((e) =>
    e.on ? (appliedEffect(e.kind, effectNumbers(scene, e, frame), { ...film, index: frame }, e.tableId) ?? []) : [],
  );
  const again = sourceKind(layer.source).again?.(layer.source);
  if (again) {
    const of = shot.layers.find((l) => l.id === again.layerId && !sourceKind(l.source).again);
    const shown = of && describeLayer(project, shot, scene, of, frame - again.late, depth);
    const own = { layerId: layer.id, opacity: Math.min(1, opacity), blend: layer.blend, effects: chain };
    return shown ? echoed(shown, again, own, layerMove(scene, layer, frame, film), film) : null;
  }
  const stage = stageOf(project, shot, scene, layer, frame, depth);
  if (!stage) return null;
  const ground = (at: Frames) => maskGround(project, shot, scene, layer, stage.size, frame, at);
  const here = ground(frame);
  const { colour, effects } = foldedColour(stage.colour, stage.curves ? [{ kind: curves.kind, resolved: stage.curves }, ...chain] : chain);
  return {
    layerId: layer.id,
    source: stage.source,
    size: { width: stage.size.width, height: stage.size.height },
    map: composeAffine(stage.base, inverted(here.move)),
    colour,
    coverage: layerCoverage(here, layer, frame),
    opacity: Math.min(1, opacity),
    blend: layer.blend,
    edge: layer.edge,
    effects,
    motion: layer.shutter > 0 ? exposure(ground, stage.base, layer, frame, film) : null,
  };
}

/** A layer through the exposure, which lies about the frame's instant; null where it stays put. `base` leads from where it would lie to its source. */
function exposure(
  ground: (at: Frames) => MaskGround,
  base: Affine,
  layer: Layer,
  frame: Frames,
  { width, height }: Project['frame'],
): Motion | null {
  const open = layer.shutter / 360;
  /** The layer's stand, and from pixels of the frame to where they would lie at rest. */
  const stand = (at: Frames) => {
    const here = ground(at);
    const ride = inverted(here.move);
    return { at, here, ride, map: composeAffine(base, ride) };
  };
  const [begin, middle, end] = [-0.5, 0, 0.5].map((k) => stand(frame + open * k).map);
  const count = samplesFor(travelOf(begin, middle, width, height) + travelOf(middle, end, width, height));
  if (count < 2) return null;
  const samples = Array.from({ length: count }, (_, k) => stand(frame + open * ((k + 0.5) / count - 0.5)));
  const masks = layer.masks.filter((m) => m.on);
  if (masks.length === 0 || masks.some((m) => !m.attachedToLayer))
    return { rest: null, samples: samples.map(({ at, here, map }) => ({ map, coverage: layerCoverage(here, layer, at), ride: null })) };
  // Masks that all ride move as one with the picture: what they let through is worked out once, with the layer at rest.
  const rest = layerCoverage({ ...ground(frame), move: STAY }, layer, frame);
  return { rest, samples: samples.map(({ map, ride }) => ({ map, coverage: null, ride })) };
}

/** One frame of a shot wherever it lies. */
function describeShot(project: Project, shot: Shot, scene: Scene, frame: Frames, depth: number): PictureDescription {
  const { width, height } = project.frame;
  const layers: LayerDescription[] = [];
  // From the top down, until nothing beneath can be seen.
  for (const layer of shot.layers.toReversed()) {
    const seen = describeLayer(project, shot, scene, layer, frame, depth);
    if (!seen) continue;
    layers.unshift(seen);
    if (covers(seen, project.frame)) break;
  }
  return { frame, width, height, shotId: shot.id, layers };
}

/** Whether a layer hides all that lies beneath it. */
function covers({ source, size, map, coverage, opacity, blend, edge, effects, motion }: LayerDescription, frame: Size): boolean {
  if (opacity < 1 || blend !== 'normal' || coverage || motion || !effects.every((e) => staysInPlace(e) && !isClearing(e))) return false;
  const { endless, shows, clear } = sourceKind(source);
  return shows === undefined && !clear?.(source) && (endless || edge === 'mirror' || fills(map, size, frame));
}

/** The shot seen at a film frame: of several the one that began last. */
export function shotAt(project: Project, frame: Frames): Shot | null {
  let [best, begun] = [null as Shot | null, Number.NEGATIVE_INFINITY];
  for (const shot of project.shots) {
    const [first, end] = shotFrames(project, shot);
    if (frame >= first && frame < end && first >= begun) [best, begun] = [shot, first];
  }
  return best;
}

/** Everything one frame of the film shows. Frames count from song time 0 at the project's rate. Pure: same input, same output. */
export function describeFrame(project: Project, frame: Frames): PictureDescription {
  const picture = describeBeneath(project, frame);
  const over = shotOverAll(project);
  if (!over) return picture;
  const { layers } = describeShot(project, over, sceneOf(project, over), frame, 0);
  return layers.length > 0 ? { ...picture, layers: [...picture.layers, ...layers] } : picture;
}

/** What one frame shows beneath what lies over the whole film. */
function describeBeneath(project: Project, frame: Frames): PictureDescription {
  const between = transitionAt(project, frame, (f) => shotAt(project, f));
  if (between) {
    const { leaving, coming, transition, done } = between;
    const goneOn = (of: Shot) => goneOnBeyond(sceneOf(project, of), of, transition.frames);
    const seen = ({ scene, shot }: ReturnType<typeof goneOn>) => describeShot(project, shot, scene, frame, 1);
    const here = goneOn(coming);
    const within = transition.kind === 'mask' ? maskWithin(project, here.shot, here.scene, transition.mask, frame) : null;
    return { ...transitionPicture(transition, leaving && seen(goneOn(leaving)), seen(here), done, within), frame };
  }
  const shot = shotAt(project, frame);
  if (!shot) return { frame, width: project.frame.width, height: project.frame.height, shotId: null, layers: [] };
  return describeShot(project, shot, sceneOf(project, shot), frame, 0);
}

/** Half of one frame in seconds at a rate: the most an event may be off its anchor. */
export function halfFrame(rate: FrameRate): Seconds {
  return rate.den / rate.num / 2;
}
