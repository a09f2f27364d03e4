import { describe, expect, it } from 'vitest';
import { BT709, fromRgbMatrix, toRgbMatrix } from './colour';
import { throughTable } from './colour-table';
import { blackPlanes } from './planes';
import { alphaFromRaw, planesFromRaw, rawForm, rawLayout } from './raw';
import { hlgToScene, nitsToPq, pqToNits, toneMapped, type WideColour, wideTable } from './wide-colour';

describe('the transfers of ITU-R BT.2100', () => {
  it('PQ: signals of published levels (ITU-R BT.2408-7 table 1 and annex: 58 % is 203 cd/m², 0.5081 is 100, 0.7518 is 1000)', () => {
    expect(pqToNits(0.5081)).toBeCloseTo(100, 0);
    expect(pqToNits(0.7518)).toBeCloseTo(1000, -1);
    expect(Math.abs(pqToNits(0.58) - 203)).toBeLessThan(3);
    expect(pqToNits(1)).toBeCloseTo(10_000, 3);
    for (const nits of [0.01, 1, 48, 203, 4000]) expect(pqToNits(nitsToPq(nits))).toBeCloseTo(nits, 6);
  });
  it('HLG: 50 % of the signal is a twelfth of scene light, 75 % is reference white of 203 cd/m² on a display of 1000', () => {
    expect(hlgToScene(0.5)).toBeCloseTo(1 / 12, 9);
    expect(hlgToScene(1)).toBeCloseTo(1, 6);
    // The system gamma of 1.2 on grey: 1000 · E^1.2.
    expect(Math.abs(1000 * hlgToScene(0.75) ** 1.2 - 203)).toBeLessThan(2);
  });
});

describe('tone mapping of ITU-R BT.2390', () => {
  it('leaves what is below the knee, brings the peak to white, and never turns back', () => {
    expect(toneMapped(10)).toBe(10);
    expect(toneMapped(1000)).toBeCloseTo(203, 6);
    let before = 0;
    for (let nits = 0; nits <= 4000; nits += 5) {
      const now = toneMapped(nits);
      expect(now).toBeGreaterThanOrEqual(before - 1e-9);
      before = now;
    }
  });
});

/** One colour through a table, as R'G'B' 0..1. */
function through(wide: WideColour, code: [number, number, number]): number[] {
  const planes = blackPlanes(2, 2);
  planes.y.fill(code[0]);
  planes.u.fill(code[1]);
  planes.v.fill(code[2]);
  throughTable(planes, wideTable(wide));
  const m = toRgbMatrix(BT709);
  return [0, 4, 8].map((n) => m[n] * planes.y[0] + m[n + 1] * planes.u[0] + m[n + 2] * planes.v[0] + m[n + 3]);
}

describe('the table of a wide colour', () => {
  const sdr = { transfer: 'sdr', fullRange: false } as const;
  it('BT.709 in BT.709 stays within a code value', () => {
    const same: WideColour = { ...sdr, primaries: 'bt709', matrix: 'bt709' };
    const m = fromRgbMatrix(BT709);
    for (const rgb of [
      [0.2, 0.5, 0.7],
      [0.9, 0.1, 0.3],
      [0.5, 0.5, 0.5],
    ]) {
      const code = [0, 4, 8].map((n) => Math.round(m[n] * rgb[0] + m[n + 1] * rgb[1] + m[n + 2] * rgb[2] + m[n + 3]));
      const out = through(same, code as [number, number, number]);
      for (const c of [0, 1, 2]) expect(Math.abs(out[c] - rgb[c])).toBeLessThan(2.5 / 255);
    }
  });
  it('grey stays grey and white stays white in BT.2020', () => {
    const wide: WideColour = { ...sdr, primaries: 'bt2020', matrix: 'bt2020' };
    for (const v of through(wide, [235, 128, 128])) expect(v).toBeCloseTo(1, 1);
    const [r, g, b] = through(wide, [126, 128, 128]);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(2 / 255);
  });
  it('a green of BT.709 written in BT.2020 comes back as it was (matrix of ITU-R BT.2087-0, table 1 inverted)', () => {
    // R'G'B' 0.3, 0.6, 0.3 by a display of gamma 2.4, in BT.2020: linear by the rows 0.6274 0.3293 0.0433 / 0.0691 0.9195 0.0114 / 0.0164 0.088 0.8956.
    const [r, g, b] = [0.3, 0.6, 0.3].map((v) => v ** 2.4);
    const rows = [
      [0.6274, 0.3293, 0.0433],
      [0.0691, 0.9195, 0.0114],
      [0.0164, 0.088, 0.8956],
    ];
    const coded = rows.map(([x, y, z]) => (x * r + y * g + z * b) ** (1 / 2.4));
    const luma = 0.2627 * coded[0] + 0.678 * coded[1] + 0.0593 * coded[2];
    const code: [number, number, number] = [
      Math.round(16 + 219 * luma),
      Math.round(128 + (224 * (coded[2] - luma)) / 1.8814),
      Math.round(128 + (224 * (coded[0] - luma)) / 1.4746),
    ];
    const out = through({ ...sdr, primaries: 'bt2020', matrix: 'bt2020' }, code);
    for (const [c, v] of [0.3, 0.6, 0.3].entries()) expect(Math.abs(out[c] - v)).toBeLessThan(4 / 255);
  });
});

