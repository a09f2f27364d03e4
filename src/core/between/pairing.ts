import { say } from '../words';
/** How a browser is reached, for another one on the same network: what its WebRTC description says, without the words around it. */
export interface Reach {
  kind: 'offer' | 'answer';
  /** ICE user fragment and password, RFC 8839 5.4: 4 and 22 characters or more, of letters, digits, + and /. */
  ufrag: string;
  pwd: string;
  /** SHA-256 of its certificate, RFC 8122: 32 bytes. */
  fingerprint: Uint8Array;
  /** Where it listens: an IPv4 address, an IPv6 address of eight groups, or a name that ends in .local; with a port. At most 8. */
  hosts: readonly { address: string; port: number }[];
}

/** The alphabet of RFC 4648, section 6: no 0, 1, 8 or 9 that could be misread; those are read as the letters they look like. */
const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';
const LOOKS_LIKE: Record<string, string> = { '0': 'O', '1': 'I', '8': 'B' };
const VERSION = 1;
const MOST_HOSTS = 8;
/** Characters in a group of the code as it is shown. */
const GROUP = 5;
const UUID = /^([0-9a-f]{8})-([0-9a-f]{4})-([0-9a-f]{4})-([0-9a-f]{4})-([0-9a-f]{12})\.local$/i;

/** CRC-16 of ITU-T V.41 as it is used with a start of all ones (its published check value: 29B1 of "123456789"). */
export function crc16(bytes: Uint8Array): number {
  let crc = 0xffff;
  for (const byte of bytes) {
    crc ^= byte << 8;
    for (let bit = 0; bit < 8; bit++) crc = crc & 0x8000 ? ((crc << 1) ^ 0x1021) & 0xffff : (crc << 1) & 0xffff;
  }
  return crc;
}

/** Bytes in base 32 after RFC 4648, without padding. */
export function base32(bytes: Uint8Array): string {
  let text = '';
  let [held, bits] = [0, 0];
  for (const byte of bytes) {
    held = ((held << 8) | byte) & 0xfff;
    bits += 8;
    for (; bits >= 5; bits -= 5) text += ALPHABET[(held >> (bits - 5)) & 31];
  }
  return bits > 0 ? text + ALPHABET[(held << (5 - bits)) & 31] : text;
}

/** Bytes of a text in base 32; null where it holds something else. */
export function fromBase32(text: string): Uint8Array | null {
  const bytes: number[] = [];
  let [held, bits] = [0, 0];
  for (const letter of text) {
    const value = ALPHABET.indexOf(LOOKS_LIKE[letter] ?? letter);
    if (value < 0) return null;
    held = ((held << 5) | value) & 0xfff;
    bits += 5;
    if (bits >= 8) {
      bits -= 8;
      bytes.push((held >> bits) & 255);
    }
  }
  return Uint8Array.from(bytes);
}

/** A host's address as bytes behind a byte that tells its kind: 0 a .local name of 16 bytes, 4 and 6 the versions of IP. */
function addressBytes(address: string): number[] | null {
  const name = UUID.exec(address);
  if (name) return [0, ...(name.slice(1).join('').match(/../g) ?? []).map((h) => Number.parseInt(h, 16))];
  const four = address.split('.').map(Number);
  if (four.length === 4 && four.every((n) => Number.isInteger(n) && n >= 0 && n < 256)) return [4, ...four];
  // An address of IPv6 in full; the one run of zeros that may be left out is put back.
  const [before, after] = address.split('::').map((half) => (half ? half.split(':') : []));
  const groups = after ? [...before, ...Array(Math.max(0, 8 - before.length - after.length)).fill('0'), ...after] : before;
  if (groups.length !== 8 || !groups.every((g) => /^[0-9a-f]{1,4}$/i.test(g))) return null;
  return [6, ...groups.flatMap((g) => [Number.parseInt(g, 16) >> 8, Number.parseInt(g, 16) & 255])];
}

function addressText(kind: number, bytes: Uint8Array): string {
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0'));
  if (kind === 4) return bytes.join('.');
  if (kind === 6) return Array.from({ length: 8 }, (_, i) => Number.parseInt(hex[2 * i] + hex[2 * i + 1], 16).toString(16)).join(':');
  const all = hex.join('');
  return `${all.slice(0, 8)}-${all.slice(8, 12)}-${all.slice(12, 16)}-${all.slice(16, 20)}-${all.slice(20)}.local`;
}

