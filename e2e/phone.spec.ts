import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';
import { test } from './demo';
import { downloadBy, ffprobe, kept, layReveal, openDemo, stage, unfold, walkOwnFiles } from './helpers';

// Each has a page of its own, so they go side by side.
test.describe.configure({ mode: 'parallel' });

test('phone, by touch: open, lay the reveal, scrub, drag a key, export', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  await page.getByRole('button', { name: 'One frame on' }).tap();
  const canvas = page.getByTestId('film-picture');
  await expect(canvas).toHaveAttribute('data-frame', /\d+/);
  const handle = await page.getByTestId('line-handle').boundingBox();
  if (!handle) throw new Error('no handle');
  const [x, y] = [handle.x + handle.width / 2, handle.y + handle.height / 2];
  const touch = await page.context().newCDPSession(page);
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] });
  for (let i = 1; i <= 5; i++) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: [{ x, y: y + i * 5 }] });
  // What the finger hides is seen larger, away from it.
  await expect(page.getByTestId('under-finger')).toBeVisible();
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByTestId('under-finger')).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Undo: Set a key' })).toBeVisible();
  await unfold(page);
  await expect(page.getByRole('button', { name: 'Remove this key' })).toBeVisible();
  await stage(page, 'Deliver').tap();
  const film = await downloadBy(page, /Make MP4/, 'phone.mp4');
  expect(
    ffprobe(film)
      .streams.map((s) => s.codec_name)
      .sort(),
  ).toEqual(['aac', 'h264']);
});

test('phone, with files of one’s own held upright: turned by 90°, variable rate, no sound, and an MP3', async ({ page }) => {
  await walkOwnFiles(page, 274, 486, 90, ['Whip', 'Speed ramp', 'Split screen']);
});

test('phone, plan by touch: a new shot, a figure dragged with a finger, the call sheet in the dark', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Plan another shot' }).tap();
  await page.getByRole('button', { name: /^Vanish and reappear / }).tap();
  await page.getByRole('tab', { name: 'Set' }).tap();
  const mark = page.getByTestId('floor-p1').locator('[data-mark]');
  await mark.scrollIntoViewIfNeeded();
  const box = await mark.boundingBox();
  if (!box) throw new Error('no mark');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const touch = await page.context().newCDPSession(page);
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] });
  for (let i = 1; i <= 6; i++) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: [{ x: x + i * 8, y }] });
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByRole('button', { name: 'Undo: Move something on the set' })).toBeVisible();
  expect((await mark.boundingBox())?.x).toBeGreaterThan(box.x + 25);
  for (const name of ['Set', 'Order', 'Dry run', 'Call sheet']) {
    await page.getByRole('tab', { name, exact: true }).tap();
    await fits(page, name);
  }
  await page.getByRole('button', { name: 'By night' }).tap();
  await expect(page.locator('html')).toHaveAttribute('data-look', 'night');
  await page.getByTestId('call-sheet').getByRole('checkbox').first().tap();
  await expect(page.getByRole('button', { name: 'Undo: Tick the list' })).toBeVisible();
});

