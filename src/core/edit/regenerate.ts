import type { Project, Shot } from '../document';
import { type Layer, SOURCE_PART } from '../layer';
import { kindOf } from '../moves';
import { moveContext } from './move-context';

/** What of a layer may be set by hand and stays when its move is run again, beside its numbers, masks and effects. */
export const OVERRIDABLE = [
  'on',
  'from',
  'to',
  'timeRemap',
  'repeat',
  'frameInterpolation',
  'sound',
  'blend',
  'edge',
  'shutter',
] as const satisfies readonly (keyof Layer)[];

/** What was overridden by hand put back on a fresh layer. */
function withOverrides(fresh: Layer, old: Layer, overrides: readonly string[]): Layer {
  const mine = (name: string) => overrides.includes(name);
  const numbers = { ...fresh.numbers };
  for (const [name, keys] of Object.entries(old.numbers)) if (mine(`${fresh.id}.${name}`)) numbers[name as keyof Layer['numbers']] = keys;
  /** Masks or effects: those of the move with what was overridden in them, then those that were added. */
  const parts = <Part extends Layer['masks'][number] | Layer['effects'][number]>(made: Part[], before: Part[]): Part[] => [
    ...made.map((part) => {
      const known = before.find((p) => p.id === part.id);
      const kept = Object.entries(known?.numbers ?? {}).filter(([name]) => mine(`${fresh.id}.${part.id}.${name}`));
      return { ...part, numbers: { ...part.numbers, ...Object.fromEntries(kept) } };
    }),
    ...before.filter(({ madeBy }) => madeBy === 'user'),
  ];
  const fields = Object.fromEntries(OVERRIDABLE.filter((name) => mine(`${fresh.id}.${name}`)).map((name) => [name, old[name]]));
  return {
    ...fresh,
    ...fields,
    numbers,
    ...(old.sourceNumbers && Object.keys(old.sourceNumbers).some((name) => mine(`${fresh.id}.${SOURCE_PART}.${name}`))
      ? { sourceNumbers: old.sourceNumbers }
      : {}),
    masks: parts(fresh.masks, old.masks),
    effects: parts(fresh.effects, old.effects),
  };
}

/**
 * The shot with its move run anew. Keys, remap keys and masks overridden by hand stay, as do layers and masks that were added; all else is as
 * the move makes it. A shot without a move comes back as it is.
 */
export function regenerate(project: Project, shot: Shot): Shot {
  const { move } = shot;
  if (!move) return shot;
  const made = kindOf(move).layers(moveContext(project, shot), move);
  const before = new Map(shot.layers.map((layer) => [layer.id, layer]));
  const layers = made.map((layer) => {
    const old = before.get(layer.id);
    return old?.madeBy === 'move' ? withOverrides(layer, old, shot.overrides) : layer;
  });
  return { ...shot, layers: [...layers, ...shot.layers.filter((layer) => layer.madeBy === 'user')] };
}

/** The frame on which a shot is best looked at: its move's own, or its first. */
export function posterFrame(project: Project, shot: Shot): number {
  const context = moveContext(project, shot);
  return shot.move ? kindOf(shot.move).poster(context, shot.move) : context.scene.first;
}
