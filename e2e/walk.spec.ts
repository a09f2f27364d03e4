import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { psnr } from '../src/core/picture';
import { test } from './demo';
import { ffmpeg, ffprobe, greyFrame, greyPicture, layReveal, openDemo, saved, scratch, stage, unfold } from './helpers';

/** Seconds by which a film's sound lies off the song's own, the film beginning on a frame of the song. */
function soundLag(film: string, first: number): number {
  // Both as raw sound, then the lag of their best match.
  const rate = 8000;
  ffmpeg('-i', film, '-ac', '1', '-ar', String(rate), '-f', 'f32le', 'film.f32');
  ffmpeg('-i', join(process.cwd(), 'public/demo/half-load.m4a'), '-ac', '1', '-ar', String(rate), '-f', 'f32le', 'song.f32');
  const read = (name: string) => {
    const bytes = readFileSync(join(scratch, name));
    return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2);
  };
  const [heard, song] = [read('film.f32'), read('song.f32')];
  const from = Math.round((first / 25) * rate);
  let best = 0;
  let score = Number.NEGATIVE_INFINITY;
  for (let lag = -800; lag <= 800; lag++) {
    let sum = 0;
    for (let i = 4000; i < 24000; i++) sum += heard[i] * (song[from + i + lag] ?? 0);
    if (sum > score) {
      score = sum;
      best = lag;
    }
  }
  return best / rate;
}

test('plan to film: the curtain reveal in 12 actions or fewer, and the film is what the compositor drew', async ({ page }) => {
  await openDemo(page);
  let actions = 0;
  const act = async (what: () => Promise<unknown>) => {
    actions++;
    await what();
  };

  await act(() => stage(page, 'Takes').click());
  const correct = page.getByTestId('take-two').getByRole('button', { name: 'Correct this take' });
  await expect(correct).toBeVisible({ timeout: 60_000 });
  // The truth of the baked takes: bumped by (2.3, -1.4) px, 0.04°, at 1.72 s; light -0.1 EV, red +4 %, blue -4.5 %.
  const two = page.getByTestId('take-two');
  await expect(
    two.getByText(
      /Moved against take-2-outfit-one.mp4: 2\.\d\d px and 0\.0(39|40|41)°.*bump of 2\.\d px at 1\.7[2-6] s.*Light −0\.(09|10|11) EV, red \+(3\.\d|4\.\d) %, blue −4\.\d %/,
    ),
  ).toBeVisible();
  await act(() => correct.click());
  await expect(page.getByText(/the shot is shown at \d+/)).toBeVisible();

  await act(() => stage(page, 'Score').click());
  const line = page.getByTestId('score-line').nth(1).locator('div.relative').first();
  await act(() => line.click({ position: { x: 2, y: 40 } }));
  await act(() => page.getByRole('button', { name: 'Masked reveal' }).click());
  await expect(page.getByTestId('shot-strip').first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('bar 9 beat 1', { exact: true })).toBeVisible();

  await act(() => stage(page, 'Check').click());
  await expect(page.getByText(/Nothing found/)).toBeVisible();

  await act(() => stage(page, 'Deliver').click());
  const download = page.waitForEvent('download', { timeout: 120_000 });
  await act(() => page.getByRole('button', { name: /Make MP4/ }).click());
  const film = join(scratch, 'film.mp4');
  await (await download).saveAs(film);
  expect(actions).toBeLessThanOrEqual(12);

  const info = ffprobe(film);
  const video = info.streams.find((s) => s.codec_type === 'video');
  const audio = info.streams.find((s) => s.codec_type === 'audio');
  const text = await page.getByText(/1280×720, 25 fps, \d+ frames/).textContent();
  const frames = Number(/(\d+) frames/.exec(text ?? '')?.[1]);
  expect(video).toMatchObject({ codec_name: 'h264', width: 1280, height: 720, r_frame_rate: '25/1', nb_read_packets: String(frames) });
  expect(audio?.codec_name).toBe('aac');
  expect(Math.abs(Number(audio?.start_time) - Number(video?.start_time))).toBeLessThan(0.04);
  expect(Math.abs(Number(info.format.duration) - frames / 25)).toBeLessThan(0.08);

  // A still by the compositor against the same frame of the film, in the middle of the reveal.
  await stage(page, 'Score').click();
  const where = await page.getByTestId('where').textContent();
  const code = /(\d\d):(\d\d):(\d\d):(\d\d)/.exec(where ?? '');
  const frame = Number(code?.[2]) * 1500 + Number(code?.[3]) * 25 + Number(code?.[4]);
  await stage(page, 'Deliver').click();
  const picture = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save PNG' }).click();
  const still = join(scratch, 'still.png');
  await (await picture).saveAs(still);
  // The shot opens a bar before the reveal's downbeat, at bar 8; the beat map puts that on the frame nearest to it.
  const first = Math.floor((0.25 + (7 * 4 * 60) / 112) * 25 + 0.5);
  expect(psnr(greyFrame(film, frame - first, 1280, 720), greyPicture(still, 1280, 720))).toBeGreaterThan(30);
  // Its sound lies within one frame of the song's own.
  expect(Math.abs(soundLag(film, first))).toBeLessThan(0.04);
});

