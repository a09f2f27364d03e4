import { expect, type Page } from '@playwright/test';
import { test } from './demo';
import { openDemo, openShot, stage } from './helpers';

/** The curtain reveal laid on the demo's takes, chosen, its line shown where it covers half the picture. */
async function reveal(page: Page): Promise<void> {
  await openDemo(page);
  await stage(page, 'Score').click();
  await page.getByRole('button', { name: 'Masked reveal' }).click();
  await page.getByTestId('shot-strip').first().waitFor({ timeout: 60_000 });
  await openShot(page);
  await expect(page.getByTestId('line-handle')).toBeVisible();
}

const looked = (page: Page) => page.getByTestId('looked-at');
const widthOf = async (page: Page) => (await looked(page).boundingBox())?.width ?? 0;
const menu = (page: Page) => page.getByRole('button', { name: 'Shown over the picture' });
/** Every ninety-seventh byte of the film's picture. */
const picture = (page: Page) =>
  page.getByTestId('film-picture').evaluate((canvas: HTMLCanvasElement) => {
    const all = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? new Uint8ClampedArray();
    return [...all].filter((_, i) => i % 97 === 0);
  });

test('the picture is looked at closely by wheel, keys and buttons, moved across, and fits again; a mask is pulled while it fills the window', async ({
  page,
}) => {
  await reveal(page);
  const fit = await widthOf(page);
  const box = await looked(page).boundingBox();
  if (!box) throw new Error('There is no picture.');
  // What is under the pointer stays there: the point a quarter from the left, seen from the picture's own corner.
  const [x, y] = [box.x + box.width / 4, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.wheel(0, -800);
  await expect.poll(() => widthOf(page)).toBeCloseTo(4 * fit, -1);
  const close = await looked(page).boundingBox();
  expect(Math.abs((x - (close?.x ?? 0)) / (close?.width ?? 1) - 0.25)).toBeLessThan(0.01);
  // Pulled by the mouse, then by keys.
  await page.mouse.down();
  await page.mouse.move(x - 90, y - 20, { steps: 5 });
  await page.mouse.up();
  // The first few pixels tell a pull from a tap.
  await expect.poll(async () => Math.abs(((await looked(page).boundingBox())?.x ?? 0) - ((close?.x ?? 0) - 90))).toBeLessThan(8);
  const pulled = (await looked(page).boundingBox())?.x ?? 0;
  await page.keyboard.press('Control+ArrowRight');
  await expect.poll(async () => (await looked(page).boundingBox())?.x ?? 0).toBeLessThan(pulled - 30);
  await page.keyboard.press('0');
  await expect.poll(() => widthOf(page)).toBeCloseTo(fit, 0);
  await page.getByRole('button', { name: 'One pixel of the film to one of the screen' }).click();
  await expect.poll(() => widthOf(page)).toBeCloseTo(1280, 0);
  await page.getByRole('button', { name: 'The whole picture', exact: true }).click();

  await page.getByRole('button', { name: 'Fill the window' }).click();
  await expect.poll(() => widthOf(page)).toBeGreaterThan(1.5 * fit);
  const handle = page.getByTestId('line-handle');
  const before = await handle.getAttribute('aria-label');
  const held = await handle.boundingBox();
  if (!held) throw new Error('There is no line to pull.');
  await page.mouse.move(held.x + 28, held.y + 28);
  await page.mouse.down();
  await page.mouse.move(held.x + 28, held.y + 90, { steps: 5 });
  await page.mouse.up();
  await expect(handle).not.toHaveAttribute('aria-label', before as string);
  await page.keyboard.press('Escape');
  await expect.poll(() => widthOf(page)).toBeCloseTo(fit, 0);
});

test('over the picture: guides, safe areas, frames before and after, scopes, and the film before its masks; all gone by one press', async ({
  page,
}) => {
  await reveal(page);
  await menu(page).click();
  await page.getByText('Thirds and the middle').click();
  await page.getByText('Safe areas').click();
  await page.getByText('Waveform, vectorscope, histogram').click();
  await expect(page.getByRole('img', { name: 'Thirds and the middle' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'Safe areas: action, titles' })).toBeVisible();
  const frame = Number(await page.getByTestId('film-picture').getAttribute('data-frame'));
  await expect(page.getByTestId('scopes')).toHaveAttribute('data-of', String(frame));
  const lit = await page.getByRole('img', { name: 'Histogram' }).evaluate((canvas: HTMLCanvasElement) => {
    const all = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? new Uint8ClampedArray();
    return all.filter((v, i) => i % 4 < 3 && v > 100).length;
  });
  expect(lit).toBeGreaterThan(200);

  for (const [name, by] of [
    ['Before in f', -3],
    ['After in f', 5],
  ] as const) {
    await page.getByLabel(name).fill(String(Math.abs(by)));
    await page.getByLabel(name).press('Enter');
    await expect(page.locator(`[data-testid=onion-skin][data-frame="${frame + by}"]`)).toBeVisible();
  }
  // What the upper layer's mask hides is seen without it.
  await page.keyboard.press('Escape');
  const masked = await picture(page);
  const before = page.getByRole('img', { name: 'The film at the playhead, without masks and effects' });
  await menu(page).click();
  await page.getByText('Before: no masks, no effects').click();
  await expect(before).toBeVisible();
  const differ = async () => (await picture(page)).filter((v, i) => Math.abs(v - masked[i]) > 12).length / masked.length;
  await expect.poll(differ).toBeGreaterThan(0.01);
  await page.getByRole('button', { name: 'None of these' }).click();
  await expect(before).toHaveCount(0);
  await expect.poll(() => picture(page)).toEqual(masked);
  await expect(page.getByTestId('onion-skin')).toHaveCount(0);
  await expect(page.getByTestId('scopes')).toHaveCount(0);
  // They are kept in this browser, and nothing of them in the project.
  await page.getByText('Safe areas').click();
  await page.reload();
  await stage(page, 'Score').click();
  await expect(page.getByRole('img', { name: 'Safe areas: action, titles' })).toBeVisible();
  await menu(page).click();
  await page.getByRole('button', { name: 'None of these' }).click();
});
