/**
 * `npx tsx bench/renders.ts`: which components are drawn anew while the film plays, counted by the hook that React's profiler uses, in the
 * built application. Prints commits and renders in four seconds, folded and unfolded, most often first, by the beginning of their code.
 */
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS } from '../scripts/chromium';
import { startServer } from '../scripts/server';

interface Fiber {
  tag: number;
  flags: number;
  type: unknown;
  child: Fiber | null;
  sibling: Fiber | null;
  alternate: Fiber | null;
}

/** Function, forwarded and memo components, as React numbers them. */
const COMPONENTS = [0, 11, 14, 15];

function countRenders(kinds: number[]): void {
  const seen = { commits: 0, renders: new Map<string, number>() };
  const visit = (from: Fiber | null): void => {
    for (let fiber = from; fiber; fiber = fiber.sibling) {
      const before = fiber.alternate;
      if (kinds.includes(fiber.tag) && fiber.flags & 1 && before) {
        const { render, type } = (fiber.type ?? {}) as { render?: unknown; type?: unknown };
        const code = String(render ?? type ?? fiber.type).slice(0, 80);
        seen.renders.set(code, (seen.renders.get(code) ?? 0) + 1);
      }
      // What was not gone into is the very same child.
      if (fiber.child && fiber.child !== before?.child) visit(fiber.child);
    }
  };
  const nothing = () => undefined;
  const onCommitFiberRoot = (_: number, root: { current: Fiber }) => {
    seen.commits++;
    visit(root.current);
  };
  const hook = { supportsFiber: true, renderers: new Map(), inject: () => 1, checkDCE: nothing, onCommitFiberUnmount: nothing };
  Object.assign(window, { __REACT_DEVTOOLS_GLOBAL_HOOK__: { ...hook, onPostCommitFiberRoot: nothing, onCommitFiberRoot }, seen });
}

const server = await startServer();
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [...CHROMIUM_ARGS, '--autoplay-policy=no-user-gesture-required'],
});
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
await context.addInitScript('globalThis.__name ??= (f) => f');
await context.addInitScript(countRenders, COMPONENTS);
const page = await context.newPage();
await page.goto(`${server.url}/score`);
await page.getByTestId('shot-strip').first().waitFor({ timeout: 120_000 });
for (const open of [false, true]) {
  if (open) {
    await page.getByTestId('shot-strip').first().click();
    await page.getByTestId('unfold').click();
  }
  await page.waitForTimeout(8000);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(1500);
  const counted = await page.evaluate(async () => {
    const { seen } = window as unknown as { seen: { commits: number; renders: Map<string, number> } };
    seen.commits = 0;
    seen.renders.clear();
    await new Promise((go) => setTimeout(go, 4000));
    return { commits: seen.commits, renders: [...seen.renders] };
  });
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  const all = counted.renders.reduce((sum, [, n]) => sum + n, 0);
  console.log(`${open ? 'unfolded' : 'folded'}: ${counted.commits} commits, ${all} renders in 4 s`);
  for (const [code, n] of counted.renders.toSorted((a, b) => b[1] - a[1]).slice(0, 8)) console.log(`  ${n} × ${code.replace(/\s+/g, ' ')}`);
}
await browser.close();
server.stop();
