import { descriptionOf, type Line, pairingCode, reachOf, readPairingCode } from '@/core/between';
import { say } from '@/core/words';

const LOST = say`The connection was lost. Nothing that came over is lost: pair the devices again, and it goes on where it was broken off.`;
/** Bytes on their way beyond which sending waits. */
const ON_THE_WAY = 1 << 20;
/** Milliseconds after which two devices that do not find each other give up. */
const FINDING = 30_000;
const NOT_FOUND = say`The devices did not find each other. Both must be on the same network, and the network must let them talk: one phone’s hotspot does. Then pair them again.`;

/** One end of a pairing, from its code to its line. */
export interface Pairing {
  /** The code for the other device. */
  code: string;
  /** Once the other device is there. Rejects with a sentence where the two do not find each other. */
  line: Promise<Line>;
  close(): void;
}

/** A data channel as a line. */
function lineOf(channel: RTCDataChannel, lost: Promise<never>): Line {
  const come: (string | Uint8Array)[] = [];
  let waiting: (() => void) | null = null;
  channel.binaryType = 'arraybuffer';
  channel.bufferedAmountLowThreshold = ON_THE_WAY / 2;
  channel.onmessage = ({ data }: MessageEvent<string | ArrayBuffer>) => {
    come.push(typeof data === 'string' ? data : new Uint8Array(data));
    waiting?.();
  };
  return {
    async send(message) {
      if (channel.bufferedAmount > ON_THE_WAY)
        await Promise.race([new Promise((low) => channel.addEventListener('bufferedamountlow', low, { once: true })), lost]);
      if (channel.readyState !== 'open') throw new Error(LOST);
      if (typeof message === 'string') channel.send(message);
      else channel.send(message as Uint8Array<ArrayBuffer>);
    },
    async next() {
      while (come.length === 0) await Promise.race([new Promise<void>((there) => (waiting = there)), lost]);
      return come.shift() as string | Uint8Array;
    },
  };
}

/** The connection's one channel, agreed on beforehand, and what becomes of it. */
function connection() {
  const peer = new RTCPeerConnection({ iceServers: [] });
  const channel = peer.createDataChannel('project', { negotiated: true, id: 0 });
  let lose: (error: Error) => void = () => undefined;
  const lost = new Promise<never>((_, reject) => {
    lose = reject;
  });
  lost.catch(() => undefined);
  channel.onclose = () => lose(new Error(LOST));
  peer.onconnectionstatechange = () => {
    if (peer.connectionState === 'failed') lose(new Error(channel.readyState === 'open' ? LOST : NOT_FOUND));
  };
  const opened = new Promise<Line>((resolve) => {
    const line = lineOf(channel, lost);
    channel.onopen = () => resolve(line);
  });
  const close = () => {
    channel.close();
    peer.close();
    lose(new Error(LOST));
  };
  return { peer, close, line: Promise.race([opened, lost]) };
}

/** The code of a connection once it knows where it can be reached. */
async function codeOf(peer: RTCPeerConnection, kind: 'offer' | 'answer'): Promise<string> {
  await peer.setLocalDescription(await (kind === 'offer' ? peer.createOffer() : peer.createAnswer()));
  if (peer.iceGatheringState !== 'complete')
    await new Promise<void>((gathered) => {
      peer.onicegatheringstatechange = () => peer.iceGatheringState === 'complete' && gathered();
    });
  const reach = reachOf(kind, peer.localDescription?.sdp ?? '');
  if (!reach || reach.hosts.length === 0)
    throw new Error(say`This device is on no network. Join the one that the other device is on, then try again.`);
  return pairingCode(reach);
}

/** Reads a code of the other device, of the kind that is waited for. Throws a sentence. */
function reachIn(code: string, kind: 'offer' | 'answer') {
  const read = readPairingCode(code);
  if (!read.ok) throw new Error(read.reason);
  if (read.reach.kind !== kind)
    throw new Error(
      kind === 'offer'
        ? say`That is an answer. It belongs to the device that sends.`
        : say`That is the code this device, or another that sends, shows itself. The other device shows its answer once it has read this one’s.`,
    );
  return { type: kind, sdp: descriptionOf(read.reach) };
}

/** Begins a pairing; `answered` is called with the other device's code. Throws a sentence. */
export async function offerPairing(): Promise<Pairing & { answered(code: string): Promise<void> }> {
  const { peer, line, close } = connection();
  return {
    code: await codeOf(peer, 'offer'),
    line,
    close,
    async answered(code) {
      await peer.setRemoteDescription(reachIn(code, 'answer'));
    },
  };
}

/** Answers the code of a device that offers. Throws a sentence. */
export async function answerPairing(code: string): Promise<Pairing> {
  const offer = reachIn(code, 'offer');
  const { peer, line, close } = connection();
  await peer.setRemoteDescription(offer);
  return { code: await codeOf(peer, 'answer'), line, close };
}

/** A line, or a sentence after a while in which the devices did not find each other. */
export function found(line: Promise<Line>): Promise<Line> {
  return new Promise((resolve, reject) => {
    const gaveUp = setTimeout(() => reject(new Error(NOT_FOUND)), FINDING);
    line.then(resolve, reject).finally(() => clearTimeout(gaveUp));
  });
}
