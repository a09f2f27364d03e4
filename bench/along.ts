/** How fast a take is cut out along its length, at its own size. */
import type { Page } from '@playwright/test';

export async function alongRow(page: Page, url: string): Promise<[string, string, string]> {
  await page.goto(`${url}/takes`);
  await page.getByRole('tab', { name: 'Cut-out' }).click({ timeout: 90_000 });
  await page.getByLabel('Cut by').selectOption({ label: 'the empty set' });
  // What is measured in the background has an end first.
  await page.waitForTimeout(3000);
  await page.getByRole('button', { name: /Measuring in the background/ }).waitFor({ state: 'detached', timeout: 300_000 });
  await page.getByRole('button', { name: /^Cut out along the take/ }).click();
  const told = page.getByText(/frames cut out in \d+ s/);
  await told.waitFor({ timeout: 600_000 });
  const said = await told.innerText();
  const rate = Number(/([\d.]+) a second/.exec(said)?.[1]);
  return ['cutting a 720p take out along its length by the empty set, against 5 frames a second', `${(rate / 5).toFixed(2)} of that`, said];
}
