import type { Layer, Mask } from '../layer';
import { say } from '../words';

/** A mask under an id of its own, the user's from then on. */
export const copiedMask = (mask: Mask, id: string): Mask => ({ ...structuredClone(mask), id, madeBy: 'user' });

/** A layer with all that is in it under ids of their own, each asked of `newId`; the user's from then on. */
export const copiedLayer = (layer: Layer, newId: () => string): Layer => ({
  ...structuredClone(layer),
  id: newId(),
  madeBy: 'user',
  name: say`${layer.name.replace(/, copy$/, '').slice(0, 90)}, copy`,
  masks: layer.masks.map((mask) => copiedMask(mask, newId())),
  effects: layer.effects.map((effect) => ({ ...structuredClone(effect), id: newId(), madeBy: 'user' })),
});
