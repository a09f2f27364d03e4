import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { test } from './demo';
import { downloadBy, dragShot, ffmpeg, kept, scratch, stage, startEmpty } from './helpers';
import { files, X264 } from './stored';

/** Upward crossings of nothing a second in a film's sound, between two seconds of it. */
function hertz(file: string, from: number, to: number): number {
  const args = ['-v', 'error', '-i', file, '-ss', String(from), '-to', String(to), '-ac', '1', '-ar', '48000', '-f', 'f32le', '-'];
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: 1e8 });
  const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
  let crossings = 0;
  for (let i = 1; i < samples.length; i++) if (samples[i - 1] < 0 && samples[i] >= 0) crossings++;
  return crossings / (samples.length / 48_000);
}

async function slowed(page: Page): Promise<void> {
  const layer = page.getByTestId('layer').first();
  await layer.locator('summary').first().click();
  await layer.getByLabel('Add a keyframed property').selectOption('speed');
  await page.getByLabel(/^Here/).filter({ visible: true }).first().fill('50');
  await page.getByLabel(/^Here/).filter({ visible: true }).first().press('Enter');
  await expect.poll(async () => (await kept(page)).shots[0].layers[0].numbers.speed?.[0]?.value).toBe(50);
  await layer.getByText('Time', { exact: true }).click();
}

test('the sound of a take at half its speed, as low as it runs, or with its pitch kept', async ({ page }) => {
  const tone = join(scratch, 'tone.mp4');
  const lavfi = (source: string) => ['-f', 'lavfi', '-i', source];
  ffmpeg(...lavfi('testsrc2=s=320x180:r=25:d=6'), ...lavfi('sine=f=440:r=48000:d=6'), ...X264, '-c:a', 'aac', '-shortest', tone);
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles(tone);
  await expect.poll(async () => (await kept(page)).takes.length).toBe(1);
  await stage(page, 'Score').click();
  await dragShot(page);
  await page.getByTestId('shot-strip').first().click();
  await slowed(page);
  const sound = page.getByTestId('layer').first().getByLabel('Sound of the take');
  const film = async (how: string, name: string) => {
    await sound.selectOption(how);
    await expect.poll(async () => (await kept(page)).shots[0].layers[0].sound).toBe(how);
    await stage(page, 'Deliver').click();
    const made = await downloadBy(page, /Make MP4/, name);
    await stage(page, 'Score').click();
    await page.getByTestId('shot-strip').first().click();
    await page.getByTestId('layer').first().locator('summary').first().click();
    await page.getByTestId('layer').first().getByText('Time', { exact: true }).click();
    return hertz(made, 0.5, 1.5);
  };
  expect(Math.abs((await film('stretched', 'low.mp4')) - 220)).toBeLessThan(4);
  expect(Math.abs((await film('pitch kept', 'kept.mp4')) - 440)).toBeLessThan(6);
});
