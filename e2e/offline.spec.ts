import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { type BrowserContext, expect, type Page } from '@playwright/test';
import { withEmptyScore } from '../scripts/chromium';
import { startServer } from '../scripts/server';
import { browserOf, copyOf, test } from './demo';
import { downloadBy, kept, press, stage } from './helpers';
import { files, film } from './stored';

/** A first visit with the network, until the whole application is kept. */
async function visited(context: BrowserContext, url: string): Promise<Page> {
  const page = context.pages()[0] ?? (await context.newPage());
  // A port of its own is a place of its own: the demo opens afresh here.
  await withEmptyScore(context);
  await page.goto(`${url}/plan`);
  await expect(page.getByRole('heading', { name: /Plan/ })).toBeVisible({ timeout: 90_000 });
  // What is kept for later is fetched whole.
  await expect(page.locator('[data-saved=true]')).toBeVisible();
  await context.unroute('**/demo/film.json');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  return page;
}

test('after one visit everything works without a network: stages, tabs, dialogs, measuring, cutting out, a move, a film, a second start', async ({
  demoProfile,
}, info) => {
  const { url, stop } = await startServer();
  const profile = copyOf(demoProfile);
  let context = await browserOf(profile, info, 'allow');
  let page = await visited(context, url);
  // The network is gone: nothing answers any more, whoever asks.
  stop();
  await context.setOffline(true);
  const failed: string[] = [];
  // What is broken off by going elsewhere is no loss; what found no network is.
  context.on('requestfailed', (request) => {
    if (/DISCONNECTED|REFUSED|FAILED$/.test(request.failure()?.errorText ?? '')) failed.push(request.url());
  });
  for (const name of ['Shoot', 'Takes', 'Song', 'Score', 'Check', 'Deliver', 'Plan']) {
    await press(page, stage(page, name));
    await expect(page).toHaveURL(new RegExp(`/${name.toLowerCase()}$`));
    await expect(page.getByRole('main')).toContainText(/\w{4}/);
    await expect(page.getByText('This page could not be shown')).toHaveCount(0);
    const tabs = await page.getByRole('tab').count();
    for (let i = 0; i < tabs; i++) {
      await page.getByRole('tab').nth(i).click();
      await expect(page.getByRole('tabpanel')).not.toBeEmpty();
    }
  }
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  // A film of one's own is taken in and measured.
  await press(page, stage(page, 'Shoot'));
  await page.getByRole('tab').first().click();
  await files(page).setInputFiles(film('offline.mp4', 70, 3, '640x360'));
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(6);
  // Whoever is in a take is cut out: OpenCV and the segmentation come from what is kept.
  await press(page, stage(page, 'Score'));
  await press(page, page.getByRole('button', { name: 'Freeze frame' }));
  await expect(page.getByTestId('shot-strip').first()).toBeVisible({ timeout: 120_000 });
  await expect.poll(async () => (await kept(page)).media.some((m) => m.kind === 'matte'), { timeout: 60_000 }).toBe(true);
  await press(page, stage(page, 'Deliver'));
  const made = await downloadBy(page, /^Make WebM/, 'offline.webm');
  expect(existsSync(made)).toBe(true);
  // A reload, and a second start of the browser.
  await page.reload();
  await expect(page.getByRole('heading', { name: /Deliver/ })).toBeVisible();
  await context.close();
  context = await browserOf(profile, info, 'allow');
  await context.setOffline(true);
  page = context.pages()[0] ?? (await context.newPage());
  await page.goto(`${url}/score`);
  await expect(page.getByTestId('shot-strip').first()).toBeVisible({ timeout: 30_000 });
  await page.goto(`${url}/`);
  await expect(page.getByTestId('project-card').first()).toBeVisible();
  await page.goto(`${url}/storage`);
  await expect(page.getByText('opens without a network')).toBeVisible();
  await context.close();
  expect(failed).toEqual([]);
});

