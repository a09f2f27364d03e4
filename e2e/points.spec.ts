import { expect } from '@playwright/test';
import { test } from './demo';
import { downloadBy, dragShot, greyPicture, kept, press, stage, startEmpty } from './helpers';
import { filmPerformer, photographWall } from './performer';
import { files } from './stored';

const [W, H] = [640, 360];

test('a point is marked, followed and held: what is around it stays where it is while the camera pans', async ({ page }) => {
  const take = filmPerformer('panning', { width: W, height: H, seconds: 3, behind: photographWall(2), walk: null });
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles([take.file]);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(1);
  await stage(page, 'Takes').click();
  await page.getByRole('tab', { name: 'Points' }).click();
  const picture = page.getByTestId('points-picture');
  await expect(picture).toHaveAttribute('data-drawn', '0.00');
  const box = await picture.boundingBox();
  if (!box) throw new Error('no picture');
  await picture.click({ position: { x: 0.6 * box.width, y: 0.5 * box.height } });
  await page.getByRole('button', { name: 'Follow Point 1' }).click();
  await expect(page.getByText('Followed on 75 of 75 frames.')).toBeVisible({ timeout: 60_000 });
  // Two pixels a frame to the left: after two seconds a hundred.
  await page.getByLabel('Frame at').fill('2');
  await page.getByLabel('Frame at').press('Enter');
  await expect(picture).toHaveAttribute('data-drawn', '2.00');
  const circle = await page.locator('[data-testid=points-picture] + svg circle').last().getAttribute('cx');
  expect(Math.abs(Number(circle) - (0.6 * W - 100))).toBeLessThan(1);

  await stage(page, 'Score').click();
  await dragShot(page);
  const layer = page.getByTestId('layer').last();
  await layer.locator('summary').first().click();
  await layer.getByLabel('Keep still').selectOption({ label: 'Point 1: hold it where it is now' }, { timeout: 20_000 });
  await expect(layer.getByText(/It is shown at \d+\.\d % of its size, so that no edge shows\./)).toBeVisible({ timeout: 60_000 });
  const shown = (await kept(page)).shots[0].layers[0].numbers;
  expect(shown.x?.length).toBeGreaterThan(1);
  const still = async (frames: number) => {
    for (let i = 0; i < frames; i++) await page.keyboard.press('Shift+ArrowRight');
    await stage(page, 'Deliver').click();
    const made = greyPicture(await downloadBy(page, /^Save PNG$/, `held-${frames}.png`), W, H);
    await stage(page, 'Score').click();
    return made;
  };
  await page.getByTestId('shot-strip').first().click();
  const [first, later] = [await still(0), await still(3)];
  const around = (a: Uint8Array, b: Uint8Array, dx: number) => {
    let [sum, n] = [0, 0];
    for (let y = 120; y < 240; y++) for (let x = 300; x < 460; x++, n++) sum += Math.abs(a[y * W + x] - b[y * W + x + dx]);
    return sum / n;
  };
  expect(around(first, later, 0)).toBeLessThan(6);
  expect(around(first, later, 0)).toBeLessThan(0.5 * around(first, later, 12));
  await press(page, page.getByRole('button', { name: 'Undo' }));
});
