import { join } from 'node:path';
import { expect } from '@playwright/test';
import { asHomography, chained, cornersApart, type Homography, ofMove, through } from '../src/core/picture/index';
import { test } from './demo';
import { downloadBy, ffmpeg, greyPicture, kept, layReveal, scratch, stage, startEmpty } from './helpers';
import { files, X264 } from './stored';

const [W, H] = [640, 360];
const SOURCE = join(process.cwd(), 'public/demo/take-2-outfit-one.mp4');
/** A phone put back on its stand: turned by 4.1°, 2.5 % larger, moved by a tenth of the frame, and tilted by it. */
const TRUTH = chained([1, 0, 0, 0, 1, 0, -0.00012, 0.00006], ofMove({ dx: -64, dy: 20, turn: 4.1, scale: 1.025 }));

/** ffmpeg's own filter for the same: where each corner of the picture goes. */
function filmedFrom(map: Homography): string {
  const corners = [0, H].flatMap((y) => [0, W].map((x) => through(map, x - W / 2, y - H / 2)));
  const places = corners.map(([x, y], i) => `x${i}=${(x + W / 2).toFixed(4)}:y${i}=${(y + H / 2).toFixed(4)}`);
  return `perspective=${places.join(':')}:interpolation=cubic:sense=destination`;
}

/** Mean difference of two grey pictures over the middle of the frame, where both takes reach. */
function apart(a: Uint8Array, b: Uint8Array): number {
  let [sum, n] = [0, 0];
  for (let y = 8; y < H - 8; y++) for (let x = 8; x < W - 8; x++, n++) sum += Math.abs(a[y * W + x] - b[y * W + x]);
  return sum / n;
}

test('a take moved by 4°, 2.5 % and a tenth of the frame is found, its cost is said, and one press lays it: the reveal shows one head', async ({
  page,
}) => {
  const small = `scale=${W}:${H}`;
  ffmpeg('-t', '8', '-i', SOURCE, '-vf', small, ...X264, '-crf', '14', 'from-the-stand.mp4');
  ffmpeg('-t', '8', '-i', SOURCE, '-vf', `${small},${filmedFrom(TRUTH)},eq=brightness=0.03`, ...X264, '-crf', '14', 'put-back.mp4');
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles([
    join(scratch, 'from-the-stand.mp4'),
    join(scratch, 'put-back.mp4'),
    join(process.cwd(), 'public/demo/half-load.m4a'),
  ]);
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(2);
  await stage(page, 'Takes').click();
  const correct = page.getByRole('button', { name: 'Correct this take' });
  await expect(correct).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText(/Moved against from-the-stand\.mp4: \d+\.\d\d px and 4\.\d+°/)).toBeVisible();
  await expect(page.getByText(/as if filmed from where the reference was.*shown at 1[34]\d %\. The picture is softer/)).toBeVisible();
  await correct.click();
  const [, { correction }] = (await kept(page)).takes;
  if (!correction?.perspective) throw new Error('no perspective');
  const found = chained(ofMove(correction.moves[0]), asHomography(correction.perspective));
  expect(cornersApart(found, TRUTH, W, H)).toBeLessThan(0.3);

  await expect.poll(async () => (await kept(page)).song?.map?.beats.length ?? 0, { timeout: 60_000 }).toBeGreaterThan(8);

  await layReveal(page);
  const shots = async () => (await kept(page)).shots[0];
  const { overscan } = await shots();
  expect(overscan).toBeGreaterThan(130);
  await stage(page, 'Deliver').click();
  const still = greyPicture(await downloadBy(page, /^Save PNG$/, 'one-head.png'), W, H);
  // Without the layer of the second take the first alone is seen: it is the same picture.
  await stage(page, 'Score').click();
  const layer = page.getByTestId('layer').filter({ hasText: 'After' });
  await layer.locator('summary').first().click();
  await layer.getByRole('checkbox', { name: 'Shown' }).uncheck();
  await stage(page, 'Deliver').click();
  const alone = greyPicture(await downloadBy(page, /^Save PNG$/, 'first-alone.png'), W, H);
  expect(apart(still, alone)).toBeLessThan(2);
  // As filmed it would not be.
  await stage(page, 'Score').click();
  await page.getByRole('button', { name: /^Undo: Switch a layer off/ }).click();
  await stage(page, 'Takes').click();
  await page.getByRole('checkbox', { name: /^Corrected/ }).uncheck();
  await stage(page, 'Deliver').click();
  expect(apart(greyPicture(await downloadBy(page, /^Save PNG$/, 'as-filmed.png'), W, H), alone)).toBeGreaterThan(6);
});

