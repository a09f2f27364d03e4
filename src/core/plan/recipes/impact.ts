import { say } from '../../words';
import { BASIC_KIT, LOCAL_RULES, LOCKED_CAMERA, layer, place, type Recipe, slot, swing } from '../recipe';

/** Flash, flicker, scale bump, added light, handheld motion over a locked shot. Common practice. */
export const IMPACT: Recipe = {
  id: 'impact and pulse',
  name: say`Impact and pulse`,
  idea: say`The picture itself answers the beat: one frame of light, a bump of scale, a flicker, or handheld life over a locked composite.`,
  bars: 4,
  inputs: [
    { key: 'every', label: say`A hit every`, kind: 'number', unit: say`beats`, value: 2, min: 1, max: 64, step: 1 },
    { key: 'bump', label: say`Scale bump`, kind: 'number', unit: '%', value: 105, min: 100, max: 150, step: 0.5 },
    { key: 'flashFrames', label: say`Flash lasts`, kind: 'number', unit: say`frames`, value: 2, min: 0, max: 6, step: 1 },
  ],
  places: [place('Performer', 0, 2.8, { reach: 0.7 })],
  slots: (c) => [
    slot(
      'shot',
      say`The shot`,
      say`Hit something on every ${c.number('every') === 1 ? 'beat' : say`${c.number('every')} beats`}: a stamp, a clap, a door. Exact on the beat.`,
      say`The effect only underlines what the body does.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot(
      'shadows',
      say`Light alone`,
      say`The same frame, one lamp switched off and on by hand on the beat, nobody in it.`,
      say`Real light, added, looks better than brightness.`,
      { toSong: true, outfit: '', difficulty: 1 },
    ),
  ],
  rules: () => [{ kind: 'right after', first: 'shot', next: 'shadows', why: say`Same camera, same set, only the lamp changes.` }],
  marks: (c) => [...LOCKED_CAMERA, say`Margin: frame ${Math.ceil(c.number('bump') - 100)} % wider than needed all round.`],
  kit: () => [...BASIC_KIT, say`A lamp with a switch in reach`],
  cautions: (c) => [
    say`Flashing light: warn crew and audience. Never more than three flashes a second (WCAG 2.3.1); here ${(1 / (c.number('every') * c.beatSeconds) || 0).toFixed(1)} a second. ${LOCAL_RULES}`,
  ],
  builds: (c) => [
    {
      move: 'Impact',
      text: say`A flash of ${c.number('flashFrames')} frames and a bump to ${c.number('bump')} % every ${c.number('every')} beats.`,
    },
    { move: 'Handheld', text: say`Motion over the locked shot, with exactly the margin it needs.` },
  ],
  checks: () => [say`More than three flashes a second.`, say`The bump shows the picture’s edge.`, say`A hit is off its beat.`],
  dryRun: (c, u) => {
    const b = u * c.shot.bars * 4;
    const since = b % c.number('every');
    const seconds = since * c.beatSeconds;
    const flash = seconds * 25 < c.number('flashFrames') ? 1 - (seconds * 25) / Math.max(1, c.number('flashFrames')) : 0;
    return {
      layers: [layer('shot', c.places[0] ? [{ place: c.places[0].id, arms: 1 - swing(since / c.number('every'), 1) }] : [])],
      marks: flash > 0 ? [{ kind: 'flash', x: 0.5, y: 0.5, angle: 0, strength: 0.6 * flash }] : [],
      dolly: 0,
      zoom: 1 + ((c.number('bump') - 100) / 100) * Math.exp(-seconds * 9),
    };
  },
};
