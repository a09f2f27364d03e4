import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, layer, place, type Recipe, ramp, slot, still, swing } from '../recipe';

/** Everything but the subject blurred, tinted or darkened through a soft inverted mask. Common practice. */
export const ISOLATE: Recipe = {
  id: 'isolate',
  name: say`Isolate`,
  idea: say`Everything but the subject is blurred, tinted or darkened through a soft inverted mask that follows, in on one beat and out on another.`,
  bars: 4,
  inputs: [
    { key: 'how', label: say`The rest becomes`, kind: 'text', value: 'darker and blurred' },
    { key: 'inBeat', label: say`In on beat`, kind: 'number', unit: say`beat`, value: 5, min: 1, max: 400, step: 1 },
    { key: 'outBeat', label: say`Out on beat`, kind: 'number', unit: say`beat`, value: 13, min: 1, max: 400, step: 1 },
  ],
  places: [place('Subject', 0, 2.6, { reach: 0.6 })],
  slots: (c) => [
    slot(
      'shot',
      say`The shot`,
      say`Act; stay clear of people and things in front and behind between beats ${c.number('inBeat')} and ${c.number('outBeat')}.`,
      say`The further the subject from the wall, the softer the mask may be.`,
      { place: c.places[0]?.id ?? null },
    ),
    firstPlate(say`A difference to the empty set finds the subject’s outline by itself.`),
  ],
  rules: () => [],
  marks: () => [
    say`Subject at least a metre from the wall and from others.`,
    say`A rim of light from behind helps the mask.`,
    say`Tripod if you can; a moving camera works without the plate.`,
  ],
  kit: () => [...BASIC_KIT, say`A small lamp behind the subject`],
  cautions: () => [say`Lamps behind people: stands weighted, cables taped. ${LOCAL_RULES}`],
  builds: (c) => [{ move: 'Isolate', text: say`The rest ${c.text('how')} from beat ${c.number('inBeat')} to ${c.number('outBeat')}.` }],
  checks: () => [say`The mask leaves the subject.`, say`In or out is off its beat.`],
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
