import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, lastPlate, layer, place, type Recipe, ramp, slot, still } from '../recipe';

/** A small mask shows the empty plate while the real thing changes underneath. Common practice. */
export const HIDDEN_FILL: Recipe = {
  id: 'hidden fill',
  name: say`Hidden fill`,
  idea: say`A small soft mask shows the empty plate, so that something is not there; the mask opens as the hand passes, and there it is. The mask ducks under whatever crosses it.`,
  bars: 2,
  inputs: [
    { key: 'object', label: say`What is hidden`, kind: 'text', value: 'a bottle of starch' },
    { key: 'appearBeat', label: say`It appears on beat`, kind: 'number', unit: say`beat`, value: 5, min: 1, max: 400, step: 1 },
  ],
  places: [place('Performer', -0.35, 2, { reach: 0.7 })],
  props: [{ name: say`Table`, kind: 'prop', x: 0.45, z: 1.9, width: 1, depth: 0.6, height: 0.05, base: 0.75 }],
  slots: (c) => [
    firstPlate(say`It is what the mask shows: same light, same shadows, table and cloth untouched.`),
    slot(
      'action',
      say`The action`,
      say`With ${c.text('object')} in its place all the time: act, and let a hand pass in front of it on beat ${c.number('appearBeat')}.`,
      say`The hand that passes is the moment the mask may go.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot(
      'object-plate',
      say`Plate with the object`,
      say`Nobody in the frame, ${c.text('object')} in its place.`,
      say`Mends the mask where the hand and the object touch.`,
      { toSong: false, hold: 8, outfit: '' },
    ),
    lastPlate(),
  ],
  rules: (c) => [
    { kind: 'right after', first: 'action', next: 'object-plate', why: say`${c.text('object')} must stand exactly where it stood.` },
  ],
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`${c.text('object')}: draw round its foot with chalk. Its shadow must be inside the mask too.`,
    say`Table and cloth are not touched from the first plate to the last.`,
    say`Hand: passes in front on beat ${c.number('appearBeat')}, not behind.`,
  ],
  kit: (c) => [...BASIC_KIT, c.text('object'), 'Chalk', say`Even, soft light over the table`],
  cautions: () => [say`Glass and liquids near mains: keep cables off the table. ${LOCAL_RULES}`],
  builds: (c) => [
    {
      move: say`Hidden fill`,
      text: say`A shaped mask over ${c.text('object')} shows the plate until beat ${c.number('appearBeat')}, and ducks under the hand.`,
    },
  ],
  checks: () => [
    say`Plate and take differ in light under the mask.`,
    say`Something crosses the mask without a duck.`,
    say`The object’s shadow shows before the object.`,
  ],
  dryRun: (c, u) => {
    const beats = c.shot.bars * 4;
    const gone = ramp((c.number('appearBeat') - 1.5) / beats, (c.number('appearBeat') - 0.5) / beats, u);
    const [p] = c.places;
    return still(
      [
        layer('action', p ? [{ place: p.id, arms: 0.5 * ramp(0.2, 0.5, u) }] : []),
        ...(gone < 1 ? [layer('plate', [], { region: { left: 0.58, right: 0.7, top: 0.42, bottom: 0.68 }, opacity: 1 - gone })] : []),
      ],
      gone >= 1
        ? [{ kind: 'object', x: 0.64, y: 0.58, angle: 90, strength: 1 }]
        : [{ kind: 'object', x: 0.64, y: 0.58, angle: 90, strength: gone }],
    );
  },
};
