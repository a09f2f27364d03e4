import { expect } from '@playwright/test';
import { test } from './demo';
import { kept, layReveal, openDemo, press, typed } from './helpers';

test('a version that was named is gone back to and come away from again, after a reload too, and opened beside', async ({ page }) => {
  await openDemo(page);
  const menu = async () => {
    await press(page, page.getByRole('button', { name: /Night laundrette/ }));
    await press(page, page.getByRole('menuitem', { name: 'Earlier versions' }));
  };
  const versions = page.getByTestId('version');
  await menu();
  await typed(page, 'Keep how it is now as', 'Before the reveal');
  await expect(versions.filter({ hasText: 'Before the reveal' })).toContainText('0 shots, 5 takes');
  await press(page, page.getByRole('button', { name: 'Close' }));
  await layReveal(page);
  await page.reload();
  await menu();
  await press(page, versions.filter({ hasText: 'Before the reveal' }).getByRole('button', { name: 'Go back to it' }));
  await expect.poll(async () => (await kept(page)).shots.length).toBe(0);
  await press(page, page.getByRole('button', { name: /^Undo: Go back to the version/ }));
  await expect.poll(async () => (await kept(page)).shots.length).toBe(1);
  // How it was before it was gone back from is a version too.
  await menu();
  await expect(versions.first()).toContainText('1 shot, 5 takes');
  await press(page, versions.filter({ hasText: 'Before the reveal' }).getByRole('button', { name: 'Open beside' }));
  await expect(page.getByRole('button', { name: /Night laundrette, / })).toBeVisible();
  await expect.poll(async () => (await kept(page)).shots.length).toBe(0);
});
