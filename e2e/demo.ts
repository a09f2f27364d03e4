import { cpSync, existsSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type BrowserContext,
  test as base,
  type ConsoleMessage,
  chromium,
  expect,
  type Page,
  type Request,
  type TestInfo,
} from '@playwright/test';
import { withEmptyScore } from '../scripts/chromium';

/** A copy of a profile for a browser of its own. */
export function copyOf(profile: string): string {
  const copy = mkdtempSync(join(tmpdir(), 'ribbon-profile-'));
  cpSync(profile, copy, { recursive: true, filter: (file) => !/Singleton/.test(file) && existsSync(file) });
  return copy;
}

/** A browser of its own on a profile, as the project of the test asks for. */
export function browserOf(
  profile: string,
  info: Pick<TestInfo, 'project'>,
  serviceWorkers: 'block' | 'allow' = 'block',
): Promise<BrowserContext> {
  const { launchOptions, baseURL, viewport, hasTouch, isMobile, deviceScaleFactor } = info.project.use;
  return chromium.launchPersistentContext(profile, {
    ...launchOptions,
    baseURL,
    viewport,
    hasTouch,
    isMobile,
    deviceScaleFactor,
    acceptDownloads: true,
    serviceWorkers,
  });
}

/**
 * Watches what a browser asks for: nothing may go to another origin, and nothing may be refused by the page's own policy. Gives what to call
 * at the end.
 */
export function watchDoors(context: BrowserContext, { project }: Pick<TestInfo, 'project'>): () => void {
  const own = new URL(project.use.baseURL ?? '').origin;
  const elsewhere: string[] = [];
  const refused: string[] = [];
  const onRequest = (request: Request) => {
    const url = request.url();
    if (/^(https?|wss?):/.test(url) && new URL(url).origin !== own) elsewhere.push(url);
  };
  const onConsole = (message: ConsoleMessage) => {
    if (/Content Security Policy|violates the following/.test(message.text())) refused.push(message.text());
  };
  context.on('request', onRequest);
  context.on('console', onConsole);
  return () => {
    context.off('request', onRequest);
    context.off('console', onConsole);
    expect(elsewhere, 'requests to another origin').toEqual([]);
    expect(refused, 'refused by the policy').toEqual([]);
  };
}

/**
 * A test whose browser has the demo open already, its takes measured: a profile made once, by opening the demo as a first start
 * does; its score is left empty; each worker has one browser on a copy of it, and the demo as it was is put back before each test. Tests that make a profile of
 * their own see the first start itself.
 */
export const test = base.extend<object, { demoProfile: string; browserWithDemo: { context: BrowserContext; home: Page } }>({
  demoProfile: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads what a fixture needs from this pattern
    async ({}, use, info) => {
      // Runs that share a folder make it once between them.
      const kept = process.env.DEMO_PROFILE;
      if (kept && existsSync(kept)) return use(kept);
      const profile = mkdtempSync(join(tmpdir(), 'ribbon-demo-'));
      const { launchOptions, baseURL } = info.project.use;
      const context = await chromium.launchPersistentContext(profile, { ...launchOptions, baseURL });
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
  context: async ({ browserWithDemo: { context, home } }, use, info) => {
    await home.evaluate(copyStores, { from: 'demo-as-it-was', to: 'fickle-ribbon' });
    const watched = watchDoors(context, info);
    await use(context);
    watched();
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
