import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { EFFECTS } from '@/core/effects';
import { layerSchema } from '@/core/layer';
import { SOURCES } from '@/core/sources';

/** By what control each property of a layer is set; null for what follows from the others. */
const CONTROLS: Record<string, string | null> = {
  id: null,
  madeBy: null,
  // The colour of its take.
  tape: null,
  name: 'label={say`Name of the layer`}',
  on: 'Shown',
  source: 'label={say`Take`}',
  from: 'Begins with the shot',
  to: 'Ends with the shot',
  timeRemap: 'First frame shows',
  limits: 'Smooth runs no faster than',
  repeat: 'Repeats from',
  frameInterpolation: 'Between its frames',
  sound: 'Sound of the take',
  numbers: 'Add a keyframed property',
  sourceNumbers: 'Take the keys of',
  effects: 'Add an effect',
  masks: 'Draw a mask',
  blend: 'label={say`Blend`}',
  edge: 'label={say`Edges`}',
  shutter: 'Shutter angle',
};
const folder = new URL('.', import.meta.url).pathname;
const screens = readdirSync(folder)
  .filter((name) => name.endsWith('.tsx'))
  .map((name) => readFileSync(folder + name, 'utf8'))
  .join('\n');

describe('nothing a layer holds lacks a control', () => {
  it('every property of its schema is set somewhere on the score', () => {
    const { shape } = layerSchema as unknown as { shape: Record<string, unknown> };
    expect(Object.keys(CONTROLS).sort()).toEqual(Object.keys(shape).sort());
    for (const [name, control] of Object.entries(CONTROLS)) if (control) expect([name, screens.includes(control)]).toEqual([name, true]);
  });
  it('every setting of a source is of a sort that has a field, and every number of an effect has a range and a name', () => {
    for (const { settings, kind } of SOURCES)
      for (const setting of settings)
        expect([kind, screens.includes(`case '${setting.is}'`) || setting.is === 'number']).toEqual([kind, true]);
    for (const { numbers, kind } of EFFECTS)
      for (const [name, n] of Object.entries(numbers)) {
        expect([kind, name, n.label.length > 0 && n.min < n.max]).toEqual([kind, name, true]);
        expect(n.otherwise).toBeGreaterThanOrEqual(n.min);
        expect(n.otherwise).toBeLessThanOrEqual(n.max);
      }
  });
});
