import { test } from './demo';
import { layReveal, openDemo } from './helpers';
for (const [w, h, name] of [[1280, 800, 'desk'], [390, 844, 'phone']] as const)
test('look ' + name, async ({ page }) => {
  page.setDefaultTimeout(25000);
  await page.setViewportSize({ width: w, height: h });
  await openDemo(page);
  await layReveal(page);
  if (w < 500) await page.getByRole('button', { name: 'The shot’s numbers' }).click();
  const layer = page.getByTestId('layer').first();
  await layer.locator('summary').first().click();
  await layer.getByText('Time', { exact: true }).click();
  await page.getByTestId('take-strip').first().scrollIntoViewIfNeeded();
  await page.waitForTimeout(2500);
  await page.screenshot({ path: `/tmp/shot-time-${name}.png` });
  await layer.getByRole('button', { name: 'Reverse' }).click();
  await page.getByTestId('picture-file').setInputFiles('/tmp/disc.png');
  await page.getByTestId('layer').nth(2).waitFor();
  const first = page.getByTestId('layer').first();
  await first.locator('summary').first().click();
  await first.getByLabel('Add an effect').selectOption('tones');
  await page.waitForTimeout(2500);
  await first.scrollIntoViewIfNeeded();
  await page.screenshot({ path: `/tmp/shot-pic-${name}.png` });
});
