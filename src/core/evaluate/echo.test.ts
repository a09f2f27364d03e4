import { describe, expect, it } from 'vitest';
import { plainShot } from '../edit';
import { type Layer, plainEffect, plainLayer, plainMask, remapKeyAt, still } from '../layer';
import { applied, inverted } from '../picture';
import { stagedProject } from '../staged';
import { describeFrame } from './describe';
import { shotFrames } from './shot-scene';

const PROJECT = stagedProject();
const take = (more: Partial<Layer> = {}) =>
  plainLayer('figure', 'Figure', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)], {
    from: { beat: 1, offset: 0 },
    to: { beat: 3, offset: 0 },
    ...more,
  });
const echo = (more: Partial<Layer> = {}, what: { late?: number; shown?: 'as it is' | 'as a shadow'; soft?: number; of?: string } = {}) =>
  plainLayer(
    'echo',
    'Echo',
    0,
    { kind: 'echo', layerId: what.of ?? 'figure', late: what.late ?? 0, shown: what.shown ?? 'as it is', soft: what.soft ?? 0 },
    [remapKeyAt(0, 0, 0)],
    more,
  );
const projectWith = (layers: Layer[]) => ({
  ...PROJECT,
  shots: [plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 24, offset: 0 }, { layers })],
});
function seen(layers: Layer[], frame: number) {
  const project = projectWith(layers);
  const [first] = shotFrames(project, project.shots[0]);
  const { layers: described } = describeFrame(project, first + frame);
  return { echo: described.find((l) => l.layerId === 'echo'), figure: described.find((l) => l.layerId === 'figure') };
}
const spot = plainMask('spot', 'ellipse', {
  x: still(50),
  y: still(50),
  width: still(20),
  height: still(30),
  turn: still(0),
  inside: still(1),
  outside: still(1),
});
const beat = (() => {
  const project = projectWith([take()]);
  const [first] = shotFrames(project, project.shots[0]);
  // The first frame on which the layer that begins a beat later is there.
  for (let k = 0; ; k++) if (describeFrame(project, first + k).layers.length > 0) return k;
})();

describe('a layer shown once more', () => {
  it('shows what the layer showed so many frames ago, as long as the layer does', () => {
    const layers = [echo({}, { late: 7 }), take({ masks: [spot] })];
    for (const frame of [beat + 7, beat + 20]) {
      const { echo: now } = seen(layers, frame);
      const { figure: before } = seen(layers, frame - 7);
      expect(now?.source).toEqual(before?.source);
      expect(now?.map).toEqual(before?.map);
      expect(now?.coverage).toEqual(before?.coverage);
    }
    expect(seen(layers, beat + 6).echo).toBeUndefined();
    const gone = Array.from({ length: 120 }, (_, k) => k).findLast((k) => seen(layers, k).figure) as number;
    expect(seen(layers, gone + 7).echo).toBeDefined();
    expect(seen(layers, gone + 8).echo).toBeUndefined();
  });

  it('lies where its own numbers move it from where the layer lies, its masks along', () => {
    const numbers = { x: [...still(10)], scale: [...still(50)], opacity: [...still(40)] };
    const { echo: now, figure } = seen(
      [echo({ numbers, blend: 'screen' }), take({ masks: [spot], numbers: { opacity: [...still(50)] } })],
      beat + 3,
    );
    if (!now?.motion || !figure) throw new Error('nothing is seen');
    const { width, height } = PROJECT.frame;
    // The middle of the frame lies a tenth of its width to the right.
    const middle = { x: width / 2, y: height / 2 };
    const there = { x: middle.x + 0.1 * width, y: middle.y };
    for (const [at, from] of [
      [there, middle],
      [
        { x: there.x + 50, y: there.y },
        { x: middle.x + 100, y: middle.y },
      ],
    ])
      for (const name of ['x', 'y'] as const) expect(applied(now.map, at)[name]).toBeCloseTo(applied(figure.map, from)[name], 6);
    expect([now.opacity, now.blend]).toEqual([0.2, 'screen']);
    expect(now.motion.rest).toEqual(figure.coverage);
    const [{ ride, map }] = now.motion.samples;
    if (!ride) throw new Error('the mask does not ride');
    expect(applied(ride, there).x).toBeCloseTo(middle.x, 6);
    expect(applied(map, there).x).toBeCloseTo(applied(figure.map, middle).x, 6);
  });

  it('as a shadow is black after all that is done to the layer, and before what is done to the shadow', () => {
    const { echo: now } = seen(
      [
        echo({ effects: [plainEffect('own', 'blur', { amount: still(2) })] }, { shown: 'as a shadow' }),
        take({ effects: [plainEffect('e', 'mosaic', { size: still(5) })] }),
      ],
      beat + 3,
    );
    expect(now?.effects.map((e) => e.kind)).toEqual(['mosaic', 'lift gamma gain', 'blur']);
    if (!now) throw new Error('nothing is seen');
    const { gain, lift } = now.effects[1].resolved as { gain: number[]; lift: number[] };
    expect([...gain, ...lift]).toEqual([0, 0, 0, 0, 0, 0]);
  });

  it('a soft outline is the mean of stands about a disc as wide as said', () => {
    const { echo: now } = seen([echo({}, { soft: 4 }), take({ masks: [spot] })], beat + 3);
    const rides = now?.motion?.samples.map((s) => applied(inverted(s.ride as never), { x: 0, y: 0 })) ?? [];
    expect(rides.length).toBe(24);
    const far = rides.map(({ x, y }) => Math.hypot(x, y));
    expect(Math.max(...far)).toBeLessThanOrEqual(0.02 * PROJECT.frame.height);
    expect(Math.max(...far)).toBeGreaterThan(0.018 * PROJECT.frame.height);
    for (const axis of ['x', 'y'] as const) expect(Math.abs(rides.reduce((sum, p) => sum + p[axis], 0) / 24)).toBeLessThan(1);
  });

  it('of nothing, of itself and of another echo shows nothing', () => {
    for (const of of ['gone', 'echo']) expect(seen([take(), echo({}, { of })], beat + 3).echo).toBeUndefined();
    const second = { ...echo({}, { of: 'echo' }), id: 'second' };
    const project = projectWith([take(), echo(), second]);
    const [first] = shotFrames(project, project.shots[0]);
    expect(describeFrame(project, first + beat + 3).layers.map((l) => l.layerId)).not.toContain('second');
  });
});
