import { launchChromium } from './chromium';

const browser = await launchChromium();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('ERR', e.message));
page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text()));
await page.goto('http://localhost:4200/plan');
await page.getByText('1 filmed').nth(2).waitFor({ timeout: 120000 });
await page.goto('http://localhost:4200/score');
await page.getByTestId('score-line').first().waitFor();
const lay = async (name: string, bar: number) => {
  await page.getByLabel('Find on the score').fill(`bar ${bar}`);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(300);
  const before = await page.getByTestId('shot-strip').count();
  const t = Date.now();
  await page.getByRole('button', { name, exact: true }).click();
  await page
    .waitForFunction((n) => document.querySelectorAll('[data-testid=shot-strip]').length > n, before, { timeout: 120000 })
    .catch(() => console.log('none', name));
  console.log(name, Date.now() - t);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: `/tmp/look-${name.replace(' ', '-')}.png` });
};
for (const [name, bar] of [
  ['Masked reveal', 3],
  ['Whip', 9],
  ['Freeze frame', 13],
  ['Speed ramp', 17],
  ['Split screen', 23],
] as const)
  await lay(name, bar);
console.log(await page.locator('[role=alert], .bg-warn-soft').allTextContents());
await browser.close();
