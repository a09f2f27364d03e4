import type { Layer } from '../shot';

/** Makes a layer that shows a take, on the take's own tape. */
export type TakeLayer = (id: string, name: string, takeId: string, pins: Layer['pins'], more: Partial<Layer>) => Layer;
