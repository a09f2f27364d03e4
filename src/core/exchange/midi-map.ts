import { type MidiEvent, parseMidi, writeMidi } from 'midi-file';
import { type BeatMap, barAndBeat, barChanges, isDownbeat, withBarsFrom } from '../time';
import { around, type Seconds } from '../units';
import { say } from '../words';
import { checkedMap, type MapRead, type NamedBeat } from './map-read';

/** Ticks of a beat in the files written here. */
const TICKS = 960;
/** The longest beat a set-tempo event can say: 24 bits of microseconds. */
const LONGEST = 0xffffff;

const FIRST = say`First beat`;
const PART = 'Part: ';

/**
 * The tempo map of a song as a Standard MIDI File (format 0, SMF 1.0): a set-tempo event a beat, so that each beat keeps its own
 * length to a microsecond, the time signatures, bar numbers and parts as markers. Tick 0 is the start of the sound; what comes before
 * the first beat is a lead-in of whole bars. Beats before the sound begins are left out. Throws where a beat lasts over 16.7 s.
 */
export function midiOfMap(map: BeatMap, parts: readonly NamedBeat[] = []): Uint8Array {
  const skipped = map.beats.findIndex((t) => t >= -1e-6);
  const micros = map.beats.slice(Math.max(0, skipped)).map((t) => Math.round(t * 1e6));
  const bar1 = map.bar1 - Math.max(0, skipped);
  if (skipped < 0 || micros.length < 2) throw new Error(say`There are no two beats within the sound to write down.`);
  const lead = leadIn(micros[0], micros[1] - micros[0], bar1, map.beatsPerBar);
  const written: { tick: number; order: number; event: MidiEvent }[] = [];
  const put = (tick: number, order: number, event: MidiEvent) => written.push({ tick, order, event });
  const tempo = (tick: number, length: number) => {
    if (length > LONGEST) throw new Error(say`A beat of more than 16.7 seconds cannot be written in a MIDI file.`);
    put(tick, 1, { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: length });
  };
  const signature = (tick: number, numerator: number) =>
    put(tick, 0, { deltaTime: 0, meta: true, type: 'timeSignature', numerator, denominator: 4, metronome: 24, thirtyseconds: 8 });
  signature(0, map.beatsPerBar);
  for (const { beat, beatsPerBar } of barChanges(map)) {
    const tick = (lead + beat + bar1) * TICKS;
    if (tick > 0) signature(tick, beatsPerBar);
  }
  // A lead-in that does not divide evenly gives what is left over to its last beats, a microsecond each.
  for (let k = 0; k < lead; k++) tempo(k * TICKS, Math.floor((micros[0] + k) / lead));
  put(lead * TICKS, 2, { deltaTime: 0, meta: true, type: 'cuePoint', text: FIRST });
  for (const [i, t] of micros.entries()) {
    const tick = (lead + i) * TICKS;
    if (i + 1 < micros.length) tempo(tick, micros[i + 1] - t);
    if (isDownbeat(map, i - bar1))
      put(tick, 3, { deltaTime: 0, meta: true, type: 'marker', text: say`Bar ${barAndBeat(map, i - bar1).bar}` });
  }
  for (const { beat, name } of parts) {
    const at = beat + bar1;
    if (at >= 0 && at < micros.length)
      put(Math.round((lead + at) * TICKS), 4, { deltaTime: 0, meta: true, type: 'marker', text: `${PART}${name}` });
  }
  put((lead + micros.length - 1) * TICKS, 9, { deltaTime: 0, meta: true, type: 'endOfTrack' });
  written.sort((a, b) => a.tick - b.tick || a.order - b.order);
  const track = written.map(({ tick, event }, i) => ({ ...event, deltaTime: tick - (written[i - 1]?.tick ?? 0) }));
  return Uint8Array.from(writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: TICKS }, tracks: [track] }));
}

/** Beats of the lead-in: so many that bar 1 falls on a bar line, each about as long as the first beat. */
function leadIn(before: number, beat: number, bar1: number, beatsPerBar: number): number {
  const needed = around(-bar1, beatsPerBar);
  if (before === 0) return 0;
  let count = needed || beatsPerBar;
  while (before / count > Math.min(LONGEST, 1.5 * beat)) count += beatsPerBar;
  return count;
}

interface TempoChange {
  tick: number;
  micros: number;
}

/** Seconds of a tick under a list of tempo changes in order. */
function clock(tempos: readonly TempoChange[], ticksPerBeat: number): (tick: number) => Seconds {
  const starts: number[] = [];
  let [time, from, micros] = [0, 0, 500_000];
  for (const t of tempos) {
    time += ((t.tick - from) / ticksPerBeat) * micros;
    [from, micros] = [t.tick, t.micros];
    starts.push(time);
  }
  return (tick) => {
    let k = tempos.length - 1;
    while (k >= 0 && tempos[k].tick > tick) k--;
    return k < 0
      ? ((tick / ticksPerBeat) * 500_000) / 1e6
      : (starts[k] + ((tick - tempos[k].tick) / ticksPerBeat) * tempos[k].micros) / 1e6;
  };
}

