import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, ramp, slot, still, swing } from '../recipe';

/** The curtain reveal. Order and advice are common practice of the trade. */
export const CURTAIN_REVEAL: Recipe = {
  id: 'curtain reveal',
  name: say`Curtain reveal`,
  idea: say`The same move twice in two outfits. Something falls past the performer, and behind it a soft line changes one outfit for the other, on the beat.`,
  bars: 4,
  inputs: [
    { key: 'falls', label: say`What falls`, kind: 'text', value: 'folded cloths' },
    { key: 'fallSeconds', label: say`It falls for`, kind: 'number', unit: 's', value: 1.9, min: 0.3, max: 30, step: 0.1 },
    { key: 'pieces', label: say`Pieces`, kind: 'number', unit: say`pcs`, value: 80, min: 1, max: 500, step: 5 },
    { key: 'mark', label: say`Mark for the feet`, kind: 'text', value: 'two tape crosses under the shoes' },
  ],
  places: [place('Performer', 0, 3, { height: 1.72, reach: 0.7 })],
  slots: (c) => [
    firstPlate(say`First, while the floor is still clear and before anyone can knock the camera. It mends whatever goes wrong later.`),
    slot(
      'one',
      say`Take one: first outfit`,
      say`On the mark, wait two seconds, toss ${c.text('falls')} overhead on the beat, keep the arms up until they have landed, hold.`,
      say`The outfit that is seen first is filmed first: hair and make-up are fresh, and the second take is acted to match it.`,
      { hold: Math.ceil(c.number('fallSeconds') + 7), place: c.places[0]?.id ?? null, outfit: 'first outfit', difficulty: 2, mess: true },
    ),
    slot(
      'two',
      say`Take two: second outfit`,
      say`Same mark, same move, same beat, with as much ${c.text('falls')} again. Clear the floor first. Film it at least three times.`,
      say`Last, because the change of clothes takes longest and everything after it would have to be changed back.`,
      { hold: Math.ceil(c.number('fallSeconds') + 7), place: c.places[0]?.id ?? null, outfit: 'second outfit', difficulty: 2, mess: true },
    ),
  ],
  rules: () => [{ kind: 'before', first: 'one', next: 'two', why: say`The second take is acted to match the first.` }],
  marks: (c) => [
    say`Feet: ${c.text('mark')}. Step back onto exactly these for take two.`,
    say`Hands: tape at the height of the toss on a wall or stand out of frame.`,
    ...LOCKED_CAMERA,
    say`Fall: about ${c.number('pieces')} pieces, from above the top of the frame, ${c.number('fallSeconds').toFixed(1)} s from first to last. Too few and the line shows.`,
  ],
  kit: (c) => [
    ...BASIC_KIT,
    say`${c.text('falls')}, ${2 * c.number('pieces')} pieces and some to spare`,
    say`Two outfits, both tried on`,
    'Broom',
  ],
  cautions: () => [
    say`Slippery floor: cloth, paper and petals slide underfoot. Sweep between takes, wear soles that grip, walk.`,
    say`Things thrown overhead: nothing hard or heavy in the bundle; keep clear of hot lamps and of their cables.`,
    say`Ladders, or anything hung above people, need rated fixings and a safety line. ${LOCAL_RULES}`,
  ],
  builds: (c) => [{ move: say`Curtain reveal`, text: say`A soft line follows the densest ${c.text('falls')} down the frame.` }],
  checks: () => [say`The camera moved between takes.`, say`The picture’s edge shows.`, say`The reveal is off its beat.`],
  dryRun: (c, u) => {
    const line = ramp(0.4, 0.4 + Math.min(0.5, c.number('fallSeconds') / (c.shot.bars * c.barSeconds)), u);
    const figures = (outfit: 0 | 1) =>
      c.places[0] ? [{ place: c.places[0].id, arms: Math.max(ramp(0.3, 0.4, u), 0.2 * swing(u, c.shot.bars * 4)), outfit }] : [];
    return still(
      [layer('one', figures(0)), ...(line > 0 ? [layer('two', figures(1), { region: { left: 0, right: 1, top: 0, bottom: line } })] : [])],
      line > 0 && line < 1 ? [{ kind: 'line', x: 0.5, y: line, angle: 0, strength: 1 }] : [],
    );
  },
};
