import { expect, type Page } from '@playwright/test';
import { downloadBy, kept, press, rawVideo, stage } from './helpers';
import { filmPerformer, greenBacking } from './performer';

const [W, H] = [640, 360];

/** What is seen of each frame of a film: shares of green left, and of what is not black. */
function seenOf(film: string): { green: number; covered: number }[] {
  const all = rawVideo(film, `scale=${W}:${H}:flags=area,format=rgb24`, '-pix_fmt', 'rgb24');
  return Array.from({ length: all.length / (3 * W * H) }, (_, f) => {
    let [green, covered] = [0, 0];
    for (let i = 3 * W * H * f; i < 3 * W * H * (f + 1); i += 3) {
      const [r, g, b] = [all[i], all[i + 1], all[i + 2]];
      if (g - Math.max(r, b) > 25) green++;
      if (Math.max(r, g, b) > 40) covered++;
    }
    return { green: green / (W * H), covered: covered / (W * H) };
  });
}

/**
 * A performer before a green backing, filmed noisy and compressed, becomes a film by the first page; its green is keyed away by two
 * effects, and no frame of the film that comes out has any.
 */
export async function keyGreenAway(page: Page): Promise<void> {
  const { file, truth } = filmPerformer('own-green', { width: W, height: H, seconds: 3, behind: greenBacking, walk: (t) => 200 + 60 * t });
  await page.goto('/');
  await page.getByTestId('own-files').setInputFiles([file]);
  await page.waitForURL(/shoot/);
  await press(page, page.getByRole('button', { name: 'Make a first film' }));
  await page.waitForURL(/score/, { timeout: 120_000 });
  await press(page, page.getByTestId('shot-strip').first());
  const numbers = page.getByRole('button', { name: /The shot’s numbers/ });
  if (await numbers.isVisible()) await press(page, numbers);
  // What else the pulse lays is left out.
  for (const layer of await page.getByTestId('layer').all()) {
    await press(page, layer.locator('summary').first());
    if (await layer.getByText('The take', { exact: true }).first().isVisible()) {
      await layer.getByLabel('Add an effect').selectOption('chroma key');
      await expect
        .poll(async () => (await kept(page)).shots[0].layers.some((l) => l.effects.some((e) => e.kind === 'chroma key')))
        .toBe(true);
      await layer.getByLabel('Add an effect').selectOption('spill');
      await expect.poll(async () => (await kept(page)).shots[0].layers.some((l) => l.effects.some((e) => e.kind === 'spill'))).toBe(true);
    } else await layer.getByLabel('Shown').setChecked(false);
  }
  const shown = (await kept(page)).shots[0].layers.filter((l) => l.on);
  expect(shown.map((l) => l.source.kind)).toEqual(['take']);

  await press(page, stage(page, 'Deliver'));
  const film = await downloadBy(page, /Make MP4/, 'keyed.mp4');
  const frames = seenOf(film);
  expect(frames.length).toBeGreaterThan(40);
  const performer = truth(20).reduce((a, v) => a + v, 0) / (W * H);
  for (const [f, { green, covered }] of frames.entries()) {
    expect(green, `green of frame ${f}`).toBeLessThan(0.0005);
    // Whole as filmed; a fifth larger at most on a beat of the pulse.
    expect(covered / performer, `performer of frame ${f}`).toBeGreaterThan(0.85);
    expect(covered / performer, `performer of frame ${f}`).toBeLessThan(1.45);
  }
}
