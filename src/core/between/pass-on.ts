import * as z from 'zod/mini';
import { entryFile, type FileSum, fileSums, LARGEST_DOCUMENT } from '../exchange';
import { say } from '../words';

/** A line to another device: messages in their order, none lost while it holds. */
export interface Line {
  /** Sends; waits where much is on its way. Rejects once the line is lost. */
  send(message: string | Uint8Array): Promise<void>;
  /** The next message. Rejects once the line is lost. */
  next(): Promise<string | Uint8Array>;
}

/** Bytes of a message: what every browser takes (RFC 8831 asks for 16 kB at least, current ones take 256). */
const MESSAGE = 64 << 10;
/** Bytes asked for at once, so that what is on its way never fills the memory of the one that takes it. */
const BLOCK = 4 << 20;
const asked = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('want'), id: z.string(), at: z.int().check(z.minimum(0)), bytes: z.int().check(z.minimum(1)) }),
  z.object({ kind: z.literal('done') }),
  z.object({ kind: z.literal('refused'), reason: z.string().check(z.maxLength(2000)) }),
]);
const told = z.object({ kind: z.literal('document'), bytes: z.int().check(z.minimum(1), z.maximum(LARGEST_DOCUMENT)) });

const NOT_UNDERSTOOD = say`The other device sent something that was not understood. Reload both, then pair them again.`;

function parsed<T>(schema: z.ZodMiniType<T>, message: string | Uint8Array): T {
  try {
    if (typeof message === 'string') return schema.parse(JSON.parse(message));
  } catch {}
  throw new Error(NOT_UNDERSTOOD);
}

const tell = (line: Line, message: z.infer<typeof asked> | z.infer<typeof told>) => line.send(JSON.stringify(message));

async function sendBytes(line: Line, bytes: Uint8Array): Promise<void> {
  for (let at = 0; at < bytes.length; at += MESSAGE) await line.send(bytes.subarray(at, at + MESSAGE));
}

/** Hands on so many bytes as they come. */
async function takeBytes(line: Line, count: number, put: (chunk: Uint8Array) => unknown): Promise<void> {
  for (let left = count; left > 0; ) {
    const chunk = await line.next();
    if (typeof chunk === 'string' || chunk.length === 0 || chunk.length > left) throw new Error(NOT_UNDERSTOOD);
    left -= chunk.length;
    await put(chunk);
  }
}

/**
 * Sends a project: its document with the sums of its files (`projectDocument`), then what the other device asks for, until that has all
 * it lacked. `read` gives bytes of a file from a place on. `onProgress` is told how many bytes of files went. Rejects with a sentence
 * where the other refused or the line is lost.
 */
export async function passOn(
  line: Line,
  document: string,
  read: (id: string, at: number, bytes: number) => Promise<Uint8Array>,
  onProgress: (bytes: number) => void,
): Promise<void> {
  const whole = new TextEncoder().encode(document);
  const files = fileSums(JSON.parse(document));
  await tell(line, { kind: 'document', bytes: whole.length });
  await sendBytes(line, whole);
  for (let gone = 0; ; ) {
    const said = parsed(asked, await line.next());
    if (said.kind === 'done') return;
    if (said.kind === 'refused') throw new Error(said.reason);
    if (said.bytes > BLOCK || said.at + said.bytes > (files.get(said.id)?.bytes ?? 0)) throw new Error(NOT_UNDERSTOOD);
    await sendBytes(line, await read(said.id, said.at, said.bytes));
    gone += said.bytes;
    onProgress(gone);
  }
}

/** Where what comes in is put. */
export interface Shelf {
  /** Which of the files are lacking, and how many bytes of each are there from a time before; or why the project cannot be had. */
  begin(document: unknown, files: readonly FileSum[]): Promise<{ ok: true; wants: Lacking[] } | { ok: false; reason: string }>;
  put(file: FileSum, at: number, chunk: Uint8Array): Promise<void>;
  /** Checks a file by its hash and keeps it; false where it is not what it should be, and nothing of it is left then. */
  finish(file: FileSum): Promise<boolean>;
}
interface Lacking {
  file: FileSum;
  have: number;
}

/**
 * Takes a project over: asks for what is lacking only, from where it was broken off; a file whose hash is wrong is asked for once
 * more from its beginning. `onProgress` is told how many bytes of how many are there. Rejects with a sentence; what came stays.
 */
export async function takeOver(line: Line, shelf: Shelf, onProgress: (bytes: number, of: number) => void): Promise<void> {
  const { bytes } = parsed(told, await line.next());
  const decoder = new TextDecoder();
  let text = '';
  await takeBytes(line, bytes, (chunk) => {
    text += decoder.decode(chunk, { stream: true });
  });
  const document = parsed(z.unknown(), text + decoder.decode());
  const files = [...fileSums(document).values()].filter(({ id }) => entryFile(`media/${id}`));
  const refuse = async (reason: string): Promise<never> => {
    await tell(line, { kind: 'refused', reason });
    throw new Error(reason);
  };
  const found = await shelf.begin(document, files);
  if (!found.ok) return refuse(found.reason);
  const total = found.wants.reduce((sum, { file, have }) => sum + file.bytes - have, 0);
  let come = 0;
  const fetchFile = async (file: FileSum, from: number): Promise<boolean> => {
    for (let at = from; at < file.bytes; ) {
      const block = Math.min(BLOCK, file.bytes - at);
      await tell(line, { kind: 'want', id: file.id, at, bytes: block });
      await takeBytes(line, block, async (chunk) => {
        await shelf.put(file, at, chunk);
        at += chunk.length;
        come += chunk.length;
        onProgress(Math.min(come, total), total);
      });
    }
    return shelf.finish(file);
  };
  for (const { file, have } of found.wants) {
    if (await fetchFile(file, have)) continue;
    come -= file.bytes - have;
    if (!(await fetchFile(file, 0)))
      return refuse(say`A file came over damaged twice. Nothing of the project was changed; pair the devices again.`);
  }
  await tell(line, { kind: 'done' });
}
