import { say } from '@/core/words';
import { filesIn, folder, removeFile } from './files';
import type { Picture } from './picture';

/** Where pictures are kept as files. */
export interface PictureFiles {
  /** Names and bytes of those there are, the oldest first. */
  list(): Promise<[string, number][]>;
  read(name: string): Promise<Blob>;
  write(name: string, bytes: Blob): Promise<void>;
  remove(name: string): Promise<void>;
}

/** How pictures become bytes. */
export interface PictureCoding {
  encode(picture: Picture): Promise<Blob>;
  decode(bytes: Blob): Promise<Picture>;
}

/**
 * Pictures of the film that took long to draw, kept from one session to the next under a hash of all that is in them: what was once seen
 * plays. Within a share of bytes; what was used longest ago goes first. A picture that cannot be kept or read is drawn again.
 */
export class RenderCache {
  private readonly known = new Map<string, number>();
  private readonly ready: Promise<unknown>;
  private bytes = 0;
  private writing: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly share: number,
    private readonly files: PictureFiles,
    private readonly coding: PictureCoding,
  ) {
    this.ready = files
      .list()
      .then((all) => {
        for (const [name, size] of all) this.note(name, size);
      })
      .catch(() => undefined);
  }

  /** How many there are. */
  get size(): number {
    return this.known.size;
  }

  private note(name: string, size: number): void {
    this.bytes += size - (this.known.get(name) ?? 0);
    this.known.delete(name);
    this.known.set(name, size);
  }

  private async forget(name: string): Promise<void> {
    this.bytes -= this.known.get(name) ?? 0;
    this.known.delete(name);
    await this.files.remove(name).catch(() => undefined);
  }

  /** The name of what is described by a text. */
  async nameOf(description: string): Promise<string> {
    const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(description));
    return Array.from(new Uint8Array(digest, 0, 16), (b) => b.toString(16).padStart(2, '0')).join('');
  }

  async get(name: string): Promise<Picture | null> {
    await this.ready;
    const size = this.known.get(name);
    if (size === undefined) return null;
    try {
      const picture = await this.coding.decode(await this.files.read(name));
      this.note(name, size);
      return picture;
    } catch {
      await this.forget(name);
      return null;
    }
  }

  /** Keeps a picture, one after another; it belongs to the cache from then on. */
  put(name: string, picture: Picture): Promise<void> {
    const written = this.writing.then(async () => {
      await this.ready;
      if (this.known.has(name)) return;
      const bytes = await this.coding.encode(picture);
      await this.files.write(name, bytes);
      this.note(name, bytes.size);
      for (const oldest of [...this.known.keys()]) {
        if (this.bytes <= this.share) break;
        await this.forget(oldest);
      }
    });
    this.writing = written.catch(() => undefined);
    return written.catch(() => undefined);
  }
}

/** The browser's own file system. */
export const RENDERS: PictureFiles = {
  async list() {
    const there = await folder('renders');
    const all = await Promise.all(
      (await filesIn('renders')).map(async (name) => {
        const file = await (await there.getFileHandle(name)).getFile();
        return [name, file.size, file.lastModified] as const;
      }),
    );
    return all.sort((a, b) => a[2] - b[2]).map(([name, size]): [string, number] => [name, size]);
  },
  read: async (name) => (await (await folder('renders')).getFileHandle(name)).getFile(),
  async write(name, bytes) {
    const writable = await (await (await folder('renders')).getFileHandle(name, { create: true })).createWritable();
    await writable.write(bytes);
    await writable.close();
  },
  remove: (name) => removeFile('renders', name),
};

/** As JPEG, which is quick to write, at a quality at which a preview looks the same. */
export const AS_JPEG: PictureCoding = {
  async encode({ width, height, rgba }) {
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
    return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.94 });
  },
  async decode(bytes) {
    const bitmap = await createImageBitmap(bytes, { colorSpaceConversion: 'none' });
    const { width, height } = bitmap;
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error(say`This browser gives no canvas to a worker.`);
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    return { width, height, rgba: context.getImageData(0, 0, width, height).data as Uint8ClampedArray<ArrayBuffer> };
  },
};
