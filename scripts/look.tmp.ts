import { launchChromium } from './chromium';
const browser = await launchChromium();
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
page.on('pageerror', (e) => console.log('pageerror', e.message));
await page.goto('http://localhost:4200/takes');
await page.getByTestId('take-place-p2').waitFor({ timeout: 90000 });
await page.getByRole('tab', { name: 'Cut-out' }).click();
const grab = async (ground: string) => {
  await page.getByLabel('Seen on').selectOption(ground);
  await page.locator(`[data-drawn=${ground}]`).waitFor();
  return page.getByTestId('cut-out').evaluate((c: HTMLCanvasElement) => [...c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data].filter((_, i) => i % 4 === 0));
};
for (const at of ['1.00', '6.50']) {
  const alpha: number[][] = [];
  for (const by of ['set', 'free']) {
    await page.getByLabel('Cut by').selectOption(by);
    await page.getByLabel('Frame at').fill(at); await page.getByLabel('Frame at').press('Enter');
    const t0 = Date.now();
    await page.getByRole('button', { name: /Cut (the figure out|out anew)/ }).click();
    await page.getByTestId('cut-out').waitFor({ timeout: 90000 });
    await page.getByRole('progressbar').waitFor({state:'detached', timeout: 60000});
    console.log(by, Date.now() - t0);
    const [w, b] = [await grab('white'), await grab('black')];
    alpha.push(w.map((v, i) => 1 - (v - b[i]) / 255));
    await page.getByLabel('Seen on').selectOption('checks');
    await page.waitForTimeout(300);
    await page.screenshot({ path: `/tmp/shots/cut-${by}-${at}.png`, clip: { x: 123, y: 190, width: 720, height: 410 } });
  }
  let both = 0, either = 0;
  alpha[0].forEach((a, i) => { const x = a > 0.5, y = alpha[1][i] > 0.5; if (x && y) both++; if (x || y) either++; });
  console.log('IoU', at, both / either);
}
await browser.close();