describe('raw planes', () => {
  it('knows the forms of the WebCodecs standard by their names', () => {
    expect(rawForm('I420')).toMatchObject({ depth: 8, across: 2, down: 2, paired: false, alpha: false });
    expect(rawForm('I422P10')).toMatchObject({ depth: 10, across: 2, down: 1 });
    expect(rawForm('I444P12')).toMatchObject({ depth: 12, across: 1, down: 1 });
    expect(rawForm('I420A')).toMatchObject({ alpha: true });
    expect(rawForm('I444AP10')).toMatchObject({ depth: 10, alpha: true });
    expect(rawForm('NV12')).toMatchObject({ paired: true });
    expect(rawForm('RGBA')).toBeNull();
    expect(rawForm(null)).toBeNull();
  });
  it('lays planes out without gaps', () => {
    const form = rawForm('I422P10');
    expect(form && rawLayout(form, 8, 4)).toEqual({
      layout: [
        { offset: 0, stride: 16 },
        { offset: 64, stride: 8 },
        { offset: 96, stride: 8 },
      ],
      size: 128,
    });
    const alpha = rawForm('I420A');
    expect(alpha && rawLayout(alpha, 4, 4).layout).toHaveLength(4);
  });
  it.each([
    ['I420A', 1],
    ['I444AP10', 4],
  ] as const)('%s: alpha lies behind the others, in 8 bits, and is nothing where all is seen', (name, up) => {
    const form = rawForm(name);
    if (!form) throw new Error(name);
    const { size } = rawLayout(form, 4, 2);
    const values = up > 1 ? new Uint16Array(size / 2) : new Uint8Array(size);
    const bytes = new Uint8Array(values.buffer);
    values.fill(255 * up, values.length - 8);
    expect(alphaFromRaw(bytes, form, 4, 2)).toBeNull();
    values.set(
      [0, 1, 2, 3, 252, 253, 254, 255].map((a) => a * up),
      values.length - 8,
    );
    expect(alphaFromRaw(bytes, form, 4, 2)).toEqual(Uint8Array.of(0, 1, 2, 3, 252, 253, 254, 255));
    const plain = rawForm('I420');
    expect(plain && alphaFromRaw(bytes, plain, 4, 2)).toBeNull();
  });
  it.each(['I420', 'NV12', 'I422', 'I444', 'I420P10', 'I422P10', 'I444P12'])(
    '%s: even planes come out even, and chroma is a mean',
    (name) => {
      const form = rawForm(name);
      if (!form) throw new Error(name);
      const [width, height] = [8, 4];
      const { size } = rawLayout(form, width, height);
      const bytes = new Uint8Array(size);
      const values = form.depth > 8 ? new Uint16Array(bytes.buffer) : bytes;
      const up = 2 ** (form.depth - 8);
      values.fill(100 * up, 0, width * height);
      const chroma = values.subarray(width * height);
      for (let i = 0; i < chroma.length; i++) chroma[i] = (form.paired ? (i % 2 ? 60 : 200) : i < chroma.length / 2 ? 200 : 60) * up;
      const planes = planesFromRaw(bytes, form, width, height);
      expect([...planes.y]).toEqual(Array.from({ length: 32 }, () => 100));
      expect([...planes.u]).toEqual(Array.from({ length: 8 }, () => 200));
      expect([...planes.v]).toEqual(Array.from({ length: 8 }, () => 60));
    },
  );
});
