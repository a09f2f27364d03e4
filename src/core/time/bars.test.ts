import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withRandomBars } from '../staged/bars';
import {
  barAndBeat,
  barChanges,
  barStart,
  barToBeat,
  beatsInBar,
  inBars,
  isDownbeat,
  movedChanges,
  nearestBarLine,
  withBar1,
  withBarLineAt,
  withBarsFrom,
  withBarsLater,
} from './bars';
import { constantBeatMap } from './beatmap';
import { doubled, halved, withBar1At, withStretch } from './correct';

const even = constantBeatMap(120, 0, 80);
/** Four bars of four, two of three, then six in a bar. */
const changing = withBarsFrom(withBarsFrom(even, 16, 3), 22, 6);

describe('bars of changing length', () => {
  it('are counted as a drummer counts them', () => {
    const counted = [0, 3, 4, 15, 16, 18, 19, 21, 22, 27, 28].map((beat) => {
      const { bar, beat: inBar } = barAndBeat(changing, beat);
      return `${bar}.${inBar}`;
    });
    expect(counted).toEqual(['1.1', '1.4', '2.1', '4.4', '5.1', '5.3', '6.1', '6.3', '7.1', '7.6', '8.1']);
    expect([1, 4, 5, 6, 7, 8].map((bar) => barToBeat(changing, bar))).toEqual([0, 12, 16, 19, 22, 28]);
    expect([4, 5, 6, 7].map((bar) => beatsInBar(changing, bar))).toEqual([4, 3, 3, 6]);
    expect(inBars(changing)).toBe('4 in a bar, 3 from bar 5, 6 from bar 7');
  });

  it('go on before bar 1 at its own length', () => {
    expect(barAndBeat(changing, -1)).toEqual({ bar: 0, beat: 4 });
    expect(barToBeat(changing, -1)).toBe(-8);
  });

  it('a change in the middle of a bar cuts that bar short', () => {
    const cut = withBarsFrom(even, 10, 4);
    expect(beatsInBar(cut, 3)).toBe(2);
    expect(barAndBeat(cut, 10)).toEqual({ bar: 4, beat: 1 });
    expect(barToBeat(cut, 4)).toBe(10);
    expect(nearestBarLine(cut, 9.4)).toBe(10);
    expect(nearestBarLine(cut, 8.4)).toBe(8);
  });

  it('parts of a bar lie in that bar: the middle of a bar of three, and of six', () => {
    expect(barToBeat(changing, 5.5)).toBe(17.5);
    expect(barToBeat(changing, 7.5)).toBe(25);
  });

  it('a bar and its beat lead back to the beat, and each bar begins where the one before ends: any map', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: -20, max: 200 }), (seed, beat) => {
        const map = withRandomBars(even, seed);
        const { bar, beat: inBar } = barAndBeat(map, beat);
        expect(barToBeat(map, bar) + inBar - 1).toBe(beat);
        expect(inBar).toBeLessThan(beatsInBar(map, bar) + 1);
        expect(barToBeat(map, bar) + beatsInBar(map, bar)).toBe(barToBeat(map, bar + 1));
        expect(isDownbeat(map, beat)).toBe(inBar === 1);
        expect(barStart(map, beat)).toBe(barToBeat(map, bar));
      }),
    );
  });
});

describe('bars set by hand', () => {
  it('what changes nothing is not kept', () => {
    expect(withBarsFrom(even, 16, 4)).toEqual(even);
    expect(withBarsFrom(withBarsFrom(even, 16, 3), 16, 4)).toEqual(even);
    expect(withBarsFrom(even, 0, 3)).toEqual({ ...even, beatsPerBar: 3 });
  });

  it('a bar line pulled on moves what comes after the last change, and nothing before it', () => {
    const moved = withBarLineAt(changing, 17);
    expect(barChanges(moved)).toEqual([
      { beat: 17, bar: 6, beatsPerBar: 3 },
      { beat: 22, bar: 8, beatsPerBar: 6 },
    ]);
    expect(barToBeat(moved, 4)).toBe(12);
    expect(withBarLineAt(even, 6).bar1).toBe(2);
  });

  it('bar 1 put on a later beat keeps the bars from there on', () => {
    const later = withBar1At(changing, 19 / 2);
    expect(later).toEqual(withBar1(changing, 19));
    expect([later.bar1, later.beatsPerBar]).toEqual([19, 3]);
    expect(barChanges(later)).toEqual([{ beat: 3, bar: 2, beatsPerBar: 6 }]);
    expect(withBarsLater(changing).changes?.map((c) => c.at)).toEqual([17, 23]);
  });

  it('twice as many beats and half as many keep the changes at their times', () => {
    const times = (map: typeof even) => barChanges(map).map(({ beat }) => map.beats[beat + map.bar1]);
    expect(times(doubled(changing))).toEqual(times(changing));
    expect(times(halved(doubled(changing)))).toEqual(times(changing));
  });

  it('a change whose beat is gone goes with it; of two that come to one beat the later counts', () => {
    expect(barChanges({ ...changing, ...movedChanges(changing, () => null) })).toEqual([]);
    const near = withBarsFrom(withBarsFrom(even, 17, 3), 18, 5);
    expect(barChanges(halved(near)).map(({ beat, beatsPerBar }) => [beat, beatsPerBar])).toEqual([[9, 5]]);
  });

  it('a stretch tapped anew before a change shifts it with the beats it stands on', () => {
    const denser = withStretch(
      changing,
      Array.from({ length: 9 }, (_, k) => 2 + k / 4),
      false,
    );
    const [first] = barChanges(denser);
    expect(denser.beats[first.beat + denser.bar1]).toBe(8);
  });
});
