import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { test } from './demo';
import { downloadBy, dragShot, ffprobe, greyPicture, kept, rawVideo, stage, startEmpty } from './helpers';
import { type Filmed, filmPerformer, greenBacking, photographWall, tiles } from './performer';
import { files } from './stored';

const [W, H] = [640, 360];

async function takeIn(page: Page, ...films: Filmed[]): Promise<void> {
  await startEmpty(page);
  await stage(page, 'Shoot').click();
  await files(page).setInputFiles(films.map((f) => f.file));
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 60_000 }).toBe(films.length);
}

/** Overlap of a grey film with the truth, frame by frame: intersection over union at half coverage. */
function overlaps(film: string, { truth }: Filmed): number[] {
  const grey = rawVideo(film, 'format=gray');
  return Array.from({ length: grey.length / (W * H) }, (_, f) => {
    const alpha = truth(f);
    let [both, either] = [0, 0];
    for (let i = 0; i < alpha.length; i++) {
      const [p, q] = [alpha[i] > 0.5, grey[f * W * H + i] > 127];
      if (p && q) both++;
      if (p || q) either++;
    }
    return either ? both / either : 1;
  });
}
const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length;

/** Cuts the chosen take out along its length and saves the grey film. */
async function cutAlong(page: Page, by: string, name: string): Promise<string> {
  await page.getByLabel('Cut by').selectOption({ label: by });
  await page.getByRole('button', { name: /^Cut out along the take/ }).click();
  await expect(page.getByText(/frames cut out in \d+ s/)).toBeVisible({ timeout: 170_000 });
  return downloadBy(page, /Save the grey film/, `${name}.mp4`);
}

/** Lays a shot of the take on the first bar and masks it by its cut-out over time. */
async function useAsMask(page: Page): Promise<void> {
  await stage(page, 'Score').click();
  await dragShot(page);
  await page.getByTestId('layer').last().locator('summary').first().click();
  const mask = page.getByTestId('layer').last().getByLabel('Mask by what is measured');
  await mask.selectOption('cut-out over time', { timeout: 20_000 });
  await expect
    .poll(async () => (await kept(page)).shots[0]?.layers[0].masks.map((m) => m.kind), { timeout: 60_000 })
    .toEqual(['travelling']);
}

