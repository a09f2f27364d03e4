import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { browserOf, copyOf, test } from './demo';
import { downloadBy, ffmpeg, openDemo, saved, scratch, stage } from './helpers';

const part = (page: Page, name: string) => page.getByRole('tab', { name, exact: true });

/** Opens the viewfinder for the planned hand-over, shortened to one bar so that a test need not wait. */
async function openFilm(page: Page): Promise<void> {
  await openDemo(page);
  // The demo's own takes of this shot make room.
  await stage(page, 'Shoot').click();
  for (const place of ['p1', 'p2']) {
    const row = page.getByRole('listitem').filter({ hasText: `clones-the-hand-over-place-${place}.mp4` });
    await row.getByText(/^Settings and note/).click();
    await row.getByRole('button', { name: 'Take it out of the project' }).click();
    await expect(row).toHaveCount(0);
  }
  await stage(page, 'Plan').click();
  await page.getByRole('button', { name: 'Clones: the hand-over' }).click();
  await page.getByLabel('Lasts in bars').fill('1');
  await page.getByLabel('Lasts in bars').press('Enter');
  await stage(page, 'Shoot').click();
  await part(page, 'Film').click();
}

async function openSimulated(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Simulated camera' }).click();
  await expect(page.getByTestId('live-figures')).toContainText(/0\.0\d px/, { timeout: 40_000 });
}

test('the hand-over is filmed hands free: a knock and light that drifts are seen live and in the log, and just those takes are asked for again', {
  tag: '@clock',
}, async ({ page }) => {
  await openFilm(page);
  await openSimulated(page);
  await page.getByLabel('Spoken cues').uncheck();
  await page.getByLabel('Tries of each in takes').fill('1');
  await page.getByLabel('Tries of each in takes').press('Enter');
  for (const [field, value] of [
    ['Time to the mark in s', '1'],
    ['Count-in in bars', '0'],
    ['Hold still, at most in s', '3'],
  ] as const) {
    await page.getByLabel(field).fill(value);
    await page.getByLabel(field).press('Enter');
  }
  await page.getByText('The simulated set').click();
  await page.getByRole('button', { name: 'Film hands free' }).click();
  const running = page.getByText(/, take 1$/);
  await expect(running).toContainText('Clean plate', { timeout: 20_000 });
  await expect(running).toContainText('Place 1', { timeout: 40_000 });
  await page.getByLabel('In the frame').selectOption('0');
  const clock = page.getByTestId('recorded');
  await expect(clock).toHaveText(/[2-9]\.\d s/, { timeout: 20_000 });
  await page.getByRole('button', { name: 'Knock the camera' }).click();
  const called = page.getByRole('alert').filter({ hasText: 'The camera was knocked' });
  await expect(called).toBeVisible({ timeout: 3000 });
  const [, size, second] = /: ([\d.]+) px at ([\d.]+) s/.exec((await called.textContent()) ?? '') ?? [];
  // The knock on the slider: 6 px across and 2.4 down, and the second at which the simulated camera was knocked.
  const at = Number.parseFloat(((await page.getByTestId('knocked-at').textContent()) ?? '').replace(/^\D+/, ''));
  expect(Math.abs(Number(size) - Math.hypot(6, 2.4))).toBeLessThan(0.5);
  expect(Math.abs(Number(second) - at)).toBeLessThan(1);
  await expect(running).toContainText('Place 2', { timeout: 40_000 });
  await page.getByLabel('In the frame').selectOption('1');
  await page.getByRole('slider', { name: 'Light drifts, EV a minute' }).focus();
  await page.keyboard.press('End');
  await expect(page.getByTestId('live-figures')).toContainText(/\+0\.[2-9]\d EV/, { timeout: 20_000 });
  await expect(running).toContainText('Clean plate again', { timeout: 40_000 });
  await page.getByLabel('In the frame').selectOption('nobody');
  await expect(page.getByRole('button', { name: 'Film hands free' })).toBeVisible({ timeout: 40_000 });
  await part(page, 'Log').click();
  await expect(page.getByText(/knocked by 6\.\d px at/)).toBeVisible();
  await expect(page.getByText(/clones-the-hand-over-place-p1-1\.mp4/).first()).toBeVisible();
  await part(page, 'May I strike?').click();
  await page.getByLabel('For').selectOption({ label: 'Clones: the hand-over' });
  await expect(page.getByTestId('strike-place-p1')).toHaveAttribute('data-state', 'fix', { timeout: 120_000 });
  await expect(page.getByTestId('strike-place-p1')).toContainText(/bumped by 6\.\d px/);
  await expect(page.getByTestId('strike-plate')).toHaveAttribute('data-state', 'good');
  await expect(page.getByTestId('strike-place-p2')).toContainText(/the light drifts by 0\.\d\d EV/, { timeout: 60_000 });
  await expect(page.getByTestId('strike-verdict')).toContainText('Film again: Place 1, Place 2.');
});

