import { say } from '../../words';
import { BASIC_KIT, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, ramp, slot, still } from '../recipe';

/** A plain take and stills of the object; the loose part flies off on a path. Common practice. */
export const STRUCK_OBJECT: Recipe = {
  id: 'struck object',
  name: say`Struck object`,
  idea: say`Somebody knocks something, and part of it flies off, spinning and shrinking, while the rest wobbles and settles. Nothing is really struck.`,
  bars: 2,
  inputs: [
    { key: 'object', label: say`What is struck`, kind: 'text', value: 'the lid of a washing machine' },
    { key: 'strikeBeat', label: say`Struck on beat`, kind: 'number', unit: say`beat`, value: 3, min: 1, max: 400, step: 1 },
    { key: 'settle', label: say`It settles in`, kind: 'number', unit: say`frames`, value: 6, min: 3, max: 30, step: 1 },
  ],
  places: [place('Performer', -0.5, 2.4, { reach: 0.8 })],
  props: [{ name: say`Object`, kind: 'prop', x: 0.5, z: 2.5, width: 0.6, depth: 0.5, height: 0.9, base: 0 }],
  slots: (c) => [
    slot(
      'plain',
      say`The plain take`,
      say`Swing and stop short of ${c.text('object')} on beat ${c.number('strikeBeat')}; follow it with the eyes.`,
      say`Stop a hand’s breadth short: the flight covers the gap.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot('whole', say`Still of the whole object`, say`Nobody in the frame, the object whole.`, say`The loose part is cut out of it.`, {
      toSong: false,
      hold: 5,
      outfit: '',
    }),
    slot(
      'without',
      say`Still without the loose part`,
      say`Nobody in the frame, the loose part taken off ${c.text('object')}.`,
      say`What is behind the part once it has gone. Take it off without moving the rest.`,
      { toSong: false, hold: 5, outfit: '', mess: true },
    ),
  ],
  rules: () => [
    { kind: 'before', first: 'plain', next: 'whole', why: say`Stills are taken once nobody has to act any more.` },
    { kind: 'right after', first: 'whole', next: 'without', why: say`Between the two only the loose part may change.` },
  ],
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`Distance: chalk where the hand stops before ${c.text('object')}.`,
    say`Eyes: mark where the part leaves the frame, and look there.`,
  ],
  kit: (c) => [...BASIC_KIT, c.text('object'), say`Tool to take the part off`],
  cautions: () => [say`No real blows: stop short, aim past, mind the swing’s follow-through. ${LOCAL_RULES}`],
  builds: (c) => [
    { move: 'Flight', text: say`The cut-out part on a curved path with spin, blur and shrinking.` },
    { move: 'Wobble', text: say`The rest settles in ${c.number('settle')} frames.` },
  ],
  checks: () => [say`The part leaves before the hand arrives.`, say`The still’s light differs from the take.`],
  dryRun: (c, u) => {
    const b = u * c.shot.bars * 4 + 1;
    const s = c.number('strikeBeat');
    const fly = ramp(s, s + 2, b);
    return still(
      [layer('plain', c.places[0] ? [{ place: c.places[0].id, arms: 0.6 * ramp(s - 0.8, s, b), dx: 0.15 * ramp(s - 0.8, s, b) }] : [])],
      fly < 1
        ? [{ kind: 'object', x: 0.62 + 0.5 * fly, y: 0.5 - 0.9 * fly + 0.7 * fly * fly, angle: 720 * fly, strength: 1 - 0.6 * fly }]
        : [],
    );
  },
};
