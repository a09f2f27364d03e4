import { chromium } from '@playwright/test';

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

/** Debian's Chromium, headless, with a fresh profile. */
export function launchChromium() {
  return chromium.launch({ executablePath: '/usr/bin/chromium', headless: true, args: CHROMIUM_ARGS });
}
