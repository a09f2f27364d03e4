import { say } from '../../words';
import { BASIC_KIT, LOCAL_RULES, layer, place, type Recipe, ramp, slot, still, swing } from '../recipe';

/** Out of one take and into another in about twenty frames. Common practice. */
export const WHIP: Recipe = {
  id: 'whip',
  name: say`Whip`,
  idea: say`The view whips away from one take and arrives in the next, in about twenty frames, fastest at the cut, with the picture mirrored at its edges so that no gap shows.`,
  bars: 2,
  inputs: [
    { key: 'frames', label: say`Whip lasts`, kind: 'number', unit: say`frames`, value: 20, min: 6, max: 80, step: 1 },
    { key: 'cutBeat', label: say`Cut on beat`, kind: 'number', unit: say`beat`, value: 5, min: 1, max: 400, step: 1 },
    { key: 'takes', label: say`Takes to join`, kind: 'number', unit: say`takes`, value: 2, min: 2, max: 6, step: 1 },
  ],
  places: [place('Performer', 0, 2.8)],
  slots: (c) =>
    Array.from({ length: c.number('takes') }, (_, i) =>
      slot(
        `take-${i + 1}`,
        say`Take ${i + 1}`,
        say`Act${i < c.number('takes') - 1 ? say`; end looking and leaning out of the frame to the right, then step out` : ''}${i > 0 ? say`; begin as if arriving from the left, still swinging` : ''}.`,
        say`The body’s own swing carries the eye; the rest is done in the edit.`,
        { place: c.places[0]?.id ?? null, rig: say`set-up ${i + 1}`, outfit: say`take ${i + 1}` },
      ),
    ),
  rules: () => [],
  marks: () => [
    say`Camera: may stand still; the whip is made in the edit. Same height and lens in all takes.`,
    say`Frame wide at the sides: the whip needs picture to travel over.`,
    say`Leave five seconds before and after.`,
  ],
  kit: () => [...BASIC_KIT],
  cautions: () => [say`Fast movement in the whole frame can make viewers unwell: keep whips few. ${LOCAL_RULES}`],
  builds: (c) => [
    {
      move: 'Whip',
      text: say`${c.number('frames')} frames, ${Math.round(c.number('frames') / 2)} either side of the cut on beat ${c.number('cutBeat')}, eased, blurred along its way.`,
    },
  ],
  checks: () => [say`The cut is off its beat.`, say`A gap shows at the edge.`, say`The two takes whip in different directions.`],
  dryRun: (c, u) => {
    const beats = c.shot.bars * 4;
    const cut = (c.number('cutBeat') - 1) / beats;
    const half = c.number('frames') / 50 / (c.shot.bars * c.barSeconds);
    const out = ramp(cut - half, cut + half, u);
    const figure = c.places[0] ? [{ place: c.places[0].id, arms: 0.4 * swing(u, beats), outfit: (u < cut ? 0 : 1) as 0 | 1 }] : [];
    return still([
      layer(u < cut ? 'take-1' : 'take-2', figure, { shiftX: u < cut ? -1.6 * out : 1.6 * (1 - out), blur: 1 - Math.abs(out * 2 - 1) }),
    ]);
  },
};
