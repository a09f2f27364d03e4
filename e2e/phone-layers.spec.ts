import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { shotFrames } from '../src/core/evaluate/index';
import { test } from './demo';
import { downloadBy, ffmpeg, ffprobe, kept, openDemo, press, rawVideo, scratch, stage } from './helpers';
import { files, X264 } from './stored';

const [W, H] = [54, 96];

/** Opens a layer of the list, from the upmost down. */
async function open(page: Page, n: number) {
  const layer = page.getByTestId('layer').nth(n);
  await press(page, layer.locator('summary').first());
  return layer;
}

test('on the phone: a picture that is clear in places, a clip on green, words on beats, a reversed layer, a dissolve, one look over all, upright', async ({
  page,
}) => {
  const green = join(scratch, 'on-green.mp4');
  const ball =
    "geq=r='if(lt(hypot(X-80-40*T,Y-90),30),235,20)':g='if(lt(hypot(X-80-40*T,Y-90),30),235,200)':b='if(lt(hypot(X-80-40*T,Y-90),30),235,30)'";
  ffmpeg('-f', 'lavfi', '-i', 'color=c=green:s=320x180:r=25:d=4,format=gbrp', '-vf', ball, ...X264, '-colorspace', 'bt709', green);
  const disc = join(scratch, 'phone-disc.png');
  const shape = "geq=r=0:g=0:b=0:a='if(lt(hypot(X-100,Y-100),90),255,0)'";
  ffmpeg('-f', 'lavfi', '-i', 'color=c=red:s=200x200,format=rgba', '-vf', shape, '-frames:v', '1', disc);
  await openDemo(page);
  await press(page, stage(page, 'Shoot'));
  await files(page).setInputFiles(green);
  await expect.poll(async () => (await kept(page)).takes.length).toBe(6);

  await press(page, stage(page, 'Score'));
  await page.getByTestId('film-picture').waitFor();
  for (const [i, bar] of [2, 4].entries()) {
    await page.getByLabel('Find on the score').fill(`bar ${bar}`);
    await press(page, page.getByLabel('Found').getByRole('option').first());
    await press(page, page.getByRole('button', { name: 'Whip', exact: true }));
    await expect.poll(async () => (await kept(page)).shots.length, { timeout: 90_000 }).toBe(i + 1);
  }
  await press(page, page.getByTestId('shot-strip').nth(1));
  await press(page, page.getByRole('button', { name: /The shot’s numbers/ }));
  const second = async () => (await kept(page)).shots[1];
  const { layers: whip } = await second();

  // The clip on green, cleared by its colour; a picture from a file; words by the letter.
  const clip = await page.getByLabel('Add a layer').locator('option', { hasText: 'on-green.mp4' }).getAttribute('value');
  await page.getByLabel('Add a layer').selectOption(clip);
  await expect(page.getByTestId('layer')).toHaveCount(whip.length + 1);
  const keyed = await open(page, 0);
  await keyed.getByLabel('Add an effect').selectOption('chroma key');
  await expect.poll(async () => (await second()).layers.at(-1)?.effects[0]?.kind).toBe('chroma key');
  // Measured on the clip as it was added: its green goes.
  const key = (await second()).layers.at(-1)?.effects[0].numbers;
  expect(key?.range[0].value).toBeGreaterThan(0);
  expect(Math.abs((key?.hue[0].value ?? 0) - 120)).toBeLessThan(20);
  await press(page, keyed.getByText('Time', { exact: true }));
  await press(page, keyed.getByRole('button', { name: 'Reverse' }));
  await expect.poll(async () => (await second()).layers.at(-1)?.timeRemap[0].speed).toBe(-1);
  await page.getByTestId('picture-file').setInputFiles(disc);
  await expect(page.getByTestId('layer')).toHaveCount(whip.length + 2);
  await page.getByLabel('Add a layer').selectOption('title');
  const words = await open(page, 0);
  await words.getByLabel('Text').fill('WASH');
  await words.getByLabel('Comes by').selectOption('letter');
  await words.getByLabel('Counted in').selectOption('beats');

  await page.getByLabel('Comes in by').selectOption('dissolve');
  await expect.poll(async () => (await second()).transition?.frames).toBe(4);
  await press(page, page.getByRole('button', { name: 'Over the whole film' }));
  const look = await open(page, 0);
  await look.getByLabel('Add an effect').selectOption('saturation');
  await look.getByLabel('Saturation in %', { exact: true }).fill('0');
  await look.getByLabel('Saturation in %', { exact: true }).press('Enter');
  await expect.poll(async () => (await kept(page)).nestedShots.at(-1)?.layers[0].effects[0]?.numbers.amount[0].value).toBe(0);

  await press(page, stage(page, 'Deliver'));
  await page.getByLabel('Make it').selectOption('720 1280');
  const film = await downloadBy(page, /Make MP4/, 'phone-layers.mp4');
  const { width, height } = ffprobe(film).streams.find((s) => s.codec_name === 'h264') ?? {};
  expect([width, height]).toEqual([720, 1280]);
  const all = rawVideo(film, `scale=${W}:${H}:flags=area,format=rgb24`, '-pix_fmt', 'rgb24');
  const project = await kept(page);
  const [first, end] = [shotFrames(project, project.shots[0])[0], shotFrames(project, project.shots[1])[1]];
  expect(all.length / (3 * W * H)).toBe(end - first);
  // Without colour on every frame.
  for (let i = 0; i < all.length; i += 3 * 97) expect(Math.abs(all[i] - all[i + 2])).toBeLessThan(7);
  // The black disc lies in the middle of the second shot, over what is keyed, and nowhere in the first; the words are beneath its upper part.
  const [cut] = shotFrames(project, project.shots[1]);
  const above = (frame: number) => all[3 * ((frame - first) * W * H + Math.round(0.25 * H) * W + W / 2) + 1];
  expect(above(cut + 10)).toBeLessThan(40);
  expect(above(first + 3)).toBeGreaterThan(40);
});
