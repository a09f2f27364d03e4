/** Takes the pictures in docs/screenshots from the demo data: `npx tsx scripts/screenshots.ts` after a build. */
import type { BrowserContextOptions, Page } from '@playwright/test';
import { launchChromium } from './chromium';
import { startServer } from './server';

const OUT = 'docs/screenshots';
const server = await startServer();
const browser = await launchChromium();

async function openedDemo(options: BrowserContextOptions): Promise<Page> {
  const page = await (await browser.newContext(options)).newPage();
  await page.goto(`${server.url}/plan`);
  await page.getByText('1 filmed').nth(2).waitFor({ timeout: 120_000 });
  return page;
}

async function walk(page: Page, prefix: string, wanted: readonly string[]): Promise<void> {
  const shot = async (name: string) => {
    if (wanted.includes(name)) await page.screenshot({ path: `${OUT}/${prefix}${name}.png` });
  };
  const go = async (name: string) => {
    await page.getByRole('link', { name, exact: true }).filter({ visible: true }).first().click();
    await page.waitForTimeout(1500);
  };
  await page.waitForTimeout(1500);
  await shot('plan');
  await page.getByRole('button', { name: 'Clones: the hand-over' }).click();
  for (const [tab, name] of [
    ['Set', 'plan-set'],
    ['Order', 'plan-order'],
    ['Dry run', 'plan-dry-run'],
    ['Call sheet', 'plan-call-sheet'],
  ] as const) {
    await page.getByRole('tab', { name: tab, exact: true }).click();
    await page.waitForTimeout(1200);
    if (tab === 'Dry run') await page.getByLabel('Frame of the dry run').fill('960');
    await shot(name);
  }
  await go('Shoot');
  await page.waitForTimeout(2500);
  await shot('shoot');
  if (!prefix) {
    await page.getByRole('tab', { name: 'Film', exact: true }).click();
    await page.getByRole('button', { name: 'Simulated camera' }).click();
    await page
      .getByTestId('live-figures')
      .getByText(/^0\.0\d px/)
      .waitFor({ timeout: 60_000 });
    await page.getByText('The simulated set').click();
    await page.getByLabel('In the frame').selectOption('0');
    await page.waitForTimeout(1500);
    await page.getByTestId('viewfinder').scrollIntoViewIfNeeded();
    await shot('shoot-film');
    await page.getByRole('tab', { name: 'May I strike?' }).click();
    await page
      .getByTestId('strike-two')
      .getByText(/bumped by/)
      .waitFor({ timeout: 120_000 });
    await shot('shoot-strike');
  }
  await go('Takes');
  // In the demo's film it is corrected already.
  const correct = page.getByTestId('take-two').getByRole('button', { name: 'Correct this take' });
  if ((await correct.count()) > 0) await correct.click({ timeout: 120_000 });
  await page.getByText('It costs a margin').first().waitFor();
  await page.getByTestId('take-two').evaluate((e) => e.scrollIntoView());
  await page.waitForTimeout(4000);
  await shot('takes');
  if (!prefix) {
    await page.getByRole('tab', { name: 'Side by side' }).click();
    await page.getByRole('button', { name: 'Find the seam' }).click();
    await page.getByTestId('seam-report').waitFor({ timeout: 120_000 });
    await page.evaluate(() => document.querySelector('main')?.scrollTo(0, 0));
    await shot('takes-seam');
    await page.getByRole('tab', { name: 'Cut-out' }).click();
    await page.getByRole('button', { name: 'Cut the figure out' }).click();
    await page.locator('[data-testid=cut-out][data-drawn]').waitFor({ timeout: 120_000 });
    await page.waitForTimeout(500);
    await shot('takes-cut-out');
  }
  await go('Song');
  await page
    .getByTestId('score-line')
    .nth(2)
    .locator('div.relative')
    .first()
    .click({ position: { x: 240, y: 60 } });
  await page.waitForTimeout(800);
  await shot('song');
  await go('Score');
  // A masked reveal of the demo's film, in the middle of what it shows.
  await page.getByLabel('Find on the score').fill('reveal');
  await page.getByLabel('Found').getByRole('option').first().click();
  await page.getByLabel('Find on the score').fill('bar 9');
  await page.getByLabel('Found').getByRole('option').first().click();
  for (let k = 0; k < 18; k++) await page.getByRole('button', { name: 'One frame on' }).click();
  await page.waitForTimeout(3000);
  // On the phone the bars are what is seen of it.
  if (!prefix) await page.getByRole('button', { name: 'Unfold the shot' }).click();
  await page.waitForTimeout(14_000);
  await shot('score');
  // On the phone the numbers are folded away, and the pictures wanted are all taken.
  if (prefix) return;
  await page.getByLabel('Frames in f').first().fill('2');
  await page.getByLabel('Frames in f').first().press('Enter');
  await go('Check');
  await page.getByTestId('finding').first().waitFor();
  await shot('check');
  await page.getByRole('button', { name: 'Put it on the beat' }).click();
  await go('Deliver');
  await shot('deliver');
  await page.goto(`${server.url}/storage`);
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.getByTestId('project-row').nth(1).waitFor();
  await page.getByRole('button', { name: 'Delete' }).first().click();
  await page.getByRole('button', { name: 'Bring back' }).waitFor();
  await shot('storage');
}

try {
  await walk(await openedDemo({ viewport: { width: 1280, height: 800 } }), '', [
    'plan',
    'plan-set',
    'plan-dry-run',
    'plan-call-sheet',
    'shoot',
    'shoot-film',
    'shoot-strike',
    'takes',
    'takes-seam',
    'takes-cut-out',
    'song',
    'score',
    'check',
    'deliver',
    'storage',
  ]);
  const start = await openedDemo({ viewport: { width: 1280, height: 800 } });
  await start.goto(`${server.url}/`);
  await start.locator('[data-testid=project-card] img').waitFor({ timeout: 60_000 });
  await start.waitForTimeout(1500);
  await start.screenshot({ path: `${OUT}/start.png` });
  const phone = await openedDemo({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, deviceScaleFactor: 2 });
  await walk(phone, 'phone-', ['shoot', 'takes', 'score']);
} finally {
  await browser.close();
  server.stop();
}
