import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { StagedTake } from '../staged';
import { boxMean } from './grid';
import { lumaOf } from './luma';
import { frameQuality, QualityMeter, qualityFindings, softStretches } from './quality';

const background = (x: number, y: number) => [110 + 40 * Math.sin(x / 3) * Math.cos(y / 4) + 20 * Math.sin(x / 17), 128, 128] as const;
const take = new StagedTake({
  width: 320,
  height: 180,
  background,
  noise: 2,
  figure: (f) => ({ x: 60 + 5 * f, y: 95, tall: 110, arm: 0.4 }),
});
const [W, H] = [320, 180];

describe('quality of a take (levels of ITU-R BT.709, noise by the median absolute deviation, Rousseeuw & Croux 1993)', () => {
  it.each([0.3, 0.39, 0.6, 1, 1.8, 3])('noise of %f code values is told as what it is, also where most pixels do not change', (sigma) => {
    const random = randomSource(5);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const meter = new QualityMeter();
    const set = Uint8Array.from({ length: 320 * 180 }, () => 60 + Math.floor(120 * random()));
    let [sum, count] = [0, 0];
    for (let f = 0; f < 8; f++) {
      const data = set.map((v, i) => {
        const noise = Math.round(sigma * normal());
        [sum, count] = [sum + noise * noise, count + 1];
        // Something a fourteenth of the picture wide moves through it.
        return i % 320 > 6 * f && i % 320 < 6 * f + 23 ? 30 + ((i * 7 + 13 * f) % 90) : v + noise;
      });
      meter.read({ width: 320, height: 180, data });
    }
    const { noise } = meter.done(Array.from({ length: 8 }, (_, f) => f / 25));
    const truth = Math.sqrt(sum / count);
    expect(Math.abs(noise - truth)).toBeLessThan(0.12 * truth + 0.03);
  });

  it('noise to a tenth, frames that repeat, and a loss of focus by frame', () => {
    const meter = new QualityMeter();
    const times: number[] = [];
    let last = lumaOf(take.frame(0));
    for (let f = 0; f < 40; f++) {
      // Every fifth frame repeats: 20 fps stretched to 25. Frames 20 to 29 are out of focus.
      if (f % 5 !== 4) last = lumaOf(take.frame(f));
      const soft = f >= 20 && f < 30;
      const data = soft ? Uint8Array.from(boxMean(Float32Array.from(last.data), W, H, 2)) : last.data;
      meter.read({ width: W, height: H, data });
      times.push(f / 25);
    }
    const quality = meter.done(times);
    expect(Math.abs(quality.noise - 1.7)).toBeLessThan(0.5);
    expect(quality.repeats).toEqual(expect.arrayContaining([4, 9, 14, 34, 39]));
    expect(Math.abs(quality.trueRate - 20)).toBeLessThan(1.2);
    const [soft] = softStretches(quality.sharpness);
    expect([soft.from, soft.to]).toEqual([20, 29]);
    expect(quality.variableRate).toBe(false);
    const said = qualityFindings(quality, 25).join(' ');
    expect(said).toMatch(/Soft from frame 20 to 29/);
    expect(said).toMatch(/frames repeat the one before/);
  });

  it('broken off and gone on with from what was read, it says the same', () => {
    const frames = Array.from({ length: 20 }, (_, f) => lumaOf(take.frame(f)));
    const times = frames.map((_, f) => f / 25);
    const whole = new QualityMeter();
    for (const f of frames) whole.read(f);
    const series = { details: [], blown: [], drowned: [], noises: [], moves: [] };
    const first = new QualityMeter(series);
    for (const f of frames.slice(0, 9)) first.read(f);
    const second = new QualityMeter(structuredClone(series));
    second.see(frames[8]);
    for (const f of frames.slice(9)) second.read(f);
    expect(second.done(times)).toEqual(whole.done(times));
  });

  it('a performer who stops and goes on again repeats no frame', () => {
    const stops = new StagedTake({ ...take.options, figure: (f) => ({ x: 160 + 60 * Math.sin(f / 5), y: 95, tall: 110, arm: 0.4 }) });
    const meter = new QualityMeter();
    for (let f = 0; f < 40; f++) meter.read(lumaOf(stops.frame(f)));
    expect(meter.done(Array.from({ length: 40 }, (_, f) => f / 25)).repeats).toEqual([]);
  });

  it('a clean take is found clean, a variable rate is named', () => {
    const meter = new QualityMeter();
    const times = Array.from({ length: 20 }, (_, f) => f / 25 + (f > 10 ? 0.03 * (f - 10) : 0));
    for (let f = 0; f < 20; f++) meter.read(lumaOf(take.frame(f)));
    const quality = meter.done(times);
    expect(quality.repeats).toEqual([]);
    expect(qualityFindings(quality, 25)).toEqual(['The frame rate varies; times are taken frame by frame from the file.']);
  });

  it('blown and drowned areas as shares', () => {
    const data = new Uint8Array(W * H).fill(100);
    data.fill(240, 0, (W * H) / 4);
    data.fill(16, (W * H * 3) / 4);
    const share = frameQuality({ width: W, height: H, data });
    expect(share.blown).toBeCloseTo(0.25, 1.5);
    expect(share.drowned).toBeCloseTo(0.25, 1.5);
  });
});
