import { say } from '../../words';
import { BASIC_KIT, LOCAL_RULES, layer, place, type Recipe, slot, swing } from '../recipe';

/** Slow on poses, fast between them, each pose on its beat. Common practice. */
export const POSE_RAMP: Recipe = {
  id: 'pose ramp',
  name: say`Pose ramp`,
  idea: say`Time stretches on every pose and races between them; each pose meets its beat, the eye stays in the middle, and the picture zooms in and out by turns.`,
  bars: 4,
  inputs: [
    { key: 'poses', label: say`Poses`, kind: 'number', unit: say`poses`, value: 8, min: 2, max: 40, step: 1 },
    { key: 'slow', label: say`Speed on the pose`, kind: 'number', unit: '%', value: 40, min: 5, max: 100, step: 5 },
    { key: 'zoom', label: say`Zoom`, kind: 'number', unit: '%', value: 112, min: 100, max: 200, step: 1 },
  ],
  places: [place('Performer', 0, 2.8, { reach: 0.8 })],
  slots: (c) => [
    slot(
      'poses',
      say`The poses`,
      say`${c.number('poses')} poses in one breath, each held a moment, always the same order; camera still on the pose, move camera and pose together.`,
      say`Filmed at a high rate: ${c.number('slow')} % must still be a new picture every frame.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
    slot(
      'again',
      say`The same, larger`,
      say`Once more with larger movements and faster ways between.`,
      say`Larger ways survive being run at 300 %.`,
      { place: c.places[0]?.id ?? null, difficulty: 2 },
    ),
  ],
  rules: () => [{ kind: 'before', first: 'poses', next: 'again', why: say`The second exaggerates the first.` }],
  marks: (c) => [
    say`Eyes: keep them on one point; it will be held in the middle of the frame.`,
    say`Wide: the zoom of ${c.number('zoom')} % and holding the eye in the middle cost picture at the sides.`,
    say`Song on set at the playback rate of the settings, so that the poses meet their beats.`,
  ],
  kit: (c) => [...BASIC_KIT, say`List of the ${c.number('poses')} poses, large, behind the camera`, say`More light: high rates cost stops`],
  cautions: () => [say`Repeated jumps and twists: warm up, water, breaks. ${LOCAL_RULES}`],
  builds: (c) => [
    {
      move: say`Pose ramp`,
      text: say`A speed map through ${c.number('poses')} poses: ${c.number('slow')} % on each, as fast as it takes between.`,
    },
    { move: 'Zoom', text: say`In and out by turns up to ${c.number('zoom')} %, the eye held in the middle.` },
  ],
  checks: () => [
    say`A pose is off its beat.`,
    say`Frames repeat: the take was filmed too slowly.`,
    say`The picture’s edge shows in the zoom.`,
  ],
  dryRun: (c, u) => {
    const n = c.number('poses');
    const pose = u * n;
    const whole = Math.floor(pose);
    const part = pose - whole;
    const fast = part < 0.35 ? part / 0.35 : 1;
    const eased = whole + fast * fast * (3 - 2 * fast);
    const p = c.places[0];
    return {
      layers: [layer('poses', p ? [{ place: p.id, arms: swing(eased, 1), dx: 0.25 * Math.sin(eased * 2) }] : [])],
      marks: [],
      dolly: 0,
      zoom: 1 + ((c.number('zoom') - 100) / 100) * swing(eased, 1),
    };
  },
};