test('a phone that is lifted and put down elsewhere within a take is found again', async ({ page }) => {
  // Three seconds on the stand, one in a hand before the lens, four where it was put down.
  const small = `scale=${W}:${H},fps=25`;
  const graph = [
    `[0:v]${small},split=3[a][b][c]`,
    '[a]trim=0:3,setpts=PTS-STARTPTS[stands]',
    '[b]trim=3:4,setpts=PTS-STARTPTS,gblur=sigma=40[hand]',
    `[c]trim=4:8,setpts=PTS-STARTPTS,${filmedFrom(TRUTH)}[elsewhere]`,
    '[stands][hand][elsewhere]concat=n=3:v=1:a=0',
  ];
  ffmpeg('-t', '8', '-i', SOURCE, '-an', '-filter_complex', graph.join(';'), ...X264, '-crf', '14', 'lifted.mp4');
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles(join(scratch, 'lifted.mp4'));
  await stage(page, 'Takes').click();
  const verdict = page.getByText(/Moved against its own first second: \d+\.\d\d px and 4\.\d+°.* (\d+) % of the frames could be followed/);
  await expect(verdict).toBeVisible({ timeout: 90_000 });
  const share = Number(/(\d+) % of the frames/.exec((await verdict.textContent()) ?? '')?.[1]);
  // A second in the hand, and twelve frames until it is looked for.
  expect(share).toBeGreaterThanOrEqual(75);
});

test('two takes of one slider move, one begun later and a little quicker, are matched moment by moment and lie on each other', async ({
  page,
}) => {
  const way = (t: string) => `(90-90*cos(PI*clip((${t}-1)/5,0,1)))`;
  const slid = (t: string) =>
    `scale=960:540,perspective=x0='${way(t)}':x1='W+${way(t)}':x2='${way(t)}':x3='W+${way(t)}':y0=0:y1=0:y2=H:y3=H:eval=frame:interpolation=cubic:sense=source,crop=${W}:${H}:20:90`;
  // The second begins 0.48 s later and runs 2 % faster: its second t is the first's 1.02 t - 0.4896.
  ffmpeg('-t', '8', '-i', SOURCE, '-vf', slid('in/25'), ...X264, '-crf', '14', 'slider-one.mp4');
  // The performer is elsewhere in it, the light a little brighter.
  ffmpeg(
    '-ss',
    '1.4',
    '-t',
    '8',
    '-i',
    SOURCE,
    '-vf',
    `${slid('(in/25-0.48)*1.02')},eq=brightness=0.02`,
    ...X264,
    '-crf',
    '14',
    'slider-two.mp4',
  );
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles(['slider-one.mp4', 'slider-two.mp4'].map((name) => join(scratch, name)));
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(2);
  await stage(page, 'Takes').click();
  await expect(
    page.getByText(/The camera moves to the right by 1[78]\d px from [01]\.\d to [56]\.\d s\. Nothing knocks it/).first(),
  ).toBeVisible({
    timeout: 90_000,
  });
  await expect(
    page.getByText(
      /The camera moves as in slider-one\.mp4, 0\.(49|50|48) s later than there, and 2\.[01] % faster.* At a speed of 9[78]\.\d % it stays with it/,
    ),
  ).toBeVisible({
    timeout: 90_000,
  });
  await page.getByRole('button', { name: 'Correct this take' }).click();
  const { correction } = (await kept(page)).takes[1];
  expect(correction?.moments?.rate).toBeCloseTo(1.02, 2);
  expect((correction?.moments?.offset ?? 0) + 3 * (correction?.moments?.rate ?? 0)).toBeCloseTo(1.02 * 3 - 0.4896, 1);
  // What is left where the same places are passed is what both go between two frames, at most.
  for (const { time, dx, dy } of correction?.moves ?? []) if (time > 0.6 && time < 6) expect(Math.hypot(dx, dy)).toBeLessThan(2.4);
  await page.getByRole('tab', { name: 'Side by side' }).click();
  await page.getByRole('button', { name: 'Line them up by the camera’s move' }).click();
  await expect(page.getByText('At these seconds both cameras are in the same place')).toBeVisible({ timeout: 60_000 });
  const begins = page.getByLabel('Begins at its second');
  const [first, second] = [Number(await begins.nth(0).inputValue()), Number(await begins.nth(1).inputValue())];
  expect(first - (1.02 * second - 0.4896)).toBeCloseTo(0, 1);
  await page.getByRole('button', { name: 'Find the seam' }).click();
  await expect(page.getByText(/there is no one empty set to tell the performer from/)).toBeVisible({ timeout: 60_000 });
});
