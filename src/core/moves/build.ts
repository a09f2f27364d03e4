import { applied, inverted } from '../picture';
import { footageOf, type Layer, type Project, type Scene, type Shot, sceneOf, sourceMap } from '../shot';
import type { OnFrame } from './follow';
import { freezeLayers } from './freeze';
import { rampLayers } from './ramp';
import { revealLayers } from './reveal';
import { splitLayers } from './split';
import { takeLayers } from './take-layer';
import { whipLayers } from './whip';

/** From per cent of a take's picture to per cent of the frame, as the take lies there before it is moved. */
function onFrame(project: Project, takeId: string, overscan: number): OnFrame {
  const { width, height } = project.frame;
  const media = footageOf(project, takeId);
  const toFrame = inverted(sourceMap(project.frame, media, overscan, null));
  return ({ x, y }) => {
    const at = applied(toFrame, { x: (x / 100) * media.width, y: (y / 100) * media.height });
    return { x: (100 * at.x) / width, y: (100 * at.y) / height };
  };
}

/** The layers a move gives, bottom first. Ordinary keys on beats and frames; nothing is kept of how they came about. */
function layersOf(project: Project, scene: Scene, move: NonNullable<Shot['move']>, overscan: number): Layer[] {
  const take = takeLayers(project);
  switch (move.kind) {
    case 'reveal':
      return revealLayers(scene, move, take);
    case 'freeze':
      return freezeLayers(scene, move, take);
    case 'whip':
      return whipLayers(move, take);
    case 'ramp':
      return rampLayers(scene, move, take, onFrame(project, move.takeId, overscan));
    case 'split':
      return splitLayers(scene, move, take, project.frame, (takeId) => onFrame(project, takeId, overscan));
  }
}

/** What was taken over by hand put back on a fresh layer. */
function withHand(fresh: Layer, old: Layer, hand: readonly string[]): Layer {
  const mine = (name: string) => hand.includes(name);
  const numbers = { ...fresh.numbers };
  for (const [name, keys] of Object.entries(old.numbers)) if (mine(`${fresh.id}.${name}`)) numbers[name as keyof Layer['numbers']] = keys;
  const masks = fresh.masks.map((mask) => {
    const known = old.masks.find((m) => m.id === mask.id);
    if (!known) return mask;
    const kept = Object.entries(known.numbers).filter(([name]) => mine(`${fresh.id}.${mask.id}.${name}`));
    return { ...mask, numbers: { ...mask.numbers, ...Object.fromEntries(kept) } };
  });
  const added = old.masks.filter((m) => !MADE_MASK.test(m.id));
  return { ...fresh, numbers, masks: [...masks, ...added], pins: mine(`${fresh.id}.pins`) ? old.pins : fresh.pins };
}

/**
 * The shot with its move run anew. Keys, pins and masks taken over by hand stay, as do layers that were added; all else is as the move
 * makes it. A shot without a move comes back as it is.
 */
export function rerun(project: Project, shot: Shot): Shot {
  if (!shot.move) return shot;
  const made = layersOf(project, sceneOf(project, shot), shot.move, shot.overscan);
  const before = new Map(shot.layers.map((layer) => [layer.id, layer]));
  const layers = made.map((layer) => {
    const old = before.get(layer.id);
    return old ? withHand(layer, old, shot.hand) : layer;
  });
  const added = shot.layers.filter((layer) => !MADE.test(layer.id));
  return { ...shot, layers: [...layers, ...added] };
}

/** Names that only moves give their layers and masks. */
const MADE = /^(before|after|base|plate|part\d+|trail\d+|out|into|take|panel\d+)$/;
const MADE_MASK = /^(line|ring|rectangle|figure|drawn|duck|limit|panel|matte|band)$/;
