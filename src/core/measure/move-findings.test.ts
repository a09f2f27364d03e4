import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import type { LockReading } from './lock';
import { moveFindings, slowMove } from './move-findings';
import type { Similarity } from './similarity';
import { summarise, type TakeLock } from './verdict';

const [W, H] = [1280, 720];
/** A take of ten seconds whose picture lies as `at` says, with the noise of a measure. */
function filmed(at: (t: number) => Partial<Similarity>, trusted = (_: number) => true): TakeLock {
  const random = randomSource(12);
  const times = Array.from({ length: 250 }, (_, i) => i / 25);
  const readings = times.map((t): LockReading => {
    const { dx = 0, dy = 0, turn = 0, scale = 1 } = at(t);
    const noise = () => 0.02 * (random() - 0.5);
    return { dx: dx + noise(), dy: dy + noise(), turn, scale: scale + noise() / 1000, trusted: trusted(t), inliers: 1, agreeing: [] };
  });
  return summarise(
    times,
    readings,
    times.map(() => null),
    W,
    H,
  );
}

describe('slow movement of the camera', () => {
  it('a drift is told with its size and its seconds', () => {
    const lock = filmed((t) => ({ dx: 0.24 * t, dy: -0.07 * t }));
    expect(slowMove(lock, W, H)?.drift).toBeCloseTo(2.5, 1);
    expect(moveFindings(lock, W, H)).toEqual([expect.stringMatching(/^The picture drifts by 2\.5 px from 0\.0 to 10\.0 s/)]);
  });

  it('breathing is told with how far a corner goes and how often: a tenth of a per cent is 0.7 px at the corner of 720p', () => {
    const lock = filmed((t) => ({ scale: 1 + 0.001 * Math.sin((2 * Math.PI * t) / 2.5) }));
    const slow = slowMove(lock, W, H);
    expect(slow?.breathing?.size).toBeCloseTo(0.73, 1);
    expect(Math.abs((slow?.breathing?.period ?? 0) - 2.5)).toBeLessThan(0.4);
    expect(moveFindings(lock, W, H)).toEqual([expect.stringMatching(/^The picture breathes: its corner goes in and out by 0\.[78] px/)]);
  });

  it('a camera that stands is neither, nor one that is knocked and stands again; a slow zoom does not breathe', () => {
    expect(
      moveFindings(
        filmed(() => ({})),
        W,
        H,
      ),
    ).toEqual([]);
    expect(
      moveFindings(
        filmed((t) => (t < 4 ? {} : { dx: 6, dy: 2 })),
        W,
        H,
      ),
    ).toEqual([]);
    expect(
      slowMove(
        filmed((t) => ({ scale: 1 + 0.004 * t })),
        W,
        H,
      )?.breathing,
    ).toBeNull();
  });

  it('nothing is said of what cannot be followed for two seconds', () => {
    expect(
      slowMove(
        filmed(
          (t) => ({ dx: t }),
          (t) => t < 1.5,
        ),
        W,
        H,
      ),
    ).toBeNull();
  });
});
