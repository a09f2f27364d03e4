import { expect } from '@playwright/test';
import { test } from './demo';
import { barAt, kept, openDemo, press, stage } from './helpers';

test('a take is dragged onto a bar and pressed for the playhead’s beat: each is a plain shot where it was meant', async ({ page }) => {
  await openDemo(page);
  await press(page, stage(page, 'Score'));
  const takes = page.getByTestId('shelf-take');
  await expect(takes).toHaveCount(5);
  const from = await takes.nth(2).boundingBox();
  if (!from) throw new Error('There is no take to drag.');
  await barAt(page, 3);
  const to = await barAt(page, 3);
  const begin = await takes.nth(2).boundingBox();
  if (!begin) throw new Error('There is no take to drag.');
  await page.mouse.move(begin.x + 40, begin.y + 30);
  await page.mouse.down();
  await page.mouse.move(to.x + 3, to.y + 20, { steps: 12 });
  await page.mouse.up();
  await expect.poll(async () => (await kept(page)).shots.map((s) => [s.start.beat, s.end.beat])).toEqual([[8, 12]]);
  const project = await kept(page);
  expect(project.shots[0].layers.map((l) => l.source)).toEqual([{ kind: 'take', takeId: project.takes[2].id }]);
  // With a shot there, they stand under the takes of the moves.
  await press(page, page.getByRole('button', { name: 'From which takes' }));
  await page.getByLabel('Find on the score').fill('bar 6');
  await press(page, page.getByLabel('Found').getByRole('option').first());
  await press(page, takes.first());
  await expect.poll(async () => (await kept(page)).shots.map((s) => s.start.beat)).toEqual([8, 20]);
});
