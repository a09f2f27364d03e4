import { ALL_FORMATS, BlobSource, Conversion, Input, Mp4OutputFormat, Output, StreamTarget, WebMOutputFormat } from 'mediabunny';
import { cutToWhole } from './cut-off';
import { filesIn, folder, isMaking, removeFile, renameFile, type SyncFile, syncFile } from './files';

export type FilmFormat = 'mp4' | 'webm';

/** Seconds between points up to which a film that was broken off plays. */
const FRAGMENT = 2;
/** Milliseconds between two times that it is pressed onto the disk. */
const PRESS = 1000;
const formatOf = (name: string): FilmFormat => (name.endsWith('webm') ? 'webm' : 'mp4');

/** A film being written in place under `films/`, in fragments: broken off by a crash, it plays up to there. Only in a worker. */
export class FilmFile {
  private problem: unknown = null;

  private constructor(
    private readonly name: string,
    private readonly file: SyncFile,
    readonly output: Output,
  ) {}

  static async begin(name: string, format: FilmFormat): Promise<FilmFile> {
    const file = await syncFile('films', name, true);
    file.truncate(0);
    let pressed = performance.now();
    let made: FilmFile | null = null;
    const target = new StreamTarget(
      new WritableStream<{ data: Uint8Array; position: number }>({
        write({ data, position }) {
          try {
            if (file.write(data, { at: position }) < data.length) throw new DOMException('The disk is full.', 'QuotaExceededError');
            if (performance.now() - pressed < PRESS) return;
            file.flush();
            pressed = performance.now();
          } catch (error) {
            if (made) made.problem ??= error;
          }
        },
      }),
    );
    const shape =
      format === 'mp4' ? new Mp4OutputFormat({ fastStart: 'fragmented', minimumFragmentDuration: FRAGMENT }) : new WebMOutputFormat();
    made = new FilmFile(name, file, new Output({ format: shape, target }));
    return made;
  }

  /** Throws why nothing more could be written, once that is so. */
  check(): void {
    if (!this.problem) return;
    const full = this.problem instanceof DOMException && this.problem.name === 'QuotaExceededError';
    throw full
      ? new Error(
          'The browser’s storage is full: the film could not be written to its end. Your project is safe. Free some space and deliver again.',
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
 * Makes a film out of one that was written in fragments: an ordinary MP4 with its index in one place; pictures and sound are copied as
 * they are. WebM is whole as it stands. Where there is no room for both, the fragments themselves are the film: they play as well.
 */
export async function wholeFilm(name: string, chosen: FileSystemFileHandle | null): Promise<string> {
  const format = formatOf(name);
  const films = await folder('films');
  const file = await (await films.getFileHandle(name)).getFile();
  const final = `film.${format}`;
  const room = await navigator.storage.estimate();
  const fits = (room.quota ?? Number.POSITIVE_INFINITY) - (room.usage ?? 0) > file.size;
  if (!chosen && (format === 'webm' || !fits)) {
    await renameFile('films', name, final);
    return final;
  }
  const out = await (chosen ?? (await films.getFileHandle(final, { create: true }))).createWritable();
  if (format === 'webm') await file.stream().pipeTo(out);
  else {
    const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
    const target = new StreamTarget(out as unknown as WritableStream, { chunked: true });
    const output = new Output({ format: new Mp4OutputFormat({ fastStart: false }), target });
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
    const bytes = formatOf(name) === 'mp4' ? cutToWhole(file) : file.getSize();
    file.close();
    if (bytes > 0) found.push({ name, bytes });
    else await removeFile('films', name);
  }
  return found;
}
