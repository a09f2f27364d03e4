import { join } from 'node:path';
import { expect } from '@playwright/test';
import { test } from './demo';
import { ffmpeg, kept, scratch, stage, startEmpty } from './helpers';
import { files, X264 } from './stored';

test('a microphone’s file is found by what the camera heard and takes the place of its sound; another one is refused', async ({ page }) => {
  // Something that swells and falls, as speech does, is recorded whole; the camera hears 6 s of it from 2.5 s on, dull and noisy.
  const said = "aevalsrc='random(0)*(0.5+0.5*sin(2*PI*1.7*t))*(0.6+0.4*sin(2*PI*0.37*t+1))':s=48000:d=12";
  ffmpeg('-f', 'lavfi', '-i', said, 'boom.wav');
  ffmpeg('-f', 'lavfi', '-i', 'anoisesrc=d=12:c=brown:seed=4', 'other.wav');
  const dull =
    '[0:a]atrim=2.5:8.5,asetpts=PTS-STARTPTS,lowpass=f=3000,volume=0.4[a];[1:a]volume=0.04[n];[a][n]amix=inputs=2:duration=first:normalize=0[out]';
  const noise = ['-f', 'lavfi', '-i', 'anoisesrc=d=12:seed=9'];
  const picture = ['-f', 'lavfi', '-i', 'testsrc2=s=320x240:r=25:d=6'];
  ffmpeg(
    '-i',
    'boom.wav',
    ...noise,
    ...picture,
    '-filter_complex',
    dull,
    '-map',
    '2:v',
    '-map',
    '[out]',
    ...X264,
    '-c:a',
    'aac',
    'camera.mp4',
  );
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles(join(scratch, 'camera.mp4'));
  await expect.poll(async () => (await kept(page)).takes.length).toBe(1);
  await page.getByText('Settings and note').click();
  const mic = page.getByLabel('Hear it from a microphone’s file');
  await mic.setInputFiles(join(scratch, 'other.wav'));
  await expect(page.getByText(/What camera.mp4 heard is not in other.wav/)).toBeVisible({ timeout: 60_000 });
  expect((await kept(page)).takes[0].mic).toBeUndefined();
  await mic.setInputFiles(join(scratch, 'boom.wav'));
  await expect(page.getByText(/^The take begins 2\.5\d\d s into boom\.wav|^The take begins 2\.49\d s into boom\.wav/)).toBeVisible({
    timeout: 60_000,
  });
  // An AAC file begins with up to a frame of the encoder's own; the same file by ffmpeg has it too.
  expect(Math.abs(((await kept(page)).takes[0].mic?.offset ?? 0) - 2.5)).toBeLessThan(0.03);
  await page.getByRole('button', { name: 'Hear the camera’s own' }).click();
  await expect.poll(async () => (await kept(page)).takes[0].mic).toBeUndefined();
});