/**
 * Reads the tempo map of a Standard MIDI File: a beat for each note value its time signature counts in, from the file's own start (or
 * the cue point "First beat") to its last event; markers become parts. Beats are of the first time signature's note value throughout; bars
 * change their length where the signature does. Where the file cannot be read the reason is given.
 */
export function mapOfMidi(bytes: Uint8Array): MapRead {
  const read = eventsOf(bytes);
  if (!read) return { ok: false, reason: say`This is not a MIDI file that can be read. Your beat map is as it was.` };
  if (!read.ticksPerBeat)
    return {
      ok: false,
      reason: say`This MIDI file counts in timecode, not in beats, so it holds no tempo map. Your beat map is as it was.`,
    };
  const { events, ticksPerBeat, end } = read;
  const tempos: TempoChange[] = [];
  const signatures: { tick: number; numerator: number; denominator: number }[] = [];
  const markers: { tick: number; text: string }[] = [];
  for (const { tick, event } of events) {
    if (event.type === 'setTempo') {
      if (tempos.at(-1)?.tick === tick) tempos.pop();
      tempos.push({ tick, micros: event.microsecondsPerBeat });
    } else if (event.type === 'timeSignature') signatures.push({ tick, numerator: event.numerator, denominator: event.denominator });
    else if (event.type === 'marker' || event.type === 'cuePoint') markers.push({ tick, text: event.text.trim() });
  }
  const { numerator = 4, denominator = 4 } = signatures[0] ?? {};
  const beatTicks = (ticksPerBeat * 4) / denominator;
  const from = markers.find((m) => m.text === FIRST)?.tick ?? 0;
  const count = Math.floor((end - from) / beatTicks + 1e-9) + 1;
  if (count < 2) return { ok: false, reason: say`This MIDI file is shorter than two beats. Your beat map is as it was.` };
  if (count > 100_000)
    return { ok: false, reason: say`This MIDI file has more than a hundred thousand beats. Your beat map is as it was.` };
  const seconds = clock(tempos, ticksPerBeat);
  const beats = Array.from({ length: count }, (_, k) => Math.round(seconds(from + k * beatTicks) * 1e6) / 1e6);
  const beatsPerBar = Math.max(2, Math.min(12, numerator));
  const numbered = markers
    .map((m) => ({ ...m, bar: Number(/^Bar (-?\d+)$/.exec(m.text)?.[1] ?? Number.NaN) }))
    .find((m) => !Number.isNaN(m.bar));
  const bar1 = numbered
    ? Math.round((numbered.tick - from) / beatTicks) - (numbered.bar - 1) * beatsPerBar
    : Math.round(-from / beatTicks) + 0;
  const parts = markers
    .filter((m) => m.text && m.text !== FIRST && !/^Bar -?\d+$/.test(m.text))
    .map((m) => ({
      beat: Math.round((m.tick - from) / beatTicks) - bar1,
      name: m.text.startsWith(PART) ? m.text.slice(PART.length) : m.text,
    }));
  const notes: string[] = [];
  if (numerator !== beatsPerBar) notes.push(say`It has ${numerator} beats in a bar; ${beatsPerBar} are counted.`);
  let map: BeatMap = { beats, bar1, beatsPerBar };
  for (const s of signatures) {
    const [at, inBar] = [(s.tick - from) / beatTicks - bar1, (s.numerator * denominator) / s.denominator];
    if (s.tick === 0 || at <= 0) continue;
    if (Number.isInteger(inBar) && inBar <= 12 && Math.abs(at - Math.round(at)) < 0.01) map = withBarsFrom(map, Math.round(at), inBar);
    else
      notes.push(
        say`Its bars of ${s.numerator}/${s.denominator} cannot be counted in beats of 1/${denominator}; they are counted as before.`,
      );
  }
  return checkedMap(map, parts, notes);
}

interface Timed {
  tick: number;
  event: MidiEvent;
}

/** All events of a file in order of time, and the tick of the last; null where it cannot be read. */
function eventsOf(bytes: Uint8Array): { events: Timed[]; ticksPerBeat: number | undefined; end: number } | null {
  try {
    const { header, tracks } = parseMidi(bytes);
    const events: Timed[] = [];
    let end = 0;
    for (const track of tracks) {
      let tick = 0;
      for (const event of track) {
        tick += event.deltaTime;
        events.push({ tick, event });
      }
      end = Math.max(end, tick);
    }
    return { events: events.sort((a, b) => a.tick - b.tick), ticksPerBeat: header.ticksPerBeat, end };
  } catch {
    return null;
  }
}
