import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS } from './scripts/chromium';

const PORT = 4173;

export default defineConfig({
  testDir: 'e2e',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: 1,
  // A second try on a machine that does many things at once; one that needed it is listed as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    acceptDownloads: true,
    // Kept pages would outlive a test; those of their own browser are in `offline.spec.ts`.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [...CHROMIUM_ARGS, '--autoplay-policy=no-user-gesture-required'],
    },
  },
  projects: [
    { name: 'desktop', use: { viewport: { width: 1280, height: 800 } }, testIgnore: /phone/ },
    {
      name: 'phone',
      use: { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, deviceScaleFactor: 1 },
      testMatch: /phone/,
    },
  ],
  webServer: {
    command: `npx next start -H 127.0.0.1 -p ${PORT}`,
    url: `http://127.0.0.1:${PORT}/plan`,
    reuseExistingServer: !process.env.CI,
    timeout: 60_000,
  },
});
