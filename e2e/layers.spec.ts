import { join } from 'node:path';
import { expect } from '@playwright/test';
import { beatToSeconds } from '../src/core/time';
import { test } from './demo';
import { downloadBy, ffmpeg, ffprobe, kept, openDemo, openShot, rawVideo, scratch, showTake, stage, typed } from './helpers';
import { files, X264 } from './stored';

const [W, H] = [64, 36];
/** Every frame of a film small, as R, G and B. */
function coloured(file: string): Uint8Array[] {
  const all = rawVideo(file, `scale=${W}:${H}:flags=area,format=rgb24`, '-pix_fmt', 'rgb24');
  return Array.from({ length: all.length / (3 * W * H) }, (_, k) => all.subarray(3 * W * H * k, 3 * W * H * (k + 1)));
}
const at = (frame: Uint8Array, x: number, y: number) => [...frame.subarray(3 * (y * W + x), 3 * (y * W + x) + 3)];

test('a take reversed, a picture that is clear in places, words that come on beats and an effect on all of it are in the film', async ({
  page,
}) => {
  const ramp = join(scratch, 'ramp.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'color=c=gray:s=320x180:r=25:d=6', '-vf', "geq=lum='40+20*T':cb=128:cr=128", ...X264, ramp);
  const disc = join(scratch, 'disc.png');
  const shape = "geq=r=220:g='60+X/3':b=40:a='if(lt(hypot(X-150,Y-100),60),255,0)'";
  ffmpeg('-f', 'lavfi', '-i', 'color=c=red:s=301x201,format=rgba', '-vf', shape, '-frames:v', '1', disc);
  await openDemo(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles(ramp);
  await expect.poll(async () => (await kept(page)).takes.length).toBe(6);
  const layer = await showTake(page, 'ramp.mp4');

  // From its second second on, the other way round.
  await layer.getByText('Time', { exact: true }).click();
  await typed(page, 'First frame shows in s', '1');
  await layer.getByRole('button', { name: 'Reverse' }).click();
  await expect.poll(async () => (await kept(page)).shots[0].layers[0].timeRemap[0].speed).toBe(-1);
  // What is used of it is pushed along by the keyboard, and back.
  const used = layer.getByRole('slider', { name: 'What is used of the take' });
  const before = await used.getAttribute('aria-valuetext');
  await used.press('Shift+ArrowRight');
  await expect(used).not.toHaveAttribute('aria-valuetext', before as string);
  await page.getByRole('button', { name: 'Undo: Slip a layer' }).click();
  await expect(used).toHaveAttribute('aria-valuetext', before as string);

  await page.getByTestId('picture-file').setInputFiles(disc);
  await expect(page.getByTestId('layer')).toHaveCount(2);
  await page.getByLabel('Add a layer').selectOption('title');
  await expect(page.getByTestId('layer')).toHaveCount(3);
  const words = page.getByTestId('layer').first();
  await words.locator('summary').first().click();
  await words.getByLabel('Text').fill('WASH');
  await words.getByLabel('Comes by').selectOption('letter');
  await words.getByLabel('Counted in').selectOption('beats');
  await page.getByLabel('Add a layer').selectOption('below');
  await expect(page.getByTestId('layer')).toHaveCount(4);
  const all = page.getByTestId('layer').first();
  await all.locator('summary').first().click();
  await all.getByLabel('Add an effect').selectOption('saturation');
  await typed(page, 'Saturation in %', '0');
  await expect.poll(async () => (await kept(page)).shots[0].layers.at(-1)?.effects[0]?.numbers.amount[0].value).toBe(0);

  await stage(page, 'Deliver').click();
  const film = await downloadBy(page, /Make MP4/, 'layers.mp4');
  const [shown, filmed] = [coloured(film), coloured(ramp)];
  const n = shown.length;
  expect(n).toBeGreaterThan(25);
  // Backwards: the corner of each frame is that of the take as long before the end.
  for (let k = 0; k < n; k += 5) {
    const [r, g, b] = at(shown[k], 2, 2);
    const [expected] = at(filmed[25 + n - 1 - k], 2, 2);
    expect(Math.abs(g - expected)).toBeLessThan(6);
    expect(Math.max(Math.abs(r - g), Math.abs(b - g))).toBeLessThan(4);
  }
  // The disc lies where it is seen, without colour for all of it is taken out; beside it the take.
  const [r, g, b] = at(shown[2], 32, 26);
  expect(Math.max(Math.abs(r - g), Math.abs(b - g))).toBeLessThan(8);
  expect(Math.abs(g - at(shown[2], 2, 26)[1])).toBeGreaterThan(15);
  expect(Math.abs(at(shown[2], 14, 18)[1] - at(shown[2], 2, 18)[1])).toBeLessThan(8);
  // One letter on each beat.
  const project = await kept(page);
  const map = project.song?.map;
  if (!map) throw new Error('no beats');
  const { start } = project.shots[0];
  const white = shown.map((frame) => Array.from({ length: W * H }, (_, i) => frame[3 * i + 1]).filter((v) => v > 190).length);
  const begins = beatToSeconds(map, start.beat);
  const counts = [0, 1, 2, 3].map((beat) => white[Math.round((beatToSeconds(map, start.beat + beat) - begins) * 25) + 2] ?? 0);
  expect(counts[0]).toBeGreaterThan(0);
  for (const i of [1, 2, 3]) expect(counts[i]).toBeGreaterThan(counts[i - 1]);
});

test('a layer and a shot are split at the playhead, one comes in by a dissolve; a picture that is none is refused; the film upright', async ({
  page,
}) => {
  await openDemo(page);
  await openShot(page);
  for (let k = 0; k < 8; k++) await page.getByRole('button', { name: 'One frame on' }).click();
  const layer = page.getByTestId('layer').first();
  await layer.locator('summary').first().click();
  await layer.getByText('Time', { exact: true }).click();
  await layer.getByRole('button', { name: 'Split the layer here' }).click();
  await expect.poll(async () => (await kept(page)).shots[0].layers.length).toBe(2);
  await page.getByText('The shot’s name, bars and margin').scrollIntoViewIfNeeded();
  await page.getByRole('button', { name: 'Split the shot here' }).click();
  await expect.poll(async () => (await kept(page)).shots.length).toBe(2);
  // The later part comes in by a dissolve around the cut, and the picture in its middle is of both.
  const cut = Number(await page.getByTestId('film-picture').getAttribute('data-frame'));
  await page.getByLabel('Comes in by').selectOption('dissolve');
  await expect.poll(async () => (await kept(page)).shots[1].transition?.frames).toBe(4);
  await page.getByRole('button', { name: 'One frame on' }).click();
  await expect(page.getByTestId('film-picture')).toHaveAttribute('data-frame', String(cut + 1));
  // Paper over it, the frame as a picture, and a pattern of keys.
  await page.getByLabel('Add a layer').selectOption('pieces');
  await page.getByLabel('Add a layer').selectOption('frame');
  await expect.poll(async () => (await kept(page)).shots[1].layers.map((l) => l.source.kind).slice(-2)).toEqual(['pieces', 'picture']);
  const still = page.getByTestId('layer').first();
  await still.locator('summary').first().click();
  await still.getByLabel('Add a keyframed property').selectOption('scale');
  await page.getByRole('button', { name: 'Move by a pattern…' }).click();
  await page.getByLabel('By in %', { exact: true }).fill('8');
  await page.getByLabel('By in %', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Lay from here on' }).click();
  await expect.poll(async () => (await kept(page)).shots[1].layers.at(-1)?.numbers.scale?.map((k) => k.value)).toContain(108);
  const bad = join(scratch, 'no-picture.png');
  ffmpeg('-f', 'lavfi', '-i', 'sine=d=1', '-f', 'wav', bad);
  await page.getByTestId('picture-file').setInputFiles(bad);
  await expect(page.getByText('“no-picture.png” cannot be read as a picture.')).toBeVisible();
  // The same film upright, with its dissolve.
  await stage(page, 'Deliver').click();
  await page.getByRole('combobox', { name: /^Frame(?!s)/ }).selectOption('720 1280');
  await expect(page.getByText(/^720×1280, 25 fps/)).toBeVisible();
  const film = await downloadBy(page, /Make MP4/, 'upright.mp4');
  const { width, height } = ffprobe(film).streams.find((s) => s.codec_name === 'h264') ?? {};
  expect([width, height]).toEqual([720, 1280]);
});
