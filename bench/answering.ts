/** How the page answers: every stage while a take is measured, and the playing picture while the page around it is used. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { layOn, openScore } from './score';

type Row = [string, string, string];

/** Milliseconds from an interaction to the next paint that are asked, and the share of frames that may be left out while playing. */
const [ASKED, DROPPED] = [200, 0.05];

/** Begins to note how long each press and key waits for its paint (Event Timing, W3C); gives the longest since it was last asked. */
async function watchPaints(page: Page): Promise<() => Promise<number>> {
  await page.addInitScript(() => {
    const seen: number[] = [];
    Object.assign(window, { paints: seen });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & { interactionId?: number })[])
        if (entry.interactionId) seen.push(entry.duration);
    }).observe({ type: 'event', durationThreshold: 16, buffered: true } as PerformanceObserverInit);
  });
  return async () => {
    // Entries come after their paint.
    await page.waitForTimeout(400);
    return page.evaluate(() => Math.max(0, ...(window as unknown as { paints: number[] }).paints.splice(0)));
  };
}

/** How often the stages are gone through: the longest wait of all rounds counts. */
const ROUNDS = 3;

/** What is pressed on each stage: by its name, in turn. */
const PRESSED: readonly [stage: string, RegExp[]][] = [
  ['Plan', [/^Set$/, /^Brief$/]],
  ['Shoot', [/^Film$/, /^Log$/]],
  ['Takes', [/^Side by side$/, /^Each take$/]],
  ['Song', []],
  ['Score', [/^Unfold the shot$/, /^Fold the shot$/]],
  ['Check', []],
  ['Deliver', []],
];

/** The longest an interaction waits for its paint on each stage while a take of a minute at 1080p is measured. */
async function whileMeasured(page: Page, url: string, scratch: string, demo: string): Promise<Row> {
  const long = join(scratch, 'a-minute.mp4');
  const larger = ['-vf', 'scale=1920:1080', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-an'];
  execFileSync('ffmpeg', [
    '-y',
    '-v',
    'error',
    '-stream_loop',
    '11',
    '-i',
    join(demo, 'take-3-outfit-two.mp4'),
    '-t',
    '60',
    ...larger,
    long,
  ]);
  const longest = await watchPaints(page);
  await openScore(page, url);
  await layOn(page, 'Whip', 4);
  await page.getByRole('link', { name: 'Shoot', exact: true }).first().click();
  await page.getByTestId('media-files').setInputFiles(long);
  await page.getByRole('link', { name: 'Takes', exact: true }).first().click();
  await page.getByText(/^Measuring a-minute/).waitFor({ timeout: 60_000 });
  const waits = new Map<string, number>();
  for (let round = 0; round < ROUNDS; round++)
    for (const [stage, presses] of PRESSED) {
      await page.getByRole('link', { name: stage, exact: true }).first().click();
      await page.locator('h1, [data-testid=film-picture]').first().waitFor();
      for (const name of presses) {
        const press = page.getByRole('button', { name }).or(page.getByRole('tab', { name })).filter({ visible: true }).first();
        if (await press.isVisible()) await press.click();
      }
      for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowRight');
      waits.set(stage, Math.max(waits.get(stage) ?? 0, await longest()));
    }
  const found = [...waits].map(([stage, wait]) => `${stage} ${wait.toFixed(0)} ms`);
  const still = await page.getByRole('button', { name: /Measuring in the background/ }).isVisible();
  return [
    'an interaction’s longest wait for the next paint on any stage while a take of a minute at 1080p is measured, against 200 ms',
    `${(Math.max(...waits.values()) / ASKED).toFixed(2)} of it`,
    `${found.join(', ')}${still ? '' : '; measuring was over before the last of them'}`,
  ];
}

/** Frames of a playing whip that are left out while the page is scrolled, the picture is looked at closely and a number is typed. */
async function whilePlayed(page: Page, url: string): Promise<Row> {
  await openScore(page, url);
  await layOn(page, 'Whip', 4);
  await page.waitForTimeout(6000);
  await page.evaluate(() => {
    const seen: number[] = [];
    const canvas = document.querySelector('[data-testid=film-picture]') as HTMLElement;
    new MutationObserver(() => seen.push(Number(canvas.dataset.frame))).observe(canvas, { attributeFilter: ['data-frame'] });
    Object.assign(window, { shown: seen });
    document.querySelector<HTMLButtonElement>('button[aria-label=Play]')?.click();
  });
  const picture = await page.getByTestId('film-picture').boundingBox();
  const bars = await page.getByTestId('score-line').first().boundingBox();
  if (!picture || !bars) throw new Error('The score is not there.');
  const until = Date.now() + 9000;
  for (let n = 0; Date.now() < until; n++) {
    await page.mouse.move(bars.x + 300, bars.y + 20);
    await page.mouse.wheel(0, n % 2 ? -240 : 240);
    await page.mouse.move(picture.x + picture.width / 2, picture.y + picture.height / 2);
    await page.mouse.wheel(0, n % 2 ? 500 : -500);
    if (n % 4 === 0) {
      const name = page.getByLabel('Travel each side in ×');
      if (await name.isVisible()) {
        await name.fill(String(1.4 + (n % 3) / 10));
        await name.press('Enter');
      }
    }
    await page.waitForTimeout(250);
  }
  const shown = await page.evaluate(() => {
    document.querySelector<HTMLButtonElement>('button[aria-label=Pause]')?.click();
    return (window as unknown as { shown: number[] }).shown;
  });
  const passed = shown[shown.length - 1] - shown[0] + 1;
  const left = Math.max(0, 1 - new Set(shown).size / passed);
  return [
    'frames left out of a playing film while the page is scrolled, the picture zoomed and a number typed, against 5 %',
    `${(left / DROPPED).toFixed(2)} of it`,
    `${(100 * left).toFixed(1)} % of ${passed}`,
  ];
}

export async function answeringRows(fresh: () => Promise<Page>, url: string, demo: string, scratch: string): Promise<Row[]> {
  return [await whileMeasured(await fresh(), url, scratch, demo), await whilePlayed(await fresh(), url)];
}
