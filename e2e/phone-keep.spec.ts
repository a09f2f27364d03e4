import { expect } from '@playwright/test';
import { test } from './demo';
import { downloadBy, kept, openDemo, press, stage, startEmpty } from './helpers';
import { cutStored, files, film, toLog } from './stored';

test('on the phone: a project is named anew, copied, deleted and brought back with a thumb', async ({ page }) => {
  await openDemo(page);
  await press(page, page.getByRole('button', { name: /Night laundrette/ }));
  await press(page, page.getByRole('menuitem', { name: /Projects and storage/ }));
  const rows = page.getByTestId('project-row');
  await rows.first().getByRole('textbox').fill('Rinse');
  await rows.first().getByRole('textbox').press('Enter');
  await expect(page.getByRole('button', { name: /Rinse/ }).first()).toBeVisible();
  await press(page, rows.first().getByRole('button', { name: 'Copy' }));
  await expect(rows).toHaveCount(2);
  await press(page, rows.first().getByRole('button', { name: 'Delete' }));
  await expect(rows).toHaveCount(1);
  await press(page, page.getByRole('button', { name: 'Bring back' }));
  await expect(rows).toHaveCount(2);
  // Everything is within the screen and large enough to be met.
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  for (const button of await rows.first().getByRole('button').all())
    expect((await button.boundingBox())?.height).toBeGreaterThanOrEqual(44);
});

test('on the phone: a project file with a damaged film opens, and the film is pointed to', async ({ page }) => {
  const own = film('phone-own.mp4', 75);
  await startEmpty(page);
  await toLog(page);
  await files(page).setInputFiles(own);
  await expect.poll(async () => (await kept(page)).takes.length).toBe(1);
  await press(page, stage(page, 'Deliver'));
  const zip = await downloadBy(page, /Save the project file/, 'phone.zip');
  const [{ id }] = (await kept(page)).media;
  await cutStored(page, id, null);
  await page.reload();
  const missing = page.getByTestId('missing-files');
  await expect(missing).toContainText('phone-own.mp4');
  // The file just saved has it: opened, all is there again.
  await page.getByTestId('project-file').setInputFiles(zip);
  await expect(missing).toHaveCount(0, { timeout: 30_000 });
  await cutStored(page, id, 500);
  await toLog(page);
  await page.reload();
  await press(page, missing.getByRole('button', { name: 'Point to the file' }));
  await page.getByTestId('missing-file').setInputFiles(own);
  await expect(missing).toHaveCount(0, { timeout: 30_000 });
});

test('on the phone: a second tab waits its turn, and a sound beside the song is asked about', async ({ page, context }) => {
  await openDemo(page);
  const other = await context.newPage();
  await other.goto('/shoot');
  await expect(other.getByText('This project is open in another tab')).toBeVisible();
  await page.close();
  await expect(other.getByText('This project is open in another tab')).toHaveCount(0, { timeout: 5000 });
  const { song } = await kept(other);
  await files(other).setInputFiles(film('x.mp4', 10, 1));
  const wav = Buffer.alloc(44 + 48_000, 7);
  wav.write('RIFF');
  wav.writeUInt32LE(36 + 48_000, 4);
  wav.write('WAVEfmt ', 8);
  [16, 0x10001, 24_000, 48_000, 0x100002].forEach((n, i) => void wav.writeUInt32LE(n, 16 + 4 * i));
  wav.write('data', 36);
  wav.writeUInt32LE(48_000, 40);
  await files(other).setInputFiles({ name: 'knock.wav', mimeType: 'audio/wav', buffer: wav });
  const question = other.getByRole('alertdialog');
  await expect(question).toContainText('“knock.wav” beside the song');
  await press(other, question.getByRole('button', { name: 'Leave it out' }));
  await expect(other.getByText('the song is as it was')).toBeVisible();
  expect((await kept(other)).song).toEqual(song);
});
