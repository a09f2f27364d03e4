import { describe, expect, it } from 'vitest';
import { Limiter } from './limiter';
import { LoudnessMeter } from './loudness';

const RATE = 48_000;
const CEILING = 10 ** (-1.5 / 20);
/** A tone with bursts eight times as loud. */
const programme = (seconds: number) =>
  Float32Array.from({ length: seconds * RATE }, (_, i) => {
    const t = i / RATE;
    return (t % 0.5 < 0.02 ? 1.6 : 0.2) * Math.sin(2 * Math.PI * 440 * t + 0.3);
  });

/** A programme through a limiter in blocks of some length. */
function limited(samples: Float32Array, gain: number, block: number): Float32Array {
  const limiter = new Limiter(RATE, CEILING, gain);
  const out = new Float32Array(samples.length);
  for (let at = 0; at < samples.length; at += block) {
    const count = Math.min(block, samples.length - at);
    const part = new Float32Array(count + limiter.ahead);
    part.set(samples.subarray(at, at + count + limiter.ahead));
    limiter.run([part], count);
    out.set(part.subarray(0, count), at);
  }
  return out;
}
const peak = (samples: Float32Array) => samples.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

describe('the limiter', () => {
  it('lets no sample pass its ceiling, and leaves what is well below it alone', () => {
    const source = programme(3);
    const out = limited(source, 1, RATE);
    expect(peak(out)).toBeLessThanOrEqual(CEILING + 1e-6);
    // Half-way between two bursts it has let go.
    for (let i = Math.round(0.4 * RATE); i < 0.45 * RATE; i += 7) expect(out[i]).toBeCloseTo(source[i], 2);
  });
  it('keeps true peaks under -1 dBTP', () => {
    const meter = new LoudnessMeter(RATE);
    meter.push([limited(programme(3), 1.5, RATE)]);
    expect(meter.read().truePeak).toBeLessThan(-1);
  });
  it('does the same in blocks of any length', () => {
    const source = programme(2);
    const whole = limited(source, 1.2, source.length);
    for (const block of [4800, 1000, 777]) {
      const parts = limited(source, 1.2, block);
      for (let i = 0; i < source.length; i += 13) expect(Math.abs(parts[i] - whole[i])).toBeLessThan(1e-6);
    }
  });
  it('takes away smoothly: no step larger than a sixtieth from sample to sample', () => {
    const steady = new Float32Array(RATE).fill(0.4);
    steady.fill(1.6, RATE / 2, RATE / 2 + 200);
    const out = limited(steady, 1, RATE);
    for (let i = RATE / 2 - 300; i < RATE / 2 - 1; i++) expect(Math.abs(out[i + 1] - out[i])).toBeLessThan(1 / 60);
  });
});
