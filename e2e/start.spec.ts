import { expect, test } from '@playwright/test';
import { shotFrames } from '../src/core/evaluate/index';
import { downloadBy, kept, rawVideo, stage } from './helpers';
import { ownFiles } from './own-clips';

const [W, H] = [64, 36];

test('two doors: the demo film plays, and films and a song of one’s own become a film in two actions', async ({ page }) => {
  const files = ownFiles();
  await page.goto('/');
  await expect.poll(() => page.getByLabel('The demo film').evaluate((v: HTMLVideoElement) => v.currentTime)).toBeGreaterThan(0.2);
  await page.getByTestId('own-files').setInputFiles(files);
  await page.waitForURL(/shoot/);
  await expect(page.getByTestId('sorted')).toHaveCount(2, { timeout: 120_000 });
  await expect(page.getByTestId('sorted').first()).toContainText('two performers at places of their own, and the empty room');
  await page.getByRole('button', { name: 'Make a first film' }).click();
  await page.waitForURL(/score/, { timeout: 120_000 });
  await expect(page.getByTestId('shot-strip').first()).toBeVisible();
  const project = await kept(page);
  expect(project.name).toBe('Slow rinse');
  expect(project.shots.map((s) => s.move?.kind)).toEqual(['clones', 'impact']);
  // From bar 1 on, one after the other without black between.
  const [first, second] = project.shots.map((s) => shotFrames(project, s));
  expect(first[0]).toBe(shotFrames(project, { ...project.shots[0], start: { beat: 0, offset: 0 } })[0]);
  expect(second[0]).toBe(first[1]);
  expect(project.takes.slice(0, 3).map((t) => t.slot)).toEqual(['plate', 'place-p1', 'place-p2']);

  // The way on is shown until the film is made; what is not wanted is skipped.
  const guide = page.getByTestId('guide');
  await expect(guide).toContainText('4 of 6 Play it');
  await guide.getByRole('button', { name: 'Skip' }).click();
  await guide.getByRole('link', { name: 'Go there' }).click();
  await page.waitForURL(/check/);
  await expect(guide).toContainText('6 of 6 Make the film.');

  // The film shows both performers at once: where each stands it is darker than the wall between them.
  await stage(page, 'Deliver').click();
  const film = await downloadBy(page, /Make MP4/, 'first-film.mp4');
  await expect(guide).toHaveCount(0);
  const raw = rawVideo(film, `format=gray,scale=${W}:${H}:flags=area`);
  const frame = raw.subarray(30 * W * H, 31 * W * H);
  const at = (x: number) => frame[Math.round(0.62 * H) * W + Math.round((x / 640) * W)];
  expect(at(150)).toBeLessThan(at(310) - 40);
  expect(at(470)).toBeLessThan(at(310) - 40);
});

test('projects have pictures, are found, named, copied, deleted and brought back, and opened where they were left', async ({ page }) => {
  const [, left] = ownFiles();
  await page.goto('/');
  await page.getByTestId('own-files').setInputFiles([left]);
  await page.waitForURL(/shoot/);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(1);
  await page.getByRole('button', { name: /New project/ }).click();
  await page.getByRole('menuitem', { name: 'All projects' }).click();
  const cards = page.getByTestId('project-card');
  await expect(cards).toHaveCount(1);
  await expect(cards.locator('img')).toBeVisible({ timeout: 60_000 });
  await cards.getByRole('button', { name: 'Rename' }).click();
  await cards.getByLabel('Name').fill('Evening shift');
  await cards.getByLabel('Name').press('Enter');
  await expect(cards).toContainText('Evening shift');
  await cards.getByRole('button', { name: 'Copy' }).click();
  await expect(cards).toHaveCount(2);
  await page.getByLabel('Find a project').fill('copy');
  await expect(cards).toHaveCount(1);
  await cards.getByRole('button', { name: 'Delete' }).click();
  await page.getByLabel('Find a project').fill('');
  await expect(cards).toHaveCount(1);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(cards).toHaveCount(2);
  await page.reload();
  await cards.filter({ hasText: 'Evening shift, copy' }).getByRole('button').first().click();
  await page.waitForURL(/takes/);
  await expect(page.getByRole('button', { name: /Evening shift, copy/ })).toBeVisible();
  // Files dropped on any stage are taken in.
  const [, , right] = ownFiles();
  const { readFileSync } = await import('node:fs');
  const data = await page.evaluateHandle((bytes) => {
    const given = new DataTransfer();
    given.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], 'dropped.mp4', { type: 'video/mp4' }));
    return given;
  }, readFileSync(right).toString('base64'));
  await page.getByRole('main').dispatchEvent('dragover', { dataTransfer: data });
  await expect(page.getByText('Let go: films become takes')).toBeVisible();
  await page.getByRole('main').dispatchEvent('drop', { dataTransfer: data });
  await page.waitForURL(/shoot/);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(2);
  // Dark everywhere when asked, also after a reload; dark only while shooting otherwise.
  const look = () => page.evaluate(() => document.documentElement.dataset.look);
  const choose = async (name: string) => {
    await page.keyboard.press('?');
    await page.getByLabel('Light or dark').selectOption({ label: name });
    await page.keyboard.press('Escape');
  };
  expect(await look()).toBe('night');
  await stage(page, 'Plan').click();
  await expect.poll(look).toBe('day');
  await choose('dark');
  expect(await look()).toBe('night');
  await page.reload();
  await expect.poll(look).toBe('night');
  await expect(page.getByRole('button', { name: /Evening shift, copy/ })).toBeVisible();
  await choose('dark while shooting, else light');
  expect(await look()).toBe('day');
});
