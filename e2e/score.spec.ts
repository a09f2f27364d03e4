import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { test } from './demo';
import { barAt, kept, openDemo, press, stage, unfold } from './helpers';

async function openScore(page: Page): Promise<void> {
  await openDemo(page);
  await press(page, stage(page, 'Score'));
  await expect(page.getByTestId('score-line').first()).toBeVisible();
}

async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, to.y, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
}

test('the page: a shot dragged over bars, moved, trimmed, copied, repeated, put into one and found by typing', async ({ page }) => {
  await openScore(page);
  const [from, to] = [await barAt(page, 2), await barAt(page, 4)];
  await drag(page, { ...from, x: from.x + 3 }, { ...to, x: to.x - 3 });
  const strip = page.getByTestId('shot-strip');
  await expect(strip).toHaveCount(1);
  expect((await kept(page)).shots[0]).toMatchObject({ start: { beat: 4, offset: 0 }, end: { beat: 12, offset: 0 } });

  // Moved a bar on, then its end trimmed to a half beat.
  const box = await strip.boundingBox();
  if (!box) throw new Error('no strip');
  // The strip is two bars wide; the page is narrower now that a shot is open beside it.
  const bar = box.width / 2;
  const middle = { x: box.x + box.width / 2, y: box.y + 20 };
  await drag(page, middle, { ...middle, x: middle.x + bar });
  await expect.poll(async () => (await kept(page)).shots[0].start.beat).toBe(8);
  await page.getByLabel('Snap to').selectOption('half beat');
  const end = await page.getByTestId('trim-end').boundingBox();
  if (!end) throw new Error('no end to trim');
  const grip = { x: end.x + end.width / 2, y: end.y + 20 };
  await drag(page, grip, { ...grip, x: grip.x - bar / 8 });
  await expect.poll(async () => (await kept(page)).shots[0].end.beat).toBe(15.5);

  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect.poll(async () => (await kept(page)).shots[1]?.start.beat).toBe(16);
  await page.getByLabel('Every in bars').fill('8');
  await page.getByLabel('Every in bars').press('Enter');
  await page.getByRole('button', { name: 'Repeat to the end' }).click();
  await expect.poll(async () => (await kept(page)).shots.length).toBeGreaterThan(4);
  const many = (await kept(page)).shots;
  expect(many.slice(2).map((s) => s.start.beat)).toEqual(many.slice(2).map((_, i) => 16 + 32 * (i + 1)));

  // Two put into one, and taken apart again to where they were.
  await strip.nth(0).click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Put 2 shots into one' }).click();
  await expect.poll(async () => (await kept(page)).nestedShots.length).toBe(2);
  // One of them opened where it lies, and named there.
  await page.getByTestId('layer').first().locator('summary').first().click();
  await page.getByRole('button', { name: 'Open what is in it' }).click();
  await expect(page.getByText(/^Lies within/)).toBeVisible();
  await page.getByText('The shot’s name, bars and margin').click();
  await page.getByLabel('Name', { exact: true }).fill('Inside');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await expect.poll(async () => (await kept(page)).nestedShots.map((s) => s.name)).toContain('Inside');
  await page.getByRole('button', { name: 'Back to it' }).click();
  await page.getByRole('button', { name: 'Take apart' }).click();
  const apart = await kept(page);
  expect(apart.nestedShots).toEqual([]);
  expect(apart.shots.map((s) => s.start.beat).sort((a, b) => a - b)).toEqual(many.map((s) => s.start.beat).sort((a, b) => a - b));

  await page.getByLabel('Find on the score').fill('bar 21');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('where')).toContainText('bar 21');
  await page.getByLabel('Find on the score').fill('outfit-one');
  await expect(page.getByLabel('Found').getByRole('option').first()).toContainText('take-2-outfit-one.mp4 in Shot');
});

