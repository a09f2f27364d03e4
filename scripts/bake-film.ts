/**
 * Builds the demo's film as a user would, through the page: fourteen moves with their sounds, and a look over all of it. Writes what was laid, and what
 * was worked out and kept for it, to `public/demo`. `npx tsx scripts/bake-film.ts` after a build.
 */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { kept } from '../e2e/helpers';
import { launchChromium, withEmptyScore } from './chromium';
import { startServer } from './server';

const OUT = 'public/demo';
const [ONE, TWO] = ['take-2-outfit-one.mp4', 'take-3-outfit-two.mp4'];
const [LEFT, RIGHT] = ['clones-the-hand-over-place-p1.mp4', 'clones-the-hand-over-place-p2.mp4'];
/** Moves as they follow one another: name, bar and beat of the song, takes, and what is typed or chosen of it then. */
const MOVES: readonly {
  name: string;
  on: readonly [bar: number, beat: number];
  takes: readonly string[];
  after?: (page: Page) => Promise<void>;
}[] = [
  { name: 'Title', on: [1, 1], takes: [LEFT], after: (page) => words(page, 'Half Load') },
  { name: 'Whip', on: [4, 1], takes: [RIGHT, ONE] },
  { name: 'Freeze frame', on: [6, 1], takes: [LEFT] },
  { name: 'Curtain reveal', on: [9, 1], takes: [] },
  { name: 'Impact', on: [11, 3], takes: [ONE] },
  { name: 'Speed ramp', on: [13, 1], takes: [RIGHT] },
  { name: 'Orbit', on: [15, 1], takes: [LEFT, RIGHT] },
  { name: 'Clones: the hand-over', on: [17, 1], takes: [] },
  { name: 'Split screen', on: [20, 1], takes: [LEFT, RIGHT] },
  { name: 'Trail', on: [22, 1], takes: [RIGHT] },
  { name: 'Isolate', on: [23, 3], takes: [LEFT] },
  { name: 'Vanish', on: [25, 1], takes: [RIGHT, LEFT] },
  { name: 'Still in motion', on: [26, 3], takes: [ONE, TWO] },
  { name: 'Iris', on: [29, 1], takes: [TWO] },
];
const BEATS = 4;

async function words(page: Page, text: string): Promise<void> {
  await page.getByLabel('Words').fill(text);
  await page.getByLabel('Words').blur();
}

const server = await startServer();
const browser = await launchChromium();
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })).newPage();
page.setDefaultTimeout(60_000);
// Functions that are handed to the page keep their names through the bundler's helper.
await page.addInitScript('globalThis.__name ??= (f) => f');
// The demo opens without its film, which is made here.
await withEmptyScore(page);
const stage = (name: string) => page.getByRole('link', { name, exact: true }).filter({ visible: true }).first().click();

const saved = () => page.locator('[data-saved=true]').waitFor({ state: 'attached' });
const shots = async () => {
  await saved();
  return (await kept(page)).shots.length;
};

await page.goto(`${server.url}/plan`);
await expect(page.getByText('1 filmed').nth(2)).toBeVisible({ timeout: 200_000 });
await stage('Score');
const spans: string[] = [];
for (const { name, on, takes, after } of MOVES) {
  const [bar, beat] = on;
  const before = await shots();
  await page.getByLabel('Find on the score').fill(`bar ${bar}`);
  await page.keyboard.press('Enter');
  // The beats of a bar are frames on from its first.
  for (let k = 0; k < Math.round(((beat - 1) * 60 * 25) / 112); k++) await page.getByRole('button', { name: 'One frame on' }).click();
  const open = page.getByRole('button', { name: 'From which takes' });
  if ((await open.getAttribute('aria-expanded')) === 'false') await open.click();
  for (const [i, take] of takes.entries())
    await page.getByRole('combobox', { name: i ? 'Second take' : 'First take' }).selectOption({ label: take });
  if (takes.length === 0) await page.getByRole('button', { name: new RegExp(`^Lay “${name}” on bar`) }).click();
  else {
    await page.getByRole('button', { name: 'All moves…' }).click();
    await page.getByRole('dialog').getByRole('button', { name, exact: true }).click();
  }
  await expect.poll(shots, { timeout: 400_000 }).toBe(before + 1);
  console.log((await page.getByTestId('move-problem').allInnerTexts()).join(' '));
  await after?.(page);
  const sounds = page.getByRole('button', { name: /^Lay its sounds/ });
  if ((await sounds.count()) > 0) {
    await sounds.click();
    await expect(page.getByText(/sounds? lies? on the effects now|lie there already/)).toBeVisible({ timeout: 60_000 });
  }
  await saved();
  const shot = (await kept(page)).shots.at(-1);
  const at = (place = 0) => `${Math.floor(place / BEATS) + 1}.${(place % BEATS) + 1}`;
  spans.push(`${name}: ${at(shot?.start.beat)} to ${at(shot?.end.beat)}`);
  console.log(spans.at(-1));
}
// One look over all of it: a little warmer, with darker corners.
await page.getByRole('button', { name: 'Over the whole film' }).click();
const over = page.getByTestId('layer').first();
await over.locator('summary').first().click();
for (const [kind, label, value] of [
  ['contrast', 'Contrast in %', '108'],
  ['vignette', 'Darker at the corners in %', '28'],
]) {
  await over.getByLabel('Add an effect').selectOption(kind);
  const field = page.getByLabel(label, { exact: true }).filter({ visible: true }).first();
  await field.fill(value);
  await field.press('Enter');
}
await saved();

const { shots: laid, nestedShots, media, takes, sound, overAll } = await kept(page);
// What was worked out for it, and the sounds that were made.
const made = media.filter((m) => m.madeFrom !== undefined || sound.clips.some((c) => c.mediaId === m.id));
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
  overAll,
  clips: sound.clips,
  media: made,
  corrections: takes.map((t) => ({ mediaId: t.mediaId, correction: t.correction })),
});
for (const { id, mediaId } of takes) text = text.replaceAll(`"${id}"`, `"take of ${mediaId}"`);
writeFileSync(`${OUT}/film.json`, `${text}\n`);
console.log(`${laid.length} shots, ${made.length} kept pictures, ${(text.length / 1000).toFixed(0)} kB`);
await browser.close();
server.stop();
process.exit(0);
