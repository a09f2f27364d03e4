import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, slot, still, swing } from '../recipe';

/** Fading copies behind a moving figure. Common practice. */
export const TRAIL: Recipe = {
  id: 'trail',
  name: say`Trail`,
  idea: say`A moving figure leaves fading copies of itself behind, spaced in frames, tinted, added to the light or laid behind.`,
  bars: 4,
  inputs: [
    { key: 'copies', label: say`Copies`, kind: 'number', unit: say`copies`, value: 8, min: 1, max: 30, step: 1 },
    { key: 'spacing', label: say`Spacing`, kind: 'number', unit: say`frames`, value: 5, min: 1, max: 60, step: 1 },
    { key: 'walk', label: say`Way walked`, kind: 'number', unit: 'm', value: 1.6, min: 0, max: 20, step: 0.1 },
  ],
  places: [place('Performer', -0.8, 3.2, { reach: 0.7 })],
  slots: (c) => [
    firstPlate(say`The figure is lifted off it; without it the copies carry the wall along.`),
    slot(
      'move',
      say`The movement`,
      say`Move ${c.number('walk').toFixed(1)} m across the frame, large and smooth, never turning back over your own way.`,
      say`Copies read best from the side, in clothes brighter than the wall.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
  ],
  rules: () => [],
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`Way: a tape line of ${c.number('walk').toFixed(1)} m at one distance from the lens.`,
    say`Wall behind darker than the clothes, evenly lit, nothing moving on it.`,
  ],
  kit: () => [...BASIC_KIT, say`Clothes that stand out from the wall`],
  cautions: () => [say`Clear the way of cables. ${LOCAL_RULES}`],
  builds: (c) => [
    { move: 'Trail', text: say`${c.number('copies')} copies every ${c.number('spacing')} frames, fading to nothing, laid behind.` },
  ],
  checks: () => [say`The matte’s edge shows.`, say`Copies reach beyond the take’s start.`],
  dryRun: (c, u) => {
    const p = c.places[0];
    const step = c.number('spacing') / 25 / (c.shot.bars * c.barSeconds);
    const at = (v: number, opacity: number) =>
      layer('move', p ? [{ place: p.id, arms: swing(v, c.shot.bars * 2), dx: c.number('walk') * v }] : [], { opacity });
    const copies = Array.from({ length: c.number('copies') }, (_, i) => c.number('copies') - i).filter((k) => u - k * step >= 0);
    return still([layer('plate', []), ...copies.map((k) => at(u - k * step, 0.55 * (1 - k / (c.number('copies') + 1)))), at(u, 1)]);
  },
};