test('by keyboard alone: a move laid, its shot unfolded, a key set, eased, chosen with others, mirrored and stretched, the shot moved and trimmed', async ({
  page,
}) => {
  await openScore(page);
  await page.getByLabel('Find on the score').focus();
  await page.keyboard.type('bar 5');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Whip', exact: true }).focus();
  await page.keyboard.press('Enter');
  const strip = page.getByTestId('shot-strip').first();
  await expect(strip).toBeVisible();
  await strip.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('unfolded')).toBeVisible();
  const beads = page.getByTestId('bead');
  await expect(beads).toHaveCount(3);
  await beads.nth(2).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('From here').selectOption('settle');
  await page.getByRole('button', { name: 'First handle of the curve' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('From here')).toHaveValue('curve');
  const frames = async () => {
    const [shot] = (await kept(page)).shots;
    return shot.layers[1].numbers.x?.map((k) => [k.beat, k.offset, k.value]);
  };
  // Arrow keys move a key by a frame and by a step of its value.
  const where = () =>
    beads.nth(2).evaluate((bead) => [Number.parseFloat(bead.style.left), Number.parseFloat(bead.ariaLabel?.slice(7) ?? '')]);
  const [left, value] = await where();
  await beads.nth(2).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowUp');
  await expect.poll(where).toEqual([left + 54, value + 1]);
  for (const _ of [0, 1]) await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: 'Choose all keys' }).focus();
  await page.keyboard.press('Enter');
  const before = await frames();
  for (const name of ['Mirror', 'Mirror']) {
    await page.getByRole('button', { name, exact: true }).focus();
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: 'A frame on' }).focus();
  await page.keyboard.press('Enter');
  expect(await frames()).not.toEqual(before);
  await page.getByRole('button', { name: /^Undo: Move keys/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('These keys are yours.')).toBeVisible();
  await page.getByRole('button', { name: 'Let the move make them again' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('These keys are yours.')).toHaveCount(0);

  const start = (await kept(page)).shots[0].start.beat;
  await strip.focus();
  await page.keyboard.press('Control+ArrowRight');
  await expect.poll(async () => (await kept(page)).shots[0].start.beat).toBe(start + 1);
  const { end } = (await kept(page)).shots[0];
  await page.keyboard.press('Control+Shift+ArrowLeft');
  await expect.poll(async () => (await kept(page)).shots[0].end.beat).toBe(end.beat - 1);
  const found = await new AxeBuilder({ page }).analyze();
  expect(found.violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => v.id)).toEqual([]);
});

test('masks drawn on the picture: an outline whose points are dragged and keyed, an ellipse taken away, and what is impossible refused', async ({
  page,
}) => {
  await openScore(page);
  const at = await barAt(page, 5);
  await page.mouse.click(at.x + 1, at.y);
  await page.getByRole('button', { name: 'Split screen' }).click();
  await expect(page.getByTestId('shot-strip').first()).toBeVisible();
  await page.getByTestId('layer').first().locator('summary').first().click();
  await page.getByLabel('Draw a mask').first().selectOption('outline');
  const points = page.getByTestId('mask-point');
  await expect(points).toHaveCount(4);
  const box = await points.first().boundingBox();
  if (!box) throw new Error('no point');
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await drag(page, middle, { x: middle.x - 40, y: middle.y + 12 });
  const mask = async () => (await kept(page)).shots[0].layers.at(-1)?.masks.at(-1);
  await expect.poll(async () => (await mask())?.numbers.x0.length).toBe(2);
  expect((await mask())?.numbers.x0[1].value).toBeLessThan(33);
  await page.getByLabel('Draw a mask').first().selectOption('ellipse');
  await page.getByTestId('layer').first().getByLabel('Mask mode').last().selectOption('subtract');
  await page.getByTestId('mask-middle').focus();
  await page.keyboard.press('ArrowRight');
  expect(await mask()).toMatchObject({ kind: 'ellipse', combine: 'subtract', attachedToLayer: false });
  await expect.poll(async () => (await mask())?.numbers.x.at(-1)?.value).toBe(51);

  // Opening that takes longer than the panels are there for is refused, and the most there is is offered.
  await page.getByLabel('Opening takes in f').fill('120');
  await page.getByLabel('Opening takes in f').press('Enter');
  await expect(page.getByTestId('move-problem')).toContainText(/opening and closing take 240 frames: at most \d+ each/);
  await page.getByTestId('move-problem').getByRole('button').click();
  await expect(page.getByTestId('move-problem')).toHaveCount(0);
  // What was drawn is still there after the move was run again.
  expect((await kept(page)).shots[0].layers.at(-1)?.masks.map((m) => m.kind)).toEqual(['polygon', 'outline', 'ellipse']);
});

