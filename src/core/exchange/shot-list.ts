import type { PlannedOrder, PlannedShot } from '../plan';
import type { Seconds } from '../units';
import { toCsv } from './csv';

/** One planned shot with its order, as the lists print it. */
export interface ListedShot {
  shot: PlannedShot;
  order: PlannedOrder;
  barSeconds: Seconds;
}

/** The shot list of planned shots in the order they are filmed. Lengths in metres, units in the column names. */
export function shotListCsv(shots: readonly ListedShot[]): string {
  const head = [
    'shot',
    'recipe',
    'number',
    'slot',
    'what',
    'place',
    'across_m',
    'from_lens_m',
    'outfit',
    'camera',
    'lens_mm',
    'aperture',
    'shutter_s',
    'iso',
    'focus_m',
    'lens_height_m',
    'fps',
    'first_bar',
    'bars',
    'span_s',
    'filmed',
  ];
  const rows = shots.flatMap(({ shot, order, barSeconds }) =>
    order.slots.map(({ slot }, i) => {
      const place = shot.places.find((p) => p.id === slot.place);
      const { camera } = shot;
      return [
        shot.name,
        shot.recipe,
        i + 1,
        slot.name,
        slot.what,
        place?.name ?? '',
        place ? place.x.toFixed(2) : '',
        place ? place.z.toFixed(2) : '',
        slot.outfit,
        slot.rig,
        camera.focal,
        camera.aperture,
        Number(camera.shutter.toPrecision(4)),
        camera.iso,
        camera.focus.toFixed(2),
        camera.height.toFixed(2),
        camera.captureFps,
        shot.bar,
        shot.bars,
        slot.toSong ? (shot.bars * barSeconds).toFixed(2) : slot.hold,
        shot.ticked.includes(slot.id) ? 'yes' : 'no',
      ];
    }),
  );
  return toCsv([head, ...rows]);
}
