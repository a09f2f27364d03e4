import { type Layer, plainLayer, remapKeyAt, still } from '@/core/layer';
import type { Again } from '@/core/sources';
import { say } from '@/core/words';
import { changeShot } from './shots';

/** Layers that show one again, laid right behind it. */
function behind(shotId: string, layerId: string, label: string, make: (layer: Layer) => Layer[]): void {
  changeShot(shotId, label, (shot) => {
    const at = shot.layers.findIndex((l) => l.id === layerId);
    return at < 0 ? shot : { ...shot, layers: shot.layers.toSpliced(at, 0, ...make(shot.layers[at])) };
  });
}

const again = ({ id, name, tape }: Layer, called: string, what: Partial<Again>, more: Partial<Layer>): Layer =>
  plainLayer(
    `layer-${crypto.randomUUID().slice(0, 8)}`,
    say`${called} of ${name}`.slice(0, 100),
    tape,
    { kind: 'echo', layerId: id, late: 0, shown: 'as it is', soft: 0, ...what },
    [remapKeyAt(0, 0, 0)],
    more,
  );

/** A layer's shadow: black, soft, a little to the right and down, multiplied (common practice). */
export const addShadow = (shotId: string, layerId: string): void =>
  behind(shotId, layerId, say`Lay a shadow`, (layer) => [
    again(
      layer,
      'Shadow',
      { shown: 'as a shadow', soft: 2 },
      { blend: 'multiply', numbers: { x: still(2), y: still(2), opacity: still(45) } },
    ),
  ]);

/** Echoes of a layer, each so many frames after the last and fainter by even steps; the faintest is the lowest. */
export const addEchoes = (
  shotId: string,
  layerId: string,
  { count, every, first }: { count: number; every: number; first: number },
): void =>
  behind(shotId, layerId, say`Lay echoes`, (layer) =>
    Array.from({ length: count }, (_, k) => {
      const number = count - k;
      return again(
        layer,
        say`Echo ${number}`,
        { late: number * every },
        { numbers: { opacity: still((first * (count - number + 1)) / count) } },
      );
    }),
  );
