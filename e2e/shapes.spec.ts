import { expect } from '@playwright/test';
import { psnr } from '../src/core/picture/index';
import { test } from './demo';
import { downloadBy, ffprobe, greyPicture, kept, openDemo, openShot, rawVideo, stage } from './helpers';

test('the film upright: each shot shows a part that is pulled, typed or follows the performer; the film as it is stays', async ({
  page,
}) => {
  await openDemo(page);
  await openShot(page);
  await stage(page, 'Deliver').click();
  const film = await downloadBy(page, /^Save PNG$/, 'as-it-is.png');
  await page.getByLabel('Make it').selectOption('720 1280');
  const frame = page.getByTestId('shape-window');
  const box = await frame.boundingBox();
  if (!box) throw new Error('no part is shown');
  expect(box.width / box.height).toBeCloseTo(9 / 16, 1);
  // Pulled to the left as far as it goes, and then back by number.
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 2000, box.y + 10, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await kept(page)).shots[0].part?.[0].x).toBe(0);
  const typed = page.getByLabel('From the left');
  await typed.fill('60');
  await typed.press('Enter');
  await expect.poll(async () => (await kept(page)).shots[0].part?.[0].x).toBe(60);

  // The still is that part of the film's own, drawn larger.
  const upright = await downloadBy(page, /^Save PNG$/, 'upright.png');
  expect(upright).toMatch(/upright/);
  const [w, h] = [720, 1280];
  const part = rawVideo(
    film,
    `crop=405:720:${Math.round(0.6 * (1280 - 405))}:0,scale=${w}:${h}:flags=bicubic,format=gray`,
    '-frames:v',
    '1',
  );
  expect(psnr(part, greyPicture(upright, w, h))).toBeGreaterThan(28);

  await page.getByRole('button', { name: 'Follow the performers in all shots' }).click();
  await expect.poll(async () => (await kept(page)).shots[0].part?.[0].x, { timeout: 90_000 }).not.toBe(60);
  const made = await downloadBy(page, /Make MP4/, 'upright.mp4');
  const video = ffprobe(made).streams.find((s) => s.codec_type === 'video');
  expect([video?.width, video?.height]).toEqual([720, 1280]);
  // The film itself is as it was.
  const { frame: own } = await kept(page);
  expect([own.width, own.height, own.cutFrom]).toEqual([1280, 720, undefined]);
});
