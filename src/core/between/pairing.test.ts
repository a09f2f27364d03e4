import { describe, expect, it } from 'vitest';
import { base32, crc16, descriptionOf, fromBase32, pairingCode, reachOf, readPairingCode } from './pairing';

const ascii = (text: string) => new TextEncoder().encode(text);

/** A description as Chromium 150 gives it on a machine with a wire, a tunnel and names in the place of addresses. */
const SDP = [
  'v=0',
  'o=- 4611733055048 2 IN IP4 127.0.0.1',
  's=-',
  't=0 0',
  'a=group:BUNDLE 0',
  'a=extmap-allow-mixed',
  'a=msid-semantic: WMS',
  'm=application 51000 UDP/DTLS/SCTP webrtc-datachannel',
  'c=IN IP4 192.168.1.20',
  'a=candidate:1 1 udp 2122260223 192.168.1.20 51000 typ host generation 0 network-id 1',
  'a=candidate:2 1 udp 2122194687 1b3f5c9e-0a2d-4e6f-8b1c-23456789abcd.local 51001 typ host generation 0 network-id 2',
  'a=candidate:3 1 udp 2122129151 fd00::1:2 51002 typ host generation 0 network-id 3',
  'a=candidate:4 1 tcp 1518280447 192.168.1.20 9 typ host tcptype active generation 0',
  'a=candidate:5 1 udp 1686052607 203.0.113.7 40000 typ srflx raddr 192.168.1.20 rport 51000',
  'a=ice-ufrag:rT4/',
  'a=ice-pwd:d+uMbLwkzP0n1hXq8aVtYs3c',
  'a=ice-options:trickle',
  `a=fingerprint:sha-256 ${Array.from({ length: 32 }, (_, i) => (i * 7 + 3).toString(16).padStart(2, '0').toUpperCase()).join(':')}`,
  'a=setup:actpass',
  'a=mid:0',
  'a=sctp-port:5000',
  'a=max-message-size:262144',
  '',
].join('\r\n');

const reach = () => {
  const found = reachOf('offer', SDP);
  if (!found) throw new Error('nothing found');
  return found;
};

describe('the pieces of a code', () => {
  it('has the check value of CRC-16 with a start of all ones (ITU-T V.41 as catalogued: 29B1)', () => {
    expect(crc16(ascii('123456789'))).toBe(0x29b1);
  });

  it.each([
    ['f', 'MY'],
    ['fo', 'MZXQ'],
    ['foo', 'MZXW6'],
    ['foob', 'MZXW6YQ'],
    ['fooba', 'MZXW6YTB'],
    ['foobar', 'MZXW6YTBOI'],
  ])('writes and reads “%s” in base 32 as RFC 4648, section 10, has it', (text, code) => {
    expect(base32(ascii(text))).toBe(code);
    expect(fromBase32(code)).toEqual(ascii(text));
  });

  it('reads digits that look like letters as those, and nothing else', () => {
    expect(fromBase32('MZXW6YTB0I')).toEqual(ascii('foobar'));
    expect(fromBase32('MZXW6?')).toBeNull();
  });
});

describe('the code of a description', () => {
  it('takes what a browser on the same network needs, and leaves out TCP and what a server saw', () => {
    const { ufrag, pwd, fingerprint, hosts } = reach();
    expect([ufrag, pwd]).toEqual(['rT4/', 'd+uMbLwkzP0n1hXq8aVtYs3c']);
    expect([...fingerprint.slice(0, 3)]).toEqual([3, 10, 17]);
    expect(hosts.map((h) => h.port)).toEqual([51000, 51001, 51002]);
  });

  it('comes back as it was, however it is typed', () => {
    const code = pairingCode(reach());
    for (const typed of [code, code.toLowerCase(), code.replaceAll('-', ' '), `  ${code}\n`, `https://example.org/devices#${code}`]) {
      const read = readPairingCode(typed);
      if (!read.ok) throw new Error(read.reason);
      expect({ ...read.reach, hosts: read.reach.hosts.slice(0, 2) }).toEqual({ ...reach(), hosts: reach().hosts.slice(0, 2) });
      // An address of IPv6 comes back written out.
      expect(read.reach.hosts[2]).toEqual({ address: 'fd00:0:0:0:0:0:1:2', port: 51002 });
    }
    expect(code.length).toBeLessThan(260);
  });

  it('is refused in a sentence with any one letter wrong, missing or doubled', () => {
    const code = pairingCode(reach()).replaceAll('-', '');
    for (let i = 0; i < code.length; i++) {
      const other = code[i] === 'Q' ? 'R' : 'Q';
      for (const wrong of [code.slice(0, i) + other + code.slice(i + 1), code.slice(0, i) + code.slice(i + 1)])
        expect(readPairingCode(wrong)).toMatchObject({ ok: false, reason: expect.stringMatching(/^That/) });
    }
    for (const nothing of ['', '-', 'hello there', '🎬', 'A'.repeat(5000)]) expect(readPairingCode(nothing).ok).toBe(false);
  });

  it('becomes a description that says the same', () => {
    const read = reachOf('offer', descriptionOf(reach()));
    expect(read).toEqual(reach());
    expect(descriptionOf({ ...reach(), kind: 'answer' })).toContain('a=setup:active');
  });

  it('holds the first eight hosts, none it cannot write', () => {
    const hosts = Array.from({ length: 12 }, (_, i) => ({ address: i === 0 ? 'printer.lan' : `10.0.0.${i}`, port: 1000 + i }));
    const read = readPairingCode(pairingCode({ ...reach(), hosts }));
    expect(read.ok && read.reach.hosts.map((h) => h.address)).toEqual([1, 2, 3, 4, 5, 6, 7, 8].map((i) => `10.0.0.${i}`));
  });
});
