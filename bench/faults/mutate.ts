import { randomSource } from '../../src/core/room/index';

export const pick = <T>(random: () => number, list: readonly T[]): T => list[Math.floor(random() * list.length)];

/** Numbers that indexes and counts break on. */
const EXTREMES = [0, 1, 0x7f, 0xff, 0x7fff, 0xffff, 0x7fffffff, 0x80000000, 0xfffffffe, 0xffffffff, 0x00ffffff, 20_000, 100_000_000];
const SIGNATURES = ['PK\x01\x02', 'PK\x03\x04', 'PK\x07\x08', 'moov', 'mdat', 'OggS', 'fLaC', 'ID3\x04', '\x1aE\xdf\xa3'];
/** Boxes whose numbers lead to the pictures (ISO/IEC 14496-12), and the heads of other containers. */
const BOXES = [
  'moov',
  'mvhd',
  'trak',
  'tkhd',
  'mdhd',
  'stsd',
  'stts',
  'ctts',
  'stsc',
  'stsz',
  'stco',
  'stss',
  'elst',
  'avcC',
  'moof',
  'trun',
  'OggS',
  'fLaC',
  'fmt ',
  'data',
];

function placesOf(bytes: Buffer, text: string): number[] {
  const places: number[] = [];
  for (let at = bytes.indexOf(text, 0, 'latin1'); at >= 0 && places.length < 50; at = bytes.indexOf(text, at + 1, 'latin1'))
    places.push(at);
  return places;
}

type Mutation = (bytes: Buffer, random: () => number) => Buffer;

const within = (random: () => number, length: number) => Math.floor(random() * length);

const MUTATIONS: Record<string, Mutation> = {
  cut: (bytes, random) => bytes.subarray(0, within(random, bytes.length)),
  'cut after the head': (bytes, random) => bytes.subarray(0, 8 + within(random, 200)),
  'flip bytes': (bytes, random) => {
    const out = Buffer.from(bytes);
    for (let n = 1 + within(random, 60); n > 0; n--) out[within(random, out.length)] ^= 1 << within(random, 8);
    return out;
  },
  'flip in the head': (bytes, random) => {
    const out = Buffer.from(bytes);
    for (let n = 1 + within(random, 20); n > 0; n--) out[within(random, Math.min(4096, out.length))] = within(random, 256);
    return out;
  },
  zero: (bytes, random) => {
    const out = Buffer.from(bytes);
    const at = within(random, out.length);
    out.fill(0, at, Math.min(out.length, at + within(random, out.length)));
    return out;
  },
  'all zero but the head': (bytes, random) => {
    const out = Buffer.from(bytes);
    out.fill(0, Math.min(out.length, 40 + within(random, 400)));
    return out;
  },
  noise: (bytes, random) => {
    const out = Buffer.from(bytes);
    const at = within(random, out.length);
    for (let i = at; i < Math.min(out.length, at + 5000); i++) out[i] = within(random, 256);
    return out;
  },
  repeat: (bytes, random) => {
    const at = within(random, bytes.length);
    const part = bytes.subarray(at, at + within(random, 20_000));
    return Buffer.concat([bytes.subarray(0, at), part, part, bytes.subarray(at)]);
  },
  remove: (bytes, random) => {
    const at = within(random, bytes.length);
    return Buffer.concat([bytes.subarray(0, at), bytes.subarray(at + 1 + within(random, 20_000))]);
  },
  'foreign signature': (bytes, random) => {
    const at = within(random, bytes.length);
    return Buffer.concat([bytes.subarray(0, at), Buffer.from(pick(random, SIGNATURES), 'latin1'), bytes.subarray(at)]);
  },
  'numbers in a box': (bytes, random) => {
    const out = Buffer.from(bytes);
    const known = BOXES.filter((box) => out.includes(box, 0, 'latin1'));
    if (known.length === 0) return MUTATIONS['flip in the head'](bytes, random);
    for (let n = 1 + within(random, 3); n > 0; n--) {
      const at = pick(random, placesOf(out, pick(random, known)));
      const place = at + 4 * (within(random, 9) - 1);
      if (place >= 0 && place + 4 <= out.length) out.writeUInt32BE(pick(random, EXTREMES), place);
    }
    return out;
  },
  'a thousand tracks': (bytes) => {
    const at = bytes.indexOf('trak', 0, 'latin1') - 4;
    const moov = bytes.indexOf('moov', 0, 'latin1') - 4;
    if (at < 0 || moov < 0) return bytes;
    const length = bytes.readUInt32BE(at);
    const track = bytes.subarray(at, at + length);
    const more = Array.from({ length: 1000 }, () => track);
    const out = Buffer.concat([bytes.subarray(0, at), ...more, bytes.subarray(at)]);
    out.writeUInt32BE(Math.min(0xffffffff, bytes.readUInt32BE(moov) + 1000 * length), moov);
    return out;
  },
};

/** One damaged form of a file and what was done to it; the same for the same seed. */
export function mutated(bytes: Buffer, seed: number): { bytes: Buffer; what: string } {
  const random = randomSource(seed);
  const names = Object.keys(MUTATIONS);
  const done = [pick(random, names)];
  // Some files are damaged twice.
  if (random() < 0.25) done.push(pick(random, names));
  return { bytes: done.reduce((b, name) => (b.length > 0 ? MUTATIONS[name](b, random) : b), bytes), what: done.join(' and ') };
}

const JUNK: readonly unknown[] = [
  null,
  '',
  'x',
  0,
  -1,
  0.5,
  1e9,
  -1e9,
  1e300,
  true,
  [],
  {},
  [[]],
  'media',
  { id: 'x' },
  '../../etc',
  '='.repeat(400),
];

/** A project document with some of its values replaced, removed, doubled or swapped. */
export function mutatedDocument(document: unknown, seed: number): { document: unknown; what: string } {
  const random = randomSource(seed);
  const copy = structuredClone(document) as Record<string, unknown>;
  const done: string[] = [];
  for (let n = 1 + within(random, 4); n > 0; n--) {
    let at = copy;
    const path: string[] = [];
    for (;;) {
      const keys = Object.keys(at);
      if (keys.length === 0) break;
      const key = pick(random, keys);
      path.push(key);
      const next = at[key];
      if (typeof next === 'object' && next !== null && random() < 0.8) {
        at = next as Record<string, unknown>;
        continue;
      }
      const how = random();
      if (how < 0.2) delete at[key];
      else if (how < 0.3 && Array.isArray(at)) at.push(next);
      else if (how < 0.4) at[key] = at[pick(random, keys)];
      else at[key] = structuredClone(pick(random, JUNK));
      break;
    }
    done.push(path.join('.'));
  }
  return { document: copy, what: done.join(', ') };
}