test('keys of the line: dragged, typed, added, removed; undo and redo survive a reload', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  await unfold(page);
  const beads = page.getByTestId('bead');
  const before = await beads.count();
  await page.getByLabel('Here in %').fill('40');
  await page.getByLabel('Here in %').press('Enter');
  await expect(beads).toHaveCount(before + 1);
  const handle = page.getByTestId('line-handle');
  const at = await handle.boundingBox();
  if (!at) throw new Error('no handle');
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2 + 40, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByLabel('Here in %')).not.toHaveValue('40.0');
  const dragged = await page.getByLabel('Here in %').inputValue();
  await page.getByRole('button', { name: 'Remove this key' }).click();
  await expect(beads).toHaveCount(before);
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(beads).toHaveCount(before + 1);
  await saved(page);
  await page.reload();
  await expect(page.getByTestId('shot-strip').first()).toBeVisible({ timeout: 60_000 });
  await unfold(page);
  await expect(beads).toHaveCount(before + 1);
  await page.getByRole('button', { name: /Redo/ }).click();
  await expect(beads).toHaveCount(before);
  await page.getByRole('button', { name: /Undo/ }).click();
  await page.getByRole('button', { name: /Undo: Set a key/ }).click();
  await page.getByRole('button', { name: /Undo: Set a key/ }).click();
  await expect(beads).toHaveCount(before);
  expect(Number(dragged)).toBeGreaterThan(40);
});

test('check finds a knocked camera and an event off its beat, and mends both', async ({ page }) => {
  await openDemo(page);
  await stage(page, 'Takes').click();
  await expect(page.getByTestId('take-two').getByRole('button', { name: 'Correct this take' })).toBeVisible({ timeout: 60_000 });
  await layReveal(page);
  const frames = page.getByLabel('Frames in f').first();
  await frames.fill('3');
  await frames.press('Enter');
  await stage(page, 'Check').click();
  await expect(page.getByTestId('finding')).toHaveCount(2);
  await page.getByRole('button', { name: 'Put it on the beat' }).click();
  await expect(page.getByTestId('finding')).toHaveCount(1);
  await page.getByRole('button', { name: 'Correct the take' }).click();
  await expect(page.getByText(/Nothing found/)).toBeVisible();
  await page.getByRole('button', { name: /Undo: Correct the take/ }).click();
  await expect(page.getByTestId('finding')).toHaveCount(1);
});

test('scrubbing shows each frame it lands on', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  const canvas = page.getByTestId('film-picture');
  // The playhead goes to the reveal once it is laid; its picture is what is waited for.
  await expect(canvas).toHaveAttribute('data-frame', /^[1-9]\d*$/);
  const now = Number(await canvas.getAttribute('data-frame'));
  for (let i = 1; i <= 6; i++) {
    await page.keyboard.press('ArrowRight');
    await expect(canvas).toHaveAttribute('data-frame', String(now + i));
  }
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(async () => Number(await canvas.getAttribute('data-frame'))).toBeGreaterThan(now + 20);
  await page.keyboard.press('Space');
});
