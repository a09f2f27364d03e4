import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { synthesiseSong } from '../room';
import { kWeighting, LoudnessMeter, loudnessOf } from './loudness';

const RATE = 48000;

/** Sine tones one after another: level of the peak in dBFS, seconds. */
function tones(parts: readonly (readonly [number, number])[], hertz = 1000, rate = RATE): Float32Array {
  const out = new Float32Array(Math.round(parts.reduce((sum, [, s]) => sum + s, 0) * rate));
  let [at, end] = [0, 0];
  for (const [level, seconds] of parts) {
    end += seconds * rate;
    const peak = 10 ** (level / 20);
    for (; at < Math.round(end); at++) out[at] = peak * Math.sin((2 * Math.PI * hertz * at) / rate);
  }
  return out;
}

const stereo = (parts: readonly (readonly [number, number])[]) => {
  const one = tones(parts);
  return loudnessOf([one, one], RATE);
};

describe('loudness, ITU-R BS.1770-4', () => {
  it('has the coefficients the standard prints for 48 kHz (annex 1, tables 1 and 2; from memory)', () => {
    const [head, pass] = kWeighting(48000);
    expect(head.b).toEqual([1.53512485958697, -2.69169618940638, 1.19839281085285].map((v) => expect.closeTo(v, 10)));
    expect(head.a).toEqual([-1.69065929318241, 0.73248077421585].map((v) => expect.closeTo(v, 10)));
    expect(pass.a).toEqual([-1.99004745483398, 0.99007225036621].map((v) => expect.closeTo(v, 10)));
  });

  it('reads -3.01 LKFS for a full-scale sine of 997 Hz in one channel', () => {
    expect(loudnessOf([tones([[0, 20]], 997)], RATE).integrated).toBeCloseTo(-3.01, 1);
    expect(loudnessOf([tones([[0, 20]], 997, 44100)], 44100).integrated).toBeCloseTo(-3.01, 1);
  });
});

describe('the signals of EBU Tech 3341, table 1, to 0.1 LU (levels from memory)', () => {
  it.each([
    ['1', -23, [[-23, 20]]],
    ['2', -33, [[-33, 20]]],
    [
      '3',
      -23,
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
    ],
    [
      '4',
      -23,
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
    ],
    [
      '5',
      -23,
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
    ],
  ] as const)('signal %s: integrated %d', (_, expected, parts) => {
    expect(Math.abs(stereo(parts).integrated - expected)).toBeLessThan(0.1);
  });

  it('signal 6: five channels', () => {
    const [front, centre, back] = [-28, -24, -30].map((level) => tones([[level, 20]]));
    expect(Math.abs(loudnessOf([front, front, centre, back, back], RATE).integrated + 23)).toBeLessThan(0.1);
  });

  it('signal 9: short-term', () => {
    const five = Array.from(
      { length: 5 },
      () =>
        [
          [-20, 1.34],
          [-30, 1.66],
        ] as const,
    ).flat();
    expect(Math.abs(stereo(five).shortTermMax + 23)).toBeLessThan(0.1);
  });

  it('signal 12: momentary', () => {
    const many = Array.from(
      { length: 25 },
      () =>
        [
          [-20, 0.18],
          [-30, 0.22],
        ] as const,
    ).flat();
    expect(Math.abs(stereo(many).momentaryMax + 23)).toBeLessThan(0.1);
  });

  it.each([
    ['15', 4, 0, 0.5, -6],
    ['16', 4, 45, 0.5, -6],
    ['17', 6, 60, 0.5, -6],
    ['18', 8, 67.5, 0.5, -6],
    ['19', 4, 45, 1.41, 3],
  ])('signal %s: true peak of a sine of fs/%d at %d°', (_, part, phase, amplitude, expected) => {
    const sine = Float32Array.from({ length: 4800 }, (_, i) => {
      const fade = Math.min(1, i / 480, (4799 - i) / 480);
      return fade * amplitude * Math.sin((2 * Math.PI * i) / part + (phase * Math.PI) / 180);
    });
    const { truePeak } = loudnessOf([sine, sine], RATE);
    expect(truePeak).toBeGreaterThan(expected - 0.4);
    expect(truePeak).toBeLessThan(expected + 0.2);
  });
});

describe('beside ffmpeg (ebur128)', () => {
  it('agrees on the made-up song to 0.1 LU, taken in piece by piece', () => {
    const song = synthesiseSong({ sampleRate: 44100 });
    const [left, right] = song.channels;
    const raw = join(mkdtempSync(join(tmpdir(), 'loud-')), 'song.f32');
    const woven = new Float32Array(2 * left.length);
    left.forEach((v, i) => {
      woven[2 * i] = v;
      woven[2 * i + 1] = right[i];
    });
    writeFileSync(raw, new Uint8Array(woven.buffer));
    const script = 'ffmpeg -nostats -f f32le -ar 44100 -ac 2 -i "$1" -af ebur128=peak=true -f null - 2>&1';
    const log = execFileSync('sh', ['-c', script, 'sh', raw]).toString().split('Summary:')[1];
    const told = (name: string) => Number(new RegExp(`${name}:\\s+(-?[\\d.]+)`).exec(log)?.[1]);
    const meter = new LoudnessMeter(44100);
    for (let at = 0; at < left.length; at += 10_007) meter.push([left.subarray(at, at + 10_007), right.subarray(at, at + 10_007)]);
    const ours = meter.read();
    expect(Math.abs(ours.integrated - told('I'))).toBeLessThanOrEqual(0.1);
    expect(Math.abs(ours.range - told('LRA'))).toBeLessThanOrEqual(0.15);
    expect(Math.abs(ours.truePeak - told('Peak'))).toBeLessThanOrEqual(0.2);
  });

  it('says nothing of silence', () => {
    expect(loudnessOf([new Float32Array(RATE)], RATE).integrated).toBe(Number.NEGATIVE_INFINITY);
  });
});
