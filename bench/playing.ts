/** Playing measured: pictures shown a second and how far from the sound, against the decoder alone on the same takes. */
import type { Page } from '@playwright/test';

export interface Played {
  /** Different pictures shown a second. */
  shown: number;
  /** Milliseconds between two pictures: the 95th percentile and the longest. */
  late: number;
  longest: number;
  /** Milliseconds from pressing play to the first new picture. */
  first: number;
  /** Frames the picture is from what is heard, in the mean and at most. */
  apart: number;
}

/** Presses play on the page that is open and watches the picture for some seconds. */
export async function watchPlaying(page: Page, seconds: number): Promise<Played> {
  await page.evaluate(() => {
    const seen: { at: number; frame: number; heard: string }[] = [];
    const canvas = document.querySelector('[data-testid=film-picture]') as HTMLElement;
    const where = document.querySelector('[data-testid=where] [data-part=time]') as HTMLElement;
    const watch = new MutationObserver(() =>
      seen.push({ at: performance.now(), frame: Number(canvas.dataset.frame), heard: where.textContent ?? '' }),
    );
    watch.observe(canvas, { attributes: true, attributeFilter: ['data-frame'] });
    Object.assign(window, { seen, pressed: performance.now() });
    document.querySelector<HTMLButtonElement>('button[aria-label=Play]')?.click();
  });
  await page.waitForTimeout(seconds * 1000);
  const { seen, pressed } = await page.evaluate(() => {
    document.querySelector<HTMLButtonElement>('button[aria-label=Pause]')?.click();
    const { seen, pressed } = window as unknown as { seen: { at: number; frame: number; heard: string }[]; pressed: number };
    return { seen, pressed };
  });
  const from = seen[0]?.at ?? 0;
  const whole = seen.filter((s) => s.at <= pressed + seconds * 1000);
  const gaps = whole.slice(1).map((s, i) => s.at - whole[i].at);
  const sorted = [...gaps].sort((a, b) => a - b);
  const frames = whole.map(({ frame, heard }) => Math.abs(frame - framesOf(heard)));
  return {
    shown: ((whole.length - 1) / ((whole.at(-1)?.at ?? 0) - from)) * 1000,
    late: sorted[Math.floor(sorted.length * 0.95)] ?? Number.POSITIVE_INFINITY,
    longest: sorted.at(-1) ?? Number.POSITIVE_INFINITY,
    first: from - pressed,
    apart: frames.reduce((a, b) => a + b, 0) / frames.length,
  };
}

/** Frames of a timecode at 25 a second at the end of a text. */
function framesOf(text: string): number {
  const [h, m, s, f] = (/(\d+):(\d+):(\d+):(\d+)\s*$/.exec(text) ?? []).slice(1).map(Number);
  return ((h * 60 + m) * 60 + s) * 25 + f;
}
