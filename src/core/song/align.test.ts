import { describe, expect, it } from 'vitest';
import { synthesiseSong } from '../room';
import { alignSongs, slid } from './align';
import { onsetStrength, toAnalysisRate } from './onset';

const RATE = 22050;
const song = synthesiseSong({ sampleRate: RATE });
const mono = song.channels[0];
const heard = (samples: Float32Array) => onsetStrength(toAnalysisRate([samples], RATE));
const old = heard(mono);
const seconds = (samples: Float32Array) => samples.length / RATE;
const align = (samples: Float32Array) => alignSongs(old, heard(samples), seconds(mono), seconds(samples));

/** The song played so many times as fast (its pitch goes along), so many seconds later, through a crude high pass. */
function otherMix(rate: number, later: number): Float32Array {
  const out = new Float32Array(Math.round((seconds(mono) / rate + later) * RATE));
  const first = Math.round(later * RATE);
  let before = 0;
  for (let i = first; i < out.length; i++) {
    const at = (i - first) * rate;
    const k = Math.floor(at);
    const v = (mono[k] ?? 0) + (at - k) * ((mono[k + 1] ?? 0) - (mono[k] ?? 0));
    out[i] = 0.7 * (v - 0.6 * before);
    before = v;
  }
  return out;
}

/** Pieces of the song one after another, seconds from and to. */
const edit = (...parts: [number, number][]) => {
  const cut = parts.map(([from, to]) => mono.slice(Math.round(from * RATE), Math.round(to * RATE)));
  const out = new Float32Array(cut.reduce((sum, c) => sum + c.length, 0));
  let at = 0;
  for (const c of cut) {
    out.set(c, at);
    at += c.length;
  }
  return out;
};

describe('another mix of a song', () => {
  it.each([
    [1.02, 3.217],
    [0.95, 0],
    [1, 0.4],
  ])('%f times as fast, %f s later: every beat within 5 ms', (rate, later) => {
    const found = align(otherMix(rate, later));
    expect(found.share).toBeGreaterThan(0.98);
    for (const beat of song.beats) expect(Math.abs((slid(found, beat) ?? 99) - (later + beat / rate))).toBeLessThan(0.005);
  });
});

describe('another edit of a song', () => {
  it('tells a stretch that is gone, and what comes after it', () => {
    const found = align(edit([0, 20], [30, 78]));
    expect(found.pieces).toHaveLength(2);
    expect(slid(found, 10)).toBeCloseTo(10, 2);
    expect(slid(found, 25)).toBeNull();
    expect(slid(found, 50)).toBeCloseTo(40, 2);
    expect(Math.abs(found.pieces[0].to - 20)).toBeLessThan(0.3);
    expect(Math.abs(found.pieces[1].from - 30)).toBeLessThan(0.3);
  });

  it('tells a beginning that is gone, and parts in another order', () => {
    const shorter = align(edit([12.3, 78]));
    expect(slid(shorter, 5)).toBeNull();
    expect(slid(shorter, 40)).toBeCloseTo(27.7, 2);
    const turned = align(edit([40, 77.9], [0, 40]));
    expect(slid(turned, 50)).toBeCloseTo(10, 2);
    expect(slid(turned, 20)).toBeCloseTo(57.9, 2);
  });

  it('does not find one song in another', () => {
    const other = synthesiseSong({ sampleRate: RATE, bpm: 87, seed: 3 });
    const noise = mono.map((_, i) => Math.sin(i * i * 0.0007) * (i % 9000 < 400 ? 0.8 : 0.01));
    expect(align(noise).share).toBeLessThan(0.3);
    const stretched = align(other.channels[0]);
    // The made-up song at another tempo beyond a tenth is not heard as the same.
    expect(stretched.share).toBeLessThan(0.3);
  });
});
