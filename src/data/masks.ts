import type { Media, Project, Shot } from '@/core/document';
import { takesOf } from '@/core/edit';
import { layerSecond, sceneOf } from '@/core/evaluate';
import {
  type Effect,
  type Layer,
  type Mask,
  matteMask,
  plainEffect,
  plainLayer,
  plainMask,
  remapKeyAt,
  seamMask,
  silhouetteMask,
  still,
  travellingMask,
} from '@/core/layer';
import { type Source, sourceKind } from '@/core/sources';
import { frameToSeconds } from '@/core/time';
import { say } from '@/core/words';
import { backingHue, correctedForCut, keepAlong } from './cut-along';
import type { Progress } from './jobs';
import { keepCutOut, keepOutline, keepPlate } from './kept';
import { seamBetween, seamKeyframesOf, widestSoft } from './set-up';
import { changeShot } from './shots';
import { useProject } from './store';

/** Masks that are measured, not drawn. */
export const MEASURED = ['silhouette', 'cut-out', 'cut-out over time', 'seam'] as const;
export type Measured = (typeof MEASURED)[number];

const short = () => crypto.randomUUID().slice(0, 8);

/** The take of a layer. Throws a sentence where it shows none. */
function takeOf(project: Project, layer: Layer | undefined, what: string) {
  const { source } = layer ?? {};
  const take = source?.kind === 'take' ? project.takes.find((t) => t.id === source.takeId) : undefined;
  if (!take || !layer) throw new Error(say`This needs ${what}.`);
  return { take, layer };
}

/** A mask of a measured kind for a layer, with the files it needs. */
async function measuredMask(
  project: Project,
  shot: Shot,
  layer: Layer,
  kind: Measured,
  onProgress: Progress,
): Promise<{ mask: Mask; media: Media[]; effect?: Effect }> {
  const { take } = takeOf(project, layer, say`a layer that shows a take`);
  const id = `mask-${short()}`;
  if (kind === 'silhouette') {
    const { media, silhouetteId } = await keepOutline(project, take.id, onProgress);
    return { mask: silhouetteMask(id, silhouetteId, null, { grow: still(0), outside: still(1) }, { attachedToLayer: true }), media };
  }
  if (kind === 'cut-out over time') {
    const { media, matteId, begins } = await keepAlong(project, take.id, onProgress);
    await correctedForCut(project, take.id);
    const hue = await backingHue(project, take.id);
    // What a coloured backing throws on whoever stands before it goes as well.
    const effect = hue === null ? undefined : plainEffect(`effect-${short()}`, 'spill', { amount: still(100), hue: still(hue) });
    return { mask: travellingMask(id, matteId, begins), media, ...(effect && { effect }) };
  }
  const scene = sceneOf(project, shot);
  if (kind === 'cut-out') {
    const second = layerSecond(project, scene, layer, useProject.getState().playhead);
    const { media, matteId } = await keepCutOut(project, take.id, second, onProgress);
    return { mask: { ...matteMask(matteId), id }, media };
  }
  const below = takeOf(
    project,
    shot.layers[shot.layers.indexOf(layer) - 1],
    say`another take in the layer below, to be joined to along a seam`,
  );
  const from = (l: Layer) => layerSecond(project, scene, l, scene.first);
  const span = {
    first: { take: below.take, from: from(below.layer) },
    second: { take, from: from(layer) },
    seconds: frameToSeconds(scene.end - scene.first, scene.rate),
  };
  const { seam } = await seamBetween(project, span, onProgress);
  const stands = seamKeyframesOf(seam, project.frame.height);
  return { mask: { ...seamMask(stands, widestSoft(stands)), id }, media: [] };
}

/** A layer with one more mask, and with an effect that goes with it. */
const withMask = (layer: Layer, mask: Mask, effect?: Effect): Layer => ({
  ...layer,
  masks: [...layer.masks, mask],
  effects: effect && !layer.effects.some((e) => e.kind === effect.kind) ? [...layer.effects, effect] : layer.effects,
});

