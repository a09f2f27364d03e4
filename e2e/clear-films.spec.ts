import { mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { test } from './demo';
import { downloadBy, ffmpeg, kept, openDemo, rawVideo, scratch, showTake, stage } from './helpers';
import { files, X264 } from './stored';

const [W, H] = [320, 180];
/** A disc that goes to the right over what is clear, with an edge that is soft over some pixels. */
const DISC = `geq=r=200:g=200:b=200:a='255*clip((44-hypot(X-60-60*T,Y-90))/8,0,1)'`;
const drawn = (seconds: number) => ['-f', 'lavfi', '-i', `color=c=red:s=${W}x${H}:r=25:d=${seconds},format=rgba`, '-vf', DISC];

/** Mean difference of two rows of values. */
const apart = (a: Uint8Array, b: Uint8Array) => a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;

test('a film that is clear in places, a picture that moves and numbered pictures lie over a take as ffmpeg lays them', async ({ page }) => {
  const make = (name: string, ...args: string[]) => {
    ffmpeg(...args, name);
    return join(scratch, name);
  };
  const ground = make('ground.mp4', '-f', 'lavfi', '-i', `testsrc2=s=${W}x${H}:r=25:d=3`, ...X264, '-colorspace', 'bt709');
  const vp9 = ['-c:v', 'libvpx-vp9', '-pix_fmt', 'yuva420p', '-crf', '10', '-b:v', '0', '-auto-alt-ref', '0', '-deadline', 'realtime'];
  const clear = make('disc.webm', ...drawn(3), ...vp9, '-colorspace', 'bt709', '-color_range', 'tv');
  const moving = make('disc.gif', ...drawn(1));
  mkdirSync(join(scratch, 'row'), { recursive: true });
  ffmpeg(...drawn(1), join('row', 'disc_%02d.png'));
  const row = readdirSync(join(scratch, 'row')).map((name) => join(scratch, 'row', name));

  await openDemo(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles([ground, clear, ...row]);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(8);
  await expect(page.getByText('made a film of 1.0 s, clear in places, part of no set-up.')).toBeVisible();
  const { takes, media } = await kept(page);
  const named = (name: string) => takes.find((t) => media.find((m) => m.id === t.mediaId)?.name === name);
  expect(named('disc.webm')).toMatchObject({ overlay: true, plan: null });
  expect(named('disc (25 pictures)')).toMatchObject({ overlay: true });
  expect(named('ground.mp4')?.overlay).toBeUndefined();
  // A picture that stands still is none of it, and it is said where it goes.
  await files(page).setInputFiles(row[0]);
  await expect(page.getByText('is a picture that stands still.')).toBeVisible();

  await showTake(page, 'ground.mp4');
  const first = await page.getByLabel('Add a layer').locator('option', { hasText: 'disc.webm' }).getAttribute('value');
  await page.getByLabel('Add a layer').selectOption(first);
  await expect(page.getByTestId('layer')).toHaveCount(2);
  await stage(page, 'Deliver').click();
  const film = await downloadBy(page, /Make MP4/, 'over.mp4');

  // The same by ffmpeg from the pictures before they were coded, at the film's size.
  const over = `[1:v]${DISC},scale=iw*4:ih*4[d];[0:v]scale=1280:720[g];[g][d]overlay=format=auto,scale=${W}:${H}:flags=area,format=gray`;
  ffmpeg('-i', ground, ...drawn(3).slice(0, 4), '-filter_complex', over, '-c:v', 'ffv1', 'expected.mkv');
  const small = `scale=${W}:${H}:flags=area,format=gray`;
  const [shown, expected] = [rawVideo(film, small), rawVideo(join(scratch, 'expected.mkv'), 'format=gray')];
  const frames = Math.min(shown.length, expected.length) / (W * H);
  expect(frames).toBeGreaterThan(25);
  for (let k = 0; k < frames; k += 6) {
    const of = (all: Uint8Array) => all.subarray(k * W * H, (k + 1) * W * H);
    expect(apart(of(shown), of(expected))).toBeLessThan(3);
  }

  // The picture that moves, chosen where pictures are, is a film as well.
  await stage(page, 'Score').click();
  await page.getByTestId('shot-strip').first().click();
  await page.getByTestId('picture-file').setInputFiles(moving);
  await expect(page.getByTestId('layer')).toHaveCount(3, { timeout: 30_000 });
  const now = await kept(page);
  const top = now.shots[0].layers.at(-1)?.source;
  expect(top?.kind).toBe('take');
  const gif = now.media.find((m) => m.name === 'disc.gif');
  expect(gif).toMatchObject({ kind: 'video', clear: true, codec: 'VP9' });
  expect(gif?.duration).toBeCloseTo(1, 1);
});
