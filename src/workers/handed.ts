import * as Comlink from 'comlink';

/** Bytes that go over to another thread without being copied; whoever hands them over has them no more. */
export const handed = <B extends Uint8Array<ArrayBuffer> | null>(bytes: B): B => (bytes ? Comlink.transfer(bytes, [bytes.buffer]) : bytes);
