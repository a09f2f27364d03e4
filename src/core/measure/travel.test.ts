import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import type { Similarity } from './similarity';
import { matchTravel, matchWords, paceWords, travelOf, travelWords, withoutTravel } from './travel';

const [W, H] = [1280, 720];
const FPS = 25;

/** How far along its way a motorised slider is: rests a second, speeds up and slows down like a cosine, rests again. */
const way = (t: number) => 0.5 - 0.5 * Math.cos(Math.PI * Math.min(1, Math.max(0, (t - 1) / 5)));

/** Readings of a take, frame by frame, with the noise that measured readings have. */
function readings(at: (t: number) => Partial<Similarity>, seconds = 8, noise = 0.02) {
  const random = randomSource(3);
  const stray = () => noise * (random() + random() + random() - 1.5);
  const times = Array.from({ length: seconds * FPS }, (_, i) => i / FPS);
  return {
    times,
    readings: times.map((t) => {
      const move = { dx: 0, dy: 0, turn: 0, scale: 1, ...at(t) };
      return { ...move, dx: move.dx + stray(), dy: move.dy + stray(), trusted: true };
    }),
  };
}

describe('a camera that moves by intent', () => {
  it('is told with its way and its seconds', () => {
    const travel = travelOf(
      readings((t) => ({ dx: -200 * way(t), dy: 10 * way(t) })),
      W,
      H,
    );
    expect(Math.abs((travel?.dx ?? 0) + 200)).toBeLessThan(2);
    expect(travel?.dy).toBeCloseTo(10, 0);
    expect(travel?.from).toBeLessThan(1.5);
    expect(travel?.to).toBeGreaterThan(5.5);
    expect(travel && travelWords(travel)).toMatch(/^The camera moves to the right by (199|200) px from 1\.\d to [56]\.\d s\.$/);
  });

  it('a push is told by what it moves at the corner', () => {
    const travel = travelOf(
      readings((t) => ({ scale: 1 + 0.2 * way(t) })),
      W,
      H,
    );
    expect(Math.abs((travel?.grows ?? 0) / (Math.hypot(W, H) / 2) - 0.2)).toBeLessThan(0.002);
    expect(travel && travelWords(travel)).toMatch(/^The camera moves in by 14[67] px at the corner/);
  });

  it.each([
    ['a camera that stands', () => ({})],
    ['a knock', (t: number) => ({ dx: t > 3 ? 80 : 0 })],
    ['a phone lifted for half a second and put down elsewhere', (t: number) => ({ dx: 120 * Math.min(1, Math.max(0, (t - 3) / 0.5)) })],
    ['a phone that slides in its stand', (t: number) => ({ dy: 1.5 * t })],
    ['focus that hunts', (t: number) => ({ scale: 1 + 0.004 * Math.sin(2 * t) })],
  ])('is not %s', (_, at) => {
    expect(travelOf(readings(at), W, H)).toBeNull();
  });

  it('a knock on its way is left when the way is taken out', () => {
    const knocked = readings((t) => ({ dx: -200 * way(t) + (t > 3 ? 4 : 0) }));
    const left = withoutTravel(knocked.readings);
    const level = (from: number, to: number) => left.slice(from, to).reduce((sum, r) => sum + r.dx, 0) / (to - from);
    expect(level(77, 82) - level(70, 75)).toBeCloseTo(4, 0);
    for (const r of withoutTravel(readings((t) => ({ dx: -200 * way(t) })).readings)) expect(Math.abs(r.dx)).toBeLessThan(1);
  });
});

describe('two takes of one move', () => {
  const half = Math.hypot(W, H) / 2;
  const theirs = readings((t) => ({ dx: -200 * way(t), scale: 1 + 0.02 * way(t) }));

  it.each([
    [0, 1],
    [0.48, 1],
    [-0.73, 1.02],
    [0.3, 0.95],
  ])('begun %f s apart at %f of the pace are matched to a hundredth of a frame’s time', (offset, rate) => {
    const u = (t: number) => offset + rate * t;
    const mine = readings((t) => ({ dx: -200 * way(u(t)) + 0.3, scale: 1 + 0.02 * way(u(t)) }));
    const match = matchTravel(mine, theirs, half);
    // In the middle of the move; 0.3 px of another stand are 4 ms there.
    expect(Math.abs((match?.offset ?? 9) + 3 * (match?.rate ?? 0) - u(3))).toBeLessThan(0.008);
    expect(match?.rate).toBeCloseTo(rate, 2);
  });

  it('frames where somebody stands before everything have no say', () => {
    const mine = readings((t) => ({ dx: -200 * way(t + 0.4), scale: 1 + 0.02 * way(t + 0.4) }));
    const covered = mine.readings.map((r, i) => (i > 40 && i < 80 ? { ...r, dx: 33, trusted: false } : r));
    expect(matchTravel({ ...mine, readings: covered }, theirs, half)?.offset).toBeCloseTo(0.4, 2);
  });

  it('another move is none of this one', () => {
    expect(
      matchTravel(
        readings((t) => ({ dy: -200 * way(t) })),
        theirs,
        half,
      ),
    ).toBeNull();
    expect(
      matchTravel(
        readings((t) => ({ dx: 150 * way(t) })),
        theirs,
        half,
      ),
    ).toBeNull();
  });

  it('in words', () => {
    expect(matchWords({ offset: -0.48, rate: 1.02, spread: 0 })).toBe('0.48 s later than there, and 2.0 % faster');
    expect(paceWords({ offset: 0, rate: 1.02, spread: 0 })).toBe(' At a speed of 98.0 % it stays with it.');
    expect(paceWords({ offset: 0, rate: 1.0005, spread: 0 })).toBe('');
    expect(matchWords({ offset: 0.001, rate: 1, spread: 0 })).toBe('at the same seconds');
  });
});