test('one unbroken recording: the slots marked inside it become takes of their own', { tag: '@clock' }, async ({ page }) => {
  await openFilm(page);
  await openSimulated(page);
  await page.getByLabel('Spoken cues').uncheck();
  await page.getByLabel('One unbroken recording').check();
  for (const [field, value] of [
    ['Tries of each in takes', '1'],
    ['Time to the mark in s', '1'],
    ['Hold still, at most in s', '2'],
  ] as const) {
    await page.getByLabel(field).fill(value);
    await page.getByLabel(field).press('Enter');
  }
  await page.getByRole('button', { name: 'Film hands free' }).click();
  await expect(page.getByText(/, take 1$/)).toContainText('Place 2', { timeout: 60_000 });
  // Seconds of one recording go on from slot to slot.
  await expect(page.getByTestId('recorded')).toHaveText(/1[3-9]\.\d s/, { timeout: 40_000 });
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await part(page, 'Log').click();
  for (const name of ['plate', 'place-p1', 'place-p2'])
    await expect(page.getByText(`clones-the-hand-over-${name}-1.mp4`).first()).toBeVisible({ timeout: 40_000 });
  // Each part lasts as long as its slot was marked for, give or take the half second to where a picture stands by itself.
  const lengths = (await page.getByText(/960×540, [\d.]+ fps/).allTextContents()).map((text) => Number(/, ([\d.]+) s/.exec(text)?.[1]));
  expect(lengths.length).toBeGreaterThanOrEqual(3);
  // The plate is held for 2 s; a place has a bar counted in, a bar of the song and 2 s.
  const bar = (4 * 60) / 112;
  for (const [i, length] of [2, 2 * bar + 2].entries()) expect(Math.abs(lengths[i] - length)).toBeLessThan(1.2);
});

test('a page killed in mid-recording loses no more than a second; what is left is offered and becomes a take', async ({
  context,
  page,
}) => {
  await openFilm(page);
  await openSimulated(page);
  await page.getByRole('button', { name: 'Record by hand' }).click();
  await expect(page.getByTestId('recorded')).toHaveText(/[5-9]\.\d s/, { timeout: 30_000 });
  const recorded = Number.parseFloat((await page.getByTestId('recorded').textContent()) ?? '');
  await saved(page);
  await page.close({ runBeforeUnload: false });
  const again = await context.newPage();
  await again.goto('/shoot');
  await expect(again.getByText('A recording was cut off.')).toBeVisible({ timeout: 30_000 });
  await again.getByRole('button', { name: 'Keep it as a take' }).click();
  const line = again.getByText(/960×540, [\d.]+ fps(?: \(varies\))?, [\d.]+ s/);
  await expect(line).toBeVisible({ timeout: 30_000 });
  const seconds = Number(/([\d.]+) s/.exec((await line.textContent()) ?? '')?.[1]);
  expect(recorded - seconds).toBeLessThan(1);
});

test('the real camera’s path, fed from a file: picture, lock figure, recording, take', async ({ demoProfile }, info) => {
  const film = join(scratch, 'camera.mjpeg');
  ffmpeg('-i', join(process.cwd(), 'public/demo/take-2-outfit-one.mp4'), '-an', '-c:v', 'mjpeg', '-q:v', '3', film);
  const context = await browserOf(copyOf(demoProfile), info, 'block', [
    '--use-fake-device-for-media-stream',
    '--use-fake-ui-for-media-stream',
    `--use-file-for-fake-video-capture=${film}`,
  ]);
  const page = await context.newPage();
  await openFilm(page);
  await page.getByRole('button', { name: 'This device’s camera' }).click();
  await expect(page.getByTestId('live-figures')).toContainText(/\d\.\d\d px/, { timeout: 40_000 });
  await expect(page.getByText(/Focus cannot be locked from here/)).toBeVisible();
  await expect(page.getByText(/The camera gives 1280 × 720/)).toBeVisible();
  await page.getByRole('button', { name: 'Record by hand' }).click();
  await expect(page.getByTestId('recorded')).toHaveText(/[4-9]\.\d s/, { timeout: 30_000 });
  await page.getByRole('button', { name: 'End the recording' }).click();
  await part(page, 'Log').click();
  await expect(page.getByText('clones-the-hand-over-plate-1.mp4').first()).toBeVisible({ timeout: 40_000 });
  await expect(page.getByText(/1280×720, [\d.]+ fps(?: \(varies\))?, [4-9]\.\d s, H\.264/).last()).toBeVisible();
  await context.close();
});

test('a full disk ends the recording cleanly and keeps what was recorded', async ({ demoProfile }, info) => {
  const context = await browserOf(copyOf(demoProfile), info);
  const page = await context.newPage();
  await openFilm(page);
  await openSimulated(page);
  await page.getByRole('button', { name: 'Record by hand' }).click();
  await expect(page.getByTestId('recorded')).toHaveText(/[3-9]\.\d s/, { timeout: 30_000 });
  const devtools = await context.newCDPSession(page);
  const { origin } = new URL(page.url());
  const { usage } = await devtools.send('Storage.getUsageAndQuota', { origin });
  await devtools.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: usage + 100_000 });
  await expect(page.getByRole('alert').filter({ hasText: /storage is full|cannot be written/ })).toBeVisible({ timeout: 30_000 });
  await devtools.send('Storage.overrideQuotaForOrigin', { origin });
  await expect(page.getByTestId('recorded')).toHaveCount(0);
  await context.close();
});

