import type { Project, Shot } from '@/core/document';
import { effectKind } from '@/core/effects';
import { addedEffect, type Layer } from '@/core/layer';
import { say } from '@/core/words';
import { backingChroma } from './cut-along';
import { changeLayer } from './shots';

/**
 * Adds an effect to a layer with numbers by which it is seen; one that goes by a coloured backing is measured on the layer's take. Gives a
 * sentence where that has none.
 */
export async function addEffect(project: Project, shot: Shot, layer: Layer, kind: string): Promise<string> {
  const { source } = layer;
  let [backing, said]: [Awaited<ReturnType<typeof backingChroma>> | null, string] = [null, ''];
  if (effectKind(kind).forBacking && source.kind === 'take')
    try {
      backing = await backingChroma(project, source.takeId);
    } catch (error) {
      said = error instanceof Error ? error.message : String(error);
    }
  const effect = addedEffect(`effect-${crypto.randomUUID().slice(0, 8)}`, kind, backing);
  changeLayer(shot.id, layer.id, say`Add an effect`, (l) => ({ ...l, effects: [...l.effects, effect] }));
  return said;
}
