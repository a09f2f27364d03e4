import { join } from 'node:path';
import { expect } from '@playwright/test';
import type { Project } from '../src/core/document/index';
import { plainShot } from '../src/core/edit';
import { shotFrames } from '../src/core/evaluate/index';
import { plainLayer, remapKeyAt } from '../src/core/layer';
import { test } from './demo';
import { downloadBy, ffmpeg, kept, rawVideo, scratch, stage, startEmpty, typed } from './helpers';
import { files, putProject, X264 } from './stored';

const [W, H] = [160, 90];

/** One bar of red and one of blue after it. */
function redThenBlue(project: Project): Project {
  const shots = project.takes.map(({ id }, i) => {
    const layer = plainLayer('take', 'The take', 0, { kind: 'take', takeId: id }, [remapKeyAt(0, 0, 0)]);
    return plainShot(`shot-${i}`, `Shot ${i}`, { beat: 4 * i, offset: 0 }, { beat: 4 * i + 4, offset: 0 }, { layers: [layer] });
  });
  return { ...project, shots };
}

test('a shot comes in within an ellipse that grows by its keys, drawn, keyed and chosen on the score', async ({ page }) => {
  const clips = ['red', 'blue'].map((colour) => {
    ffmpeg('-f', 'lavfi', '-i', `color=c=${colour}:s=640x360:r=25:d=4`, ...X264, '-colorspace', 'bt709', `${colour}.mp4`);
    return join(scratch, `${colour}.mp4`);
  });
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  for (const [i, clip] of clips.entries()) {
    await files(page).setInputFiles(clip);
    await expect.poll(async () => (await kept(page)).takes.length).toBe(i + 1);
  }
  await putProject(page, redThenBlue(await kept(page)));
  await stage(page, 'Score').click();
  await page.getByTestId('film-picture').waitFor();
  await page
    .getByTestId('shot-strip')
    .nth(1)
    .click({ position: { x: 40, y: 20 } });
  const [cut] = shotFrames(await kept(page), (await kept(page)).shots[1]);
  const picture = page.getByTestId('film-picture');
  const steps = Number(await picture.getAttribute('data-frame')) - cut;
  for (let k = 0; k < steps; k++) await page.getByRole('button', { name: 'One frame back' }).click();
  await expect(picture).toHaveAttribute('data-frame', String(cut));

  // The ellipse is a fifth of the frame at the cut and a quarter more four frames on; on its layer it is switched off.
  const layer = page.getByTestId('layer').first();
  await layer.locator('summary').first().click();
  await layer.getByLabel('Draw a mask').selectOption('ellipse');
  const key = async (name: string, value: string) => {
    await layer.getByRole('button', { name: new RegExp(`^${name}( · \\d+)?$`) }).click();
    // At the cut there is one: where it is still.
    const fresh = page.getByRole('button', { name: 'Set a key here' });
    if ((await fresh.count()) > 0) await fresh.click();
    await typed(page, 'Here in %', value);
  };
  for (const side of ['Width', 'Height']) await key(side, '20');
  for (let k = 0; k < 4; k++) await page.getByRole('button', { name: 'One frame on' }).click();
  for (const side of ['Width', 'Height']) await key(side, '50');
  await layer.getByRole('checkbox', { name: 'On', exact: true }).uncheck();
  await page.getByLabel('Comes in by').selectOption('mask');
  await typed(page, 'In all in frames', '10');
  await page.getByLabel('Seen within').selectOption({ index: 1 });
  await expect.poll(async () => (await kept(page)).shots[1].transition?.mask?.layerId).toBe('take');

  await stage(page, 'Deliver').click();
  const film = await downloadBy(page, /Make MP4/, 'mask-wipe.mp4');
  const all = rawVideo(film, `scale=${W}:${H}:flags=area,format=rgb24`, '-pix_fmt', 'rgb24');
  /** How much of a frame is blue, 0 to 1. */
  const blue = (frame: number) => {
    const of = all.subarray(frame * W * H * 3, (frame + 1) * W * H * 3);
    let count = 0;
    for (let i = 0; i < of.length; i += 3) if (of[i + 2] > of[i]) count++;
    return count / (W * H);
  };
  // Five frames of it before the cut and five after; an ellipse with those axes covers π/4 of their product.
  const area = (side: number) => (Math.PI / 4) * side * side;
  for (const frame of [cut - 7, cut - 6]) expect(blue(frame)).toBe(0);
  for (const frame of [cut - 5, cut - 1, cut]) expect(blue(frame)).toBeCloseTo(area(0.2), 2);
  expect(blue(cut + 2)).toBeGreaterThan(blue(cut + 1));
  expect(blue(cut + 4)).toBeCloseTo(area(0.5), 2);
  for (const frame of [cut + 5, cut + 6]) expect(blue(frame)).toBe(1);
});
