import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, ramp, slot, still, swing } from '../recipe';

/** The picture freezes and cut-out parts of the figure fly in, one a beat. Common practice. */
export const FREEZE_STACK: Recipe = {
  id: 'freeze stack',
  name: 'Freeze stack',
  idea: 'The picture freezes on a pose; cut-out parts of the figure fly in one after another, each on its beat, and the frame shakes as they land.',
  bars: 2,
  inputs: [
    { key: 'parts', label: 'Parts', kind: 'number', unit: 'parts', value: 5, min: 2, max: 16, step: 1 },
    { key: 'freezeBeat', label: 'Freeze on beat', kind: 'number', unit: 'beat', value: 5, min: 1, max: 400, step: 1 },
  ],
  places: [place('Performer', 0, 3, { reach: 0.8 })],
  slots: (c) => [
    firstPlate('The cut-outs fly over it: it must be the very same frame without you.'),
    slot(
      'run',
      'The pose',
      `Dance into the pose and hit it on beat ${c.number('freezeBeat')}; hold for a full bar without blinking.`,
      'The freeze is one frame of it: sharp, short shutter, arms away from the body so that they can be cut out.',
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot(
      'parts',
      'Parts against plain cloth',
      `The same pose and light before a plain cloth, ${c.number('parts')} times: head, arms, body, legs clear of each other.`,
      'Clean edges where the set behind has the clothes’ colour.',
      { place: c.places[0]?.id ?? null, toSong: false, hold: 5 * c.number('parts'), rig: 'plain cloth', difficulty: 1 },
    ),
  ],
  rules: () => [{ kind: 'before', first: 'run', next: 'parts', why: 'The cloth stands in the set; hanging it moves things.' }],
  marks: (c) => [
    ...LOCKED_CAMERA,
    'Feet: chalk round both shoes as they stand in the pose.',
    `Pose: a photograph of beat ${c.number('freezeBeat')} to copy for the parts.`,
  ],
  kit: () => [...BASIC_KIT, 'Plain cloth in a colour neither clothes nor set have, evenly lit'],
  cautions: () => [`Holding a pose on one leg: a hand to catch, a mat behind. ${LOCAL_RULES}`],
  builds: (c) => [
    { move: 'Freeze frame', text: `One frame held from beat ${c.number('freezeBeat')}.` },
    { move: 'Freeze stack', text: `${c.number('parts')} cut-outs from 85 % and 35°, one a half beat, strong ease.` },
    { move: 'Shake', text: 'Ten to twelve frames as the last part lands.' },
  ],
  checks: () => ['A part lands off its beat.', 'The still does not match the graded shot.', 'The shake shows the picture’s edge.'],
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
