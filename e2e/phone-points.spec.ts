import { join } from 'node:path';
import { expect } from '@playwright/test';
import { asHomography, cornersApart, ofMove } from '../src/core/picture/index';
import { test } from './demo';
import { ffmpeg, kept, press, scratch, stage, startEmpty } from './helpers';
import { files, X264 } from './stored';

test('on the phone: takes that cannot be laid over one another are laid by points set with a thumb', async ({ page }) => {
  // Two scenes with nothing alike: only the user knows what belongs together.
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=25:d=2', '-vf', 'trim=end_frame=1,loop=50:1:0', ...X264, 'one-scene.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'mandelbrot=s=640x360:r=25', '-t', '2', '-vf', 'trim=end_frame=1,loop=50:1:0', ...X264, 'another-scene.mp4');
  await startEmpty(page);
  await press(page, stage(page, 'Shoot'));
  await files(page).setInputFiles([join(scratch, 'one-scene.mp4'), join(scratch, 'another-scene.mp4')]);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(2);
  await press(page, stage(page, 'Takes'));
  const byHand = page.getByRole('button', { name: 'Set points by hand' });
  await expect(byHand).toBeVisible({ timeout: 60_000 });
  await press(page, byHand);
  const there = page.getByTestId('by-points').locator('figure').nth(1);
  const spot = there.getByTestId('spot-1');
  await spot.scrollIntoViewIfNeeded();
  // By keys to the pixel: 20 to the right and 10 up of where it is.
  await spot.focus();
  for (let i = 0; i < 20; i++) await spot.press('ArrowRight');
  for (let i = 0; i < 10; i++) await spot.press('ArrowUp');
  await there.getByTestId('spot-2').focus();
  for (let i = 0; i < 20; i++) await there.getByTestId('spot-2').press('ArrowRight');
  for (let i = 0; i < 10; i++) await there.getByTestId('spot-2').press('ArrowUp');
  // With a thumb: taken hold of beside its middle and put back, it does not jump.
  const box = await spot.boundingBox();
  if (!box) throw new Error('no spot');
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  await press(page, page.getByRole('button', { name: 'Lay it by these points' }));
  await expect(page.getByText(/Moved against one-scene\.mp4: 22\.\d\d px/)).toBeVisible({ timeout: 60_000 });
  await press(page, page.getByRole('button', { name: 'Correct this take' }));
  const [, { correction, byHand: points }] = (await kept(page)).takes;
  expect(points?.pairs).toHaveLength(2);
  if (!correction) throw new Error('no correction');
  const lies = correction.perspective ? asHomography(correction.perspective) : ofMove(correction.moves[0]);
  expect(cornersApart(lies, ofMove({ dx: 20, dy: -10, turn: 0, scale: 1 }), 640, 360)).toBeLessThan(0.6);
  // Forgotten, it is as before.
  await press(page, page.getByRole('button', { name: 'Points set by hand' }));
  await press(page, page.getByRole('button', { name: 'Forget the points' }));
  await expect(page.getByRole('button', { name: 'Set points by hand' })).toBeVisible({ timeout: 60_000 });
});
