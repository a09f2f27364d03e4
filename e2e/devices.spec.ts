import { join } from 'node:path';
import { chromium, expect, type Page, test } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from '../scripts/chromium';
import { downloadBy, ffmpeg, kept, scratch, stage } from './helpers';
import { clip } from './staged-clips';

const PHONE = {
  viewport: { width: 390, height: 844 },
  hasTouch: true,
  isMobile: true,
  deviceScaleFactor: 1,
  serviceWorkers: 'block',
} as const;
/** A film of some 60 MB: noise is hard to pack. */
function largeFilm(): string {
  const file = join(scratch, 'large.mp4');
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=1280x720:r=25:d=8',
    '-vf',
    'noise=alls=60:allf=t',
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-b:v',
    '60M',
    '-pix_fmt',
    'yuv420p',
    file,
  );
  return file;
}

/** A film for a simulated camera: a QR code on a desk. */
async function filmOf(page: Page): Promise<string> {
  const [picture, film] = [join(scratch, 'code.png'), join(scratch, 'code.y4m')];
  await page.getByRole('img', { name: /as a QR code/ }).screenshot({ path: picture });
  ffmpeg(
    '-loop',
    '1',
    '-i',
    picture,
    '-frames:v',
    '5',
    '-vf',
    'scale=380:380,rotate=0.1:c=gray,pad=640:480:120:50:gray',
    '-pix_fmt',
    'yuv420p',
    film,
  );
  return film;
}

const hashes = (page: Page) =>
  page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('media');
    const found: Record<string, string> = {};
    for await (const [name, handle] of (folder as unknown as { entries(): AsyncIterable<[string, FileSystemFileHandle]> }).entries()) {
      const bytes = await (await handle.getFile()).arrayBuffer();
      found[name] = [...new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))].join(' ');
    }
    return found;
  });

test('a project goes to another device by a code its camera reads, is broken off, and goes on from there', async ({ page, baseURL }) => {
  await page.goto('/');
  await page.getByTestId('own-files').setInputFiles([largeFilm()]);
  await page.waitForURL(/shoot/);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(1);
  await page.getByRole('button', { name: /New project/ }).click();
  await page.getByRole('menuitem', { name: 'To or from another device' }).click();
  await page.getByRole('button', { name: /^Send “/ }).click();
  await expect(page.getByTestId('code')).toBeVisible();

  // Another browser, whose camera sees the code.
  const other = await chromium.launch({
    executablePath: CHROMIUM,
    args: [
      ...CHROMIUM_ARGS,
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-video-capture=${await filmOf(page)}`,
    ],
  });
  try {
    const phone = await (await other.newContext({ ...PHONE, baseURL })).newPage();
    await phone.goto('/devices');
    await phone.getByRole('button', { name: 'Receive a project' }).tap();
    await phone.getByRole('button', { name: 'Read it with the camera' }).tap();
    const answer = phone.getByTestId('code');
    await expect(answer).toBeVisible({ timeout: 60_000 });
    expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);

    // What is no code, and one's own, are refused where they were typed.
    const typed = page.getByLabel(/Or type or paste/);
    for (const [wrong, said] of [
      ['hello', 'not a whole code'],
      [(await page.getByTestId('code').textContent()) ?? '', 'shows itself'],
    ]) {
      await typed.fill(wrong);
      await page.getByRole('button', { name: 'Connect' }).click();
      await expect(page.getByText(said)).toBeVisible();
    }
    await typed.fill(((await answer.textContent()) ?? '').toLowerCase());
    await page.getByRole('button', { name: 'Connect' }).click();
    const bar = phone.getByRole('progressbar');
    await expect
      .poll(async () => Number(await bar.getAttribute('aria-valuenow')), { intervals: [20], timeout: 60_000 })
      .toBeGreaterThan(10);
    await phone.reload();
    await expect(page.getByText(/connection was lost/)).toBeVisible({ timeout: 60_000 });

    // Paired again, by the address that the phone's own camera application opens: less is asked for.
    await page.getByRole('button', { name: /^Send “/ }).click();
    await phone.goto(`/devices#${await page.getByTestId('code').textContent()}`);
    await page.getByLabel(/Or type or paste/).fill((await answer.textContent()) ?? '');
    await page.getByRole('button', { name: 'Connect' }).click();
    const going = phone.getByText(/^Receiving: .* of [0-9.]+ MB/);
    await expect(going).toHaveText(/ of [1-9]/);
    const [, lacking] = / of ([0-9.]+) MB/.exec((await going.textContent()) ?? '') ?? [];
    const sent = await kept(page);
    expect(Number(lacking)).toBeLessThan(0.95 * (sent.media[0].bytes / 1e6));
    await expect(phone.getByText(/is here and open/)).toBeVisible({ timeout: 60_000 });
    await expect(page.getByText(/is on the other device/)).toBeVisible();
    const came = await kept(phone);
    expect({ ...came, id: '' }).toEqual({ ...sent, id: '' });
    expect(await hashes(phone)).toEqual(await hashes(page));

    // And back: nothing is lacking.
    await phone.getByRole('button', { name: /^Send “/ }).tap();
    await page.getByRole('button', { name: 'Receive a project' }).click();
    await page.getByLabel(/Or type or paste/).fill((await phone.getByTestId('code').textContent()) ?? '');
    await page.getByRole('button', { name: 'Connect' }).click();
    await phone.getByLabel(/Or type or paste/).fill((await page.getByTestId('code').textContent()) ?? '');
    await phone.getByRole('button', { name: 'Connect' }).tap();
    await expect(page.getByText(/is here and open/)).toBeVisible();
  } finally {
    await other.close();
  }
});

test('what was made is handed to the system’s sheet, where it takes such files', async ({ page }) => {
  await page.addInitScript(() => {
    const shared: string[] = [];
    const canShare = ({ files }: ShareData) => files?.every((f) => f.name.endsWith('.zip')) ?? false;
    const share = async ({ files }: ShareData) => {
      for (const f of files ?? []) shared.push(`${f.name} ${f.type} ${f.size > 1000}`);
      if (shared.length > 1) throw new DOMException('put away', 'AbortError');
    };
    Object.assign(window, { shared });
    Object.defineProperties(navigator, { canShare: { value: canShare }, share: { value: share } });
  });
  await page.goto('/');
  await page.getByTestId('own-files').setInputFiles([clip('shared.mp4', 1, null)]);
  await page.waitForURL(/shoot/);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(1);
  await stage(page, 'Deliver').click();
  await downloadBy(page, /Save the project file/, 'shared-project.zip');
  const share = page.getByRole('button', { name: /^Share “/ });
  await share.click();
  await share.click();
  await expect(page.getByText('could not be shared')).toHaveCount(0);
  const shared = await page.evaluate(() => (window as unknown as { shared: string[] }).shared);
  expect(shared).toHaveLength(2);
  expect(shared[0]).toMatch(/^new-project\S*\.zip application\/zip true$/);
});
