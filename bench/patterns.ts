/** Accompaniment patterns of the Debian package `mma`, at random tempi, keys and dresses, played by `fluidsynth`: songs to fit on. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { played } from './play';
import { beatsOf, UNSEEN } from './songs';

const LIBRARY = '/usr/share/mma/lib/stdlib';
const PROGRESSIONS = ['C Am F G Em Am Dm G7', 'A A D E7', 'Dm7 G7 CM7 A7', 'G D Em C', 'C C C C F F C C G7 F C C'];
/** Samples a second of what is played. */
export const PLAYED_RATE = 22050;

/** A pattern at a tempo and in a key, with or without drums, in the words of `mma`; null for files that are no patterns. */
function pattern(file: string, random: () => number): { text: string; meter: number; beat: number; bars: number } | null {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const source = readFileSync(join(LIBRARY, file), 'latin1');
  const names = [...source.matchAll(/^\s*DefGroove\s+(\S+)/gm)].map((m) => m[1]).filter((n) => !/Intro|End|Fill|Sus/.test(n));
  const meter = Number(/^\s*Time\s+(\d+)/m.exec(source)?.[1] ?? 4);
  if (!names.length || /^(metronome|none)/.test(file)) return null;
  const slow = /slow|ballad|lullaby|hymn|spirit|128|bolero/.test(file);
  const fast = /fast|bebop|viene|bluegrass|quick|jive|charleston|polka/.test(file);
  const [low, high] = meter === 6 ? [150, 230] : slow ? [58, 95] : fast ? [130, 182] : [70, 165];
  const dress = pick(['', '', '', 'Drum Off', 'bare']);
  const chords = pick(PROGRESSIONS).split(' ');
  const each = pick([1, 1, 2]);
  const bars = 20;
  const lines = [
    `Time ${meter}`,
    `Tempo ${Math.round(low + (high - low) * random())}`,
    `Groove ${pick(names)}`,
    `Transpose ${Math.floor(12 * random()) - 5}`,
  ];
  if (dress === 'bare') lines.push('Drum Off', 'Bass Off');
  else if (dress) lines.push(dress);
  for (let bar = 1; bar <= bars; bar++) {
    if (dress === 'bare' && bar === 6) lines.push('Drum On', 'Bass On');
    lines.push(`${bar} ${chords[Math.floor((bar - 1) / each) % chords.length]}`);
  }
  return { text: `${lines.join('\n')}\n`, meter, beat: meter === 6 ? 3 : 1, bars };
}

/** One pattern played, once for a folder, with its MIDI file's own beats; null where it is none or cannot be played. */
export function playedPattern(folder: string, file: string, name: string, random: () => number) {
  const made = pattern(file, random);
  if (!made) return null;
  try {
    const { mid, wav } = played(folder, name, made.text, PLAYED_RATE);
    return { wav, ...beatsOf(mid, made.bars, { meter: made.meter, beat: made.beat }) };
  } catch {
    return null;
  }
}

/** The library's files of patterns, but those that are kept unseen. */
export function patternFiles(): string[] {
  const kept = new Set(UNSEEN.map((p) => p.groove.toLowerCase()));
  return readdirSync(LIBRARY).filter((f) => f.endsWith('.mma') && !kept.has(f.slice(0, -4)));
}
