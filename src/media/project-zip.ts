import { BlobReader, configure, type FileEntry, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { createSHA256, type IHasher } from 'hash-wasm';
import type { Media } from '@/core/document';
import { entryFile, type FileSum, fileSums, LARGEST_DOCUMENT, MOST_ENTRIES, PROJECT_DOCUMENT, projectDocument } from '@/core/exchange';
import { say } from '@/core/words';

// It runs in a worker already; nothing is compressed that would gain by it.
configure({ useWebWorkers: false });

type Tell = (done: number) => void;

async function hasher(): Promise<IHasher> {
  return (await createSHA256()).init();
}

/** Passes bytes on and sums them up. */
function summing(sum: IHasher, onBytes: (count: number) => void): TransformStream<Uint8Array, Uint8Array> {
  return new TransformStream({
    transform(chunk, controller) {
      sum.update(chunk);
      onBytes(chunk.length);
      controller.enqueue(chunk);
    },
  });
}

/**
 * Writes a project as one zip: its files as they are, then `project.json` with the length and SHA-256 of each. Streams; ZIP64 where it
 * is needed. Files that are not in storage are left out; their names are given back.
 */
export async function writeProjectZip(
  project: { media: readonly Media[] },
  open: (id: string) => Promise<File>,
  out: WritableStream<Uint8Array>,
  onProgress: Tell,
): Promise<string[]> {
  const zip = new ZipWriter(out, { level: 0, extendedTimestamp: false });
  const total = project.media.reduce((sum, m) => sum + m.bytes, 1);
  let done = 0;
  const sums: FileSum[] = [];
  const missing: string[] = [];
  for (const media of project.media) {
    const file = await open(media.id).catch(() => null);
    if (!file) {
      missing.push(media.name);
      continue;
    }
    const sum = await hasher();
    const counted = file.stream().pipeThrough(
      summing(sum, (count) => {
        done += count;
        onProgress(done / total);
      }),
    );
    await zip.add(`media/${media.id}`, counted, { zip64: file.size > 0xf000_0000 || undefined });
    sums.push({ id: media.id, bytes: file.size, sha256: sum.digest('hex') });
  }
  const text = new TextEncoder().encode(projectDocument(project, sums));
  await zip.add(PROJECT_DOCUMENT, new Blob([text]).stream());
  await zip.close();
  return missing;
}

/** A project file looked through: its document, and what stands beside it. */
export interface ProjectZip {
  document: unknown;
  /** Entries that are whole, by the id of their file. */
  whole: Map<string, { entry: FileEntry; bytes: number; sha256: string }>;
  close(): Promise<void>;
}

const NOT_ONE = say`This file is not a project file, or it is damaged. Nothing was changed.`;

class TooLong extends Error {}

/** Reads an entry through, handing its bytes on; no more than it says it holds. */
async function readThrough(entry: FileEntry, onChunk: (chunk: Uint8Array) => void | Promise<void>): Promise<void> {
  let read = 0;
  await entry.getData(
    new WritableStream<Uint8Array>({
      async write(chunk) {
        read += chunk.length;
        if (read > entry.uncompressedSize) throw new TooLong();
        await onChunk(chunk);
      },
    }),
    { checkSignature: true },
  );
  if (read !== entry.uncompressedSize) throw new TooLong();
}

async function readDocument(entry: FileEntry | undefined): Promise<unknown> {
  if (!entry) throw new Error(say`This is not a project file: it holds no project.json. Nothing was changed.`);
  if (entry.uncompressedSize > LARGEST_DOCUMENT)
    throw new Error(say`The project file is damaged: its document is larger than any can be. Nothing was changed.`);
  const pieces: BlobPart[] = [];
  try {
    await readThrough(entry, (chunk) => void pieces.push(chunk as Uint8Array<ArrayBuffer>));
    return JSON.parse(await new Blob(pieces).text());
  } catch {
    throw new Error(say`The project file is damaged: its document cannot be read. Nothing was changed.`);
  }
}

/** An entry that is far smaller than what it unfolds to holds no film. */
const isBomb = ({ compressedSize, uncompressedSize }: FileEntry) => uncompressedSize > 1e6 + 50 * compressedSize;

/**
 * Looks through all of a project file by its central directory: every byte is read and held against its length, CRC-32 and SHA-256.
 * Nothing is stored. Throws a sentence for what is no project file.
 */
export async function readProjectZip(file: Blob, onProgress: Tell): Promise<ProjectZip> {
  const zip = new ZipReader(new BlobReader(file), { checkOverlappingEntry: true });
  const entries = new Map<string, FileEntry>();
  try {
    let count = 0;
    for await (const entry of zip.getEntriesGenerator()) {
      if (++count > MOST_ENTRIES) throw new Error('too many');
      if (!entry.directory) entries.set(entry.filename, entry);
    }
  } catch {
    throw new Error(NOT_ONE);
  }
  const document = await readDocument(entries.get(PROJECT_DOCUMENT));
  const sums = fileSums(document);
  const whole: ProjectZip['whole'] = new Map();
  const films = [...entries.values()].filter((e) => entryFile(e.filename) !== null);
  const total = films.reduce((sum, e) => sum + e.uncompressedSize, 1);
  let done = 0;
  for (const entry of films) {
    const id = entryFile(entry.filename) as string;
    const given = sums.get(id);
    if (isBomb(entry) || (given && given.bytes !== entry.uncompressedSize)) continue;
    try {
      const sum = await hasher();
      await readThrough(entry, (chunk) => {
        sum.update(chunk);
        done += chunk.length;
        onProgress(done / total);
      });
      const sha256 = sum.digest('hex');
      if (!given || given.sha256 === sha256) whole.set(id, { entry, bytes: entry.uncompressedSize, sha256 });
    } catch {
      // Damaged: it is not among what is whole.
    }
  }
  return { document, whole, close: () => zip.close() };
}

/** Hands the bytes of an entry on. */
export const readEntry = readThrough;
