import { join } from 'node:path';
import { expect } from '@playwright/test';
import { test } from './demo';
import { downloadBy, ffmpeg, greyPicture, kept, openDemo, openShot, scratch, showTake, stage } from './helpers';
import { files, X264 } from './stored';

const [W, H] = [128, 72];

test('a picture’s shadow and echoes lie behind it, soft and fainter each, and follow it; what is removed leaves its echo empty', async ({
  page,
}) => {
  const wall = join(scratch, 'wall.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'color=c=gray:s=320x180:r=25:d=6', ...X264, wall);
  const disc = join(scratch, 'white-disc.png');
  const shape = "geq=r=240:g=240:b=240:a='if(lt(hypot(X-160,Y-90),40),255,0)'";
  ffmpeg('-f', 'lavfi', '-i', 'color=c=white:s=320x180,format=rgba', '-vf', shape, '-frames:v', '1', disc);
  await openDemo(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles(wall);
  await expect.poll(async () => (await kept(page)).takes.length).toBe(6);
  await showTake(page, 'wall.mp4');
  await page.getByTestId('picture-file').setInputFiles(disc);
  await expect(page.getByTestId('layer')).toHaveCount(2);
  const picture = page.getByTestId('layer').first();
  await picture.locator('summary').first().click();
  await picture.getByText('Shadow and echoes').click();
  const grey = async (name: string) => {
    await stage(page, 'Deliver').click();
    const still = greyPicture(await downloadBy(page, /^Save PNG$/, name), W, H);
    await stage(page, 'Score').click();
    return (x: number, y: number) => still[Math.round(y * H) * W + Math.round(x * W)];
  };
  const without = await grey('no-shadow.png');
  await page.getByTestId('layer').filter({ hasText: 'white-disc' }).locator('summary').first().click();
  await page.getByText('Shadow and echoes').first().click();
  await page.getByRole('button', { name: 'Lay its shadow behind it' }).click();
  await expect(page.getByTestId('layer')).toHaveCount(3);
  const shaded = await grey('shadow.png');
  // The disc reaches 40 of 180 lines from its middle: its shadow looks out below and to the right of it, and nowhere else.
  const edge = 40 / 180;
  expect(shaded(0.5, 0.5)).toBe(without(0.5, 0.5));
  expect(without(0.5 + 0.012 + (edge * H) / W, 0.5) - shaded(0.5 + 0.012 + (edge * H) / W, 0.5)).toBeGreaterThan(15);
  expect(without(0.5, 0.51 + edge) - shaded(0.5, 0.51 + edge)).toBeGreaterThan(15);
  for (const [x, y] of [
    [0.5 - 0.02 - (edge * H) / W, 0.5],
    [0.5, 0.47 - edge],
    [0.9, 0.9],
  ])
    expect(Math.abs(without(x, y) - shaded(x, y))).toBeLessThanOrEqual(2);

  // Three echoes, as the picture itself shows: fainter each, by even steps.
  const again = page.getByTestId('layer').filter({ hasText: 'white-disc' }).first();
  await again.locator('summary').first().click();
  await again.getByText('Shadow and echoes').click();
  await again.getByLabel('Echoes').fill('3');
  await again.getByLabel('Echoes').press('Enter');
  await again.getByRole('button', { name: 'Lay 3 echoes behind it' }).click();
  await expect(page.getByTestId('layer')).toHaveCount(6);
  const { layers } = (await kept(page)).shots[0];
  const echoes = layers.filter((l) => l.source.kind === 'echo' && l.source.shown === 'as it is');
  expect(echoes.map((l) => [l.source.kind === 'echo' && l.source.late, l.numbers.opacity?.[0].value.toFixed(1)])).toEqual([
    [9, '16.7'],
    [6, '33.3'],
    [3, '50.0'],
  ]);
  await again.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByTestId('layer')).toHaveCount(5);
  const gone = await grey('gone.png');
  expect(Math.abs(gone(0.5, 0.5) - gone(0.1, 0.1))).toBeLessThanOrEqual(2);
});

test('a layer over a take ducks under whoever is in it, and fades in', async ({ page }) => {
  await openDemo(page);
  await openShot(page);
  await page.getByLabel('Add a layer').selectOption('colour');
  await expect(page.getByTestId('layer')).toHaveCount(2);
  const colour = page.getByTestId('layer').first();
  await colour.locator('summary').first().click();
  await colour.getByRole('button', { name: 'Duck under the performer below' }).click();
  await expect.poll(async () => (await kept(page)).shots[0].layers[1].masks.length, { timeout: 90_000 }).toBe(1);
  await stage(page, 'Deliver').click();
  const ducked = greyPicture(await downloadBy(page, /^Save PNG$/, 'ducked.png'), W, H);
  // An even colour all over, but for the figure.
  const most = ducked[2 * W + 2];
  const figure = ducked.filter((v) => Math.abs(v - most) > 12).length / ducked.length;
  expect(figure).toBeGreaterThan(0.02);
  expect(figure).toBeLessThan(0.3);
  await stage(page, 'Score').click();
  const again = page.getByTestId('layer').first();
  await again.locator('summary').first().click();
  await again.getByText('Time', { exact: true }).click();
  await again.getByLabel('Fades in over').fill('4');
  await again.getByLabel('Fades in over').press('Enter');
  await expect.poll(async () => (await kept(page)).shots[0].layers[1].numbers.opacity?.map((k) => k.value)).toEqual([0, 100]);
  await page.getByRole('button', { name: 'Undo: Fade a layer in' }).click();
  await expect.poll(async () => (await kept(page)).shots[0].layers[1].numbers.opacity).toBeUndefined();
});