test('phone, the song by touch: closer, a beat dragged with a finger, tapped along, a part, a gain @clock', async ({ page }) => {
  await openDemo(page);
  await stage(page, 'Song').tap();
  await expect(page.getByTestId('loupe')).toBeVisible();
  await page
    .getByTestId('score-line')
    .nth(2)
    .locator('.cursor-text')
    .tap({ position: { x: 90, y: 40 } });
  await page.getByRole('button', { name: 'Closer' }).tap();
  const handle = page.locator('[data-beat]').nth(1);
  const box = await handle.boundingBox();
  if (!box) throw new Error('no handle');
  expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(44);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const touch = await page.context().newCDPSession(page);
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] });
  for (let i = 1; i <= 5; i++) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: [{ x: x + 4 * i, y }] });
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByRole('button', { name: 'Undo: Move a beat' })).toBeVisible();
  // Two fingers apart come closer.
  const loupe = page.getByTestId('loupe');
  const before = Number(await loupe.getAttribute('data-span'));
  const area = await loupe.boundingBox();
  if (!area) throw new Error('no loupe');
  const fingers = (apart: number) => [-1, 1].map((way, id) => ({ x: area.x + area.width / 2 + way * apart, y: area.y + 50, id }));
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(30) });
  for (let i = 1; i <= 8; i++) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(30 + 12 * i) });
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect.poll(async () => Number(await loupe.getAttribute('data-span'))).toBeLessThan(before / 2);
  await page.getByRole('button', { name: /^Tap the beat/ }).tap();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.waitForTimeout(600);
  for (let i = 0; i < 6; i++) {
    await page.getByRole('button', { name: /^Tap the beat/ }).tap();
    await page.waitForTimeout(60000 / 112 - 40);
  }
  await expect(page.getByRole('button', { name: 'Undo: Tap a stretch' })).toBeVisible({ timeout: 20_000 });
  for (const name of ['Parts', 'Sound', 'Files', 'Beats']) {
    await page.getByRole('tab', { name, exact: true }).tap();
    await fits(page, name);
  }
});

test('phone, filming by touch: the simulated camera, a recording by hand, and what may be struck', async ({ page }) => {
  await openDemo(page);
  await stage(page, 'Shoot').tap();
  await page.getByRole('tab', { name: 'Film' }).tap();
  await page.getByRole('button', { name: 'Simulated camera' }).tap();
  await expect(page.getByTestId('live-figures')).toContainText(/0\.0\d px/, { timeout: 40_000 });
  await page.getByRole('button', { name: 'Record by hand' }).tap();
  await expect(page.getByTestId('recorded')).toHaveText(/[3-9]\.\d s/, { timeout: 30_000 });
  await page.getByRole('button', { name: 'End the recording' }).tap();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole('tab', { name: 'May I strike?' }).tap();
  await expect(page.getByTestId('strike-verdict')).toContainText('Film again:', { timeout: 60_000 });
  await fits(page, 'May I strike?');
  await page.getByRole('tab', { name: 'Log' }).tap();
  await expect(page.getByText('curtain-reveal-plate-2.mp4').first()).toBeVisible({ timeout: 30_000 });
});

/** What is shown fits the phone: nothing is wider, what is touched is tall enough, and axe finds nothing serious, light or dark. */
async function fits(page: Page, name: string): Promise<void> {
  await page.waitForTimeout(300);
  expect(await page.evaluate(() => document.documentElement.scrollWidth), `${name} is wider than the phone`).toBeLessThanOrEqual(390);
  const small = await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('button, a, select, input:not([type=checkbox]):not([type=file])')]
      .filter((e) => e.offsetParent !== null)
      .map((e) => ({ text: e.ariaLabel ?? e.textContent ?? '', box: e.getBoundingClientRect() }))
      .filter(({ box }) => box.height > 0 && box.height < 43.5)
      .map(({ text, box }) => `${text} ${box.width.toFixed(0)}×${box.height.toFixed(0)}`),
  );
  expect(small, name).toEqual([]);
  const root = page.locator('html');
  const own = (await root.getAttribute('data-look')) ?? '';
  for (const look of ['day', 'night']) {
    await root.evaluate((html, now) => html.setAttribute('data-look', now), look);
    const { violations } = await new AxeBuilder({ page })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'])
      .disableRules(['nested-interactive'])
      .analyze();
    const serious = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
    expect(serious.map((v) => `${name}, ${look}: ${v.id}: ${v.nodes[0].html}`)).toEqual([]);
  }
  await root.evaluate((html, now) => html.setAttribute('data-look', now), own);
}

