import { parseMidi } from 'midi-file';
import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { barAndBeat, constantBeatMap, withBarsFrom } from '../time';
import { beatListCsv, chaptersVtt, mapOfList } from './beat-list';
import { mapOfMidi, midiOfMap } from './midi-map';

/** A map whose beats drift, rounded to microseconds. */
function drifting(count: number, first: number, bar1: number, beatsPerBar: number) {
  const random = randomSource(11);
  let t = first;
  const beats = Array.from({ length: count }, () => {
    const at = t;
    t += 0.4 + 0.2 * random();
    return Math.round(at * 1e6) / 1e6;
  });
  return { beats, bar1, beatsPerBar };
}

describe('tempo map as a Standard MIDI File', () => {
  it.each([
    ['with a lead-in', drifting(200, 0.734_217, 2, 4)],
    ['from the first sample', drifting(64, 0, 0, 3)],
    ['bar 1 before its first beat', drifting(40, 0.1, -5, 4)],
    ['bar 1 after its last beat', drifting(12, 1.9, 15, 6)],
    ['a long lead-in', drifting(20, 31.000_001, 0, 4)],
    ['bars that change their length', withBarsFrom(withBarsFrom(drifting(60, 0.5, 1, 4), 16, 3), 22, 6)],
    ['a bar cut short', withBarsFrom(drifting(40, 0.2, 0, 4), 10, 4)],
  ])('comes back to the tick: %s', (_, map) => {
    const parts = [{ beat: -map.bar1 + 4, name: 'Verse' }];
    const first = midiOfMap(map, parts);
    const read = mapOfMidi(first);
    expect(read).toEqual({ ok: true, map, parts, notes: [] });
    if (read.ok) expect(midiOfMap(read.map, read.parts)).toEqual(first);
  });

  it('is a file other readers find the tempo in: bytes by SMF 1.0', () => {
    const bytes = midiOfMap(constantBeatMap(120, 0, 5));
    expect([...bytes.slice(0, 4)]).toEqual([0x4d, 0x54, 0x68, 0x64]);
    // Meta event 0x51, three bytes: 500 000 microseconds a quarter note.
    expect(bytes.join()).toContain([0xff, 0x51, 3, 0x07, 0xa1, 0x20].join());
    const { tracks } = parseMidi(bytes);
    expect(tracks[0].find((e) => e.type === 'timeSignature')).toMatchObject({ numerator: 4, denominator: 4 });
  });

  it('reads one from elsewhere: two tempos in a track of their own, six-eight', () => {
    const chunk = (id: string, data: number[]) => [...id].map((c) => c.charCodeAt(0)).concat([0, 0, 0, data.length], data);
    const bytes = Uint8Array.from([
      ...chunk('MThd', [0, 1, 0, 2, 0, 96]),
      ...chunk(
        'MTrk',
        [0, 0xff, 0x58, 4, 6, 3, 24, 8, 0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20, 0x81, 0x40, 0xff, 0x51, 3, 0x0f, 0x42, 0x40, 0, 0xff, 0x2f, 0],
      ),
      ...chunk('MTrk', [0, 0x90, 60, 90, 0x82, 0x40, 0x80, 60, 0, 0, 0xff, 0x2f, 0]),
    ]);
    const read = mapOfMidi(bytes);
    expect(read.ok && read.map).toEqual({ beats: [0, 0.25, 0.5, 0.75, 1, 1.5, 2], bar1: 0, beatsPerBar: 6 });
  });

  it('says of bars it cannot count in the first note value', () => {
    const map = constantBeatMap(120, 0, 17);
    const bytes = midiOfMap(withBarsFrom(map, 8, 3));
    // The second signature as 3/8, in beats of a quarter: one and a half.
    const at = bytes.findIndex((_, i) => i > 30 && bytes[i] === 0xff && bytes[i + 1] === 0x58 && bytes[i + 3] === 3);
    bytes[at + 4] = 3;
    expect(mapOfMidi(bytes)).toMatchObject({ ok: true, map: { beatsPerBar: 4 }, notes: [expect.stringMatching(/bars of 3\/8 cannot be/)] });
  });

  it('says why a file cannot be read', () => {
    expect(mapOfMidi(new TextEncoder().encode('not a song at all'))).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/not a MIDI file/),
    });
    expect(mapOfMidi(midiOfMap(constantBeatMap(120, 0, 5)).slice(0, 30))).toMatchObject({ ok: false });
  });
});

