import { BASIC_KIT, firstPlate, LOCAL_RULES, layer, place, type Recipe, ramp, slot, still, swing } from '../recipe';

/** Everything but the subject blurred, tinted or darkened through a soft inverted mask. Common practice. */
export const ISOLATE: Recipe = {
  id: 'isolate',
  name: 'Isolate',
  idea: 'Everything but the subject is blurred, tinted or darkened through a soft inverted mask that follows, in on one beat and out on another.',
  bars: 4,
  inputs: [
    { key: 'how', label: 'The rest becomes', kind: 'text', value: 'darker and blurred' },
    { key: 'inBeat', label: 'In on beat', kind: 'number', unit: 'beat', value: 5, min: 1, max: 400, step: 1 },
    { key: 'outBeat', label: 'Out on beat', kind: 'number', unit: 'beat', value: 13, min: 1, max: 400, step: 1 },
  ],
  places: [place('Subject', 0, 2.6, { reach: 0.6 })],
  slots: (c) => [
    slot(
      'shot',
      'The shot',
      `Act; stay clear of people and things in front and behind between beats ${c.number('inBeat')} and ${c.number('outBeat')}.`,
      'The further the subject from the wall, the softer the mask may be.',
      { place: c.places[0]?.id ?? null },
    ),
    firstPlate('A difference to the empty set finds the subject’s outline by itself.'),
  ],
  rules: () => [],
  marks: () => [
    'Subject at least a metre from the wall and from others.',
    'A rim of light from behind helps the mask.',
    'Tripod if you can; a moving camera works without the plate.',
  ],
  kit: () => [...BASIC_KIT, 'A small lamp behind the subject'],
  cautions: () => [`Lamps behind people: stands weighted, cables taped. ${LOCAL_RULES}`],
  builds: (c) => [{ move: 'Isolate', text: `The rest ${c.text('how')} from beat ${c.number('inBeat')} to ${c.number('outBeat')}.` }],
  checks: () => ['The mask leaves the subject.', 'In or out is off its beat.'],
  dryRun: (c, u) => {
    const b = u * c.shot.bars * 4 + 1;
    const on = ramp(c.number('inBeat') - 0.5, c.number('inBeat'), b) * (1 - ramp(c.number('outBeat') - 0.5, c.number('outBeat'), b));
    const p = c.places[0];
    return still([
      layer('plate', [], { opacity: 1 - 0.6 * on, blur: on }),
      layer('shot', p ? [{ place: p.id, arms: 0.5 * swing(u, c.shot.bars * 4) }] : [], { region: null }),
    ]);
  },
};
