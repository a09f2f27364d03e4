import { type BrowserContext, chromium, type Page } from '@playwright/test';
import { CHROMIUM_ARGS } from '../../scripts/chromium';
import { emptyProject } from '../../src/core/document/index';
import { randomSource } from '../../src/core/room/index';
import { brokeDown, saved, storedProjects, TAKING_IN, watchCrashes, withEmptyProject } from './browser';
import { pick } from './mutate';
import { isClear, type Tally } from './tally';

type Film = { name: string; bytes: Buffer };
type Trial = (context: BrowserContext, page: Page, url: string, random: () => number, film: Film) => Promise<string>;

const log = async (page: Page, url: string) => {
  await page.goto(`${url}/shoot`);
  await page.getByTestId('media-files').waitFor({ state: 'attached' });
};
const give = async (page: Page, { name, bytes }: Film) => {
  await page.getByTestId('media-files').setInputFiles({ name, mimeType: 'video/mp4', buffer: bytes });
  await page.waitForTimeout(80);
  await page.locator(TAKING_IN).first().waitFor({ state: 'detached', timeout: 20_000 });
};
const alerts = async (page: Page) =>
  (await page.getByRole('alert').allTextContents())
    .filter((t) => t !== '')
    .map((t) => t.replace(/ ?(Try again ?)?(Free some space ?)?Dismiss$/, ''));
const rate = (page: Page) => page.getByRole('button', { name: 'Rate good' }).first().click({ timeout: 5000 });
const ratings = async (page: Page) => JSON.stringify((await storedProjects(page))[0]?.document.takes.map((t) => t.rating));

/** Each gives '' or what went wrong. */
const TRIALS: Record<string, Trial> = {
  'storage nearly full': async (context, page, url, random, film) => {
    await log(page, url);
    await give(page, film);
    await saved(page);
    const before = await ratings(page);
    const devtools = await context.newCDPSession(page);
    const { usage } = await devtools.send('Storage.getUsageAndQuota', { origin: url });
    const spare = Math.floor(random() * 60_000);
    await devtools.send('Storage.overrideQuotaForOrigin', { origin: url, quotaSize: usage + spare });
    const big = { name: 'another.mp4', bytes: Buffer.concat([film.bytes, Buffer.alloc(80_000, 1)]) };
    const what = pick(random, ['import', 'edit', 'project file'] as const);
    if (what === 'import') await give(page, big);
    else if (what === 'edit') {
      for (let n = 0; n < 12; n++) await rate(page);
      await page.waitForTimeout(400);
    } else {
      await page.goto(`${url}/deliver`);
      await page.getByRole('button', { name: 'Save the project file' }).click();
      await page.waitForTimeout(1500);
    }
    const said = await alerts(page);
    const unclear = said.find((t) => !isClear(t));
    if (unclear) return `unclear: ${unclear}`;
    if (what === 'import' && said.length === 0 && (await storedProjects(page))[0].document.media.length < 2)
      return 'refused without a word';
    const unsaved = (await page.locator('[data-saved=true]').count()) === 0;
    if (unsaved && said.length === 0) return 'not saved, without a word';
    await devtools.send('Storage.overrideQuotaForOrigin', { origin: url });
    if (unsaved) {
      await page.getByRole('button', { name: 'Try again' }).click();
      await saved(page);
    }
    const now = await ratings(page);
    await page.reload();
    await page.locator('h1').first().waitFor();
    const after = await ratings(page);
    return after === now && (what === 'edit' || after.startsWith(before.slice(0, -1)))
      ? ''
      : `before ${before}, then ${now}, after the reload ${after}`;
  },
  'two tabs': async (context, page, url, random, film) => {
    await log(page, url);
    await give(page, film);
    await saved(page);
    const second = await context.newPage();
    await second.goto(`${url}/shoot`);
    await second.getByText('is open in another tab').first().waitFor({ timeout: 5000 });
    for (let n = 1 + Math.floor(random() * 3); n > 0; n--) {
      await rate(page);
      await rate(second).catch(() => undefined);
    }
    await saved(page);
    const before = await ratings(page);
    await page.close();
    await second.getByText('is open in another tab, which').first().waitFor({ state: 'detached', timeout: 5000 });
    const after = await ratings(second);
    if (after !== before) return `the first tab saved ${before}, the second found ${after}`;
    await rate(second);
    await saved(second);
    return (await ratings(second)) === before ? 'the second tab still cannot write' : '';
  },
  'the network off': async (context, page, url, random, film) => {
    await log(page, url);
    await give(page, film);
    // The stages are fetched a moment after the first one stands.
    await page.waitForTimeout(5000);
    await context.setOffline(true);
    await give(page, { name: 'more.mp4', bytes: Buffer.concat([film.bytes, Buffer.from('\0\0\0\x08free', 'latin1')]) });
    for (let n = Math.floor(random() * 5); n >= 0; n--) await rate(page);
    await page
      .getByRole('link', { name: pick(random, ['Takes', 'Score', 'Deliver', 'Song']), exact: true })
      .first()
      .click();
    await page.waitForTimeout(500);
    const before = await ratings(page);
    const unclear = (await alerts(page)).find((t) => !isClear(t));
    await context.setOffline(false);
    if (unclear) return `unclear: ${unclear}`;
    await page.goto(`${url}/shoot`);
    await page.locator('h1').first().waitFor();
    return (await ratings(page)) === before ? '' : 'something was lost';
  },
  'storage cleared under it': async (context, page, url, random, film) => {
    await log(page, url);
    await give(page, film);
    await saved(page);
    const devtools = await context.newCDPSession(page);
    await devtools.send('Storage.clearDataForOrigin', { origin: url, storageTypes: pick(random, ['all', 'indexeddb', 'file_systems']) });
    await rate(page).catch(() => undefined);
    await page.waitForTimeout(600);
    const unclear = (await alerts(page)).find((t) => !isClear(t));
    if (unclear) return `unclear: ${unclear}`;
    await page.reload();
    // It opens again: what is left of the project, or the demo as on a first start.
    await page.locator('h1').first().waitFor({ timeout: 60_000 });
    return '';
  },
};

/** Quota, tabs, network and storage against the running application. */
export async function worldFaults(
  url: string,
  films: readonly Film[],
  { from, count, until }: { from: number; count: number; until: number },
  tally: Tally,
): Promise<void> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', headless: true, args: CHROMIUM_ARGS });
  const names = Object.keys(TRIALS);
  /** The trial that was begun once more. */
  let again = -1;
  for (let n = 0; n < count && Date.now() < until; n++) {
    const name = names[n % names.length];
    const random = randomSource(from + n);
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true });
    const page = await context.newPage();
    const watch = watchCrashes(page);
    try {
      await withEmptyProject(page, url, emptyProject('world', 'World'));
      const problem = await TRIALS[name](context, page, url, random, pick(random, films));
      const outcome = watch.said ? 'crashed' : !problem ? 'survived' : problem.startsWith('unclear') ? 'wrong sentence' : 'lost';
      tally.count(name, outcome, `seed ${from + n}: ${watch.said || problem}`);
    } catch (error) {
      if (brokeDown(error) && again < n) {
        console.log(`  ${name}, seed ${from + n}: the browser broke down by itself; once more.`);
        again = n--;
        continue;
      }
      tally.count(name, watch.said ? 'crashed' : 'hung', `seed ${from + n}: ${watch.said} ${error}`);
    } finally {
      await context.close().catch(() => undefined);
    }
  }
  await browser.close();
}