/** The code of a description, in groups, to be read by a camera or typed. Hosts of other kinds, and those beyond eight, are left out. */
export function pairingCode({ kind, ufrag, pwd, fingerprint, hosts }: Reach): string {
  const ascii = (text: string) => [text.length, ...new TextEncoder().encode(text)];
  const listened = hosts
    .flatMap(({ address, port }) => {
      const bytes = addressBytes(address);
      return bytes ? [[...bytes, port >> 8, port & 255]] : [];
    })
    .slice(0, MOST_HOSTS);
  const body = [VERSION, kind === 'offer' ? 0 : 1, ...ascii(ufrag), ...ascii(pwd), ...fingerprint, listened.length, ...listened.flat()];
  const crc = crc16(Uint8Array.from(body));
  return base32(Uint8Array.from([...body, crc >> 8, crc & 255])).replace(new RegExp(`.{${GROUP}}(?=.)`, 'g'), '$&-');
}

/** Takes bytes one after another; null once there are none left. */
function taker(bytes: Uint8Array) {
  let at = 0;
  return (count: number): Uint8Array | null => {
    at += count;
    return at <= bytes.length ? bytes.subarray(at - count, at) : null;
  };
}

const NOT_WHOLE = say`That is not a whole code. Read it again, or copy all of it: no group may be missing.`;
const TOKEN = /^[A-Za-z0-9+/]+$/;

/** What a code says, however it is spaced, and also as the end of an address of a page; or a sentence. */
export function readPairingCode(given: string): { ok: true; reach: Reach } | { ok: false; reason: string } {
  const wrong = { ok: false, reason: NOT_WHOLE } as const;
  const bytes = fromBase32((given.split('#').at(-1) ?? '').toUpperCase().replace(/[^A-Z0-9]/g, ''));
  if (!bytes || bytes.length < 4) return wrong;
  const body = bytes.subarray(0, -2);
  if (crc16(body) !== ((bytes.at(-2) ?? 0) << 8) + (bytes.at(-1) ?? 0)) return wrong;
  if (body[0] !== VERSION) return { ok: false, reason: say`That code comes from another version of the application. Reload both devices.` };
  const take = taker(body.subarray(2));
  const text = () => new TextDecoder().decode(take(take(1)?.[0] ?? 0) ?? new Uint8Array());
  const [ufrag, pwd, fingerprint] = [text(), text(), take(32)];
  if (!TOKEN.test(ufrag) || !TOKEN.test(pwd) || !fingerprint) return wrong;
  const hosts: { address: string; port: number }[] = [];
  for (let left = take(1)?.[0] ?? 0; left > 0; left--) {
    const kind = take(1)?.[0] ?? 0;
    const [address, port] = [take(kind === 4 ? 4 : 16), take(2)];
    if (!address || !port) return wrong;
    hosts.push({ address: addressText(kind, address), port: port[0] * 256 + port[1] });
  }
  return { ok: true, reach: { kind: body[1] === 0 ? 'offer' : 'answer', ufrag, pwd, fingerprint: fingerprint.slice(), hosts } };
}

/** What a description of a connection with one data channel (RFC 8841) says of how its browser is reached; null where it says too little. */
export function reachOf(kind: Reach['kind'], sdp: string): Reach | null {
  const found = (name: string) => new RegExp(`^a=${name}:(.*)$`, 'm').exec(sdp)?.[1].trim();
  const [ufrag, pwd, print] = [found('ice-ufrag'), found('ice-pwd'), found('fingerprint')];
  const digits = print?.startsWith('sha-256 ') ? print.slice(8).split(':') : [];
  if (!ufrag || !pwd || digits.length !== 32) return null;
  // RFC 8839 5.1: foundation, component, transport, priority, address, port, "typ", type. TCP and what a server saw are left out.
  const hosts = [...sdp.matchAll(/^a=candidate:\S+ 1 udp \d+ (\S+) (\d+) typ host/gim)].map(([, address, port]) => ({
    address,
    port: Number(port),
  }));
  return { kind, ufrag, pwd, fingerprint: Uint8Array.from(digits, (d) => Number.parseInt(d, 16)), hosts };
}

/** A description of a connection with one data channel, as a browser takes it from another (RFC 8866, 8839, 8841). */
export function descriptionOf({ kind, ufrag, pwd, fingerprint, hosts }: Reach): string {
  const print = [...fingerprint].map((b) => b.toString(16).padStart(2, '0').toUpperCase()).join(':');
  return [
    'v=0',
    'o=- 1 2 IN IP4 127.0.0.1',
    's=-',
    't=0 0',
    'a=group:BUNDLE 0',
    'm=application 9 UDP/DTLS/SCTP webrtc-datachannel',
    'c=IN IP4 0.0.0.0',
    ...hosts.map(({ address, port }, i) => `a=candidate:${i + 1} 1 udp ${2130706431 - i} ${address} ${port} typ host`),
    `a=ice-ufrag:${ufrag}`,
    `a=ice-pwd:${pwd}`,
    `a=fingerprint:sha-256 ${print}`,
    `a=setup:${kind === 'offer' ? 'actpass' : 'active'}`,
    'a=mid:0',
    'a=sctp-port:5000',
    'a=max-message-size:262144',
    '',
  ].join('\r\n');
}
