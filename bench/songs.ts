/**
 * A set of songs with exact truth: accompaniment patterns of the Debian package `mma`, played by `fluidsynth` with the General MIDI
 * sounds of `fluid-soundfont-gm`. Beats come from the tempo map of the MIDI file itself. `bench/clips` holds short pieces of some
 * for the tests.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { parseMidi } from 'midi-file';
import { analyseSong, beatContinuity, beatFMeasure } from '../src/core/song';
import { played, SOUNDS, samplesOf } from './play';

interface Pattern {
  name: string;
  groove: string;
  /** Beats of the pattern a minute: quarters, in six-eight eighths. */
  bpm: number;
  /** Beats of the pattern in a bar, and how many of them make one beat as it is counted. */
  meter: number;
  beat?: number;
  bars?: number;
  /** Bars at the beginning with no drums and no bass. */
  bare?: number;
  /** From a bar on, to a tempo, over some bars (0 at once). */
  change?: { bar: number; bpm: number; over: number };
}

interface SongTruth {
  name: string;
  /** Its pattern was kept out of the fit (`fit-beats.py`). */
  unseen: boolean;
  wav: string;
  beats: number[];
  downbeats: number[];
  /** Beats a minute as counted where it is constant; null where it changes. */
  bpm: number | null;
}

/** Patterns the fit has heard too, at other tempi and in other keys. */
const LOOKED_AT: readonly Pattern[] = [
  { name: 'rock 120', groove: '8Beat', bpm: 120, meter: 4 },
  { name: 'basic rock 92', groove: 'BasicRock', bpm: 92, meter: 4 },
  { name: 'rock ballad 66', groove: 'RockBallad', bpm: 66, meter: 4, bars: 20 },
  { name: 'house 128', groove: 'Trance', bpm: 128, meter: 4 },
  { name: 'soft rock 104', groove: 'SoftRock', bpm: 104, meter: 4, bare: 6 },
  { name: 'rhythm and blues 84', groove: 'R&B', bpm: 84, meter: 4, bars: 24 },
  { name: 'shuffle 132', groove: 'ShuffleBoggie', bpm: 132, meter: 4 },
  { name: 'swing 160', groove: 'Swing', bpm: 160, meter: 4 },
  { name: 'fast swing 180', groove: 'Swing', bpm: 180, meter: 4, bars: 44 },
  { name: 'waltz 96', groove: 'Waltz', bpm: 96, meter: 3 },
  { name: 'jazz waltz 150', groove: 'JazzWaltz', bpm: 150, meter: 3, bars: 44 },
  { name: 'rock waltz 112', groove: 'RockWaltz', bpm: 112, meter: 3 },
  { name: 'six-eight 72', groove: '68Swing', bpm: 216, meter: 6, beat: 3 },
  { name: 'ska 144', groove: 'Ska', bpm: 144, meter: 4 },
  { name: 'bossa nova 126', groove: 'BossaNova', bpm: 126, meter: 4 },
  { name: 'samba 100', groove: 'Samba', bpm: 100, meter: 4 },
  { name: 'blues 76', groove: 'Blues', bpm: 76, meter: 4, bars: 24 },
  { name: 'piano ballad 60', groove: 'PianoBallad', bpm: 60, meter: 4, bars: 18 },
  { name: 'bluegrass 112', groove: 'BlueGrass', bpm: 112, meter: 4 },
  { name: 'twist 152', groove: 'Twist', bpm: 152, meter: 4, bare: 8 },
  { name: 'rock 100, then 124', groove: '8Beat', bpm: 100, meter: 4, change: { bar: 16, bpm: 124, over: 0 } },
  { name: 'rock 108 rising to 132', groove: 'BasicRock', bpm: 108, meter: 4, change: { bar: 8, bpm: 132, over: 16 } },
  { name: 'swing 120 falling to 96', groove: 'Swing', bpm: 120, meter: 4, change: { bar: 10, bpm: 96, over: 12 } },
];

