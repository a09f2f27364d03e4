import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { test } from './demo';
import { downloadBy, ffmpeg, kept, openDemo, rawVideo, scratch, showTake, stage, typed } from './helpers';
import { files, X264 } from './stored';

const [W, H] = [64, 36];
/** Mean R, G and B of a part of a film's frames, in shares of its width. */
function means(file: string, from = 0, to = 1): number[][] {
  const all = rawVideo(file, `scale=${W}:${H}:flags=area,format=rgb24`, '-pix_fmt', 'rgb24');
  return Array.from({ length: all.length / (3 * W * H) }, (_, k) => {
    const sums = [0, 0, 0];
    let n = 0;
    for (let y = 0; y < H; y++)
      for (let x = Math.round(from * W); x < to * W; x++, n++) for (let c = 0; c < 3; c++) sums[c] += all[3 * (W * H * k + y * W + x) + c];
    return sums.map((s) => s / n);
  });
}

test('a colour table, a matched colour and a kept look; words that widen and come in by a wipe; one look over the whole film', async ({
  page,
}) => {
  const warm = join(scratch, 'warm.mp4');
  const cold = join(scratch, 'cold.mp4');
  const patches = 'testsrc2=s=320x180:r=25:d=4,format=yuv420p';
  ffmpeg('-f', 'lavfi', '-i', patches, ...X264, '-colorspace', 'bt709', warm);
  ffmpeg('-f', 'lavfi', '-i', patches, '-vf', 'eq=gamma_b=1.35:gamma_r=0.75', ...X264, '-colorspace', 'bt709', cold);
  // Red and blue change places.
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => `${(i >> 2) & 1} ${(i >> 1) & 1} ${i & 1}`);
  const cube = join(scratch, 'swap.cube');
  writeFileSync(cube, ['TITLE "Swap"', 'LUT_3D_SIZE 2', ...corners].join('\n'));
  const torn = join(scratch, 'torn.cube');
  writeFileSync(torn, 'LUT_3D_SIZE 2\n0 0 0\n');

  await openDemo(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles([warm, cold]);
  await expect.poll(async () => (await kept(page)).takes.length).toBe(7);
  const layer = await showTake(page, 'cold.mp4');
  const effects = async () => (await kept(page)).shots[0].layers[0].effects;

  // The cold take in the tones of the warm one.
  await layer.getByLabel('Match its colour to').selectOption({ label: 'the middle of warm.mp4' });
  await expect.poll(async () => (await effects()).map((e) => e.kind), { timeout: 30_000 }).toEqual(['lift gamma gain']);
  // Kept under a name with its picture, taken away, and laid again.
  await layer.getByText('Kept looks').click();
  await layer.getByLabel('Keep these effects as').fill('Like the warm one');
  await layer.getByRole('button', { name: 'Keep', exact: true }).click();
  const look = layer.getByRole('button', { name: 'Like the warm one', exact: true });
  await expect(look.locator('img')).toHaveAttribute('src', /^data:image\/webp/, { timeout: 30_000 });
  await layer.getByTestId('effect').getByRole('button', { name: 'Remove' }).click();
  await expect.poll(effects).toEqual([]);
  await look.click();
  await expect.poll(async () => (await effects()).map((e) => e.kind)).toEqual(['lift gamma gain']);

  // Words over it, wider and wider, in a font from a file, brought in by a wipe.
  await page.getByLabel('Add a layer').selectOption('title');
  const words = page.getByTestId('layer').first();
  await words.locator('summary').first().click();
  await words.getByLabel('Text').fill('WASH');
  const font = words.locator('input[type=file]').first();
  await font.setInputFiles(join(process.cwd(), 'public/fonts/recursive-latin.woff2'));
  await expect.poll(async () => (await kept(page)).shots[0].layers[1].source).toMatchObject({ fontId: expect.any(String) });
  await words.getByRole('button', { name: 'Tracking, of the size', exact: true }).click();
  await page
    .getByRole('button', { name: /^(Set a key|Key here|Set the key)/ })
    .first()
    .click();
  const tracking = async () => (await kept(page)).shots[0].layers[1].sourceNumbers?.tracking?.map((k) => k.value);
  await expect.poll(tracking).toEqual([0]);
  for (let k = 0; k < 6; k++) await page.getByRole('button', { name: 'One frame on' }).click();
  await typed(page, 'Tracking, of the size in %', '40');
  await expect.poll(async () => (await tracking())?.at(-1)).toBe(40);
  await words.getByText('Time', { exact: true }).click();
  await words.getByRole('button', { name: 'Bring it in so' }).click();
  await expect.poll(async () => (await kept(page)).shots[0].layers[1].masks.map((m) => m.kind)).toEqual(['line']);

  // Over the whole film: a table from a file; a torn one is refused where it is chosen.
  await page.getByRole('button', { name: 'Over the whole film' }).click();
  const over = page.getByTestId('layer').first();
  await over.locator('summary').first().click();
  await over.getByLabel('Add an effect').selectOption('colour table');
  const table = over.getByTestId('effect').locator('input[type=file]');
  await table.setInputFiles(torn);
  await expect(page.getByText('It breaks off: 1 of 8 colours are there.')).toBeVisible();
  await table.setInputFiles(cube);
  await expect.poll(async () => (await kept(page)).nestedShots.at(-1)?.layers[0].effects[0]?.tableId).toBeTruthy();

  await stage(page, 'Deliver').click();
  const film = await downloadBy(page, /Make MP4/, 'look.mp4');
  const [shown, wanted, filmed] = [means(film, 0, 0.12), means(warm, 0, 0.12), means(cold, 0, 0.12)];
  for (const k of [3, 20]) {
    const [r, g, b] = shown[k];
    // In the warm one's tones, and then red for blue.
    const off = Math.abs(b - wanted[k][0]) + Math.abs(g - wanted[k][1]) + Math.abs(r - wanted[k][2]);
    const before = filmed[k].reduce((sum, v, c) => sum + Math.abs(v - wanted[k][c]), 0);
    expect(off).toBeLessThan(0.6 * before);
  }
});
