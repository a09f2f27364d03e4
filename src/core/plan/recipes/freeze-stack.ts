import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, ramp, slot, still, swing } from '../recipe';

/** The picture freezes and cut-out parts of the figure fly in, one a beat. Common practice. */
export const FREEZE_STACK: Recipe = {
  id: 'freeze stack',
  name: say`Freeze stack`,
  idea: say`The picture freezes on a pose; cut-out parts of the figure fly in one after another, each on its beat, and the frame shakes as they land.`,
  bars: 2,
  inputs: [
    { key: 'parts', label: say`Parts`, kind: 'number', unit: say`parts`, value: 5, min: 2, max: 16, step: 1 },
    { key: 'freezeBeat', label: say`Freeze on beat`, kind: 'number', unit: say`beat`, value: 5, min: 1, max: 400, step: 1 },
  ],
  places: [place('Performer', 0, 3, { reach: 0.8 })],
  slots: (c) => [
    firstPlate(say`The cut-outs fly over it: it must be the very same frame without you.`),
    slot(
      'run',
      say`The pose`,
      say`Dance into the pose and hit it on beat ${c.number('freezeBeat')}; hold for a full bar without blinking.`,
      say`The freeze is one frame of it: sharp, short shutter, arms away from the body so that they can be cut out.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot(
      'parts',
      say`Parts against plain cloth`,
      say`The same pose and light before a plain cloth, ${c.number('parts')} times: head, arms, body, legs clear of each other.`,
      say`Clean edges where the set behind has the clothes’ colour.`,
      { place: c.places[0]?.id ?? null, toSong: false, hold: 5 * c.number('parts'), rig: 'plain cloth', difficulty: 1 },
    ),
  ],
  rules: () => [{ kind: 'before', first: 'run', next: 'parts', why: say`The cloth stands in the set; hanging it moves things.` }],
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`Feet: chalk round both shoes as they stand in the pose.`,
    say`Pose: a photograph of beat ${c.number('freezeBeat')} to copy for the parts.`,
  ],
  kit: () => [...BASIC_KIT, say`Plain cloth in a colour neither clothes nor set have, evenly lit`],
  cautions: () => [say`Holding a pose on one leg: a hand to catch, a mat behind. ${LOCAL_RULES}`],
  builds: (c) => [
    { move: say`Freeze frame`, text: say`One frame held from beat ${c.number('freezeBeat')}.` },
    { move: say`Freeze stack`, text: say`${c.number('parts')} cut-outs from 85 % and 35°, one a half beat, strong ease.` },
    { move: 'Shake', text: say`Ten to twelve frames as the last part lands.` },
  ],
  checks: () => [say`A part lands off its beat.`, say`The still does not match the graded shot.`, say`The shake shows the picture’s edge.`],
  dryRun: (c, u) => {
    const beats = c.shot.bars * 4;
    const freeze = (c.number('freezeBeat') - 1) / beats;
    const n = c.number('parts');
    const frozen = u >= freeze;
    const landed = ramp(freeze, freeze + n / 2 / beats, u);
    const shake = frozen && landed >= 1 ? Math.max(0, 1 - (u - freeze - n / 2 / beats) * beats) : 0;
    return still(
      [
        layer(frozen ? 'plate' : 'run', c.places[0] ? [{ place: c.places[0].id, arms: frozen ? 1 : swing(u, beats) }] : [], {
          shiftX: 0.01 * shake * Math.sin(u * 400),
          opacity: frozen ? Math.max(0.25, landed) : 1,
        }),
      ],
      [],
    );
  },
};
