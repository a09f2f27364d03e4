import { strFromU8, Unzip, UnzipInflate, Zip, ZipPassThrough } from 'fflate';
import { type Project, readProject } from '@/core/shot';
import { folder, hasMedia, openMedia } from '@/media/files';
import { addProject } from './store';

const DOCUMENT = 'project.json';

/**
 * The whole project as one zip: `project.json` and `media/<id>`. Streams the media; nothing is compressed again,
 * since films and songs already are.
 */
export async function saveProjectFile(project: Project, onProgress: (done: number) => void): Promise<Blob> {
  const parts: BlobPart[] = [];
  const total = project.media.reduce((s, m) => s + m.bytes, 1);
  let done = 0;
  const finished = new Promise<void>((resolve, reject) => {
    void (async () => {
      const zip = new Zip((error, chunk, final) => {
        if (error) reject(error);
        else {
          parts.push(new Blob([chunk as Uint8Array<ArrayBuffer>]));
          if (final) resolve();
        }
      });
      const text = new ZipPassThrough(DOCUMENT);
      zip.add(text);
      text.push(new TextEncoder().encode(JSON.stringify(project, null, 1)), true);
      for (const media of project.media) {
        const entry = new ZipPassThrough(`media/${media.id}`);
        zip.add(entry);
        const reader = (await openMedia(media.id)).stream().getReader();
        for (;;) {
          const { value, done: end } = await reader.read();
          entry.push(value ?? new Uint8Array(0), end);
          if (end) break;
          done += value.length;
          onProgress(done / total);
        }
      }
      zip.end();
    })().catch(reject);
  });
  await finished;
  return new Blob(parts, { type: 'application/zip' });
}

/** Opens a saved project file. Media already stored are not copied again. Returns '' or a sentence. */
export async function openProjectFile(file: File, onProgress: (done: number) => void): Promise<string> {
  const texts = new Map<string, string>();
  const media = await folder('media');
  const jobs: Promise<void>[] = [];
  let failed = '';
  const unzip = new Unzip((entry) => {
    if (entry.name === DOCUMENT) {
      const pieces: Uint8Array[] = [];
      entry.ondata = (error, chunk, final) => {
        if (error) failed = 'The project file is damaged: its document cannot be read.';
        pieces.push(chunk);
        if (final) texts.set(DOCUMENT, strFromU8(concat(pieces)));
      };
      entry.start();
    } else if (/^media\/[0-9a-f]{8,64}$/.test(entry.name)) {
      const id = entry.name.slice('media/'.length);
      const pieces: BlobPart[] = [];
      entry.ondata = (error, chunk, final) => {
        if (error) failed = 'The project file is damaged: one of its films cannot be read.';
        pieces.push(new Blob([chunk as Uint8Array<ArrayBuffer>]));
        if (final) jobs.push(store(media, id, new Blob(pieces)));
      };
      entry.start();
    }
  });
  unzip.register(UnzipInflate);
  try {
    const reader = file.stream().getReader();
    let read = 0;
    for (;;) {
      const { value, done } = await reader.read();
      unzip.push(value ?? new Uint8Array(0), done);
      if (done) break;
      read += value.length;
      onProgress(read / file.size);
    }
    await Promise.all(jobs);
  } catch {
    return 'This file is not a project file, or it is damaged. Nothing was changed.';
  }
  const text = texts.get(DOCUMENT);
  if (failed || !text) return failed || 'This is not a project file: it holds no project.json. Nothing was changed.';
  return openDocument(text);
}

async function openDocument(text: string): Promise<string> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return 'The project file is damaged: its document cannot be read. Nothing was changed.';
  }
  const read = readProject(value);
  if (!read.ok) return read.reason;
  for (const m of read.project.media)
    if (!(await hasMedia(m.id))) return `The project file is incomplete: “${m.name}” is missing from it. Nothing was changed.`;
  await addProject({ ...read.project, id: crypto.randomUUID() });
  return '';
}

async function store(media: FileSystemDirectoryHandle, id: string, bytes: Blob): Promise<void> {
  if (await hasMedia(id)) return;
  const writable = await (await media.getFileHandle(id, { create: true })).createWritable();
  await bytes.stream().pipeTo(writable);
}

function concat(pieces: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(pieces.reduce((s, p) => s + p.length, 0));
  let at = 0;
  for (const p of pieces) {
    out.set(p, at);
    at += p.length;
  }
  return out;
}

/** A title as the name of a file: letters and numbers, the rest as dashes. '' when nothing is left. */
export function slug(title: string): string {
  return title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '');
}

/** Gives the user a file under a name. */
export function download(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A finished film from storage. */
export async function storedFilm(name: string): Promise<File> {
  return (await (await folder('films')).getFileHandle(name)).getFile();
}