describe('beats as a list', () => {
  it('comes back from its own file', () => {
    const map = drifting(30, 0.2, 2, 3);
    const parts = [
      { beat: -2, name: 'Intro, quiet' },
      { beat: 4, name: 'Verse' },
    ];
    const read = mapOfList(beatListCsv(map, parts));
    expect(read).toEqual({ ok: true, map, parts, notes: [] });
  });

  it.each([
    ['a time a line', '0.5\n1.0\n1.5\n', [0.5, 1, 1.5], 0, 4],
    ['decimal commas', '0,5\n1,0\n1,5', [0.5, 1, 1.5], 0, 4],
    ['minutes', '0:59.5\n1:00.25\n1:01', [59.5, 60.25, 61], 0, 4],
    ['time and beat of the bar', '0.5\t3\n1.0\t1\n1.5\t2\n2.0\t3\n2.5\t1', [0.5, 1, 1.5, 2, 2.5], 1, 3],
    ['time, bar and beat', '# beats\r\n0.5, 2, 4\r\n1.0, 3, 1\r\n', [0.5, 1], -7, 4],
    ['bar and beat as one', '0.5 1.3\n1.0 1.4\n1.5 2.1\n', [0.5, 1, 1.5], -2, 4],
  ])('reads %s', (_, text, beats, bar1, beatsPerBar) => {
    expect(mapOfList(text)).toMatchObject({ ok: true, map: { beats, bar1, beatsPerBar } });
  });

  it('counts its bars as they are listed, a bar cut short among them', () => {
    const map = withBarsFrom(withBarsFrom(drifting(60, 0.5, 3, 4), 10, 3), 22, 6);
    const read = mapOfList(beatListCsv(map));
    const counted = (m: typeof map) => m.beats.map((_, i) => barAndBeat(m, i - m.bar1));
    expect(read.ok && counted(read.map)).toEqual(counted(map));
  });

  it('says which line is wrong, and what may be missing', () => {
    expect(mapOfList('0.5\nsoon\n1.5')).toMatchObject({ ok: false, reason: expect.stringMatching(/Line 2 \(“soon”\)/) });
    expect(mapOfList('0.5\n0.4\n1.5')).toMatchObject({ ok: false, reason: expect.stringMatching(/Beat 2/) });
    expect(mapOfList('')).toMatchObject({ ok: false });
    expect(mapOfList('0\n0.5\n1\n2\n2.5')).toMatchObject({ notes: [expect.any(String), expect.stringMatching(/One gap/)] });
  });
});

describe('parts as WebVTT chapters', () => {
  it('has a cue from part to part', () => {
    const map = constantBeatMap(120, 0.25, 64);
    const text = chaptersVtt(
      map,
      [
        { beat: 16, name: 'Verse <1>' },
        { beat: 0, name: 'Intro' },
      ],
      31.5,
    );
    expect(text).toBe(
      'WEBVTT\n\nbar 0\n00:00:00.000 --> 00:00:00.250\nLead-in\n\nbar 1\n00:00:00.250 --> 00:00:08.250\nIntro\n\nbar 5\n00:00:08.250 --> 00:00:31.500\nVerse &lt;1&gt;\n',
    );
  });

  it('writes hours, and one chapter where there are no parts', () => {
    const text = chaptersVtt(constantBeatMap(120, 0, 8000), [{ beat: 7300, name: 'Late' }], 4000);
    expect(text).toContain('01:00:50.000 --> 01:06:40.000\nLate');
    expect(chaptersVtt(constantBeatMap(120, 0, 8), [], 4)).toContain('00:00:00.000 --> 00:00:04.000\nSong');
  });
});
