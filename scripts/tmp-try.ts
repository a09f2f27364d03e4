import { chromium } from 'playwright-core';
import { mkdirSync } from 'node:fs';
const ARGS = ['--headless=new','--no-sandbox','--disable-quic','--no-first-run','--use-angle=swiftshader','--enable-unsafe-swiftshader'];
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ARGS });
const page = await (await b.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
page.on('pageerror', (e) => console.log('ERR', e.message.slice(0, 300)));
await page.goto('http://localhost:4173/plan');
await page.getByText('1 filmed').nth(2).waitFor({ timeout: 120000 });
await page.getByRole('link', { name: 'Score', exact: true }).first().click();
await page.getByTestId('film-picture').waitFor();
mkdirSync('/tmp/h/out', { recursive: true });
await page.screenshot({ path: '/tmp/h/out/score.png' });
const names = process.argv.slice(2);
for (const name of names) {
  const t = Date.now();
  await page.getByRole('button', { name: 'All moves…' }).click();
  if (name === names[0]) await page.screenshot({ path: '/tmp/h/out/sheet.png' });
  await page.getByRole('dialog').getByRole('button', { name, exact: true }).click();
  const before = await page.getByTestId('shot-strip').count();
  for (let k = 0; k < 1200; k++) { if (!(await page.getByRole('progressbar').count()) && k > 4) break; await page.waitForTimeout(250); }
  await page.waitForTimeout(1500);
  const notes = await page.getByTestId('move-problem').allInnerTexts();
  const bar = await page.locator('section[aria-label=Moves]').innerText();
  console.log(name, ((Date.now() - t) / 1000).toFixed(0) + ' s', JSON.stringify(notes), '|', bar.split('\n').slice(-2).join(' ').slice(0, 250));
  await page.screenshot({ path: `/tmp/h/out/${name.replaceAll(' ', '-')}.png` });
  await page.keyboard.press('Control+z');
  await page.waitForTimeout(500);
}
await b.close();