test('a take is cut out over time by its empty set, corrected on a frame, kept as a grey film and used as a mask', async ({ page }) => {
  test.setTimeout(300_000);
  const size = { width: W, height: H, behind: photographWall() };
  const plate = filmPerformer('plate', { ...size, seconds: 1.2, walk: null });
  // Hardly from the place, so that what is behind is seen on the other film alone, which nobody has said is the empty set.
  const take = filmPerformer('walk', { ...size, seconds: 2.72, walk: (t) => 346 + 20 * t });
  await takeIn(page, take, plate);
  await stage(page, 'Takes').click();
  await page.getByRole('tab', { name: 'The empty set' }).click();
  await expect(page.getByText('The empty set is complete')).toBeVisible({ timeout: 120_000 });
  await page.getByRole('tab', { name: 'Cut-out' }).click();
  const film = await cutAlong(page, 'the empty set', 'by-set');
  const {
    streams: [stream],
  } = ffprobe(film);
  expect(stream).toMatchObject({ width: W, height: H, nb_read_packets: '68' });
  const found = overlaps(film, take);
  expect(found).toHaveLength(68);
  expect(mean(found)).toBeGreaterThan(0.92);
  // Once kept it is not worked out again, also after a reload.
  await page.reload();
  await page.getByRole('tab', { name: 'Cut-out' }).click();
  await expect(page.getByTestId('along-picture')).toHaveAttribute('data-drawn', 'checks', { timeout: 60_000 });
  await expect(page.getByText(/It is kept: 2\.72 s/)).toBeVisible();

  // Painted on a frame: what is said to belong to the set goes, from there on, and only what it reaches is made again.
  await page.getByLabel('Frame at').fill('2.4');
  await page.getByLabel('Frame at').press('Enter');
  await page.getByRole('button', { name: 'Cut the figure out' }).click();
  const cut = page.getByTestId('cut-out');
  await expect(cut).toHaveAttribute('data-drawn', 'checks', { timeout: 60_000 });
  await page.getByLabel('Draw on it with').selectOption({ label: 'brush: does not belong' });
  await page.getByLabel('Size of the brush').fill('16');
  await page.getByLabel('Size of the brush').press('Enter');
  const box = await cut.boundingBox();
  if (!box) throw new Error('no picture');
  const chest = { x: box.x + (394 / W) * box.width, y: box.y + 0.45 * box.height };
  await page.mouse.move(chest.x, chest.y);
  await page.mouse.down();
  await page.mouse.move(chest.x + 3, chest.y + 3);
  await page.mouse.up();
  await page.getByRole('button', { name: /^Carry what I drew along from 2\.40 s/ }).click();
  await expect(page.getByText('Corrected at 2.40 s')).toBeVisible();
  const again = await cutAlong(page, 'the empty set', 'corrected');
  const [before, after] = [film, again].map((file) => rawVideo(file, 'format=gray'));
  /** How much was taken away on a frame, and how far down. */
  const hole = (f: number) => {
    let [n, sum] = [0, 0];
    for (let i = f * W * H; i < (f + 1) * W * H; i++)
      if (before[i] > 200 && after[i] < 60) [n, sum] = [n + 1, sum + Math.floor((i % (W * H)) / W)];
    return { n, down: sum / n };
  };
  const same = (f: number) => Buffer.compare(before.subarray(f * W * H, (f + 1) * W * H), after.subarray(f * W * H, (f + 1) * W * H)) === 0;
  expect(same(10) && same(30), 'the stretch before is as it was').toBe(true);
  const disc = Math.PI * 16 ** 2;
  expect(hole(60).n).toBeGreaterThan(0.8 * disc);
  // The performer goes down on the knees, and what was painted on the bundle goes along.
  expect(hole(66).n).toBeGreaterThan(0.8 * disc);
  expect(hole(66).down - hole(60).down).toBeGreaterThan(20);

  expect((await kept(page)).takes[0].cutAlong?.corrections).toHaveLength(1);

  // On the score it is a mask of a layer: nothing is seen around the performer.
  await useAsMask(page);
  await stage(page, 'Deliver').click();
  const still = greyPicture(await downloadBy(page, /^Save PNG$/, 'cut.png'), W, H);
  const first = take.truth(0);
  expect(mean([...still].filter((_, i) => first[i] === 0 && i % W > 300))).toBeLessThan(4);
  expect(mean([...still].filter((_, i) => first[i] === 1))).toBeGreaterThan(40);
});

test('a take before a green backing is cut out over time by its colour', async ({ page }) => {
  test.setTimeout(240_000);
  const take = filmPerformer('green', { width: W, height: H, seconds: 1.2, behind: greenBacking, walk: (t) => 200 + 90 * t });
  await takeIn(page, take);
  await stage(page, 'Takes').click();
  await page.getByRole('tab', { name: 'Cut-out' }).click();
  const film = await cutAlong(page, 'a blue or green backing', 'by-key');
  expect(mean(overlaps(film, take))).toBeGreaterThan(0.94);
  expect(readFileSync(film).length).toBeLessThan(2e6);
  // Used as a mask, the backing's colour is taken off the performer too.
  await useAsMask(page);
  const [{ effects }] = (await kept(page)).shots[0].layers;
  expect(effects.map((e) => e.kind)).toEqual(['spill']);
  expect(Math.abs((effects[0].numbers.hue[0].value as number) - 120)).toBeLessThan(15);
});

test('a person before a set that moves is cut out over time as a person', async ({ page }) => {
  test.setTimeout(280_000);
  const take = filmPerformer('panned', { width: W, height: H, seconds: 0.48, behind: tiles(3), walk: (t) => 280 + 60 * t });
  await takeIn(page, take);
  await stage(page, 'Takes').click();
  await page.getByRole('tab', { name: 'Cut-out' }).click();
  const film = await cutAlong(page, 'the person, or what I draw around', 'as-person');
  expect(mean(overlaps(film, take))).toBeGreaterThan(0.75);
});
