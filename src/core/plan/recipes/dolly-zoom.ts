import { say } from '../../words';
import { dollyDistance } from '../dolly';
import { BASIC_KIT, LOCAL_RULES, layer, place, type Recipe, ramp, slot, swing } from '../recipe';

/** The camera walks, the picture scales the other way. Common practice and pinhole geometry. */
export const DOLLY_ZOOM: Recipe = {
  id: 'dolly zoom',
  name: say`Dolly zoom`,
  idea: say`The camera walks towards or away from the subject while the picture is scaled the other way: the subject stays the same size and the room swells behind.`,
  bars: 4,
  inputs: [
    { key: 'subject', label: say`Height of what is kept the same`, kind: 'number', unit: 'm', value: 1.72, min: 0.05, max: 10, step: 0.01 },
    { key: 'walks', label: say`Walks to film`, kind: 'number', unit: say`takes`, value: 6, min: 1, max: 40, step: 1 },
  ],
  places: [place('Subject', 0, 2, { reach: 0.45 })],
  slots: (c) => [
    slot(
      'walk',
      say`The walk`,
      say`The camera goes from ${(c.places[0]?.z ?? 2).toFixed(1)} m to ${c.shot.dolly.end.toFixed(1)} m in ${(c.shot.bars * c.barSeconds).toFixed(1)} s, even and straight at the subject, who stays still.`,
      say`Evenness decides: film it ${c.number('walks')} times and choose.`,
      { place: c.places[0]?.id ?? null, rig: 'moving camera', difficulty: 3 },
    ),
    slot(
      'back',
      say`The walk backwards`,
      say`The same way the other way round, shown backwards if it comes out steadier.`,
      say`Walking backwards is often the steadier one; hair and steam must allow it.`,
      { place: c.places[0]?.id ?? null, rig: 'moving camera', difficulty: 3 },
    ),
  ],
  rules: () => [{ kind: 'before', first: 'walk', next: 'back', why: say`The first decides how fast the second must be.` }],
  marks: (c) => [
    say`Track: straight at the subject, a mark every half metre, ${Math.abs(c.shot.dolly.end - (c.places[0]?.z ?? 2)).toFixed(1)} m in all; check that it fits through the door.`,
    say`Focus: follow, or stop down until both ends are sharp (see the numbers).`,
    say`Subject: something of known height (${c.number('subject').toFixed(2)} m) in every frame, head to belt at least, to measure the scale by.`,
    say`Depth: as much as the room has behind the subject; lamps or machines in a row show it best.`,
  ],
  kit: () => [...BASIC_KIT, say`Slider, trolley or wheels; or steady hands`, say`Second person for the way`],
  cautions: () => [say`Walking backwards with a camera: somebody’s hand on your back, cables away, wheels checked. ${LOCAL_RULES}`],
  builds: () => [{ move: say`Dolly zoom`, text: say`A scale curve that keeps the subject’s measured height, smoothed.` }],
  checks: () => [say`The subject’s size wanders.`, say`The picture is enlarged past its pixels.`, say`The background hardly changes.`],
  dryRun: (c, u) => {
    const p = c.places[0];
    const walk = ramp(0.05, 0.95, u);
    const start = p?.z ?? c.shot.camera.focus;
    const { end } = c.shot.dolly;
    const distance = dollyDistance(start, end, walk);
    return {
      layers: [layer('walk', p ? [{ place: p.id, arms: 0.1 * swing(u, c.shot.bars * 4) }] : [])],
      marks: [],
      dolly: start - distance,
      zoom: distance / Math.min(start, end),
    };
  },
};
