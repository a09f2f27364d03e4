import { describe, expect, it } from 'vitest';
import { bestWay } from './best-way';

const every = (gap: number, from: number) => Array.from({ length: Math.floor((60 - from) / gap) }, (_, k) => from + k * gap);
const way = (likely: number, gap: number, from = 0.2) => ({ likely, beats: every(gap, from) });

describe('of the ways to hear a beat', () => {
  it('is the likeliest one where that is clear, or where the others have as much in common', () => {
    const [sure, half, off] = [way(0.9, 0.5), way(0.06, 1), way(0.04, 0.5, 0.45)];
    expect(bestWay([half, sure, off])).toBe(sure);
    const [more, less] = [way(0.55, 0.5), way(0.45, 0.5, 0.45)];
    expect(bestWay([less, more])).toBe(more);
  });

  it('is the tempo whose half is heard on either of two places, each as likely as itself', () => {
    const [half, whole, other] = [way(0.35, 1), way(0.34, 0.5), way(0.31, 1, 0.7)];
    expect(bestWay([half, whole, other])).toBe(whole);
    // One of them alone does not make up for what is likelier by more.
    const [likelier, twice] = [way(0.6, 1), way(0.4, 0.5)];
    expect(bestWay([likelier, twice])).toBe(likelier);
  });

  it('is none of none, and the likelier of two too short to be compared', () => {
    expect(bestWay([])).toBeUndefined();
    const [a, b] = [
      { likely: 0.4, beats: [0.5, 1, 1.5] },
      { likely: 0.6, beats: [0.7, 1.2, 1.7] },
    ];
    expect(bestWay([a, b])).toBe(b);
  });
});
