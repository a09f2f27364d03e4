import { describe, expect, it } from 'vitest';
import { emptyProject, type Project } from '../document';
import { keyAt, plainLayer, remapKeyAt } from '../layer';
import type { Alignment } from '../song';
import { type BeatMap, beatToSeconds, constantBeatMap } from '../time';
import { plainShot } from './propose';
import { retimed } from './retime';
import { retimedToRecording } from './retime-recording';

const map = constantBeatMap(120, 0.5, 200);
function laid(): Project {
  const project = emptyProject('p', 'Slide');
  const shot = (id: string, from: number, to: number) =>
    plainShot(
      id,
      id,
      { beat: from, offset: 0 },
      { beat: to, offset: 2 },
      {
        layers: [
          plainLayer('one', 'One', 0, { kind: 'take', takeId: 'a' }, [remapKeyAt(0, 0, 1)], {
            numbers: { scale: [keyAt(0, 0, 100), keyAt(2.25, 1, 110)] },
          }),
        ],
      },
    );
  return {
    ...project,
    song: {
      mediaId: 's',
      map,
      parts: [
        { beat: 0, name: 'Intro', tape: 0 },
        { beat: 32, name: 'Verse', tape: 1 },
        { beat: 64, name: 'Chorus', tape: 2 },
      ],
    },
    shots: [shot('early', 8, 12.5), shot('middle', 40, 44), shot('late', 80, 96)],
    sound: {
      ...project.sound,
      song: {
        ...project.sound.song,
        gains: [
          { beat: 41, gain: -3 },
          { beat: 90, gain: -6 },
        ],
      },
    },
  };
}

/** Where the anchors of the shots are, in seconds of the song. */
const times = (shots: Project['shots'], on: BeatMap) =>
  shots.flatMap((s) => [beatToSeconds(on, s.start.beat), beatToSeconds(on, s.end.beat)]);

describe('another mix: 3.217 s later and 2 % faster', () => {
  const alignment: Alignment = { share: 1, pieces: [{ from: 0, to: 100.5, offset: 3.217, rate: 1 / 1.02 }] };
  const slid = retimedToRecording(laid(), map, alignment, null, 102);

  it('moves every anchor to the right place within a millisecond, beats and offsets as they were', () => {
    const before = times(laid().shots, map);
    for (const [i, t] of times(slid.shots, slid.map).entries()) expect(Math.abs(t - (3.217 + before[i] / 1.02))).toBeLessThan(0.001);
    expect(slid.shots.map((s) => s.end.offset)).toEqual([2, 2, 2]);
    expect(slid.shots.map((s) => s.layers[0].numbers.scale?.[1])).toEqual(
      [2.25, 2.25, 2.25].map((beat) => ({ ...keyAt(0, 1, 110), beat: expect.closeTo(beat, 6) })),
    );
    expect(slid.lost).toEqual([]);
  });

  it('keeps the bars: what was bar 1 is bar 1', () => {
    expect(slid.shots.map((s) => s.start.beat)).toEqual([8, 40, 80]);
    expect(slid.parts.map((p) => p.beat)).toEqual([0, 32, 64]);
    expect(slid.map.beats[0]).toBeLessThan(0.6);
    expect(slid.map.beats[slid.map.bar1]).toBeCloseTo(3.217 + 0.5 / 1.02, 9);
  });
});

describe('another edit', () => {
  // From 16 to 28 s of the old song is gone.
  const alignment: Alignment = {
    share: 0.88,
    pieces: [
      { from: 0, to: 16.02, offset: 0, rate: 1 },
      { from: 28, to: 100.5, offset: -12, rate: 1 },
    ],
  };
  const slid = retimedToRecording(laid(), map, alignment, null, 88.5);

  it('sets aside and names what lay in the stretch that is gone, and closes up the rest', () => {
    expect(slid.shots.map((s) => s.id)).toEqual(['early', 'late']);
    expect(slid.unplacedShots).toEqual([laid().shots[1]]);
    expect(slid.lost).toEqual(['the shot “middle”', 'a gain of -3 dB on the song']);
    const late = slid.shots[1];
    expect(beatToSeconds(slid.map, late.start.beat)).toBeCloseTo(0.5 + 80 / 2 - 12, 6);
    expect(late.start.beat).toBeCloseTo(80 - 24, 6);
  });

  it('begins a part whose beginning is gone where the rest of it does', () => {
    expect(slid.parts.map((p) => [p.name, p.beat])).toEqual([
      ['Intro', 0],
      ['Verse', 32],
      ['Chorus', 40],
    ]);
  });
});

describe('what hangs on the song when its map changes', () => {
  it('stays at its instants', () => {
    const other = constantBeatMap(100, 0.2, 170);
    const hung = retimed(laid(), map, other);
    const [before, after] = [times(laid().shots, map), times(hung.shots, other)];
    for (const [i, t] of after.entries()) expect(Math.abs(t - before[i])).toBeLessThan(0.35);
    expect(beatToSeconds(other, hung.sound.song.gains[0].beat)).toBeCloseTo(beatToSeconds(map, 41), 9);
  });
});
