import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { RECIPES } from '../src/core/plan';
import { test } from './demo';
import { downloadBy, openDemo, press, saved, stage, startEmpty } from './helpers';

const part = (page: Page, name: string) => page.getByRole('tab', { name, exact: true });

/** Pages of a PDF, counted by their page objects. */
const pagesOf = (pdf: Buffer) => (pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g) ?? []).length;

test('every recipe can be planned from empty to a call sheet', async ({ page }) => {
  await startEmpty(page);
  await stage(page, 'Plan').click();
  for (const [i, recipe] of RECIPES.entries()) {
    if (i) await page.getByRole('button', { name: 'Plan another shot' }).click();
    await page.getByRole('button', { name: new RegExp(`^${recipe.name} `) }).click();
    await expect(page.getByText(recipe.idea)).toBeVisible();
    await part(page, 'Call sheet').click();
    const sheet = page.getByTestId('call-sheet');
    await expect(sheet.getByRole('heading', { name: recipe.name, exact: true })).toBeVisible();
    await expect(sheet.getByText('Done. Strike the set.')).toBeVisible();
    await expect(sheet).not.toContainText(/undefined|NaN/);
    await part(page, 'Brief').click();
  }
});

test('the set: dragged in either view, typed in metres or feet; what collides says who moves, and undo brings it back', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Clones: the hand-over' }).click();
  await part(page, 'Set').click();
  const judged = page.getByTestId('judgements');
  await expect(judged).toContainText('runs along Pillar');
  const seen = page.getByTestId('seen-p2');
  const floor = page.getByTestId('floor-p2');
  const before = await floor.boundingBox();
  const box = await seen.boundingBox();
  if (!box || !before) throw new Error('no figure');
  const grip = { x: box.x + box.width / 2, y: box.y + box.height * 0.4 };
  await page.mouse.move(grip.x, grip.y);
  await page.mouse.down();
  await page.mouse.move(grip.x - 190, grip.y, { steps: 8 });
  // The plan follows while the finger is still down.
  expect((await floor.boundingBox())?.x).toBeLessThan(before.x - 30);
  await page.mouse.up();
  await expect(judged).toContainText(
    /overlap by \d+ px .* would have to be cut out frame by frame\. Move Place \d by \d\.\d\d m (left|right)\./,
  );
  await page.getByRole('button', { name: /Undo: Move something on the set/ }).click();
  await expect(judged).not.toContainText('overlap by');
  // The other way round: dragged on the floor, the picture follows.
  await floor.scrollIntoViewIfNeeded();
  const mark = await floor.locator('[data-mark]').boundingBox();
  const was = await seen.boundingBox();
  if (!mark || !was) throw new Error('no mark');
  await page.mouse.move(mark.x + mark.width / 2, mark.y + mark.height / 2);
  await page.mouse.down();
  await page.mouse.move(mark.x + mark.width / 2, mark.y - 25, { steps: 5 });
  await page.mouse.up();
  expect((await seen.boundingBox())?.height).toBeLessThan(was.height * 0.95);
  // Typed, in the user's unit.
  await page.getByLabel('Lengths in').selectOption('feet');
  await expect(page.getByLabel('Lens height')).toHaveValue('4′0″');
  await page.getByLabel('Lens height').fill(`5'3 1/2"`);
  await page.getByLabel('Lens height').press('Enter');
  await expect(page.getByLabel('Lens height')).toHaveValue('5′3½″');
  await page.getByLabel('Lens height').fill('rather high');
  await page.getByLabel('Lens height').press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'rather high' })).toContainText('is not taken');
  await expect(page.getByLabel('Lens height')).toHaveValue('5′3½″');
  await page.getByLabel('Aperture').fill('f/2.8');
  await page.getByLabel('Aperture').press('Enter');
  await page.getByLabel('Focal length in mm').fill('85');
  await page.getByLabel('Focal length in mm').press('Enter');
  await expect(judged).toContainText(/soft\. Focus at .* and f\/\d+.*stops less light/);
  await page.getByLabel('Shutter', { exact: true }).fill('1/60');
  await page.getByLabel('Shutter', { exact: true }).press('Enter');
  await expect(judged).toContainText('1/60 flickers under 50 Hz mains light');
  await page.getByLabel('Frames a second in fps').fill('twenty');
  await page.getByLabel('Frames a second in fps').press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'twenty' })).toBeVisible();
});

test('order, dry run and paper of the demo’s shots', async ({ page }) => {
  await openDemo(page);
  await theOrder(page);
  await part(page, 'Brief').click();
  await theDryRun(page);
  await thePaper(page);
});

