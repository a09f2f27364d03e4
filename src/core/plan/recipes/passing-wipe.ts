import { say } from '../../words';
import { BASIC_KIT, LOCAL_RULES, layer, place, type Recipe, ramp, slot, still, swing } from '../recipe';

/** Something crosses the lens, or the set is pushed past a fixed subject, and one shot becomes the next. Common practice. */
export const PASSING_WIPE: Recipe = {
  id: 'passing wipe',
  name: say`Passing-object wipe`,
  idea: say`Something crosses close to the lens, or a wall is pushed past; behind its edge the next place appears, so that two or three shots become one.`,
  bars: 4,
  inputs: [
    { key: 'passes', label: say`What crosses the lens`, kind: 'text', value: 'a laundry trolley' },
    { key: 'scenes', label: say`Shots to join`, kind: 'number', unit: say`shots`, value: 2, min: 2, max: 3, step: 1 },
    { key: 'supports', label: say`Of them with a stand to paint out`, kind: 'number', unit: say`shots`, value: 0, min: 0, max: 3, step: 1 },
    { key: 'crossFrames', label: say`It crosses in`, kind: 'number', unit: say`frames`, value: 14, min: 4, max: 100, step: 1 },
  ],
  places: [place('Performer', 0, 2.6)],
  slots: (c) => [
    ...Array.from({ length: c.number('scenes') }, (_, i) =>
      slot(
        `scene-${i + 1}`,
        say`Shot ${i + 1}`,
        `${i === 0 ? '' : say`Begin with ${c.text('passes')} covering the lens. `}Act${i < c.number('scenes') - 1 ? say`, then ${c.text('passes')} crosses from left to right, close, in ${c.number('crossFrames')} frames` : say` to the end`}.`,
        i === 0
          ? say`The edge that crosses decides the speed all others copy.`
          : say`Its first frames are covered, and copy the speed of the shot before.`,
        { place: c.places[0]?.id ?? null, rig: say`set-up ${i + 1}`, outfit: say`shot ${i + 1}`, difficulty: 2 },
      ),
    ),
    ...Array.from({ length: Math.min(c.number('supports'), c.number('scenes')) }, (_, i) =>
      slot(
        `empty-${i + 1}`,
        say`Empty set of shot ${i + 1}`,
        say`The stand taken away, nobody in the frame, the camera untouched. Eight seconds.`,
        say`It is what the stand is painted out with.`,
        { plate: 'last', rig: say`set-up ${i + 1}`, toSong: false, hold: 8, outfit: '' },
      ),
    ),
  ],
  rules: (c) =>
    Array.from({ length: c.number('scenes') - 1 }, (_, i) => ({
      kind: 'before' as const,
      first: `scene-${i + 1}`,
      next: `scene-${i + 2}`,
      why: say`The later one copies the speed and the edge of the one before.`,
    })),
  marks: (c) => [
    say`Camera: the same lens, height and distance in every place; write them down and measure them again.`,
    say`Path of ${c.text('passes')}: two tape lines as near to the lens as it may come, so that it fills the frame from top to bottom.`,
    say`Subject: stays at one spot of the frame in every shot; put a cross on the viewfinder.`,
    say`Count it in on the song, so that it crosses on the beat.`,
  ],
  kit: (c) => [...BASIC_KIT, c.text('passes'), say`A second person to push`],
  cautions: (c) => [
    say`${c.text('passes')} passes close to the camera and the hand: rehearse slowly, agree on a word to stop, keep fingers off edges and wheels.`,
    LOCAL_RULES,
  ],
  builds: (c) => [
    {
      move: 'Wipe',
      text: say`${c.number('scenes') - 1} soft lines that follow the trailing edge of ${c.text('passes')}, ${c.number('crossFrames')} frames each.`,
    },
  ],
  checks: () => [
    say`The edge leaves a gap at top or bottom.`,
    say`Light differs on the two sides of the edge.`,
    say`The subject jumps in the frame.`,
  ],
  dryRun: (c, u) => {
    const n = c.number('scenes');
    const beats = c.shot.bars * 4;
    const figure = c.places[0] ? [{ place: c.places[0].id, arms: 0.5 * swing(u, beats) }] : [];
    const layers = [layer('scene-1', figure)];
    const wide = (c.number('crossFrames') / 25 / (c.shot.bars * c.barSeconds)) * 0.5;
    let line = 0;
    for (let i = 1; i < n; i++) {
      const x = ramp(i / n - wide, i / n + wide, u);
      if (x > 0)
        layers.push(
          layer(
            `scene-${i + 1}`,
            figure.map((f) => ({ ...f, outfit: 1 as const })),
            { region: { left: 0, right: x, top: 0, bottom: 1 } },
          ),
        );
      if (x > 0 && x < 1) line = x;
    }
    return still(layers, line ? [{ kind: 'line', x: line, y: 0.5, angle: 90, strength: 1 }] : []);
  },
};
