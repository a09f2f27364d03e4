import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, lastPlate, layer, place, type Recipe, slot, still, swing } from '../recipe';

/** One performer at two to five places before a fixed camera. Common practice of the trade. */
export const CLONES: Recipe = {
  id: 'clones',
  name: say`Twin and clones`,
  idea: say`One performer, two to five places, one fixed camera: the takes are laid side by side along seams, so that the same person meets themself.`,
  sideBySide: true,
  bars: 4,
  inputs: [
    { key: 'contact', label: say`What passes between them`, kind: 'text', value: 'a folded sheet' },
    { key: 'contactBeat', label: say`Contact on beat`, kind: 'number', unit: say`beat`, value: 9, min: 1, max: 400, step: 1 },
    { key: 'outfits', label: say`Different outfits`, kind: 'number', unit: say`sets`, value: 2, min: 1, max: 5, step: 1 },
    { key: 'tries', label: say`Reactions to film`, kind: 'number', unit: say`takes`, value: 3, min: 1, max: 20, step: 1 },
  ],
  places: [
    place(say`Place 1`, -0.85, 3.2, { actions: [{ id: 'a1', what: say`hands over`, from: 7, to: 9, left: 0.45, right: 1.1 }] }),
    place(say`Place 2`, 0.95, 3.2, { actions: [{ id: 'a2', what: say`takes over`, from: 8, to: 10, left: 1.1, right: 0.45 }] }),
  ],
  slots: (c) => [
    firstPlate(),
    ...c.places.map((p, i) =>
      slot(
        `place-${p.id}`,
        `${p.name}`,
        say`Act the part of ${p.name.toLowerCase()}, eyes on the eye-line mark of the absent partner. ${
          c.text('contact')
            ? say`On beat ${c.number('contactBeat')} ${i === 0 ? say`let go of` : 'receive'} ${c.text('contact')} over the seam.`
            : say`Nothing of you may cross the seam.`
        }`,
        say`Reactions are what sells it: film ${c.number('tries')}, nearer and further, higher and lower.`,
        {
          place: p.id,
          difficulty: c.text('contact') ? 2 : 1,
          outfit: c.number('outfits') > 1 ? say`outfit ${(i % c.number('outfits')) + 1}` : 'as dressed',
        },
      ),
    ),
    lastPlate(),
  ],
  rules: (c) => {
    const [giver, taker] = c.places;
    return c.text('contact') && giver && taker
      ? [
          {
            kind: 'right after',
            first: `place-${giver.id}`,
            next: `place-${taker.id}`,
            why: say`${c.text('contact')} must lie untouched just as ${giver.name} left it, so nothing may come between.`,
          },
        ]
      : [];
  },
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`Feet: a cross for every place. Eye lines: tape at the height of the absent partner’s eyes.`,
    say`Nothing that lies across two places may move between takes: table, curtain, cable, cushion.`,
    c.text('contact')
      ? say`Mark where ${c.text('contact')} crosses the seam: a bit of tape at that height, just out of frame.`
      : say`Put a stand or a strip of tape at the seam to rehearse against, and take it away before filming.`,
  ],
  kit: (c) => [...BASIC_KIT, say`Eye-line marks on stands`, ...(c.text('contact') ? [say`${c.text('contact')}, and a spare`] : [])],
  cautions: () => [say`No real blows or throws at the face: aim past, and let the edit close the gap. ${LOCAL_RULES}`],
  builds: (c) => [
    { move: 'Split', text: say`${c.places.length} takes side by side along ${Math.max(0, c.places.length - 1)} soft seams.` },
    ...(c.text('contact')
      ? [{ move: 'Hand-over', text: say`The seam ducks round ${c.text('contact')} as it crosses on beat ${c.number('contactBeat')}.` }]
      : []),
  ],
  checks: () => [
    say`The camera moved between takes.`,
    say`Light or colour differs along the seam.`,
    say`Someone crosses a seam while it stands still.`,
    say`A shadow is cut off at the seam.`,
  ],
  dryRun: (c, u) => {
    const edges = [0, ...c.seams, 1];
    const beats = c.shot.bars * 4;
    const at = c.number('contactBeat') - 1;
    return still(
      c.places.map((p, i) => {
        const reach = p.actions.reduce((most, a) => Math.max(most, u * beats >= a.from - 1 && u * beats <= a.to ? 1 : 0), 0);
        return layer(`place-${p.id}`, [{ place: p.id, arms: reach ? 0.5 : 0.2 * swing(u, beats), outfit: 0 as const }], {
          region: { left: edges[i] ?? 0, right: edges[i + 1] ?? 1, top: 0, bottom: 1 },
        });
      }),
      [
        ...c.seams.map((x) => ({ kind: 'seam' as const, x, y: 0.5, angle: 90, strength: 1 })),
        ...(c.text('contact') && c.places.length > 1 && Math.abs(u * beats - at) < 2
          ? [{ kind: 'object' as const, x: (c.seams[0] ?? 0.5) + ((u * beats - at) / 2) * 0.08, y: 0.55, angle: 0, strength: 1 }]
          : []),
      ],
    );
  },
};