/** Moved by keyboard, what it breaks is named, and the proposed one comes back. */
async function theOrder(page: Page): Promise<void> {
  await part(page, 'Order').click();
  const rows = page.getByTestId('order-row');
  await expect(rows).toHaveCount(3);
  await expect(rows.nth(1)).toContainText('Take one');
  await page.getByRole('button', { name: 'Move Take two: second outfit' }).focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(150);
  await page.keyboard.press('ArrowUp');
  await page.waitForTimeout(250);
  await page.keyboard.press('Space');
  await expect(page.getByText('Take two: second outfit should come after Take one: first outfit', { exact: false })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Your own order' })).toBeVisible();
  await page.getByRole('button', { name: 'Take the proposed order' }).click();
  await expect(page.getByRole('heading', { name: 'Film in this order' })).toBeVisible();
  await expect(rows.nth(1)).toContainText('Take one');
  await page.getByLabel('Begin at').fill('25:10');
  await page.getByLabel('Begin at').press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '25:10' })).toBeVisible();
  await page.getByLabel('Begin at').fill('23:30');
  await page.getByLabel('Begin at').press('Enter');
  await expect(rows.first()).toContainText('00:10');
}

/** It plays over the bars, and changes with the plan at once. */
async function theDryRun(page: Page): Promise<void> {
  await part(page, 'Dry run').click();
  const picture = page.getByTestId('dry-run');
  const scrub = page.getByLabel('Frame of the dry run');
  const [first, last] = [Number(await scrub.getAttribute('min')), Number(await scrub.getAttribute('max'))];
  // Four bars of 112 BPM at 25 frames a second.
  expect(Math.abs(last - first + 1 - (4 * 4 * 60 * 25) / 112)).toBeLessThanOrEqual(1);
  await scrub.fill(String(first + 20));
  const early = await picture.innerHTML();
  await scrub.fill(String(Math.round((first + last) / 2)));
  expect(await picture.innerHTML()).not.toBe(early);
  await page.getByRole('button', { name: 'Play the dry run' }).click();
  const at = Number(await scrub.inputValue());
  await expect.poll(async () => Number(await scrub.inputValue()), { timeout: 8000 }).toBeGreaterThan(at + 10);
  await page.getByRole('button', { name: 'Stop' }).click();
  await part(page, 'Brief').click();
  await page.getByLabel('It falls for in s').fill('4.2');
  await page.getByLabel('It falls for in s').press('Enter');
  await part(page, 'Dry run').click();
  await scrub.fill(String(Math.round((first + last) / 2)));
  expect(await picture.innerHTML()).not.toBe(early);
}

/** A call sheet of whole pages on A4 and Letter, the timetable for the calendar, the shot list as CSV. */
async function thePaper(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Clones: the hand-over' }).click();
  await part(page, 'Call sheet').click();
  await expect(page.getByTestId('call-sheet').getByText('Done. Strike the set.')).toBeVisible();
  for (const format of ['A4', 'Letter'] as const) {
    const pages = pagesOf(await page.pdf({ format }));
    expect(pages, format).toBeGreaterThanOrEqual(2);
    expect(pages, format).toBeLessThanOrEqual(4);
  }
  const calendar = readFileSync(await downloadBy(page, /Timetable for the calendar/, 'plan.ics'), 'utf8');
  expect(calendar).toMatch(/BEGIN:VCALENDAR[\s\S]*DTSTART:20261127T190000[\s\S]*END:VCALENDAR/);
  const list = readFileSync(await downloadBy(page, /Shot list/, 'list.csv'), 'utf8');
  expect(list.trimEnd().split('\r\n')).toHaveLength(1 + 3 + 4 + 2);
  expect(list).toContain('Dolly zoom along the machines');
}

test('a shot of one’s own: five clones in a kitchen, outdoors light, feet, from nothing to paper', async ({ page }) => {
  await startEmpty(page);
  await stage(page, 'Plan').click();
  await page.getByRole('button', { name: /^Twin and clones / }).click();
  await page.getByLabel('This shot is called').fill('Breakfast for five');
  await page.getByLabel('This shot is called').press('Enter');
  await page.getByLabel('What passes between them').fill('');
  await page.getByLabel('What passes between them').press('Enter');
  await part(page, 'Set').click();
  for (let i = 3; i <= 5; i++) {
    await page.getByRole('button', { name: 'place', exact: true }).click();
    await page.getByLabel('Right of the axis').fill(`${[-2.2, 2.3, 0.05][i - 3]} m`);
    await page.getByLabel('Right of the axis').press('Enter');
    await page.getByLabel('From the lens').fill('4.6 m');
    await page.getByLabel('From the lens').press('Enter');
  }
  await expect(page.getByTestId('judgements').getByText(/The seam between/)).not.toHaveCount(0);
  await page.getByText('Indoors').click();
  await page.getByLabel('Filmed outdoors').check();
  await expect(page.getByTestId('judgements')).toContainText(/the sun stands at|takes match until/);
  await part(page, 'Order').click();
  await expect(page.getByTestId('order-row')).toHaveCount(7);
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Breakfast for five', exact: true })).toBeVisible();
  await part(page, 'Call sheet').click();
  await expect(
    page
      .getByTestId('call-sheet')
      .getByText('5. Place 5', { exact: false })
      .or(page.getByTestId('call-sheet').getByText('Place 5').first()),
  ).toBeVisible();
  await press(page, page.getByRole('button', { name: 'By night' }));
  await expect(page.locator('html')).toHaveAttribute('data-look', 'night');
});