/** Patterns the fit leaves out. */
export const UNSEEN: readonly Pattern[] = [
  { name: 'folk rock 98', groove: 'FolkRock', bpm: 98, meter: 4 },
  { name: 'foxtrot 116', groove: 'Foxtrot', bpm: 116, meter: 4 },
  { name: 'rhumba 106', groove: 'Rhumba', bpm: 106, meter: 4 },
  { name: 'polka 118', groove: 'Polka', bpm: 118, meter: 4 },
  { name: 'tango 124', groove: 'Tango', bpm: 124, meter: 4 },
  { name: 'cha-cha 122', groove: 'ChaCha', bpm: 122, meter: 4 },
  { name: 'country blues 90', groove: 'CountryBlues', bpm: 90, meter: 4 },
  { name: 'French waltz 140', groove: 'FrenchWaltz', bpm: 140, meter: 3 },
  { name: 'Viennese waltz 168', groove: 'VieneseWaltz', bpm: 168, meter: 3, bars: 48 },
  { name: 'jazz rock 109', groove: 'JazzRock', bpm: 109, meter: 4 },
  { name: 'mambo 94', groove: 'Mambo', bpm: 94, meter: 4 },
  { name: 'merengue 130', groove: 'Merengue', bpm: 130, meter: 4 },
  { name: 'pop ballad 74', groove: 'PopBallad', bpm: 74, meter: 4, bars: 22 },
  { name: 'salsa 90', groove: 'Salsa', bpm: 90, meter: 4 },
  { name: 'slow jazz 72', groove: 'SlowJazz', bpm: 72, meter: 4, bars: 22 },
  { name: 'strut 136', groove: 'Strut', bpm: 136, meter: 4 },
  { name: 'fifties rock 148', groove: '50sRock', bpm: 148, meter: 4 },
  { name: 'sixties rock 142', groove: '60sRock', bpm: 142, meter: 4 },
  { name: 'disco 117', groove: 'BoneyM', bpm: 117, meter: 4 },
  { name: 'soul 96', groove: 'DSoul', bpm: 96, meter: 4, bare: 6 },
  { name: 'bubble rock 126', groove: 'BubbleRock', bpm: 126, meter: 4 },
  { name: 'Latin fusion 102', groove: 'LFusion', bpm: 102, meter: 4 },
  { name: 'soft shoe 110', groove: 'Softshoe', bpm: 110, meter: 4 },
  { name: 'sixties rock 120, then 96', groove: '60sRock', bpm: 120, meter: 4, change: { bar: 15, bpm: 96, over: 0 } },
  { name: 'foxtrot 96 rising to 126', groove: 'Foxtrot', bpm: 96, meter: 4, change: { bar: 9, bpm: 126, over: 14 } },
];

const CHORDS = ['C', 'Am', 'F', 'G', 'Em', 'Am', 'Dm', 'G7'];

function score({ groove, bpm, meter, bars = 32, bare = 0, change }: Pattern): string {
  const lines = [`Time ${meter}`, `Tempo ${bpm}`, `Groove ${groove}`];
  if (bare) lines.push('AllTracks Off', 'Chord On', 'Arpeggio On');
  for (let bar = 1; bar <= bars; bar++) {
    if (bare && bar === bare + 1) lines.push('AllTracks On');
    if (change && bar === change.bar) lines.push(`Tempo ${change.bpm}${change.over ? ` ${change.over}` : ''}`);
    lines.push(`${bar} ${CHORDS[((bar - 1) >> 1) % CHORDS.length]}`);
  }
  return `${lines.join('\n')}\n`;
}

