import baboon from 'baboon-image';
import { describe, expect, it } from 'vitest';
import { type FigureAt, photographBackground, type StagedOptions, StagedTake } from '../staged';
import { emptyTakes, glanced } from './empty-takes';
import { cleanPlate } from './plate';

const [W, H] = [640, 360];
const rgb = (x: number, y: number) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] as const;
/** A photograph that ships in the npm package baboon-image. */
const photograph = photographBackground({ width: 512, height: 512, rgb }, W, H);

let seed = 1;
function seen(figure: ((frame: number) => FigureAt) | null, more: Partial<StagedOptions> = {}, count = 12) {
  const take = new StagedTake({ background: photograph, figure, seed: seed++, noise: 3, ...more });
  const frames = Array.from({ length: count }, (_, k) => take.frame(8 * k));
  return glanced(frames, cleanPlate(frames, false));
}
const STANDS = { y: 190, tall: 220, arm: 0.3 };
/** Stands on one place for the whole take and moves an arm. */
const plays = (x: number) => seen((f) => ({ ...STANDS, x, arm: 0.5 + 0.4 * Math.sin(f / 9) }));
const frozen = (x: number) => seen(() => ({ ...STANDS, x }));
const walks = seen((f) => ({ ...STANDS, x: 90 + 5 * f }));
const nobody = seen(null);
const table: StagedOptions['background'] = (x, y, f) =>
  Math.abs(x - 430) < 45 && Math.abs(y - 250) < 40 ? [60, 120, 140] : photograph(x, y, f);

describe('a take in which nobody is seen', () => {
  it('is told beside one who walks, and beside some who stand on their places and move', () => {
    expect(emptyTakes([walks, nobody])).toEqual([false, true]);
    expect(emptyTakes([plays(180), nobody])).toEqual([false, true]);
    expect(emptyTakes([plays(180), plays(450), nobody])).toEqual([false, false, true]);
    expect(emptyTakes([nobody, seen(null)])).toEqual([true, true]);
  });

  it('is told in other noise and with the set a part of a pixel aside', () => {
    const aside = seen(null, { noise: 7, pose: () => ({ dx: 0.4, dy: -0.3, turn: 0, scale: 1 }) });
    expect(emptyTakes([plays(300), aside])).toEqual([false, true]);
  });

  it('is none in which somebody stands still, though another moves elsewhere', () => {
    expect(emptyTakes([frozen(180), plays(450)])).toEqual([false, false]);
    expect(emptyTakes([frozen(180), frozen(450)])).toEqual([false, false]);
    expect(emptyTakes([frozen(200), walks, plays(520)])).toEqual([false, false, false]);
  });

  it('cannot be told where two empty ones differ, nor of a single take or of too few frames', () => {
    expect(emptyTakes([nobody, seen(null, { background: table })])).toEqual([false, false]);
    expect(emptyTakes([nobody])).toEqual([false]);
    expect(seen(null, {}, 3)).toBeNull();
    expect(emptyTakes([nobody, null])).toEqual([false, false]);
    expect(emptyTakes([nobody, null, walks])).toEqual([true, false, false]);
  });
});
