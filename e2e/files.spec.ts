import { join } from 'node:path';
import { expect } from '@playwright/test';
import { test } from './demo';
import { downloadBy, ffmpeg, kept, layReveal, makeBadFiles, openDemo, press, scratch, stage, startEmpty, walkOwnFiles } from './helpers';
import { files, film } from './stored';

test('files that are not the demo’s: turned by 180°, variable rate, silent, 29.97, and an MP3, from import to film', async ({ page }) => {
  await walkOwnFiles(page, 642, 362, 180, ['Whip', 'Freeze frame', 'Speed ramp', 'Split screen']);
});

test('a film from another camera finds its shot by the song heard in it, or its take by the time', async ({ page }) => {
  const own = join(process.cwd(), 'public/demo/take-2-outfit-one.mp4');
  const hiss = 'anoisesrc=amplitude=0.01:color=pink:sample_rate=48000:seed=4';
  const mixed = '[0:a]atrim=1.2,asetpts=PTS-STARTPTS,aresample=48000[s];[s][1:a]amix=inputs=2:normalize=0[a]';
  const picture = ['-map', '0:v', '-t', '8', '-vf', 'scale=640:360', '-c:v', 'libx264', '-pix_fmt', 'yuv420p'];
  ffmpeg('-i', own, '-f', 'lavfi', '-i', hiss, '-filter_complex', mixed, ...picture, '-map', '[a]', '-c:a', 'aac', 'VID_0412.mp4');
  await openDemo(page);
  await page.getByRole('button', { name: 'Clones: the hand-over' }).click();
  await stage(page, 'Shoot').click();
  await page.getByTestId('media-files').setInputFiles(join(scratch, 'VID_0412.mp4'));
  await expect(page.getByText(/VID_0412\.mp4 put with “.*” of “Curtain reveal” by the bars of the song heard in it/)).toBeVisible({
    timeout: 60_000,
  });
});

test('each bad file gets its sentence, and nothing is lost', async ({ page }) => {
  const bad = makeBadFiles();
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await page.getByTestId('media-files').setInputFiles(join(scratch, 'whole.mp4'));
  await expect(page.getByText(/640×360, 25\.00 fps/)).toBeVisible({ timeout: 60_000 });
  await page.getByTestId('media-files').setInputFiles([bad.text, bad.truncated, bad.hevc, bad.empty, bad.endless]);
  const alerts = page.getByRole('alert');
  await expect(alerts.filter({ hasText: 'text.mp4' })).toContainText('not a video or sound file that can be read', { timeout: 60_000 });
  await expect(alerts.filter({ hasText: 'truncated.mp4' })).toContainText(/breaks off|cut off/);
  await expect(alerts.filter({ hasText: 'filmed.hevc.mp4' })).toContainText('HEVC (H.265), profile Main, which this browser cannot decode');
  await expect(alerts.filter({ hasText: 'empty.mp4' })).toContainText('empty (0 bytes)');
  await expect(alerts.filter({ hasText: 'ninety-minutes.mp4' })).toContainText('90 minutes long');
  await expect(page.getByText(/640×360, 25\.00 fps/)).toHaveCount(1);
  await page.reload();
  await expect(page.getByText(/640×360, 25\.00 fps/)).toHaveCount(1);
});

test('the project as one file opens again to the same film', async ({ page }) => {
  await startEmpty(page);
  await page.getByRole('button', { name: /New project/ }).click();
  await page.getByRole('menuitem', { name: 'Night laundrette' }).click();
  await layReveal(page);
  await stage(page, 'Deliver').click();
  const zip = await downloadBy(page, /Save the project file/, 'project.zip');
  const where = await page.getByText(/1280×720, 25 fps/).textContent();
  await page.getByTestId('project-file').setInputFiles(zip);
  // A project just opened has nothing to undo.
  await expect(page.getByRole('button', { name: /^Undo: / })).toHaveCount(0);
  await expect(page.getByText(/1280×720, 25 fps/)).toHaveText(where ?? '');
  await page
    .getByTestId('project-file')
    .setInputFiles({ name: 'list.zip', mimeType: 'application/zip', buffer: Buffer.from('milk, eggs') });
  await expect(page.getByRole('alert').filter({ hasText: 'project file' })).toBeVisible();
});

test('a full disk is a clear sentence, and nothing is lost', async ({ page, context }) => {
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  const devtools = await context.newCDPSession(page);
  const { origin } = new URL(page.url());
  const { usage } = await devtools.send('Storage.getUsageAndQuota', { origin });
  await devtools.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: usage + 50_000 });
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=1280x720:r=25:d=8,noise=alls=20',
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-pix_fmt',
    'yuv420p',
    'large.mp4',
  );
  await page.getByTestId('media-files').setInputFiles(join(scratch, 'large.mp4'));
  await expect(page.getByRole('alert').filter({ hasText: 'large.mp4' })).toContainText(/not enough room|storage is full/, {
    timeout: 30_000,
  });
  await devtools.send('Storage.overrideQuotaForOrigin', { origin });
  await page.getByTestId('media-files').setInputFiles(join(scratch, 'large.mp4'));
  await expect(page.getByText(/1280×720, 25\.00 fps, 8\.0 s/)).toBeVisible({ timeout: 60_000 });
});

test('stopping a film in the making leaves everything as it was', async ({ page }) => {
  await startEmpty(page);
  await page.getByRole('button', { name: /New project/ }).click();
  await page.getByRole('menuitem', { name: 'Night laundrette' }).click();
  await layReveal(page);
  await stage(page, 'Deliver').click();
  await page.getByRole('button', { name: /Make MP4/ }).click();
  await expect(page.getByText(/frame \d+ of \d+/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText(/frame \d+ of \d+/)).toHaveCount(0, { timeout: 250 });
  await expect(page.getByRole('button', { name: /Make MP4/ })).toBeEnabled();
});

test('measuring goes on when the page is left, shows itself in the corner, and nothing is measured twice', async ({ page }) => {
  await startEmpty(page);
  await press(page, stage(page, 'Shoot'));
  const clips = [0, 80, 160].map((hue) => film(`background-${hue}.mp4`, hue, 8, '1280x720'));
  await files(page).setInputFiles(clips);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(3);
  await press(page, stage(page, 'Takes'));
  await expect(page.getByText(/^Measuring background/)).toBeVisible();
  await press(page, stage(page, 'Score'));
  const corner = page.getByRole('button', { name: /Measuring in the background/ });
  await expect(corner).toBeVisible();
  await press(page, corner);
  await expect(page.getByText('Measured in the background')).toBeVisible();
  await page.keyboard.press('Escape');
  // The page answers meanwhile, and in the end all three are measured.
  await press(page, stage(page, 'Plan'));
  await expect(corner).toHaveCount(0, { timeout: 120_000 });
  await press(page, stage(page, 'Takes'));
  await expect(page.getByRole('button', { name: 'Measure the rest' })).toHaveCount(0);
  await expect(page.getByText(/^Measuring background/)).toHaveCount(0);
});
