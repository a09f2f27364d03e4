import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, slot, still, swing } from '../recipe';

/** One continuous take cut along an upright structure, so that a person talks with their reflection. Common practice. */
export const REFLECTION: Recipe = {
  id: 'talking reflection',
  name: say`Talking reflection`,
  idea: say`The performer and their reflection part ways: the mirror’s half of the frame comes from another take, cut along the mirror’s edge, with splices hidden in held poses.`,
  sideBySide: true,
  bars: 8,
  inputs: [
    { key: 'holds', label: say`Holds to cut on`, kind: 'number', unit: say`holds`, value: 4, min: 1, max: 24, step: 1 },
    { key: 'holdSeconds', label: say`Each held for`, kind: 'number', unit: 's', value: 1, min: 0.2, max: 10, step: 0.1 },
    { key: 'dissolve', label: say`Splice`, kind: 'number', unit: say`frames`, value: 4, min: 2, max: 12, step: 1 },
  ],
  places: [place('Performer', -0.55, 2.2), place('Reflection', 0.75, 3.4)],
  props: [{ name: say`Mirror edge`, kind: 'structure', x: 0.15, z: 2.9, width: 0.08, depth: 0.05, height: 2.1, base: 0 }],
  slots: (c) => [
    firstPlate(say`Shows what the mirror sees when nobody stands there; it fills the mirror while the two takes do not agree.`),
    slot(
      'long',
      say`The long take`,
      say`Act your own side and react to the mirror. Freeze ${c.number('holds')} times for ${c.number('holdSeconds')} s: those are the cuts.`,
      say`One unbroken take keeps light and camera the same on both sides.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot(
      'mirror',
      say`The reflection’s answers`,
      say`Act the reflection’s part to the same song, from the same holds. Look where your own eyes were.`,
      say`Filmed right away, without touching the mirror: its angle decides everything.`,
      { place: c.places[1]?.id ?? null, difficulty: 3 },
    ),
    slot(
      'spare',
      'Stillness',
      say`Stand in every hold for ten seconds without moving.`,
      say`Bridges between two holds that do not quite meet.`,
      {
        place: c.places[0]?.id ?? null,
        toSong: false,
        hold: 10 * c.number('holds'),
      },
    ),
  ],
  rules: () => [
    {
      kind: 'right after',
      first: 'long',
      next: 'mirror',
      why: say`The mirror must not be touched between the two, and the holds are still in the body.`,
    },
  ],
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`Mirror: wedge it and tape its foot. The camera must not be seen in it.`,
    say`Holds: agree on ${c.number('holds')} words or beats to freeze on.`,
    say`Seam: the mirror’s edge must be upright in the picture; turn the camera until it is.`,
  ],
  kit: () => [...BASIC_KIT, say`Mirror with a straight edge, wedges`, say`Black cloth over camera and stand`],
  cautions: () => [say`A standing mirror falls forward: fix it at the top, keep children and cables away. ${LOCAL_RULES}`],
  builds: (c) => [
    { move: 'Split', text: say`Two halves of time along the mirror’s edge.` },
    { move: 'Splice', text: say`${c.number('holds')} cuts on holds, each a dissolve of ${c.number('dissolve')} frames.` },
  ],
  checks: () => [say`A splice that jumps.`, say`The seam leaves the structure.`, say`Camera moved between takes.`],
  dryRun: (c, u) => {
    const beats = c.shot.bars * 4;
    const held = Math.floor(u * c.number('holds') * 2) % 2 === 1;
    const seam = c.seams[0] ?? 0.5;
    const [one, two] = c.places;
    return still(
      [
        layer('long', one ? [{ place: one.id, arms: held ? 0.5 : 0.4 * swing(u, beats) }] : [], {
          region: { left: 0, right: seam, top: 0, bottom: 1 },
        }),
        layer('mirror', two ? [{ place: two.id, arms: held ? 0.9 : 0.4 * swing(u + 0.13, beats) }] : [], {
          region: { left: seam, right: 1, top: 0, bottom: 1 },
        }),
      ],
      [{ kind: 'seam', x: seam, y: 0.5, angle: 90, strength: 1 }],
    );
  },
};
