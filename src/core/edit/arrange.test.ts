import { describe, expect, it } from 'vitest';
import type { Project } from '../document';
import { describeFrame, filmFrames, shotFrames } from '../evaluate';
import { stagedMove, stagedProject } from '../staged';
import { constantBeatMap, frameToSeconds, secondsToBeat } from '../time';
import { anchorOn, copiedShot, movedShot, repeats, SNAPS, shotOfShots, snapped, trimmedShot } from './arrange';
import { moveEvents, takesOf, withEvents, withStart, withTakes } from './places';
import { proposePlain } from './propose';

const at = (beat: number, offset = 0) => ({ beat, offset });
const project = (...rate: [number, number] | []): Project => stagedProject(112, rate.length ? { num: rate[0], den: rate[1] } : undefined);
const plain = (p: Project, id: string, from: number, to: number, take = 't1') => proposePlain(p, id, at(from), at(to), take);
type Layers = ReturnType<typeof describeFrame>['layers'];
/** What is seen on every frame of the film, numbers to a millionth. */
const seen = (p: Project) => {
  const [first, end] = filmFrames(p);
  const rounded = (_: string, value: unknown) => (typeof value === 'number' ? Math.round(value * 1e6) / 1e6 : value);
  return Array.from({ length: end - first }, (_, i) => JSON.parse(JSON.stringify(describeFrame(p, first + i).layers, rounded))) as Layers[];
};

describe('what a drag comes to rest on', () => {
  const p = project();
  const map = p.song?.map ?? constantBeatMap(120, 0, 60);

  it('is the nearest of what it may rest on, and resting twice changes nothing', () => {
    const hits = [1, 2.02, 5];
    for (const snap of SNAPS)
      for (let beat = 0; beat < 12; beat += 0.37) {
        const rest = snapped(p, beat, snap, hits);
        expect(snapped(p, rest, snap, hits)).toBeCloseTo(rest, 9);
      }
    expect(snapped(p, 3.4, 'beat')).toBe(3);
    expect(snapped(p, 3.4, 'half beat')).toBe(3.5);
    expect(snapped(p, secondsToBeat(map, 2.4), 'hit', hits)).toBeCloseTo(secondsToBeat(map, 2.02), 9);
  });

  it('a frame is within half a frame of where it was dropped, at any rate', () => {
    for (const rate of [
      [25, 1],
      [24000, 1001],
      [60, 1],
    ] as const) {
      const other = project(...rate);
      for (let beat = 0; beat < 20; beat += 0.71) {
        const time = (b: number) => 0.25 + (b * 60) / 112;
        expect(Math.abs(time(snapped(other, beat, 'frame')) - time(beat))).toBeLessThanOrEqual(
          frameToSeconds(0.5, other.frame.rate) + 1e-9,
        );
      }
    }
  });

  it('without hits a hit is a frame; an anchor off the half beats keeps its distance in frames', () => {
    expect(snapped(p, 3.37, 'hit', [])).toBe(snapped(p, 3.37, 'frame'));
    expect(anchorOn(map, 3.5, p.frame.rate)).toEqual(at(3.5));
    const anchor = anchorOn(map, 3.3, p.frame.rate);
    expect(2 * anchor.beat).toBe(Math.round(2 * anchor.beat));
    expect(anchor.offset).not.toBe(0);
  });
});

describe('a shot on the score', () => {
  it('moved takes its layers, keys and its move with it; before the song it stays', () => {
    const p = project();
    const shot = stagedMove(p, 'whip', 16, ['t1', 't2']);
    p.shots = [shot];
    const before = seen(p);
    // Fifteen seconds at 112 BPM, a whole number of frames.
    const moved = movedShot(p, shot, 28);
    p.shots = [moved];
    expect(seen(p)).toEqual(before);
    expect(movedShot(p, shot, -400)).toBe(shot);
  });

  it('trimmed keeps at least a frame, never begins before the song, and leaves what is in it', () => {
    const p = project();
    const shot = plain(p, 'a', 4, 12);
    const [first, end] = shotFrames(p, shot);
    expect(shotFrames(p, trimmedShot(p, shot, 'start', end + 50))).toEqual([end - 1, end]);
    expect(shotFrames(p, trimmedShot(p, shot, 'end', first - 50))).toEqual([first, first + 1]);
    expect(shotFrames(p, trimmedShot(p, shot, 'start', -30))[0]).toBe(0);
    p.shots = [shot];
    const whole = seen(p);
    p.shots = [trimmedShot(p, shot, 'start', first + 7)];
    expect(seen(p)).toEqual(whole.slice(7));
  });

  it('a copy shares nothing with the shot it is of', () => {
    const p = project();
    const shot = stagedMove(p, 'freeze', 16, ['t1']);
    const copy = copiedShot(p, shot, 'copy', 4);
    copy.layers[0].name = 'changed';
    expect(shot.layers[0].name).not.toBe('changed');
    expect(copy.start.beat).toBe(shot.start.beat + 4);
  });

  it('is repeated as often as whole copies fit', () => {
    const p = project();
    const shot = plain(p, 'a', 0, 4);
    expect(repeats(p, shot, 1, 16)).toEqual([4, 8, 12]);
    expect(repeats(p, shot, 1, 15.9)).toEqual([4, 8]);
    expect(repeats(p, shot, 2, 3)).toEqual([]);
  });
});

