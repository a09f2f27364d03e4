import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import type { Project } from '../src/core/document/index';
import { ffmpeg, press, scratch, stage } from './helpers';

export const files = (page: Page) => page.getByTestId('media-files');
export const X264 = ['-c:v', 'libx264', '-preset', 'veryfast', '-pix_fmt', 'yuv420p'];

/** A small film of its own, moved by `hue` from others. */
export function film(name: string, hue = 0, seconds = 2, size = '320x240'): string {
  ffmpeg('-f', 'lavfi', '-i', `testsrc2=s=${size}:r=25:d=${seconds}`, '-vf', `hue=h=${hue}`, ...X264, name);
  return join(scratch, name);
}

/** A film with the beginnings of a zip file's own parts in it, where a player does not look (a free box, ISO/IEC 14496-12). */
export function withZipParts(file: string): string {
  const parts = Buffer.from('PK\x01\x02____PK\x03\x04____PK\x07\x08____PK\x05\x06____', 'latin1');
  const head = Buffer.alloc(8);
  head.writeUInt32BE(8 + parts.length, 0);
  head.write('free', 4, 'latin1');
  writeFileSync(file, Buffer.concat([readFileSync(file), head, parts]));
  return file;
}

/** What is stored under `media/`: names with sizes, or changed by `change`. */
export const stored = (page: Page) =>
  page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('media', { create: true });
    const out: Record<string, number> = {};
    for await (const [name, handle] of (folder as unknown as { entries(): AsyncIterable<[string, FileSystemFileHandle]> }).entries())
      out[name] = (await handle.getFile()).size;
    return out;
  });
/** Cuts a stored file to `length` bytes; removes it with null. */
export const cutStored = (page: Page, name: string, length: number | null) =>
  page.evaluate(
    async ([id, to]) => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('media');
      if (to === null) return folder.removeEntry(id as string);
      const writable = await (await folder.getFileHandle(id as string)).createWritable({ keepExistingData: true });
      await writable.truncate(to as number);
      await writable.close();
    },
    [name, length] as const,
  );

/** Gives a stored file another name: what it was is missing then, and comes back when it is named so again. */
export const renameStored = (page: Page, from: string, to: string) =>
  page.evaluate(
    async ([name, other]) => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('media');
      await ((await folder.getFileHandle(name)) as unknown as { move(name: string): Promise<void> }).move(other);
    },
    [from, to] as const,
  );

export async function toLog(page: Page): Promise<void> {
  await press(page, stage(page, 'Shoot'));
  await expect(files(page)).toBeAttached();
}

/** Puts another document in the place of the open project's and opens it. */
export async function putProject(page: Page, document: Project): Promise<void> {
  await page.evaluate(
    (project) =>
      new Promise<void>((resolve, reject) => {
        const open = indexedDB.open('fickle-ribbon');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const work = open.result.transaction('projects', 'readwrite');
          const all = work.objectStore('projects');
          const row = all.get(project.id);
          row.onsuccess = () => all.put({ ...row.result, document: project, apart: undefined });
          work.onerror = () => reject(work.error);
          work.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
    document,
  );
  await page.reload();
  await expect(page.locator('[data-saved=true]')).toBeVisible();
}
