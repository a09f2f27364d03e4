/** How fast a take is cut out along its length, at its own size, once where the performer is has been measured. */
import type { Page } from '@playwright/test';
import { kept, newProject } from '../e2e/helpers';
import { filmPerformer, tiles } from '../e2e/performer';

const SIZE = { width: 1280, height: 720, behind: tiles(0) };

export async function alongRow(page: Page, url: string): Promise<[string, string, string]> {
  const films = [
    filmPerformer('along', { ...SIZE, seconds: 6, walk: (t) => 300 + 110 * t }),
    filmPerformer('along-plate', { ...SIZE, seconds: 1.2, walk: null }),
  ];
  await page.goto(`${url}/plan`);
  await page.getByText('1 filmed').nth(2).waitFor({ timeout: 90_000 });
  await newProject(page);
  await page.getByRole('link', { name: 'Shoot', exact: true }).first().click();
  await page.getByTestId('media-files').setInputFiles(films.map((f) => f.file));
  while ((await kept(page)).takes.length < films.length) await page.waitForTimeout(500);
  await page.getByRole('link', { name: 'Takes', exact: true }).first().click();
  await page.getByRole('tab', { name: 'Cut-out' }).click();
  await page.getByLabel('Cut by').selectOption({ label: 'the empty set' });
  // What is measured in the background has an end first.
  await page.waitForTimeout(5000);
  await page.getByRole('button', { name: /Measuring in the background/ }).waitFor({ state: 'detached', timeout: 300_000 });
  await page.getByRole('button', { name: /^Cut out along the take/ }).click();
  const told = page.getByText(/frames cut out in \d+ s/);
  await told.waitFor({ timeout: 600_000 });
  const said = /\d+ frames cut out in \d+ s, ([\d.]+) a second/.exec((await told.textContent()) ?? '');
  const rate = Number(said?.[1]);
  return [
    'cutting a performer out along a take, 720p, by the empty set, against 5 frames a second',
    `${(rate / 5).toFixed(2)} of that`,
    said?.[0] ?? '',
  ];
}
