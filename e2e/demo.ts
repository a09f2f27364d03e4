import { cpSync, existsSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, test as base, chromium, expect, type Page, type TestInfo } from '@playwright/test';
import { withEmptyScore } from '../scripts/chromium';

/** A copy of a profile for a browser of its own. */
export function copyOf(profile: string): string {
  const copy = mkdtempSync(join(tmpdir(), 'ribbon-profile-'));
  cpSync(profile, copy, { recursive: true, filter: (file) => !/Singleton/.test(file) && existsSync(file) });
  return copy;
}

/** A browser of its own on a profile, as the project of the test asks for, with more arguments. */
export async function browserOf(
  profile: string,
  info: Pick<TestInfo, 'project'>,
  serviceWorkers: 'block' | 'allow' = 'block',
  args: readonly string[] = [],
): Promise<BrowserContext> {
  const { launchOptions, baseURL, viewport, hasTouch, isMobile, deviceScaleFactor } = info.project.use;
  const context = await chromium.launchPersistentContext(profile, {
    ...launchOptions,
    args: [...(launchOptions?.args ?? []), ...args],
    baseURL,
    viewport,
    hasTouch,
    isMobile,
    deviceScaleFactor,
    acceptDownloads: true,
    serviceWorkers,
  });
  watchDoors(context, baseURL ?? '');
  return context;
}

/** What the browsers of the running test asked of another origin, and what the page's own policy refused. */
const elsewhere: string[] = [];
const refused: string[] = [];

function watchDoors(context: BrowserContext, baseURL: string): void {
  // Some tests start a server of their own, on another port.
  const own = new URL(baseURL).hostname;
  context.on('request', (request) => {
    const url = request.url();
    if (/^(https?|wss?):/.test(url) && new URL(url).hostname !== own) elsewhere.push(url);
  });
  context.on('console', (message) => {
    if (/Content Security Policy|violates the following/.test(message.text())) refused.push(message.text());
  });
}

/** What was asked of another origin and what the policy refused since the last call: a test that tries the doors expects some of it. */
export function knocks(): { elsewhere: string[]; refused: string[] } {
  return { elsewhere: elsewhere.splice(0), refused: refused.splice(0) };
}

/**
 * A test whose browser has the demo open already, its takes measured: a profile made once, by opening the demo as a first start
 * does; its score is left empty; each worker has one browser on a copy of it, and the demo as it was is put back before each test. Tests that make a profile of
 * their own see the first start itself.
 */
export const test = base.extend<{ doors: undefined }, { demoProfile: string; browserWithDemo: { context: BrowserContext; home: Page } }>({
  demoProfile: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads what a fixture needs from this pattern
    async ({}, use, info) => {
      // Runs that share a folder make it once between them.
      const kept = process.env.DEMO_PROFILE;
      if (kept && existsSync(kept)) return use(kept);
      const profile = mkdtempSync(join(tmpdir(), 'ribbon-demo-'));
      const { launchOptions, baseURL } = info.project.use;
      // Kept pages would bring the demo's film past what is laid in its way.
      const context = await chromium.launchPersistentContext(profile, { ...launchOptions, baseURL, serviceWorkers: 'block' });
      const page = context.pages()[0] ?? (await context.newPage());
      // Tests lay their own moves: their demo's score is empty.
      await withEmptyScore(context);
      await page.goto('/takes');
      await expect(page.getByTestId('take-place-p2')).toContainText('could be followed', { timeout: 150_000 });
      await expect(page.locator('[data-saved=true]')).toBeVisible();
      await context.close();
      if (kept) {
        if (!existsSync(kept)) renameSync(profile, kept);
        return use(kept);
      }
      await use(profile);
      rmSync(profile, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 180_000 },
  ],
  browserWithDemo: [
    async ({ demoProfile }, use, info) => {
      const profile = copyOf(demoProfile);
      const context = await browserOf(profile, info);
      const page = context.pages()[0] ?? (await context.newPage());
      await page.route('**/nothing', (route) => route.fulfill({ contentType: 'text/html', body: '<title>nothing</title>' }));
      await page.goto('/nothing');
      await page.evaluate(copyStores, { from: 'fickle-ribbon', to: 'demo-as-it-was' });
      await use({ context, home: page });
      await context.close();
      rmSync(profile, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 60_000 },
  ],
  doors: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads what a fixture needs from this pattern
    async ({}, use) => {
      await use(undefined);
      expect(knocks()).toEqual({ elsewhere: [], refused: [] });
    },
    { auto: true },
  ],
  context: async ({ browserWithDemo: { context, home } }, use) => {
    await home.evaluate(copyStores, { from: 'demo-as-it-was', to: 'fickle-ribbon' });
    await use(context);
    for (const page of context.pages()) if (page !== home) await page.close();
  },
  page: async ({ context }, use) => {
    await use(await context.newPage());
  },
});

/** Makes the stores of one data base those of another; what was worked out from files is left, for it holds as long as they do. Runs in the page. */
async function copyStores({ from, to }: { from: string; to: string }): Promise<void> {
  const names = ['projects', 'shots', 'history', 'settings', 'originals'];
  const opened = (name: string) =>
    new Promise<IDBDatabase>((done, fail) => {
      const open = indexedDB.open(name);
      open.onupgradeneeded = () => {
        for (const store of names) open.result.createObjectStore(store);
      };
      open.onsuccess = () => done(open.result);
      open.onerror = () => fail(open.error);
    });
  const finished = (work: IDBTransaction) =>
    new Promise<void>((done, fail) => {
      work.oncomplete = () => done();
      work.onerror = () => fail(work.error);
    });
  const [source, target] = [await opened(from), await opened(to)];
  const rows = new Map<string, [IDBValidKey, unknown][]>();
  const reading = source.transaction(names);
  for (const name of names) {
    const list: [IDBValidKey, unknown][] = [];
    rows.set(name, list);
    reading.objectStore(name).openCursor().onsuccess = (e) => {
      const cursor = (e.target as IDBRequest<IDBCursorWithValue | null>).result;
      if (!cursor) return;
      list.push([cursor.primaryKey, cursor.value]);
      cursor.continue();
    };
  }
  await finished(reading);
  const writing = target.transaction(names, 'readwrite');
  for (const name of names) {
    const store = writing.objectStore(name);
    store.clear();
    for (const [key, value] of rows.get(name) ?? []) store.keyPath === null ? store.put(value, key) : store.put(value);
  }
  await finished(writing);
  source.close();
  target.close();
}
