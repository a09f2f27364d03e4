import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anchorAtFrame, beatOfFrame, describeAnchor, resolveAnchor } from './anchor';
import { barAndBeat } from './bars';
import { type BeatMap, beatToSeconds, constantBeatMap, fromTaps, secondsToBeat, tempo } from './beatmap';
import { doubled, halved, nudged, withBar1At } from './correct';
import { frameToSeconds, nearestFrame, standardRate } from './rate';
import { fromTimecode, toTimecode } from './timecode';

const NTSC = { num: 30000, den: 1001 };
const PAL = { num: 25, den: 1 };

describe('timecode, SMPTE ST 12-1', () => {
  it.each([
    [0, '00:00:00;00'],
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [17981, '00:09:59;29'],
    [17982, '00:10:00;00'],
    [107892, '01:00:00;00'],
  ])('29.97 drop-frame: frame %i is %s', (frame, text) => {
    expect(toTimecode(frame, NTSC)).toBe(text);
    expect(fromTimecode(text, NTSC)).toBe(frame);
  });

  it('goes there and back for every frame of 25 minutes', () => {
    for (let f = 0; f < 45000; f += 7) expect(fromTimecode(toTimecode(f, NTSC), NTSC)).toBe(f);
    for (let f = 0; f < 90000; f += 13) expect(fromTimecode(toTimecode(f, { num: 60000, den: 1001 }), { num: 60000, den: 1001 })).toBe(f);
  });

  it('refuses skipped numbers, bad fields and nonsense', () => {
    for (const bad of ['00:01:00;00', '00:01:00;01', '00:00:61:00', '00:00:00:30', 'x', '']) expect(fromTimecode(bad, NTSC)).toBeNull();
    expect(fromTimecode('00:00:01:24', PAL)).toBe(49);
    expect(fromTimecode('00:00:01:25', PAL)).toBeNull();
  });
});

describe('beats and frames', () => {
  it('the frame nearest to a beat counts as that beat, its neighbours do not', () => {
    const map = constantBeatMap(112, 0.25, 200);
    for (let beat = 0; beat < 190; beat++) {
      const frame = resolveAnchor(map, { beat, offset: 0 }, PAL);
      expect(beatOfFrame(map, frame, PAL)).toBe(beat);
      expect(beatOfFrame(map, frame - 1, PAL)).toBeLessThan(beat);
      expect(beatOfFrame(map, frame + 1, PAL)).toBeGreaterThan(beat);
    }
  });

  it('worked values: 120 BPM at 23.976 is 11.988 frames a beat, 128 BPM at 29.97 is 14.048', () => {
    expect((0.5 * 24000) / 1001).toBeCloseTo(11.988, 3);
    expect(((60 / 128) * 30000) / 1001).toBeCloseTo(14.048, 3);
    const map = constantBeatMap(120, 0, 400);
    expect(resolveAnchor(map, { beat: 300, offset: 0 }, { num: 24000, den: 1001 })).toBe(3596);
  });

  it('every anchor is within half a frame of its beat, however far', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 50, max: 190 }),
        fc.integer({ min: 0, max: 2000 }),
        fc.constantFrom(PAL, NTSC, { num: 24000, den: 1001 }),
        (bpm, beat, rate) => {
          const map = constantBeatMap(bpm, 0.137, 64);
          const frame = resolveAnchor(map, { beat, offset: 0 }, rate);
          const half = rate.den / rate.num / 2;
          expect(Math.abs(frameToSeconds(frame, rate) - beatToSeconds(map, beat))).toBeLessThanOrEqual(half + 1e-7);
        },
      ),
    );
  });

  it('beat and time are inverse on an uneven map, inside and outside', () => {
    const map: BeatMap = { beats: [0.3, 0.8, 1.4, 1.9, 2.6, 3.0], bar1: 1, beatsPerBar: 4 };
    for (let b = -6; b < 12; b += 0.17) expect(secondsToBeat(map, beatToSeconds(map, b))).toBeCloseTo(b, 9);
  });

  it('an anchor made from a frame resolves to that frame', () => {
    const map = constantBeatMap(112, 0.25, 140);
    for (let f = 0; f < 2000; f += 3) for (const d of [1, 2, 4]) expect(resolveAnchor(map, anchorAtFrame(map, f, PAL, d), PAL)).toBe(f);
    expect(describeAnchor(map, { beat: 33.5, offset: -2 })).toBe('bar 9 beat 2 1/2 −2 f');
  });

  it('halve, double, nudge and bar 1 keep what they promise', () => {
    const map = { ...constantBeatMap(100, 0.2, 41), bar1: 5 };
    const one = beatToSeconds(map, 0);
    expect(tempo(doubled(map))).toBeCloseTo(200, 6);
    expect(beatToSeconds(doubled(map), 0)).toBeCloseTo(one, 9);
    expect(tempo(halved(map))).toBeCloseTo(50, 6);
    expect(beatToSeconds(halved(map), 0)).toBeCloseTo(one, 9);
    expect(beatToSeconds(nudged(map, 0.01), 0)).toBeCloseTo(one + 0.01, 9);
    expect(beatToSeconds(withBar1At(map, one + 1.2), 0)).toBeCloseTo(one + 1.2, 9);
    expect(barAndBeat(map, 7)).toEqual({ bar: 2, beat: 4 });
    expect(barAndBeat(map, -1)).toEqual({ bar: 0, beat: 4 });
  });

  it('taps with a missed one and a shaky hand give the tempo', () => {
    const shake = [0.011, -0.014, 0.006, 0.012, -0.009, 0.004, -0.012, 0.008];
    const taps = [0, 1, 2, 3, 5, 6, 7, 8].map((n, i) => 4.1 + (n * 60) / 112 + shake[i]);
    const map = fromTaps(taps, 60);
    expect(map).not.toBeNull();
    if (!map) return;
    expect(Math.abs(tempo(map) / 112 - 1)).toBeLessThan(0.006);
    expect(Math.abs(beatToSeconds(map, 0) - 4.1)).toBeLessThan(0.02);
    expect(fromTaps([1, 2, 3], 60)).toBeNull();
  });

  it('rates: nearest frame and nearest standard rate', () => {
    expect(nearestFrame(0.5, PAL)).toBe(13);
    expect(standardRate(29.93)).toEqual(NTSC);
    expect(standardRate(24.98)).toEqual(PAL);
    expect(standardRate(12)).toEqual(PAL);
  });
});
