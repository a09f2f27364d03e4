import { expect, test } from '@playwright/test';
import { kept } from './helpers';
import { ownFiles } from './own-clips';

test('on the phone: a first film of one’s own in two taps, everything under the thumb', async ({ page }) => {
  const files = ownFiles();
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Choose films and a song' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByTestId('own-files').setInputFiles(files);
  const make = page.getByRole('button', { name: 'Make a first film' });
  await make.waitFor({ timeout: 120_000 });
  expect((await make.boundingBox())?.height).toBeGreaterThanOrEqual(44);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await make.tap();
  await page.waitForURL(/score/, { timeout: 120_000 });
  expect((await kept(page)).shots.map((s) => s.move?.kind)).toEqual(['clones', 'impact']);
  // The guide is left by a tap, for good, and comes again when it is asked for.
  const guide = page.getByTestId('guide');
  await expect(guide).toContainText('4 of 6');
  await guide.getByRole('button', { name: 'Leave the guide' }).tap();
  await expect(guide).toHaveCount(0);
  await page.reload();
  await expect(page.getByTestId('shot-strip').first()).toBeVisible();
  await expect(guide).toHaveCount(0);
});
