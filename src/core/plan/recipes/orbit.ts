import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, slot, still } from '../recipe';

/** Cut pieces of a picture move round a ring or a grid, one step a beat. Common practice. */
export const ORBIT: Recipe = {
  id: 'orbit and stack',
  name: say`Orbit and stack of pieces`,
  idea: say`Cut pieces of a picture circle round a ring or climb a grid, each eased, one step a beat.`,
  bars: 4,
  inputs: [
    { key: 'pieces', label: say`Pieces`, kind: 'number', unit: say`pcs`, value: 6, min: 2, max: 24, step: 1 },
    { key: 'subject', label: say`What is cut`, kind: 'text', value: 'the machine doors' },
  ],
  places: [place('Subject', 0, 2.4, { reach: 0.5 })],
  slots: (c) => [
    firstPlate(say`The ground the pieces move over.`),
    slot(
      'pieces',
      say`The pieces`,
      say`${c.text('subject')}: ${c.number('pieces')} of them, each filmed or photographed flat on, same size in the frame, same light.`,
      say`Equal size and light make them one family.`,
      { place: c.places[0]?.id ?? null, toSong: false, hold: 4 * c.number('pieces'), rig: 'flat on' },
    ),
    slot(
      'centre',
      say`The middle`,
      say`The performer in the middle, following the pieces with the eyes, one step a beat.`,
      say`Eyes that follow tie the pieces to the room.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
  ],
  rules: () => [],
  marks: () => [
    ...LOCKED_CAMERA,
    say`Flat on: the lens level with the middle of each piece, square to it.`,
    say`Circle for the eyes: eight bits of tape on stands round the lens, counted like a clock.`,
  ],
  kit: () => [...BASIC_KIT, say`Level, tape for eight eye marks`],
  cautions: () => [LOCAL_RULES],
  builds: (c) => [{ move: 'Orbit', text: say`${c.number('pieces')} pieces on a ring, one step a beat, each eased.` }],
  checks: () => [say`A step is off its beat.`, say`Pieces overlap.`, say`A piece leaves the frame.`],
  dryRun: (c, u) => {
    const n = c.number('pieces');
    const b = u * c.shot.bars * 4;
    const part = b % 1;
    const step = Math.floor(b) + Math.min(1, part * 2) ** 2 * (3 - 2 * Math.min(1, part * 2));
    const p = c.places[0];
    return still(
      [layer('centre', p ? [{ place: p.id, arms: 0.15 }] : [])],
      Array.from({ length: n }, (_, i) => {
        const a = ((i + step) / n) * 2 * Math.PI;
        return {
          kind: 'object' as const,
          x: 0.5 + 0.3 * Math.cos(a),
          y: 0.5 + 0.36 * Math.sin(a),
          angle: (a * 180) / Math.PI,
          strength: 1,
        };
      }),
    );
  },
};
