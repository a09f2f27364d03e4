import { type BrowserContext, chromium, type Page } from '@playwright/test';

/** How Debian's Chromium is started headless, with no calls home. */
export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  // Pages are drawn by the processor anyway: by Skia directly, not through an emulated graphics card.
  '--disable-gpu-compositing',
  '--disable-accelerated-2d-canvas',
  '--disable-gpu-rasterization',
];

/** The demo opens with nothing on its score here: for what lays moves of its own. */
export async function withEmptyScore(where: BrowserContext | Page): Promise<void> {
  await where.route('**/demo/film.json', (route) => route.fulfill({ status: 404, body: '' }));
}

/** Where Debian's Chromium lies. */
export const CHROMIUM = '/usr/bin/chromium';

/** Debian's Chromium, headless, with a fresh profile; or a program that starts it otherwise. */
export function launchChromium(program = CHROMIUM) {
  return chromium.launch({ executablePath: program, headless: true, args: CHROMIUM_ARGS });
}
