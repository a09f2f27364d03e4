import { IDENTITY_COLOUR, STAY } from '../picture';
import type { LayerDescription, PictureDescription } from './description';

/** A picture as a layer of another, as it is and where it is. */
export const pictureLayer = (picture: PictureDescription, layerId: string, more: Partial<LayerDescription> = {}): LayerDescription => ({
  layerId,
  source: { kind: 'shot', picture },
  size: { width: picture.width, height: picture.height },
  map: STAY,
  colour: IDENTITY_COLOUR,
  coverage: null,
  opacity: 1,
  blend: 'normal',
  edge: 'clear',
  effects: [],
  motion: null,
  ...more,
});
