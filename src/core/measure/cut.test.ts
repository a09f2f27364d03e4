import { describe, expect, it } from 'vitest';
import { type FigureAt, StagedTake } from '../staged';
import { bestCuts, posesOf } from './cut';
import type { Mask } from './grid';
import { furthestReach, meetingOf, rankPairs, reachAt } from './pair';

const [W, H] = [320, 180];

function masksOf(figure: (f: number) => FigureAt, frames: number): Mask[] {
  const take = new StagedTake({ width: W, height: H, figure });
  return Array.from({ length: frames }, (_, f) => ({
    width: W,
    height: H,
    data: Uint8Array.from(take.alpha(f), (a) => (a > 0.5 ? 1 : 0)),
  }));
}

describe('the best frames to jump from one take to another (pose, place and movement agree: common practice)', () => {
  it('the planted pair is among the first three: same pose, same place, same way', () => {
    // The first walks right with its arm rising; the second comes in at another pace and meets it at 25 → 40.
    const first = masksOf((f) => ({ x: 60 + 4 * f, y: 95, tall: 110, arm: 0.02 * f }), 45);
    const second = masksOf(
      (f) => ({ x: 160 + 3 * (f - 40), y: 95 + 0.3 * Math.abs(f - 40), tall: 110, arm: 0.5 - 0.03 * Math.abs(f - 40) }),
      60,
    );
    const cuts = bestCuts(posesOf(first), posesOf(second));
    const near = cuts.slice(0, 3).some((c) => Math.abs(c.out - 25) <= 1 && Math.abs(c.into - 40) <= 1);
    expect(near).toBe(true);
  });

  it('does not jump between figures that pass each other the opposite way', () => {
    const right = posesOf(masksOf((f) => ({ x: 60 + 5 * f, y: 95, tall: 110, arm: 0.2 }), 40));
    const left = posesOf(masksOf((f) => ({ x: 260 - 5 * f, y: 95, tall: 110, arm: 0.2 }), 40));
    const [against] = bestCuts(right, left);
    const [along] = bestCuts(right, right.slice());
    expect(along.cost).toBeLessThan(0.01);
    expect(against.cost).toBeGreaterThan(0.3);
    expect(against.motion).toBeGreaterThan(0.8);
  });

  it('a loop joins where the movement comes round again', () => {
    const round = posesOf(
      masksOf(
        (f) => ({ x: 160 + 50 * Math.sin((f * 2 * Math.PI) / 30), y: 95, tall: 110, arm: 0.5 + 0.5 * Math.cos((f * 2 * Math.PI) / 30) }),
        70,
      ),
    );
    const [loop] = bestCuts(round, round, 3, 20);
    expect((loop.out - loop.into) % 30).toBe(0);
    expect(bestCuts([null, null], round)).toEqual([]);
  });
});

describe('pairs for a contact', () => {
  const slap = (gap: number) => masksOf((f) => ({ x: 100 - gap + 2 * f, y: 95, tall: 110, arm: 1 }), 12);
  const partner = masksOf(() => ({ x: 240, y: 95, tall: 110, arm: 0 }), 12);

  it('ranks the one that just touches before one that falls short and one that goes through', () => {
    // The arm reaches 45.4 px from the middle, its end rounded by 4.5.
    const b = reachAt('b', partner, 8, 'left', null);
    if (!b) throw new Error('nobody');
    const touch = b.x - (100 + 16) - (110 / 8) * 3.3 - 4.5;
    const takes = [-touch, 20 - touch, -12 - touch].map((gap, k) => reachAt(`a${k}`, slap(gap), 8, 'right', null));
    const fits = rankPairs(
      takes.filter((t) => t !== null),
      [b],
      4,
      720,
    );
    expect(fits.map((f) => f.a.take)).toEqual(['a0', 'a2', 'a1']);
    expect(Math.abs(fits[0].gap)).toBeLessThan(8);
    expect(fits[2].gap).toBeGreaterThan(70);
    expect(fits[1].gap).toBeLessThan(-40);
    expect(fits[0].closing).toBeCloseTo(8, 0);
    expect(Math.abs(fits[0].direction)).toBeLessThan(1);
  });

  it('the furthest reach is the frame on which the arm is stretched', () => {
    const reaching = masksOf((f) => ({ x: 140, y: 95, tall: 110, arm: f < 7 ? f / 7 : 1 - (f - 7) / 7 }), 14);
    expect(furthestReach(reaching, 'right')).toBe(7);
    expect(furthestReach([null, null], 'right')).toBeNull();
  });

  it('two figures meet at their hands, though an elbow or a foot reaches further', () => {
    const mask = (...boxes: [number, number, number, number][]): Mask => {
      const data = new Uint8Array(W * H);
      for (const [x, y, w, h] of boxes) for (let j = y; j < y + h; j++) data.fill(1, j * W + x, j * W + x + w);
      return { width: W, height: H, data };
    };
    // A body with a hand at 60 and a foot that reaches to 110; another whose hand waits at the height of the first.
    const a = mask([40, 40, 20, 120], [60, 60, 30, 6], [60, 150, 50, 10]);
    const b = mask([140, 40, 20, 120], [98, 62, 42, 6]);
    const met = meetingOf(a, b);
    expect(met?.gap).toBeCloseTo(8, 5);
    expect(met?.a.x).toBeCloseTo(89.5, 5);
    expect(met?.a.y).toBeGreaterThan(60);
    expect(met?.a.y).toBeLessThan(67);
    const [fit] = rankPairs(
      [{ take: 'a', frame: 0, x: 110, y: 155, vx: 1, vy: 0, exposure: 0 }],
      [{ take: 'b', frame: 0, x: 98, y: 64, vx: 0, vy: 0, exposure: 0 }],
      4,
      720,
      () => null,
      () => met,
    );
    expect(fit.gap).toBeCloseTo(32, 5);
    expect(Math.abs(fit.height)).toBeLessThan(12);
    // Twelve grid pixels of the one in the other.
    const into = meetingOf(a, mask([140, 40, 20, 120], [78, 62, 62, 6]));
    expect(into?.gap).toBe(-12);
    expect(meetingOf(a, mask())).toBeNull();
  });

  it('nobody there is no reach', () => {
    expect(reachAt('x', [null, null], 1, 'left', null)).toBeNull();
  });
});
