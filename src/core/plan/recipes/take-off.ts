import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, ramp, slot, still } from '../recipe';

/** Jump, empty plate, landing; a cut-out of two frames carries the figure out. Common practice. */
export const TAKE_OFF: Recipe = {
  id: 'take-off and landing',
  name: say`Take-off and landing`,
  idea: say`A jump is carried out of the frame by a two-frame cut-out, the set stays empty for a while, and somebody lands with a shake.`,
  bars: 2,
  inputs: [
    { key: 'jumpBeat', label: say`Jump on beat`, kind: 'number', unit: say`beat`, value: 2, min: 1, max: 400, step: 1 },
    { key: 'landBeat', label: say`Landing on beat`, kind: 'number', unit: say`beat`, value: 5, min: 1, max: 400, step: 1 },
    { key: 'landDrop', label: say`Jump down from`, kind: 'number', unit: 'm', value: 0.4, min: 0, max: 1, step: 0.1 },
  ],
  places: [place('Take-off', -0.4, 3.4), place('Landing', 0.4, 3)],
  slots: (c) => [
    firstPlate(say`Stands between jump and landing.`),
    slot(
      'jump',
      say`The jump`,
      say`Bend on the beat before, jump straight up on beat ${c.number('jumpBeat')}, arms up, knees straight.`,
      say`The highest frame is the one that flies on: sharp, all of you inside the frame.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot(
      'landing',
      say`The landing`,
      say`Step off a box of ${c.number('landDrop').toFixed(1)} m just out of the way, land on both feet on beat ${c.number('landBeat')}, go deep, hold.`,
      say`Dust, hair and clothes must settle inside the take.`,
      { place: c.places[1]?.id ?? null, difficulty: 2, rig: 'box and mat' },
    ),
  ],
  rules: () => [
    {
      kind: 'before',
      first: 'jump',
      next: 'landing',
      why: say`Jumping is done while the legs are fresh; the box then stays out of the set.`,
    },
  ],
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`Headroom: at least as much over the head as you jump high. Film wide.`,
    say`Land with both feet on one cross; the box stands beside it, never in the frame on beat ${c.number('landBeat')}.`,
  ],
  kit: () => [...BASIC_KIT, say`Box that cannot tip, mat, shoes with soles`, say`Second person as spotter`],
  cautions: (c) => [
    say`Jumps and falls: warm up, mat where the frame does not show it, a spotter beside, never more than ${Math.min(1, c.number('landDrop')).toFixed(1)} m, stop when tired. ${LOCAL_RULES}`,
  ],
  builds: (c) => [
    { move: 'Take-off', text: say`A two-frame cut-out out of the top of the frame after beat ${c.number('jumpBeat')}.` },
    { move: 'Speed', text: say`Hard change of speed at the highest point.` },
    { move: 'Shake', text: say`Full on beat ${c.number('landBeat')}, gone after ten to twelve frames.` },
  ],
  checks: () => [say`The plate differs in light.`, say`The landing is off its beat.`, say`The shake shows the picture’s edge.`],
  dryRun: (c, u) => {
    const beats = c.shot.bars * 4;
    const b = u * beats + 1;
    const [a, z] = c.places;
    const up = ramp(c.number('jumpBeat'), c.number('jumpBeat') + 0.4, b);
    const down = ramp(c.number('landBeat') - 0.3, c.number('landBeat'), b);
    const shake = b >= c.number('landBeat') ? Math.max(0, 1 - (b - c.number('landBeat'))) : 0;
    const figures =
      up < 1 && a
        ? [{ place: a.id, arms: up, lift: 3.2 * up * up }]
        : down > 0 && z
          ? [{ place: z.id, arms: 1 - down, lift: 2.6 * (1 - down) }]
          : [];
    return still([layer(up < 1 ? 'jump' : down > 0 ? 'landing' : 'plate', figures, { shiftY: 0.015 * shake * Math.sin(b * 60) })]);
  },
};