/** A stand-in for a camera that a test can turn and unplug: a canvas with a moving pattern. */
async function plugIn(page: Page): Promise<void> {
  await page.evaluate(() => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [640, 360];
    let n = 0;
    setInterval(() => {
      const c = canvas.getContext('2d') as CanvasRenderingContext2D;
      for (let y = 0; y < canvas.height; y += 20)
        for (let x = 0; x < canvas.width; x += 20) {
          c.fillStyle = `hsl(${(x * 7 + y * 13) % 360} 40% ${30 + ((x * 3 + y * 5) % 40)}%)`;
          c.fillRect(x, y, 20, 20);
        }
      c.fillRect(10 + (n++ % 50), 10, 30, 30);
    }, 40);
    const stream = canvas.captureStream(25);
    Object.assign(window, {
      turnCamera: () => ([canvas.width, canvas.height] = [canvas.height, canvas.width]),
      unplugCamera: () => stream.getVideoTracks()[0].stop(),
    });
    Object.defineProperty(navigator, 'mediaDevices', { configurable: true, value: { getUserMedia: () => Promise.resolve(stream) } });
  });
  await page.getByRole('button', { name: 'This device’s camera' }).click();
  await expect(page.getByTestId('live-figures')).toContainText(/\d\.\d\d px/, { timeout: 40_000 });
  await page.getByRole('button', { name: 'Record by hand' }).click();
  await expect(page.getByTestId('recorded')).toHaveText(/[2-9]\.\d s/, { timeout: 30_000 });
}

test('no camera, not allowed, in use; a phone turned, a camera unplugged, a page hidden in mid-take: each says so, and the take is kept', async ({
  page,
}) => {
  await openFilm(page);
  for (const [name, sentence] of [
    ['NotAllowedError', /was not allowed.*take the files in/],
    ['NotFoundError', /no camera on this device.*simulated camera/],
    ['NotReadableError', /in use by another program/],
  ] as const) {
    await page.evaluate((error) => {
      Object.defineProperty(navigator, 'mediaDevices', {
        configurable: true,
        value: { getUserMedia: () => Promise.reject(new DOMException('', error)) },
      });
    }, name);
    await page.getByRole('button', { name: 'This device’s camera' }).click();
    await expect(page.getByRole('alert').filter({ hasText: sentence })).toBeVisible();
  }
  await plugIn(page);
  await page.evaluate(() => {
    Object.defineProperty(document, 'hidden', { configurable: true, value: true });
    document.dispatchEvent(new Event('visibilitychange'));
  });
  await expect(page.getByRole('alert').filter({ hasText: 'The page was hidden while recording' })).toBeVisible();
  await page.evaluate('window.turnCamera()');
  await expect(page.getByRole('alert').filter({ hasText: 'The phone was turned' })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByTestId('recorded')).toHaveCount(0);
  await page.getByRole('button', { name: 'Close it' }).click();
  await plugIn(page);
  await page.evaluate('window.unplugCamera()');
  await expect(page.getByRole('alert').filter({ hasText: 'unplugged' })).toBeVisible({ timeout: 20_000 });
  await part(page, 'Log').click();
  await expect(page.getByText('clones-the-hand-over-plate-1.mp4').first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('clones-the-hand-over-plate-2.mp4').first()).toBeVisible({ timeout: 30_000 });
});

test('the log as CSV: out, changed elsewhere, and in again', async ({ page }) => {
  await openDemo(page);
  await stage(page, 'Shoot').click();
  const file = await downloadBy(page, /Log as CSV/, 'log.csv');
  const text = readFileSync(file, 'utf8');
  expect(text).toContain('take-3-outfit-two.mp4,,,Curtain reveal,two,1,');
  const changed = join(scratch, 'changed.csv');
  writeFileSync(changed, `file,rating,note,iso\r\ntake-2-outfit-one.mp4,1,"late, but lovely",1600\r\nunknown.mp4,3,,\r\n`);
  await page.getByTestId('log-file').setInputFiles(changed);
  await expect(page.getByText('1 take brought up to date. Not in this project: unknown.mp4.')).toBeVisible();
  await expect(page.getByText('Settings and note: late, but lovely')).toBeVisible();
  await expect(page.getByText(/Not the same in all takes: ISO: 800 and 1600/)).toBeVisible();
  await page.getByTestId('log-file').setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from('milk,eggs\n1,12\n') });
  await expect(page.getByText(/“list.csv” is not a take log/)).toBeVisible();
  await page.getByLabel('Order').selectOption('best');
  await expect(page.getByText('take-3-outfit-two.mp4').first()).toBeVisible();
});
