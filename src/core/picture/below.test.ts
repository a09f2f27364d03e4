import { describe, expect, it } from 'vitest';
import { compose, wholeLayer } from './compose';
import { blackPlanes, type Planes } from './planes';

const even = (luma: number): Planes => {
  const planes = blackPlanes(16, 8);
  planes.y.fill(luma);
  return planes;
};
const brighter = (by: number) => (planes: Planes) => ({ ...planes, y: planes.y.map((v) => Math.min(255, v + by)) });
const drawn = (...layers: Parameters<typeof compose>[0]) => {
  const out = blackPlanes(16, 8);
  compose(layers, out);
  return out;
};

describe('a layer that shows what lies below it', () => {
  const over = (more: Parameters<typeof wholeLayer>[1]) => wholeLayer(even(0), { below: true, ...more });
  it('does its effects on all of that together, and what is above it is left', () => {
    const out = drawn(wholeLayer(even(100)), over({ effects: [brighter(30)] }));
    expect(new Set(out.y)).toEqual(new Set([130]));
    const above = drawn(wholeLayer(even(100)), over({ effects: [brighter(30)] }), wholeLayer(even(50), { opacity: 0.5 }));
    expect(new Set(above.y)).toEqual(new Set([90]));
  });
  it('hides nothing by itself, where it is masked only that part is changed, and in part by its opacity', () => {
    const left = { kind: 'line', angle: 90, position: 0, feather: 1 } as const;
    const out = drawn(wholeLayer(even(100)), over({ effects: [brighter(40)], coverage: left }));
    expect([out.y[2], out.y[13]]).toEqual([140, 100]);
    expect(drawn(wholeLayer(even(100)), over({ effects: [brighter(40)], opacity: 0.5 })).y[0]).toBe(120);
    expect(drawn(wholeLayer(even(100)), over({})).y[0]).toBe(100);
    // A colour matrix of its own is done on it too: twice the brightness above black.
    expect(drawn(wholeLayer(even(60)), over({ colour: [2, 0, 0, -16, 0, 1, 0, 0, 0, 0, 1, 0] })).y[0]).toBe(104);
  });
});
