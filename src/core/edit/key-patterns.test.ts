import { describe, expect, it } from 'vitest';
import { sceneOf } from '../evaluate';
import { type Key, keyAt, numberAt, placeFrame, still } from '../layer';
import { stagedProject } from '../staged';
import { beatFrames, PATTERNS, type Pattern, repeatedKeys, withPattern } from './key-patterns';
import { plainShot } from './propose';

const PROJECT = stagedProject();
const scene = sceneOf(PROJECT, plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 24, offset: 0 }, { layers: [] }));
const frames = (keys: readonly Key[]) => keys.map((k) => placeFrame(scene, k));
const onBeat = (beat: number) => placeFrame(scene, { beat, offset: 0 });
const pattern = (more: Partial<Pattern>): Pattern => ({ kind: 'pulse', amount: 10, every: 2, seed: 4, ...more });

describe('keys again', () => {
  it('frames on every so many beats, from a frame on to the shot’s end', () => {
    expect(beatFrames(scene, scene.first, 4)).toEqual([0, 4, 8, 12].map(onBeat));
    expect(beatFrames(scene, onBeat(3) + 1, 2)[0]).toBe(onBeat(4));
    expect(beatFrames(scene, onBeat(3) + 1, 4, true)).toEqual([4, 8, 12].map(onBeat));
    expect(beatFrames(scene, scene.first, 0)).toEqual([]);
  });
  it('a few keys repeated on beats keep their way between them; those past the end are left out', () => {
    const keys = [keyAt(0, 0, 100), keyAt(0, 3, 120, 'ease out'), keyAt(0, 6, 100)];
    const all = repeatedKeys(
      scene,
      keys,
      new Set([scene.first, scene.first + 3, scene.first + 6]),
      [4, 8, 15.9].map((b) => Math.round(onBeat(b))),
    );
    const starts = [onBeat(0), onBeat(4), onBeat(8)];
    for (const start of starts)
      for (const [off, value] of [
        [0, 100],
        [3, 120],
        [6, 100],
      ])
        expect(numberAt(scene, all, 0, start + off)).toBeCloseTo(value, 9);
    expect(Math.max(...frames(all))).toBeLessThan(scene.end);
    expect(all.filter((k) => k.easing === 'ease out').length).toBeGreaterThanOrEqual(3);
    expect(repeatedKeys(scene, keys, new Set([1]), [onBeat(4)])).toEqual(keys);
  });
});

describe('patterns are ordinary keys', () => {
  it('a pulse comes on the hits it is given from a frame on, and on none beyond the shot', () => {
    const on = [scene.first - 9, scene.first + 7, scene.first + 40, scene.end + 3];
    const keys = withPattern(scene, still(100), pattern({ on }), 100, scene.first + 1);
    const value = (frame: number) => numberAt(scene, keys, 100, frame);
    expect(on.map(value)).toEqual([100, 110, 110, 100]);
    expect(value(scene.first + 12)).toBe(100);
  });

  it.each(PATTERNS)('%s begins where it is laid, stays within its amount, keeps what was before, and is the same twice', (kind) => {
    const before = [keyAt(0, 0, 50), keyAt(1, 0, 60), keyAt(9, 0, 80)];
    const from = onBeat(4);
    const made = withPattern(scene, before, pattern({ kind, every: kind === 'pulse' ? 2 : 6 }), 60, from);
    expect(made).toEqual(withPattern(scene, before, pattern({ kind, every: kind === 'pulse' ? 2 : 6 }), 60, from));
    expect(made.slice(0, 2)).toEqual(before.slice(0, 2));
    const own = made.slice(2);
    expect(Math.min(...frames(own))).toBeGreaterThanOrEqual(from);
    expect(Math.max(...frames(own))).toBeLessThan(scene.end);
    for (const { value } of own) expect(Math.abs(value - 60)).toBeLessThanOrEqual(10);
    expect(frames(made)).toEqual([...frames(made)].sort((a, b) => a - b));
  });
  it('a pulse is on its beats and back five frames later', () => {
    const made = withPattern(scene, still(100), pattern({ every: 4 }), 100, scene.first + 1);
    const value = (frame: number) => numberAt(scene, made, 100, frame);
    for (const beat of [4, 8, 12]) {
      expect(value(onBeat(beat))).toBe(110);
      expect(value(onBeat(beat) + 5)).toBe(100);
    }
  });
  it('a shake is over after its frames, a drift reaches its amount on the last one', () => {
    const shaken = withPattern(scene, still(0), pattern({ kind: 'shake', every: 10 }), 0, scene.first);
    expect(Math.abs(numberAt(scene, shaken, 0, scene.first))).toBeGreaterThan(6);
    for (let f = scene.first + 10; f < scene.end; f++) expect(numberAt(scene, shaken, 0, f)).toBe(0);
    const drifted = withPattern(scene, still(100), pattern({ kind: 'drift' }), 100, scene.first);
    expect(numberAt(scene, drifted, 0, scene.end - 1)).toBeCloseTo(110, 6);
  });
  it('another seed is another way', () => {
    const ways = [1, 2].map((seed) =>
      withPattern(scene, still(0), pattern({ kind: 'wiggle', every: 5, seed }), 0, scene.first).map((k) => k.value),
    );
    expect(ways[0]).not.toEqual(ways[1]);
  });
});
