import { describe, expect, it } from 'vitest';
import { CHROMA_HOP, FLUX_RATE } from './band-flux';
import { BEAT_WIDTH, beatRows } from './beat-rows';
import { harmonyTurns } from './harmony';
import type { Heard } from './readings';

const LENGTH = 1000;

/** A sound in which range `band` is struck at the given places, and whose harmony turns at `turnsAt`. */
function heardOf(band: number, places: readonly number[], turnsAt: number): Heard {
  const bands = Array.from({ length: 5 }, (_, g) => {
    const curve = new Float32Array(LENGTH);
    if (g === band) for (const p of places) curve[p] = 2;
    return curve;
  });
  const chroma = Array.from({ length: LENGTH / CHROMA_HOP }, (_, i) => {
    const row = new Float64Array(12);
    row[i * CHROMA_HOP < turnsAt ? 0 : 7] = 1;
    return row;
  });
  const flux = { length: LENGTH, flux: bands, chroma, level: new Float32Array(LENGTH) };
  return {
    turn: harmonyTurns(flux),
    accents: { all: bands[band], bands },
    soft: bands[band],
    readings: [],
    extent: [0, LENGTH],
    clarity: 0,
  };
}

const beats = Array.from({ length: 9 }, (_, k) => 60 + 100 * k);
const reading = { beats, period: new Float32Array(LENGTH).fill(100), rigid: true };

describe('what is heard in each beat', () => {
  it.each([0, 2, 4])('range %i struck midway and at two thirds', (band) => {
    const rows = beatRows(heardOf(band, [110, 127, 310, 327], 1e9), reading);
    expect(rows.length).toBe(8 * BEAT_WIDTH);
    for (let b = 0; b < 8; b++)
      for (let k = 0; k < 60; k++) {
        const struck = (b === 0 || b === 2) && k % 5 === band && [6, 8].includes(Math.floor(k / 5));
        expect(rows[b * BEAT_WIDTH + k] > 0).toBe(struck);
      }
  });

  it('the harmony turning at the third beat, most over one beat to each side, and the tempo in octaves over 118', () => {
    const rows = beatRows(heardOf(0, [], 260), reading);
    const turns = Array.from({ length: 8 }, (_, b) => rows[b * BEAT_WIDTH + 60]);
    expect(turns.indexOf(Math.max(...turns))).toBe(2);
    expect(turns[6]).toBeLessThan(0.001);
    expect(rows[BEAT_WIDTH - 1]).toBeCloseTo(Math.log2((FLUX_RATE * 0.6) / 118), 5);
  });

  it('is the same at any tempo, but for the tempo', () => {
    const slow = beatRows(
      heardOf(
        1,
        beats.map((b) => b + 50),
        260,
      ),
      reading,
    );
    const half = { beats: beats.map((b) => b / 2), period: new Float32Array(LENGTH).fill(50), rigid: true };
    const fast = beatRows(
      heardOf(
        1,
        beats.map((b) => b / 2 + 25),
        130,
      ),
      half,
    );
    for (let i = 0; i < slow.length; i++)
      if (i % BEAT_WIDTH === BEAT_WIDTH - 1) expect(fast[i] - slow[i]).toBeCloseTo(1, 5);
      else if (i % BEAT_WIDTH < 60) expect(fast[i]).toBeCloseTo(slow[i], 5);
  });
});

describe('where harmony turns', () => {
  const chroma = Array.from({ length: 100 }, (_, i) => Float64Array.from({ length: 12 }, (_, c) => (c === (i < 50 ? 0 : 7) ? 1 : 0)));
  const turn = harmonyTurns({ length: 500, flux: [], chroma, level: new Float32Array(500) });

  it('is wholly told at the turn, half of it by the share of what is new, not at all elsewhere or at the ends', () => {
    expect(turn(250, 50)).toBeCloseTo(1, 6);
    expect(turn(150, 50)).toBeCloseTo(0, 6);
    // A quarter of the second stretch is new: the cosine between (1, 0) and (3/4, 1/4).
    expect(turn(250 - 75, 100)).toBeCloseTo(1 - 0.75 / Math.hypot(0.75, 0.25), 6);
    expect(turn(0, 50)).toBe(0);
    expect(turn(500, 50)).toBe(0);
  });
});
