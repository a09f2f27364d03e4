import { cpSync, existsSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, test as base, chromium, expect, type TestInfo } from '@playwright/test';

/** A copy of a profile for a browser of its own. */
export function copyOf(profile: string): string {
  const copy = mkdtempSync(join(tmpdir(), 'ribbon-profile-'));
  cpSync(profile, copy, { recursive: true, filter: (file) => !/Singleton/.test(file) && existsSync(file) });
  return copy;
}

/** A browser of its own on a profile, as the project of the test asks for. */
export function browserOf(profile: string, info: TestInfo): Promise<BrowserContext> {
  const { launchOptions, baseURL, viewport, hasTouch, isMobile, deviceScaleFactor } = info.project.use;
  return chromium.launchPersistentContext(profile, {
    ...launchOptions,
    baseURL,
    viewport,
    hasTouch,
    isMobile,
    deviceScaleFactor,
    acceptDownloads: true,
  });
}

/**
 * A test whose browser has the demo open already, its takes measured: a profile made once, by opening the demo as a first start
 * does, and copied for each test. Tests that make a profile of their own see the first start itself.
 */
export const test = base.extend<object, { demoProfile: string }>({
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
  context: async ({ demoProfile }, use, info) => {
    const profile = copyOf(demoProfile);
    const context = await browserOf(profile, info);
    await use(context);
    await context.close();
    rmSync(profile, { recursive: true, force: true });
  },
  page: async ({ context }, use) => {
    await use(context.pages()[0] ?? (await context.newPage()));
  },
});
