import { type Layer, type Project, plainLayer } from '../shot';

/** Makes a layer that shows a take, on the take's own tape. */
export type TakeLayer = (id: string, name: string, takeId: string, pins: Layer['pins'], more: Partial<Layer>) => Layer;

export function takeLayers(project: Project): TakeLayer {
  return (id, name, takeId, pins, more) =>
    plainLayer(id, name, project.takes.find((t) => t.id === takeId)?.tape ?? 0, { kind: 'take', takeId }, pins, more);
}
