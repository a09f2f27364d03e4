/**
 * Builds the demo's film as a user would, through the page: the five moves and the hand-over along its seam. Writes what was laid, and what
 * was worked out and kept for it, to `public/demo`. `npx tsx scripts/bake-film.ts` after a build.
 */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import type { Project } from '../src/core/document/index';
import { launchChromium, withEmptyScore } from './chromium';
import { startServer } from './server';

const OUT = 'public/demo';
const [ONE, TWO] = ['take-2-outfit-one.mp4', 'take-3-outfit-two.mp4'];
const [LEFT, RIGHT] = ['clones-the-hand-over-place-p1.mp4', 'clones-the-hand-over-place-p2.mp4'];
/** Move, bar, takes. */
const MOVES: readonly [string, number, readonly string[]][] = [
  ['Masked reveal', 1, [ONE, TWO]],
  ['Whip', 4, [RIGHT, ONE]],
  ['Freeze frame', 6, [LEFT]],
  ['Speed ramp', 8, [RIGHT]],
  ['Split screen', 10, [LEFT, RIGHT]],
  ['Whip', 13, [LEFT, RIGHT]],
  ['Speed ramp', 14, [ONE]],
];

const server = await startServer();
const browser = await launchChromium();
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })).newPage();
// The demo opens without its film, which is made here.
await withEmptyScore(page);
const stage = (name: string) => page.getByRole('link', { name, exact: true }).filter({ visible: true }).first().click();

function kept(from: Page): Promise<Project> {
  return from.evaluate(
    () =>
      new Promise<Project>((resolve) => {
        const open = indexedDB.open('fickle-ribbon');
        open.onsuccess = () => {
          const all = open.result.transaction('projects').objectStore('projects').getAll();
          all.onsuccess = () => resolve(all.result[0].document);
        };
      }),
  );
}
const saved = () => page.locator('[data-saved=true]').waitFor({ state: 'attached' });
const shots = async () => {
  await saved();
  return (await kept(page)).shots.length;
};

await page.goto(`${server.url}/takes`);
await expect(page.getByTestId('take-place-p2')).toContainText('could be followed', { timeout: 200_000 });
await stage('Score');
for (const [name, bar, takes] of MOVES) {
  const before = await shots();
  await page.getByLabel('Find on the score').fill(`bar ${bar}`);
  await page.keyboard.press('Enter');
  const open = page.getByRole('button', { name: 'From which takes' });
  if ((await open.getAttribute('aria-expanded')) === 'false') await open.click();
  for (const [i, take] of takes.entries())
    await page.getByRole('combobox', { name: i ? 'Second take' : 'First take' }).selectOption({ label: take });
  await page.getByRole('button', { name, exact: true }).click();
  await expect.poll(shots, { timeout: 200_000 }).toBe(before + 1);
  await expect(page.getByTestId('move-problem')).toHaveCount(0);
  console.log(`${name} on bar ${bar}`);
}
await stage('Takes');
await page.getByRole('tab', { name: 'Side by side' }).click();
await page.getByRole('button', { name: 'Line them up by the beat' }).click();
await expect(page.getByText(/Both begin at second/)).toBeVisible({ timeout: 100_000 });
await page.getByRole('button', { name: 'Find the seam' }).click();
await page.getByRole('button', { name: /Use this seam from bar/ }).click({ timeout: 200_000 });
await expect(page).toHaveURL(/score/, { timeout: 60_000 });
await saved();

const { shots: laid, nestedShots, media, takes } = await kept(page);
const made = media.filter((m) => m.madeFrom !== undefined);
rmSync(`${OUT}/kept`, { recursive: true, force: true });
mkdirSync(`${OUT}/kept`, { recursive: true });
for (const { id } of made) {
  const bytes = await page.evaluate(async (name) => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('media');
    return [...new Uint8Array(await (await (await folder.getFileHandle(name)).getFile()).arrayBuffer())];
  }, id);
  writeFileSync(`${OUT}/kept/${id}`, Uint8Array.from(bytes));
}
// What was heard in the song, so that the first start does not listen for ten seconds.
const heard = await page.evaluate(
  () =>
    new Promise<string>((resolve) => {
      const open = indexedDB.open('fickle-ribbon');
      open.onsuccess = () => {
        const all = open.result.transaction('derived').objectStore('derived').getAll();
        all.onsuccess = () => {
          const row = (all.result as { key: string }[]).find(({ key }) => key.startsWith('song:'));
          resolve(
            JSON.stringify(row, (_, value) => {
              if (!(value instanceof Float32Array)) return value;
              const bytes = new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
              let text = '';
              for (const byte of bytes) text += String.fromCharCode(byte);
              return { float32: btoa(text) };
            }),
          );
        };
      };
    }),
);
writeFileSync(`${OUT}/heard.json`, `${heard}\n`);
// Takes are known by their files here; where the demo opens they get ids of their own.
let text = JSON.stringify({
  shots: laid,
  nestedShots,
  media: made,
  corrections: takes.map((t) => ({ mediaId: t.mediaId, correction: t.correction })),
});
for (const { id, mediaId } of takes) text = text.replaceAll(`"${id}"`, `"take of ${mediaId}"`);
writeFileSync(`${OUT}/film.json`, `${text}\n`);
console.log(`${laid.length} shots, ${made.length} kept pictures, ${(text.length / 1000).toFixed(0)} kB`);
await browser.close();
server.stop();
process.exit(0);
