import type { Shot } from '@/core/document';
import { type Effect, plainLayer, remapKeyAt } from '@/core/layer';
import { edit } from './store';

const short = () => crypto.randomUUID().slice(0, 8);

/** A shot with effects on all of it: on the uppermost layer that shows everything below it, or on a new one. */
function withLook(shot: Shot, effects: readonly Effect[]): Shot {
  const fresh = effects.map((effect) => ({ ...effect, id: `effect-${short()}`, madeBy: 'user' as const }));
  const at = shot.layers.findLastIndex((l) => l.source.kind === 'below');
  if (at >= 0) return { ...shot, layers: shot.layers.map((l, i) => (i === at ? { ...l, effects: fresh } : l)) };
  const look = plainLayer(`layer-${short()}`, 'Look', 0, { kind: 'below' }, [remapKeyAt(0, 0, 0)], { effects: fresh });
  return { ...shot, layers: [...shot.layers, look] };
}

/** Lays effects on all of other shots, in the place of those that lie there already. */
export function copyLook(effects: readonly Effect[], shotIds: readonly string[]): void {
  edit(`Lay a look on ${shotIds.length} shots`, (draft) => {
    draft.shots.forEach((shot, i) => {
      if (shotIds.includes(shot.id)) draft.shots[i] = withLook(shot as Shot, effects) as (typeof draft.shots)[number];
    });
  });
}