/** Puts a measured mask on a layer: where somebody is in its take on every frame, as they are at the playhead, or the seam to the take below. */
export async function addMeasuredMask(shotId: string, layerId: string, kind: Measured, onProgress: Progress): Promise<void> {
  const { project } = useProject.getState();
  const shot = project && [...project.shots, ...project.nestedShots].find((s) => s.id === shotId);
  const layer = shot?.layers.find((l) => l.id === layerId);
  if (!project || !shot || !layer) throw new Error(say`That layer is no longer in the project.`);
  const { mask, media, effect } = await measuredMask(project, shot, layer, kind, onProgress);
  changeShot(
    shotId,
    say`Mask by a ${kind}`,
    (s) => ({ ...s, layers: s.layers.map((l) => (l.id === layerId ? withMask(l, mask, effect) : l)) }),
    media,
    project.id,
  );
}

/** The take that lies next below a layer, whose performer may pass before it; null where there is none. */
export function takeBelow(shot: Shot, layer: Layer): Layer | null {
  return shot.layers.slice(0, shot.layers.indexOf(layer)).findLast((l) => l.on && l.source.kind === 'take') ?? null;
}

/** Lets a layer duck under whoever is in the take below it: their outline over time is taken out of it. */
export async function addDuck(project: Project, shot: Shot, layer: Layer, onProgress: Progress): Promise<void> {
  const below = takeBelow(shot, layer);
  const { take } = takeOf(project, below ?? undefined, say`a take in a layer below`);
  const { media, silhouetteId } = await keepOutline(project, take.id, onProgress);
  const numbers = { grow: still(0.5), outside: still(1) };
  const mask = silhouetteMask(`mask-${short()}`, silhouetteId, below?.id ?? null, numbers, { combine: 'subtract' });
  changeShot(
    shot.id,
    say`Duck under the performer`,
    (s) => ({ ...s, layers: s.layers.map((l) => (l.id === layer.id ? withMask(l, mask) : l)) }),
    media,
    project.id,
  );
}

/** Puts one more layer on top of a shot. */
const onTop = (shotId: string, label: string, layer: Layer, media: Media[] = [], of?: string) =>
  changeShot(shotId, label, (s) => ({ ...s, layers: [...s.layers, layer] }), media, of);

/** One more take on top of a shot, from its first second on. */
export function addTakeLayer(project: Project, shotId: string, takeId: string, from: number): void {
  const take = project.takes.find((t) => t.id === takeId);
  if (!take) return;
  onTop(
    shotId,
    say`Add a take`,
    plainLayer(`layer-${short()}`, say`Another take`, take.tape, { kind: 'take', takeId }, [remapKeyAt(0, 0, from)]),
  );
}

/** One more layer of a source that needs nothing to begin with. */
export function addFreshLayer(shotId: string, kind: Source['kind']): void {
  const { name, fresh, blend } = sourceKind({ kind });
  if (fresh)
    onTop(
      shotId,
      say`Add a ${name.toLowerCase()}`,
      plainLayer(`layer-${short()}`, name, 0, fresh, [remapKeyAt(0, 0, 0)], blend ? { blend } : {}),
    );
}

/** The empty set on top of a shot through a patch in its middle, to hide what was left standing. */
export async function addPatch(project: Project, shot: Shot, onProgress: Progress): Promise<void> {
  const [takeId] = takesOf(shot);
  if (!takeId) throw new Error(say`This shot shows no take whose empty set could be made.`);
  const { media, plateId } = await keepPlate(project, takeId, onProgress);
  const spot = plainMask(`mask-${short()}`, 'ellipse', {
    x: still(50),
    y: still(50),
    width: still(16),
    height: still(24),
    turn: still(0),
    inside: still(2),
    outside: still(0),
  });
  onTop(
    shot.id,
    say`Patch with the empty set`,
    plainLayer(`layer-${short()}`, 'Patch', 0, { kind: 'still', mediaId: plateId }, [remapKeyAt(0, 0, 0)], { masks: [spot] }),
    media,
    project.id,
  );
}
