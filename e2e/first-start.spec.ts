import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { shotFrames } from '../src/core/evaluate/index';
import { browserOf, test } from './demo';
import { kept, press, stage } from './helpers';

test('the very first start has a film of a minute to play: twelve moves and more, with their sounds and a look over all of it @clock', async ({
  baseURL,
}, info) => {
  const profile = mkdtempSync(join(tmpdir(), 'ribbon-first-'));
  const context = await browserOf(profile, info);
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto(`${baseURL}/plan`);
  await expect(page.getByText('1 filmed').first()).toBeVisible({ timeout: 90_000 });
  await press(page, stage(page, 'Score'));
  const picture = page.getByTestId('film-picture');
  await expect(picture).toHaveAttribute('data-frame', /\d+/);
  await press(page, page.getByRole('button', { name: 'Play', exact: true }));
  await expect.poll(async () => Number(await picture.getAttribute('data-frame')), { timeout: 5000 }).toBeGreaterThan(30);
  // What is seen is a picture, not black.
  const mean = await picture.evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: [] };
    let sum = 0;
    for (let i = 0; i < data.length; i += 4) sum += data[i + 1];
    return sum / (data.length / 4);
  });
  expect(mean).toBeGreaterThan(40);
  await press(page, page.getByRole('button', { name: 'Pause', exact: true }));
  const project = await kept(page);
  const { shots, media, takes, sound, overAll } = project;
  expect(new Set(shots.map((s) => s.move?.kind)).size).toBeGreaterThanOrEqual(12);
  expect(sound.clips.length).toBeGreaterThan(20);
  expect(overAll).toBeTruthy();
  // No black between its shots: each begins before the one before has ended, or as it ends.
  const spans = shots.map((s) => shotFrames(project, s)).sort((a, b) => a[0] - b[0]);
  let until = spans[0][0];
  for (const [from, to] of spans) {
    expect(from).toBeLessThanOrEqual(until);
    until = Math.max(until, to);
  }
  const seconds = (until - spans[0][0]) / 25;
  expect(seconds).toBeGreaterThan(45);
  expect(seconds).toBeLessThan(70);
  // It passes its own check.
  await press(page, stage(page, 'Check'));
  const told = page.getByTestId('finding').or(page.getByText(/^Nothing found/));
  await expect(told.first()).toBeVisible({ timeout: 60_000 });
  // That two takes were not measured against each other yet is told until they are; nothing else is.
  await expect(page.getByTestId('finding').filter({ hasText: /edge|beat/ })).toHaveCount(0);
  await press(page, stage(page, 'Score'));
  expect(takes).toHaveLength(5);
  // All that it is made of can be read: nothing is missing.
  for (const { id, bytes } of media) {
    const size = await page.evaluate(async (name) => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('media');
      return (await (await folder.getFileHandle(name)).getFile()).size;
    }, id);
    expect(size).toBe(bytes);
  }
  // The picture fills the window, plays there, and Escape leads back.
  await press(page, page.getByRole('button', { name: 'Fill the window with the picture' }));
  await expect.poll(async () => (await picture.boundingBox())?.width ?? 0).toBeGreaterThan(1000);
  const from = Number(await picture.getAttribute('data-frame'));
  await press(page, page.getByRole('button', { name: 'Play', exact: true }).first());
  await expect.poll(async () => Number(await picture.getAttribute('data-frame'))).toBeGreaterThan(from + 10);
  await press(page, page.getByRole('button', { name: 'Back to the page' }));
  await expect.poll(async () => (await picture.boundingBox())?.width ?? 2000).toBeLessThan(1000);
  await context.close();
  rmSync(profile, { recursive: true, force: true });
});