test('phone: every stage and every part of Takes fits the width, targets are large enough, and axe finds nothing serious, light or dark', async ({
  page,
}) => {
  await openDemo(page);
  for (const name of ['Plan', 'Shoot', 'Song', 'Score', 'Check', 'Deliver', 'Takes']) {
    await stage(page, name).tap();
    await expect(page).toHaveURL(new RegExp(name.toLowerCase()));
    await fits(page, name);
  }
  await page.getByTestId('take-place-p1').getByRole('button', { name: 'In, out and parts' }).tap();
  await expect(page.getByTestId('take-parts').getByRole('img', { name: /Movement above/ })).toBeVisible({ timeout: 60_000 });
  await fits(page, 'In, out and parts');
  for (const name of ['Side by side', 'Contacts', 'The empty set', 'Cut-out']) {
    await page.getByRole('tab', { name }).tap();
    await expect(page.getByRole('combobox').first()).toBeVisible();
    await fits(page, name);
    if (name === 'Side by side') await pinch(page);
  }
  for (const path of ['devices', 'storage']) {
    await page.goto(`/${path}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await fits(page, path);
  }
});

test('phone, the score by touch: each move laid, a bead and a point dragged with a finger, an end trimmed, all within the width', async ({
  page,
}) => {
  await openDemo(page);
  await stage(page, 'Score').tap();
  const finger = await page.context().newCDPSession(page);
  const slide = async (from: { x: number; y: number }, by: { x: number; y: number }) => {
    await finger.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [from] });
    for (let i = 1; i <= 5; i++)
      await finger.send('Input.dispatchTouchEvent', {
        type: 'touchMove',
        touchPoints: [{ x: from.x + (i * by.x) / 5, y: from.y + (i * by.y) / 5 }],
      });
    await finger.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  };
  const middle = async (locator: Locator) => {
    await locator.scrollIntoViewIfNeeded();
    const box = await locator.boundingBox();
    if (!box) throw new Error('not in sight');
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  for (const [i, name] of ['Whip', 'Speed ramp', 'Split screen', 'Masked reveal'].entries()) {
    await page.getByLabel('Find on the score').fill(`bar ${3 + 6 * i}`);
    await page.getByLabel('Found').getByRole('option').first().tap();
    await page.getByRole('button', { name, exact: true }).tap();
    await expect.poll(async () => (await kept(page)).shots.length, { timeout: 60_000 }).toBe(i + 1);
  }
  await page.getByRole('button', { name: 'Unfold the shot' }).tap();
  await fits(page, 'Score, unfolded');
  const line = async () => (await kept(page)).shots[3].layers[1].masks[0].numbers.at;
  const before = await line();
  const bead = await middle(page.getByTestId('bead').nth(1));
  await slide(bead, { x: 0, y: 24 });
  await expect.poll(line).not.toEqual(before);
  await page.getByRole('button', { name: 'The shot’s numbers' }).tap();
  await fits(page, 'Score, the shot’s numbers');
  await page.getByRole('button', { name: 'The shot’s numbers' }).tap();
  await page.getByRole('button', { name: 'Fold the shot' }).tap();
  const end = (await kept(page)).shots[3].end.beat;
  // Two bars a line: the line the shot ends on.
  await page
    .getByTestId('score-line')
    .nth(Math.ceil(end / 8) - 1)
    .scrollIntoViewIfNeeded();
  const grip = await middle(page.locator('[data-testid=shot-strip][aria-pressed=true]').getByTestId('trim-end').last());
  await slide(grip, { x: -90, y: 0 });
  await expect.poll(async () => (await kept(page)).shots[3].end.beat).toBeLessThan(end);
});

/** Two fingers apart enlarge the two takes compared. */
async function pinch(page: Page): Promise<void> {
  const box = await page.getByTestId('compared').boundingBox();
  if (!box) throw new Error('no picture');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const touch = await page.context().newCDPSession(page);
  const fingers = (apart: number) => [
    { x: x - apart, y, id: 1 },
    { x: x + apart, y, id: 2 },
  ];
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(30) });
  for (let i = 1; i <= 6; i++) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(30 + 10 * i) });
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByLabel('Enlarged in %')).toHaveValue(/^([2-9]\d\d|1[5-9]\d)$/);
}
