import { say } from '../../words';
import { BASIC_KIT, firstPlate, LOCAL_RULES, LOCKED_CAMERA, lastPlate, layer, place, type Recipe, ramp, slot, still } from '../recipe';

/** Every object its own take, back of the set to the front. Common practice. */
export const THINGS_ARRIVE: Recipe = {
  id: 'things arrive',
  name: say`Things arrive by themselves`,
  idea: say`An empty room furnishes itself: every object is a take of its own, pulled on thread, filmed backwards or grown from nothing, and they all land on the beat.`,
  bars: 8,
  inputs: [
    {
      key: 'objects',
      label: say`Objects, from the back of the set to the front`,
      kind: 'text',
      value: 'basket, stool, folded towels, iron',
    },
    { key: 'thread', label: say`How many on thread`, kind: 'number', unit: say`pcs`, value: 2, min: 0, max: 20, step: 1 },
  ],
  places: [
    place(say`Back row`, -0.9, 4.2, { height: 0.6 }),
    place('Middle', 0.2, 3.2, { height: 0.6 }),
    place(say`Front row`, 0.8, 2.3, { height: 0.6 }),
  ],
  slots: (c) => {
    const objects = objectsOf(c.text('objects'));
    return [
      firstPlate(say`Everything is laid over it; without it there is nothing to arrive in.`),
      ...objects.map((name, i) => {
        const p = c.places[Math.min(c.places.length - 1, Math.floor((i * c.places.length) / objects.length))];
        const thread = i < c.number('thread');
        return slot(
          `object-${i + 1}`,
          name,
          thread
            ? say`Pull ${name} out of its place and out of the frame on thread; it is shown backwards, so it arrives.`
            : say`Put ${name} in place and let go; keep rolling five seconds with nobody in the frame.`,
          say`Leave it where it is for all takes that follow: the next one may touch it.`,
          {
            place: p?.id ?? null,
            rig: thread ? 'thread rig' : 'tripod',
            difficulty: thread ? 3 : 1,
            toSong: false,
            hold: 10,
            outfit: '',
          },
        );
      }),
      lastPlate(say`Shows everything in place: the end of the shot.`),
    ];
  },
  rules: () => [],
  marks: (c) => [
    ...LOCKED_CAMERA,
    say`Work from the back of the set to the front, so that no hand passes in front of what has landed.`,
    say`Chalk every object’s foot before the first take, in the order they come.`,
    say`Thread: ${c.number('thread')} of them; matt, thin, pulled from the side the light does not come from.`,
  ],
  kit: (c) => [...BASIC_KIT, ...objectsOf(c.text('objects')), say`Thin matt thread, tape, chalk`],
  cautions: () => [
    say`Thread and wire at neck height: mark them with tape until the moment you roll, and take them down after. ${LOCAL_RULES}`,
  ],
  builds: (c) => [
    { move: 'Reverse', text: say`${c.number('thread')} takes backwards.` },
    { move: say`Reveal by mask`, text: say`${objectsOf(c.text('objects')).length} masks, one landing a beat.` },
  ],
  checks: () => [say`An object jumps when its take begins.`, say`Light drifts over the long row of takes.`, say`A thread shows.`],
  dryRun: (c, u) => {
    const objects = objectsOf(c.text('objects'));
    const landed = objects.map((_, i) => ramp((i + 0.2) / (objects.length + 1), (i + 0.7) / (objects.length + 1), u));
    return still(
      [
        layer(
          'plate',
          c.places.map((p, k) => ({
            place: p.id,
            arms: 0,
            lift: 3 * (1 - (landed[Math.floor((k * objects.length) / c.places.length)] ?? 0)),
          })),
        ),
      ],
      landed.map((v, i) => ({
        kind: 'object',
        x: 0.15 + (0.7 * i) / Math.max(1, objects.length - 1),
        y: 0.75 * v - 0.1 * (1 - v),
        angle: 90 * v,
        strength: v,
      })),
    );
  },
};

function objectsOf(list: string): string[] {
  const names = list
    .split(/[,;\n]/)
    .map((s) => s.trim())
    .filter((s) => s !== '');
  return names.length ? names.slice(0, 20) : ['object'];
}