/** Seconds of each beat of a MIDI file, from its tempo map. */
export function beatsOf(
  file: string,
  bars: number,
  { meter, beat = 1 }: Pick<Pattern, 'meter' | 'beat'>,
): { beats: number[]; downbeats: number[] } {
  const { header, tracks } = parseMidi(readFileSync(file));
  const ticks = header.ticksPerBeat ?? 192;
  const tempos: { tick: number; micros: number }[] = [];
  for (const track of tracks) {
    let tick = 0;
    for (const event of track) {
      tick += event.deltaTime;
      if (event.type === 'setTempo') tempos.push({ tick, micros: event.microsecondsPerBeat });
    }
  }
  tempos.sort((a, b) => a.tick - b.tick);
  const at = (tick: number) => {
    let [time, from, micros] = [0, 0, 500_000];
    for (const t of tempos) {
      if (t.tick > tick) break;
      time += ((t.tick - from) / ticks) * (micros / 1e6);
      [from, micros] = [t.tick, t.micros];
    }
    return time + ((tick - from) / ticks) * (micros / 1e6);
  };
  const count = (bars * meter) / beat;
  const beats = Array.from({ length: count }, (_, k) => at(k * beat * ticks));
  return { beats, downbeats: beats.filter((_, k) => k % (meter / beat) === 0) };
}

/** Renders the set into a folder, once; null without the programs for it. */
function songSet(folder: string): SongTruth[] | null {
  if (!existsSync('/usr/bin/mma') || !existsSync('/usr/bin/fluidsynth') || !existsSync(SOUNDS)) return null;
  mkdirSync(folder, { recursive: true });
  return [...LOOKED_AT.map((p) => ({ ...p, unseen: false })), ...UNSEEN.map((p) => ({ ...p, unseen: true }))].map((pattern) => {
    const name = pattern.name.replaceAll(/\W+/g, '-');
    const { mid, wav } = played(folder, name, score(pattern), 44100);
    const { beat = 1, bars = 32 } = pattern;
    return {
      name: pattern.name,
      unseen: pattern.unseen,
      wav,
      ...beatsOf(mid, bars, pattern),
      bpm: pattern.change ? null : pattern.bpm / beat,
    };
  });
}

/** What, ours, aubio's: scored as mir_eval does, the first five seconds left out. Null without the programs that make the set. */
export function songRows(folder: string): [string, string, string][] | null {
  const set = songSet(folder);
  if (!set) return null;
  const scored = set.map((song) => {
    const found = analyseSong([samplesOf(song.wav, 44100)], 44100);
    const beats = found.map?.beats ?? [];
    const { bar1, beatsPerBar } = found.map ?? { bar1: 0, beatsPerBar: 4 };
    const bars = beats.filter((_, i) => (((i - bar1) % beatsPerBar) + beatsPerBar) % beatsPerBar === 0);
    const heard = execFileSync('aubiotrack', [song.wav]).toString().trim().split('\n').map(Number);
    return {
      ...song,
      ours: beatFMeasure(beats, song.beats),
      goOn: beatContinuity(beats, song.beats),
      bars: beatFMeasure(bars, song.downbeats),
      theirs: beatFMeasure(heard, song.beats),
      right: song.bpm !== null && Math.abs(found.bpm / song.bpm - 1) < 0.005,
    };
  });
  const rows = [false, true].map((unseen): [string, string, string] => {
    const some = scored.filter((s) => s.unseen === unseen);
    const mean = (pick: (s: (typeof scored)[number]) => number) => (some.reduce((sum, s) => sum + pick(s), 0) / some.length).toFixed(2);
    const steady = some.filter((s) => s.bpm !== null);
    return [
      `${some.length} songs of patterns ${unseen ? 'kept out of the fit' : 'the fit has heard too'}`,
      `beats ${mean((s) => s.ours)}, continuity (CMLt) ${mean((s) => s.goOn)}, bar lines ${mean((s) => s.bars)}; tempo within 0.5 % on ${steady.filter((s) => s.right).length} of ${steady.length}`,
      `beats ${mean((s) => s.theirs)}`,
    ];
  });
  const worst = scored.filter((s) => s.ours < 0.8).map((s) => `${s.name} ${s.ours.toFixed(2)}`);
  return [...rows, ['under 0.8', worst.join(', ') || 'none', '']];
}
