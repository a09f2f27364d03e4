import { describe, expect, it } from 'vitest';
import { firstSound } from './first-sound';

const beats = Array.from({ length: 9 }, (_, k) => 40 + 50 * k);
const begins = (at: number) => firstSound({ extent: [at, 1000] }, { beats });

describe('where a song’s first sound lies among a reading’s beats', () => {
  it.each([
    [40, 0, 1, 1],
    [140, 2, 1, 1],
    [65, null, -1, 1],
    [77.5, null, 0, -1],
    [145, 2, Math.cos(0.2 * Math.PI), Math.cos(0.4 * Math.PI)],
    [490, 9, 1, 1],
  ])('at %d: on beat %s', (at, beat, once, twice) => {
    const found = begins(at);
    expect(found).toMatchObject({ beat, atOnce: false });
    expect(found.figures.slice(0, 3)).toEqual([0, 0, 0]);
    expect(found.figures[3]).toBeCloseTo(once, 9);
    expect(found.figures[4]).toBeCloseTo(twice, 9);
  });

  it('is told apart from a sound that is there at once, whose first beat may be before the reading’s', () => {
    const { figures, beat, atOnce } = firstSound({ extent: [0, 1000] }, { beats: beats.map((b) => b + 10) });
    expect(atOnce).toBe(true);
    expect(beat).toBe(-1);
    expect(figures.map((v) => Math.round(v))).toEqual([1, 1, 1, 0, 0, 0]);
  });

  it('is measured in the beats it lies among where the tempo changes', () => {
    const slowing = [0, 50, 150, 350];
    expect(firstSound({ extent: [250, 900] }, { beats: slowing })).toMatchObject({ beat: null });
    expect(firstSound({ extent: [250, 900] }, { beats: slowing }).figures[3]).toBeCloseTo(-1, 9);
  });
});