describe('shots put into one', () => {
  it('show on every frame what they showed apart, at any rate, wherever the one is moved', () => {
    for (const rate of [
      [25, 1],
      [24000, 1001],
    ] as const) {
      const p = project(...rate);
      const inside = [stagedMove(p, 'whip', 8, ['t1', 't2'], {}, 'a'), plain(p, 'b', 12, 18.5, 't3')];
      p.shots = inside;
      const flat = (q: Project) =>
        seen(q).map((layers) =>
          layers.map(({ source }) => ('picture' in source ? (source as { picture: { layers: unknown } }).picture.layers : null)),
        );
      const apart = seen(p);
      const one = shotOfShots(p, inside, 'one');
      if (!one) throw new Error('no shot');
      const q: Project = { ...p, shots: [one], nestedShots: inside };
      expect(shotFrames(q, one)).toEqual(filmFrames(p));
      const nested = flat(q);
      expect(nested).toHaveLength(apart.length);
      // Each frame shows one of the shots as a picture of its own.
      for (const [i, layers] of nested.entries()) if (layers.length === 1) expect(layers[0]).toEqual(apart[i]);
    }
  });

  it('of none there is none; of one it has its name', () => {
    const p = project();
    expect(shotOfShots(p, [], 'one')).toBeNull();
    const shot = plain(p, 'a', 0, 4);
    expect(shotOfShots(p, [shot], 'one')?.name).toBe(shot.name);
    expect(shotOfShots(p, [shot, plain(p, 'b', 4, 8)], 'one')?.name).toBe(`${shot.name} and more`);
  });
});

describe('places within a shot', () => {
  it('begun on another beat everything in it stays where it is in the song', () => {
    const p = project();
    const shot = stagedMove(p, 'ramp', 16, ['t1']);
    const events = (s: typeof shot) => moveEvents(s);
    const other = withStart(shot, at(shot.start.beat + 1.5));
    expect(events(other).map(([name, place]) => [name, place.beat])).toEqual(events(shot).map(([name, place]) => [name, place.beat]));
    expect(withStart(other, shot.start)).toEqual(shot);
  });

  it('events of one name are moved, others stay', () => {
    const p = project();
    const shot = stagedMove(p, 'freeze', 16, ['t1']);
    if (!shot.move) throw new Error('no move');
    const [[name]] = moveEvents(shot);
    const move = withEvents(shot.move, name, ({ beat, offset }) => ({ beat: beat + 1, offset }));
    const now = moveEvents({ ...shot, move });
    for (const [i, [event, place]] of moveEvents(shot).entries()) expect(now[i][1].beat - place.beat).toBe(event === name ? 1 : 0);
    expect(withEvents(shot.move, 'no such event', () => at(99))).toEqual(shot.move);
  });

  it('takes are named once, bottom first, and chosen anew in layers and move', () => {
    const p = project();
    const shot = stagedMove(p, 'split', 16, ['t1', 't2', 't3']);
    expect(new Set(takesOf(shot))).toEqual(new Set(['t1', 't2', 't3']));
    expect(takesOf(shot)).toHaveLength(3);
    const swapped = withTakes(shot, (id) => (id === 't2' ? 't3' : id));
    expect(takesOf(swapped)).not.toContain('t2');
    expect(JSON.stringify(swapped.move)).not.toContain('"t2"');
    expect(withTakes(shot, (id) => id)).toEqual(shot);
  });
});