test('a whip kept under a name is taken for another shot', async ({ page }) => {
  await openScore(page);
  const first = await barAt(page, 5);
  await page.mouse.click(first.x + 1, first.y);
  await page.getByRole('button', { name: 'Whip', exact: true }).click();
  await page.getByLabel('The view goes').selectOption('zoom');
  await page.getByLabel('Frames in all in f').fill('12');
  await page.getByLabel('Frames in all in f').press('Enter');
  await page.getByLabel('Keep these numbers as').fill('Punch in');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  const later = await barAt(page, 14);
  await page.mouse.click(later.x + 1, later.y);
  await page.getByRole('button', { name: 'Whip', exact: true }).click();
  await expect.poll(async () => (await kept(page)).shots.length).toBe(2);
  await page.getByRole('button', { name: 'Punch in' }).click();
  await expect.poll(async () => (await kept(page)).shots[1].move).toMatchObject({ way: 'zoom', frames: 12 });
  await unfold(page);
  // A box drawn over the thread chooses the keys in it; a click beside them lets them go.
  const window_ = await page.getByTestId('unfolded').boundingBox();
  const thread = await page.getByTestId('thread').boundingBox();
  if (!window_ || !thread) throw new Error('no thread');
  const top = { x: window_.x + 4, y: thread.y + 2 };
  await drag(page, top, { x: window_.x + window_.width - 4, y: thread.y + thread.height - 2 });
  await expect(page.getByLabel(/^\d+ keys chosen$/)).toBeVisible();
  await page.mouse.click(top.x, top.y);
  await expect(page.getByLabel(/^\d+ keys chosen$/)).toHaveCount(0);
});

test('an even colour is chosen, effects on it are keyed and put in order by keyboard, and the picture shows them', async ({ page }) => {
  await openScore(page);
  const [from, to] = [await barAt(page, 2), await barAt(page, 4)];
  await drag(page, { ...from, x: from.x + 3 }, { ...to, x: to.x - 3 });
  await page.getByLabel('Add a layer').selectOption('colour');
  const layer = page.getByTestId('layer').first();
  await layer.locator('summary').first().click();
  await layer.getByLabel('Colour', { exact: true }).fill('#ff8000');
  const seen = () =>
    page.getByTestId('film-picture').evaluate((picture) => {
      const canvas = picture instanceof HTMLCanvasElement ? picture : (picture.querySelector('canvas') as HTMLCanvasElement);
      const pixel = canvas.getContext('2d')?.getImageData(canvas.width >> 1, canvas.height >> 1, 1, 1).data ?? [];
      return [...pixel].slice(0, 3).map((v) => Math.round(v / 8));
    });
  await page.mouse.click(from.x + 40, from.y);
  await expect.poll(seen).toEqual([32, 16, 0]);

  await layer.getByLabel('Add an effect').selectOption('exposure');
  await layer.getByRole('button', { name: 'All effects…' }).click();
  await page.getByLabel('What should it look like?').fill('softens');
  const blur = page.getByRole('dialog').getByRole('button', { name: 'Gaussian blur', exact: true });
  // It is shown moving.
  await expect.poll(() => blur.locator('img').evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(192);
  await blur.click();
  await layer.getByRole('button', { name: 'Exposure', exact: true }).click();
  await page.getByLabel('Here in EV').fill('-6');
  await page.getByLabel('Here in EV').press('Enter');
  // Six stops down: 255 through the transfer of BT.709 is 39 less the 14 of its toe, so next to black.
  await expect.poll(async () => (await seen()).every((v) => v <= 3)).toBe(true);

  const chain = async () => (await kept(page)).shots[0].layers.at(-1)?.effects ?? [];
  await expect
    .poll(async () => (await chain()).map((e) => [e.kind, e.numbers.amount.at(-1)?.value]))
    .toEqual([
      ['exposure', -6],
      ['blur', 1],
    ]);
  const handle = layer.getByRole('button', { name: 'Move the effect Gaussian blur' });
  await handle.press('Space');
  await expect(handle).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByText('Gaussian blur is at place 1 of 2.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect.poll(async () => (await chain()).map((e) => e.kind)).toEqual(['blur', 'exposure']);
  await layer.getByTestId('effect').last().getByLabel('On').uncheck();
  await expect.poll(seen).toEqual([32, 16, 0]);
});
