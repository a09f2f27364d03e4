import { expect } from '@playwright/test';
import { sceneOf, shotFrames } from '../src/core/evaluate/index';
import { placeFrame } from '../src/core/layer/index';
import type { Move } from '../src/core/moves/index';
import { test } from './demo';
import { downloadBy, kept, openDemo, press, rawVideo, stage } from './helpers';
import { putProject } from './stored';

const [W, H] = [64, 36];

test('phone: moves are found by what they do and laid in three taps; words, an iris and a line of light are there on their beats', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await openDemo(page);
  const demo = await kept(page);
  await putProject(page, { ...demo, frame: { ...demo.frame, width: 320, height: 180 } });
  await press(page, stage(page, 'Score'));
  for (const [i, [name, what]] of (
    [
      ['Title', 'words'],
      ['Iris', 'circle closes'],
      ['Beam', 'line of light'],
      ['Still in motion', 'frozen'],
    ] as const
  ).entries()) {
    await page.getByLabel('Find on the score').fill(`bar ${2 + 4 * i}`);
    await page.getByLabel('Found').getByRole('option').first().tap();
    await page.getByRole('button', { name: 'All moves…' }).tap();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('What should happen?').fill(what);
    const choice = sheet.getByRole('button', { name, exact: true });
    // Under the thumb, and large enough for one.
    const box = await choice.boundingBox();
    expect(box?.height).toBeGreaterThanOrEqual(44);
    expect((box?.y ?? 0) + (box?.height ?? 0)).toBeLessThanOrEqual(844);
    // It is shown moving.
    await expect.poll(() => choice.locator('img').evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(192);
    await choice.tap();
    await expect.poll(async () => (await kept(page)).shots.length, { timeout: 60_000 }).toBe(i + 1);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  }
  await page.getByRole('button', { name: 'All moves…' }).tap();
  await page.getByLabel('What should happen?').fill('xylophone');
  await expect(page.getByText('No move is called that or does that.')).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).tap();

  const project = await kept(page);
  await press(page, stage(page, 'Deliver'));
  const file = await downloadBy(page, /Make MP4/, 'phone-moves.mp4');
  const raw = rawVideo(file, `format=gray,scale=${W}:${H}:flags=area`);
  const first = Math.min(...project.shots.map((s) => shotFrames(project, s)[0]));
  const at = (frame: number) => raw.subarray((frame - first) * W * H, (frame - first + 1) * W * H);
  const mean = (frame: number) => at(frame).reduce((a, b) => a + b, 0) / (W * H);
  const of = (kind: Move['kind']) => {
    const shot = project.shots.find((s) => s.move?.kind === kind);
    if (!shot) throw new Error(`no ${kind}`);
    const scene = sceneOf(project, shot);
    const place = (name: string) => placeFrame(scene, (shot.move as unknown as Record<string, { beat: number; offset: number }>)[name]);
    return { scene, place };
  };
  /** White pixels in the middle of the frame, where words stand. */
  const white = (frame: number) =>
    at(frame).filter((v, i) => v > 190 && Math.abs((i % W) - W / 2) < 20 && Math.abs(Math.floor(i / W) - H / 2) < 5).length;
  const title = of('title');
  // One letter a quarter of a beat: all five are there after a beat.
  expect(white(title.place('at') + 15)).toBeGreaterThan(white(title.place('at')) + 4);
  const iris = of('iris');
  expect(mean(iris.place('at') - 1)).toBeLessThan(25);
  expect(mean(iris.place('at') - 29)).toBeGreaterThan(50);
  const beam = of('beam');
  const brightest = (frame: number) => at(frame).filter((v) => v > 200).length;
  expect(brightest(beam.place('at'))).toBeGreaterThan(brightest(beam.scene.first) + 20);
  const stills = of('stills');
  // Each of the wall comes on its beat: what it covers changes from the frame before, and rests after its pop.
  const changed = (frame: number) => at(frame).reduce((sum, v, i) => sum + Math.abs(v - at(frame - 1)[i]), 0) / (W * H);
  const second = placeFrame(stills.scene, { beat: 1, offset: 0 });
  expect(changed(second)).toBeGreaterThan(5 * changed(second - 2));
});
