import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { blackPlanes, type Planes } from '../picture';
import { chromaKey } from './chroma-key';
import { lumaKey } from './luma-key';
import { appliedEffect, clearedBy, EFFECTS, effectKind } from './registry';

const [W, H] = [64, 32];
const FRAME = { width: W, height: H, index: 0 };
function made(kind: string, numbers: Record<string, number>) {
  const otherwise = Object.fromEntries(Object.entries(effectKind(kind).numbers).map(([name, n]) => [name, n.otherwise]));
  const effect = appliedEffect(kind, { ...otherwise, ...numbers }, FRAME);
  if (!effect) throw new Error('nothing to apply');
  return effect;
}
/** Chroma that runs through everything in patches of eight pixels, so that in their middle the neighbours are alike. */
function colours(): Planes {
  const planes = blackPlanes(W, H);
  planes.y.fill(120);
  for (let y = 0; y < H / 2; y++)
    for (let x = 0; x < W / 2; x++) {
      planes.u[(y * W) / 2 + x] = 20 + 28 * Math.floor(x / 4);
      planes.v[(y * W) / 2 + x] = 20 + 52 * Math.floor(y / 4);
    }
  return planes;
}

describe('effects as they are added', () => {
  it('do something at once, or are ones whose number is typed', () => {
    const typed = ['exposure', 'contrast', 'saturation', 'temperature', 'hue', 'curves', 'lift gamma gain', 'colour table'];
    for (const { kind, usual, numbers } of EFFECTS) {
      if (typed.includes(kind)) {
        expect(usual).toBeUndefined();
        continue;
      }
      made(kind, usual ?? {});
      for (const [name, value] of Object.entries(usual ?? {})) {
        expect(value).toBeGreaterThanOrEqual(numbers[name].min);
        expect(value).toBeLessThanOrEqual(numbers[name].max);
      }
    }
  });

  // Backings of several colours, weakly and strongly lit, and of blue; clothes and skin from values from memory.
  it.each([
    ['green', 54, 34],
    ['dark green', 108, 100],
    ['blue', 200, 110],
  ] as const)('on a %s backing all of it goes, uneven as it is, and a performer stays', (_, u, v) => {
    const spread = 3;
    const numbers = chromaKey.forBacking?.({ u: u - 128, v: v - 128, spread }) ?? {};
    const patch = (du: number, dv: number) => {
      const planes = blackPlanes(W, H);
      planes.u.fill(Math.round(du));
      planes.v.fill(Math.round(dv));
      return clearedBy(planes, [made('chroma key', numbers)])?.[4 * W + 4] ?? 255;
    };
    for (let a = 0; a < 360; a += 45) {
      const off = 2 * spread;
      expect(patch(u + off * Math.cos((a * Math.PI) / 180), v + off * Math.sin((a * Math.PI) / 180))).toBe(0);
    }
    for (const [cb, cr] of [
      [128, 128],
      [108, 152],
      [118, 138],
      [90, 160],
    ])
      expect(patch(cb, cr)).toBe(255);
  });
});

describe('chroma key', () => {
  it('agrees with ffmpeg’s chromakey for its colour, range and softness, within 4 of 255', () => {
    const planes = colours();
    const file = join(mkdtempSync(join(tmpdir(), 'key-')), 'in.yuv');
    writeFileSync(file, Buffer.concat([planes.y, planes.u, planes.v]));
    const raw = ['-f', 'rawvideo', '-s', `${W}x${H}`];
    // 0x00FF00 in BT.709: Cb 42, Cr 26 of limited range; chromakey takes its colour by BT.601 unless told it is YUV already.
    const out = execFileSync('ffmpeg', [
      ...['-v', 'error', ...raw, '-pix_fmt', 'yuv420p', '-i', file],
      ...['-vf', 'chromakey=color=0x7E2A1A:similarity=0.25:blend=0.2:yuv=1,format=yuva420p,alphaextract', ...raw, '-pix_fmt', 'gray', '-'],
    ]);
    const [u, v] = [42 - 128, 26 - 128];
    const alpha = chromaKey.clears?.(planes, { colour: { u, v }, range: 0.25, softness: 0.2 }) ?? new Uint8Array();
    let seen = 0;
    // ffmpeg looks at the colours of three pixels by three; in the middle of a patch they are one.
    for (let y = 4; y < H; y += 8)
      for (let x = 4; x < W; x += 8) {
        expect(Math.abs(alpha[y * W + x] - out[y * W + x])).toBeLessThanOrEqual(4);
        if (out[y * W + x] > 0 && out[y * W + x] < 255) seen++;
      }
    expect(seen).toBeGreaterThan(3);
  });

  it('is clear at its hue, opaque far from it, and half where it is half way through its softness', () => {
    const even = (u: number, v: number) => {
      const planes = blackPlanes(W, H);
      planes.u.fill(u);
      planes.v.fill(v);
      return planes;
    };
    const key = made('chroma key', { range: 10, softness: 20, hue: 120, strength: 60 });
    const { colour } = key.resolved as { colour: { u: number; v: number } };
    const at = (off: number) => {
      const size = Math.hypot(colour.u, colour.v);
      const planes = even(Math.round(128 + colour.u * (1 - off / size)), Math.round(128 + colour.v * (1 - off / size)));
      return (clearedBy(planes, [key]) ?? new Uint8Array())[5];
    };
    expect(at(0)).toBe(0);
    // 20 % of the farthest apart, 0.2·255·√2, is half of the softness beyond the range.
    expect(Math.abs(at(0.2 * 255 * Math.SQRT2) - 127)).toBeLessThan(6);
    expect((clearedBy(even(128 + 60, 128 + 40), [key]) ?? [])[5]).toBe(255);
  });
});

describe('luma key', () => {
  it('is clear below and above, and rises evenly across its softness', () => {
    const ramp = blackPlanes(W, H);
    for (let i = 0; i < ramp.y.length; i++) ramp.y[i] = 16 + Math.round((219 * (i % W)) / (W - 1));
    const alpha = lumaKey.clears?.(ramp, { from: 0.3, to: 0.8, softness: 0.1 }) ?? new Uint8Array();
    const at = (level: number) => alpha[Math.round(level * (W - 1))];
    expect([at(0.2), at(0.5), at(0.9)]).toEqual([0, 255, 0]);
    expect(Math.abs(at(0.3) - 127)).toBeLessThan(25);
    expect(effectKind('luma key').resolve({ from: 0, to: 100, softness: 5 }, FRAME)).toBeNull();
  });
});

describe('several that clear', () => {
  it('leave what all of them leave; those that clear nothing are not asked', () => {
    const ramp = blackPlanes(W, H);
    for (let i = 0; i < ramp.y.length; i++) ramp.y[i] = 16 + Math.round((219 * (i % W)) / (W - 1));
    const both = clearedBy(ramp, [made('luma key', { from: 40 }), made('contrast', { amount: 150 }), made('luma key', { to: 60 })]);
    expect([both?.[5], both?.[32], both?.[60]]).toEqual([0, 255, 0]);
    expect(clearedBy(ramp, [made('contrast', { amount: 150 })])).toBeNull();
  });
});
