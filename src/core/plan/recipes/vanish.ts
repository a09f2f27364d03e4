import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, ramp, slot, still } from '../recipe';

/** A still cut-out over an empty plate dissolves in shape and light; elsewhere the reverse. Common practice. */
export const VANISH: Recipe = {
  id: 'vanish and reappear',
  name: say`Vanish and reappear`,
  idea: say`The figure stops, dissolves into light and is gone; the set stays empty for a beat, and in another place the same light becomes the figure again.`,
  bars: 4,
  inputs: [
    { key: 'vanishBeat', label: say`Vanishes on beat`, kind: 'number', unit: say`beat`, value: 5, min: 1, max: 400, step: 1 },
    { key: 'returnBeat', label: say`Returns on beat`, kind: 'number', unit: say`beat`, value: 11, min: 1, max: 400, step: 1 },
    { key: 'soundLead', label: say`Sound leads by`, kind: 'number', unit: say`frames`, value: 4, min: 0, max: 30, step: 1 },
  ],
  places: [place('Here', -0.9, 3), place('There', 1, 3.6)],
  slots: (c) => [
    firstPlate(say`It is what remains.`),
    slot(
      'go',
      'Going',
      say`Act, freeze on beat ${c.number('vanishBeat')} and stay still for two beats.`,
      say`The still frame is what dissolves.`,
      { place: c.places[0]?.id ?? null, difficulty: 1 },
    ),
    slot(
      'return',
      say`Coming back`,
      say`At the other place: stand still two beats before beat ${c.number('returnBeat')}, then move on from the same pose.`,
      say`Same pose, same eye line: that makes it one person.`,
      { place: c.places[1]?.id ?? null, difficulty: 2 },
    ),
  ],
  rules: () => [{ kind: 'before', first: 'go', next: 'return', why: say`The pose of the first is copied in the second.` }],
  marks: () => [
    ...LOCKED_CAMERA,
    say`Two crosses; at both the same turn of the body to the lens.`,
    say`A lamp that brightens by hand on the beat helps the light meet the face.`,
  ],
  kit: () => [...BASIC_KIT, say`Dimmable lamp`],
  cautions: () => [say`Lamps get hot and cables trip: sandbags, cable covers. ${LOCAL_RULES}`],
  builds: (c) => [
    {
      move: 'Vanish',
      text: say`A cut-out dissolves in shape and light on beat ${c.number('vanishBeat')}; the sound leads by ${c.number('soundLead')} frames.`,
    },
    { move: 'Reappear', text: say`The reverse at the other place on beat ${c.number('returnBeat')}.` },
  ],
  checks: () => [
    say`Plate and take differ in light.`,
    say`The flash is faster than three a second.`,
    say`The returning pose does not match.`,
  ],
  dryRun: (c, u) => {
    const b = u * c.shot.bars * 4 + 1;
    const gone = ramp(c.number('vanishBeat'), c.number('vanishBeat') + 0.7, b);
    const back = ramp(c.number('returnBeat') - 0.7, c.number('returnBeat'), b);
    const [here, there] = c.places;
    const glow = Math.max(gone > 0 && gone < 1 ? 1 - Math.abs(gone * 2 - 1) : 0, back > 0 && back < 1 ? 1 - Math.abs(back * 2 - 1) : 0);
    return still(
      [
        layer('plate', []),
        ...(gone < 1 && here ? [layer('go', [{ place: here.id, arms: 0.3 }], { opacity: 1 - gone })] : []),
        ...(back > 0 && there ? [layer('return', [{ place: there.id, arms: 0.3 }], { opacity: back })] : []),
      ],
      glow > 0 ? [{ kind: 'flash', x: 0.5, y: 0.5, angle: 0, strength: 0.5 * glow }] : [],
    );
  },
};