test('a newer version asks before it is gone over to, and nothing is lost by it', async ({ demoProfile }, info) => {
  const { url, stop } = await startServer();
  const context = await browserOf(copyOf(demoProfile), info, 'allow');
  const page = await visited(context, url);
  const script = 'public/sw.js';
  const before = readFileSync(script, 'utf8');
  try {
    writeFileSync(script, `${before}\n// A newer one.`);
    await page.evaluate(async () => void (await (await navigator.serviceWorker.getRegistration())?.update()));
    const over = page.getByRole('button', { name: 'Go over to it now' });
    await expect(over).toBeVisible();
    await page.evaluate(() => Object.assign(window, { sameAsBefore: true }));
    await press(page, stage(page, 'Shoot'));
    await page
      .getByRole('button', { name: /^Rate / })
      .first()
      .click();
    expect(await page.evaluate(() => 'sameAsBefore' in window)).toBe(true);
    const undo = page.getByRole('button', { name: /^Undo: / });
    const label = await undo.getAttribute('aria-label');
    await over.click();
    await expect.poll(() => page.evaluate(() => 'sameAsBefore' in window).catch(() => true)).toBe(false);
    await expect(undo).toHaveAttribute('aria-label', label ?? '');
    await expect(over).toHaveCount(0);
  } finally {
    writeFileSync(script, before);
    await context.close();
    stop();
  }
});

test('films shared from another application are taken in, and the page can be installed', async ({ demoProfile }, info) => {
  const { url, stop } = await startServer();
  const context = await browserOf(copyOf(demoProfile), info, 'allow');
  const page = await visited(context, url);
  const manifest = await page.evaluate(async () => (await fetch('/manifest.webmanifest')).json());
  expect(manifest).toMatchObject({ display: 'standalone', start_url: '/plan', share_target: { action: '/share', method: 'POST' } });
  for (const { src } of manifest.icons) expect((await page.request.get(`${url}${src}`)).ok()).toBe(true);
  // As the system posts them: a form with the files in it.
  await page.goto(`${url}/licences`);
  await page.evaluate(() => {
    const form = document.createElement('form');
    Object.assign(form, { action: '/share', method: 'post', enctype: 'multipart/form-data' });
    form.innerHTML = '<input type="file" name="films" multiple aria-label="To share">';
    document.body.append(form);
  });
  await page.getByLabel('To share').setInputFiles([film('shared-a.mp4', 20), film('shared-b.mp4', 140)]);
  await page.evaluate(() => document.querySelector('form')?.submit());
  await expect(page).toHaveURL(/\/shoot/);
  await expect.poll(async () => (await kept(page)).media.filter((m) => /^shared-/.test(m.name)).length, { timeout: 60_000 }).toBe(2);
  await page.reload();
  await expect(files(page)).toBeAttached();
  expect((await kept(page)).takes).toHaveLength(7);
  await context.close();
  stop();
});

test('installed as an application it opens in a window of its own with the work as it was, without a network', async ({
  demoProfile,
}, info) => {
  const { url, stop } = await startServer();
  const context = await browserOf(copyOf(demoProfile), info, 'allow');
  const page = await visited(context, url);
  const browser = await context.newCDPSession(page);
  // The browser's own check and installation (DevTools protocol, domain PWA).
  const send = (method: string, given: object = {}) => browser.send(method as 'Page.enable', given as never) as Promise<unknown>;
  expect(await send('Page.getInstallabilityErrors')).toEqual({ installabilityErrors: [] });
  await send('PWA.install', { manifestId: `${url}/`, installUrlOrBundleUrl: `${url}/plan` });
  // What the desktop opens with it.
  expect(await send('PWA.getOsAppState', { manifestId: `${url}/` })).toMatchObject({
    fileHandlers: [{ action: `${url}/score`, accepts: [{ mediaType: 'application/zip', fileExtensions: ['.zip'] }] }],
  });
  stop();
  const opened = context.waitForEvent('page');
  await send('PWA.launch', { manifestId: `${url}/` });
  const app = await opened;
  await expect(app.getByRole('button', { name: /Night laundrette/ })).toBeVisible({ timeout: 60_000 });
  await expect(app.getByText('1 filmed').first()).toBeVisible();
  await context.close();
});
