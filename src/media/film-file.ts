import { ALL_FORMATS, BlobSource, Conversion, Input, Output, StreamTarget } from 'mediabunny';
import { say } from '@/core/words';
import { cutToWhole } from './cut-off';
import { containerOf } from './export';
import { filesIn, folder, isMaking, removeFile, renameFile, type SyncFile, syncFile } from './files';

/** Milliseconds between two times that it is pressed onto the disk. */
const PRESS = 1000;

/** A film being written in place under `films/`, in fragments: broken off by a crash, it plays up to there. Only in a worker. */
export class FilmFile {
  private problem: unknown = null;

  private constructor(
    private readonly name: string,
    private readonly file: SyncFile,
    readonly output: Output,
  ) {}

  static async begin(name: string): Promise<FilmFile> {
    const file = await syncFile('films', name, true);
    file.truncate(0);
    let pressed = performance.now();
    let made: FilmFile | null = null;
    const target = new StreamTarget(
      new WritableStream<{ data: Uint8Array; position: number }>({
        write({ data, position }) {
          try {
            if (file.write(data, { at: position }) < data.length) throw new DOMException(say`The disk is full.`, 'QuotaExceededError');
            if (performance.now() - pressed < PRESS) return;
            file.flush();
            pressed = performance.now();
          } catch (error) {
            if (made) made.problem ??= error;
          }
        },
      }),
    );
    made = new FilmFile(name, file, new Output({ format: await containerOf(name).growing(), target }));
    return made;
  }

  /** Throws why nothing more could be written, once that is so. */
  check(): void {
    if (!this.problem) return;
    const full = this.problem instanceof DOMException && this.problem.name === 'QuotaExceededError';
    throw full
      ? new Error(
          say`The browser’s storage is full: the film could not be written to its end. Your project is safe. Free some space and deliver again.`,
        )
      : this.problem;
  }

  /** Closes the film and makes it whole: under `films/`, or in the file the user chose. Gives the stored name, '' for a chosen file. */
  async finish(chosen: FileSystemFileHandle | null): Promise<string> {
    await this.output.finalize();
    this.check();
    this.file.flush();
    this.file.close();
    return wholeFilm(this.name, chosen);
  }

  /** Gives it up and leaves nothing behind. */
  async drop(): Promise<void> {
    await this.output.cancel().catch(() => undefined);
    this.file.close();
    await removeFile('films', this.name);
  }
}

/**
 * Makes a film out of one that was written as it went: an ordinary file with its index in one place; pictures and sound are copied as
 * they are. Some are whole as they stand. Where there is no room for both, the fragments themselves are the film: they play as well.
 */
export async function wholeFilm(name: string, chosen: FileSystemFileHandle | null): Promise<string> {
  const { id, whole } = containerOf(name);
  const films = await folder('films');
  const file = await (await films.getFileHandle(name)).getFile();
  const final = `film.${id}`;
  const room = await navigator.storage.estimate();
  const fits = (room.quota ?? Number.POSITIVE_INFINITY) - (room.usage ?? 0) > file.size;
  if (!chosen && (!whole || !fits)) {
    await renameFile('films', name, final);
    return final;
  }
  const out = await (chosen ?? (await films.getFileHandle(final, { create: true }))).createWritable();
  if (!whole) await file.stream().pipeTo(out);
  else {
    const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
    const target = new StreamTarget(out as unknown as WritableStream, { chunked: true });
    const output = new Output({ format: await whole(), target });
    try {
      await (await Conversion.init({ input, output, showWarnings: false })).execute();
    } finally {
      input.dispose();
    }
  }
  await removeFile('films', name);
  return chosen ? '' : final;
}

/** Films that were broken off in the making, cut to what plays, with their bytes; those being written are left alone. */
export async function cutOffFilms(): Promise<{ name: string; bytes: number }[]> {
  const found = [];
  for (const name of (await filesIn('films')).filter((n) => isMaking(n))) {
    const file = await syncFile('films', name, false).catch(() => null);
    if (!file) continue;
    const bytes = containerOf(name).whole ? cutToWhole(file) : file.getSize();
    file.close();
    if (bytes > 0) found.push({ name, bytes });
    else await removeFile('films', name);
  }
  return found;
}
