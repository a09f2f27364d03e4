import { type Browser, chromium, type Page } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { CHROMIUM_ARGS } from '../../scripts/chromium';
import { emptyProject, type Project } from '../../src/core/document/index';
import { randomSource } from '../../src/core/room/index';
import { saved, storedProjects, TAKING_IN, watchCrashes, withEmptyProject } from './browser';
import { mutated, mutatedDocument, pick } from './mutate';
import { isClear, type Outcome, type Tally, type Trials } from './tally';

/** Milliseconds that looking at one bad file may take. */
const LIMIT = 10_000;

/**
 * A page that has never been here, and does not keep the application for the next visit: fetching all of it would take most of the time.
 */
async function newPage(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.addInitScript(() => Reflect.deleteProperty(Navigator.prototype, 'serviceWorker'));
  return context.newPage();
}

/** Notes in the page when the work on each file began and ended, and answers questions by leaving things out. */
function watchPage(): void {
  const seen: { name: string; from: number; to: number }[] = [];
  (window as unknown as { seen: typeof seen }).seen = seen;
  setInterval(() => {
    const text = document.querySelector('[role=progressbar]')?.getAttribute('aria-label') ?? '';
    const name = /^(f\d+\.\w+)/.exec(text)?.[1];
    const last = seen.at(-1);
    if (name && last?.name !== name) seen.push({ name, from: performance.now(), to: performance.now() });
    else if (name && last) last.to = performance.now();
    const answers = [...document.querySelectorAll<HTMLButtonElement>('[role=alertdialog] button')];
    answers.find((b) => b.textContent === 'Leave it out')?.click();
  }, 20);
}

interface Handed {
  name: string;
  bytes: Buffer;
  what: string;
}

const lastSeen = (page: Page) => page.evaluate(() => (window as unknown as { seen: { name: string; from: number; to: number }[] }).seen);

/** What the page says loudly; the frame's own announcer of pages is empty. */
const alertsOn = async (page: Page) => (await page.getByRole('alert').allTextContents()).filter((text) => text !== '');

/** Waits until all files are taken in or refused; the name of the file it is stuck at, if it is. */
async function stuckAt(page: Page): Promise<string> {
  for (;;) {
    await page.waitForTimeout(100);
    const busy = await page.locator(TAKING_IN).count();
    if (busy === 0) return '';
    const now = await page.evaluate(() => performance.now());
    const last = (await lastSeen(page)).at(-1);
    if (last && now - last.from > 2.5 * LIMIT) return last.name;
  }
}

/**
 * One batch of damaged films and sounds: each must be taken in or refused with a sentence, in time, and none may stop the others. What
 * took too long while the machine was busy is tried again alone, and counted by that.
 */
async function batchOfFiles(browser: Browser, url: string, files: readonly Handed[], tally: Tally, alone = false): Promise<void> {
  const page = await newPage(browser);
  const watch = watchCrashes(page);
  const row = 'damaged films and sounds, taken in';
  const again: Handed[] = [];
  try {
    await withEmptyProject(page, url, emptyProject('faults', 'Faults'));
    await page.addInitScript(watchPage);
    await page.goto(`${url}/shoot`);
    await page.getByTestId('media-files').waitFor({ state: 'attached' });
    await page
      .getByTestId('media-files')
      .setInputFiles(files.map(({ name, bytes }) => ({ name, mimeType: 'application/octet-stream', buffer: bytes })));
    await page.waitForTimeout(300);
    const stuck = await stuckAt(page);
    const times = new Map((await lastSeen(page)).map((s) => [s.name, s.to - s.from]));
    const alerts = await alertsOn(page);
    await saved(page);
    const [project] = await storedProjects(page);
    const taken = new Set(project.document.media.map((m) => m.name));
    const told = await page.locator('[role=status], [data-sonner-toast]').allTextContents();
    for (const file of files) {
      const alert = alerts.find((a) => a.startsWith(`${file.name}: `));
      const sentence = alert?.slice(file.name.length + 2) ?? '';
      const time = times.get(file.name) ?? 0;
      const report = `${file.what}; ${time.toFixed(0)} ms; ${alert ?? 'taken in'}`;
      const late = file.name === stuck || time > LIMIT;
      if (watch.said) tally.count(row, 'crashed', `${watch.said}; ${report}`, file);
      else if (late && !alone) again.push(file);
      else if (late) tally.count(row, 'hung', report, file);
      else if (alert && !isClear(sentence)) tally.count(row, 'wrong sentence', report, file);
      else if (!alert && !taken.has(file.name) && !told.some((t) => t.includes(file.name)))
        tally.count(row, 'lost', `neither taken in nor refused; ${report}`, file);
      else tally.count(row, 'survived');
    }
    // What was taken in can be opened again, looked at and measured.
    await page.goto(`${url}/takes`);
    await page.getByRole('heading', { name: 'Takes' }).or(page.getByText('Nothing to measure yet')).first().waitFor({ timeout: LIMIT });
    const kept = (await storedProjects(page))[0].document.media.length;
    const shown = await alertsOn(page);
    const unclear = shown.find((text) => !isClear(text.replace(/ ?Dismiss$/, '')));
    if (kept !== taken.size) tally.count('what was taken in, after a reload', 'lost', `${taken.size} before, ${kept} after`);
    else if (watch.said) tally.count('what was taken in, after a reload', 'crashed', watch.said);
    else if (unclear) tally.count('what was taken in, after a reload', 'wrong sentence', unclear);
    else tally.count('what was taken in, after a reload', 'survived');
  } catch (error) {
    for (const file of files) tally.count(row, 'crashed', `${watch.said || error}`, file);
  } finally {
    await page
      .context()
      .close()
      .catch(() => undefined);
  }
  for (const file of again) await batchOfFiles(browser, url, [file], tally, true);
}

interface Opened {
  crashed: string;
  /** Whether the user's own project stayed as it was. */
  kept: boolean;
  said: boolean;
  opened: boolean;
  time: number;
  sentence: string;
}

function judged({ crashed, kept, said, opened, time, sentence }: Opened): Outcome {
  if (crashed) return 'crashed';
  if (!kept) return 'lost';
  if ((!said && !opened) || time > LIMIT) return 'hung';
  return said && !isClear(sentence) ? 'wrong sentence' : 'survived';
}

/** What was opened must be there after a restart, on whatever stage; '' where it is. */
async function afterRestart(page: Page, url: string, turn: number): Promise<Outcome | ''> {
  await page.goto(`${url}/${pick(randomSource(turn), ['score', 'takes', 'song', 'check', 'deliver', 'plan', 'shoot'])}`);
  const there = await page
    .waitForFunction(() => (document.querySelector('main')?.textContent ?? '').replace('Opening…', '').length > 10, undefined, {
      timeout: LIMIT,
    })
    .then(
      () => true,
      () => false,
    );
  if ((await page.getByText('This page could not be shown').count()) > 0) return 'crashed';
  return there ? '' : 'hung';
}

/** Damaged project files, opened beside a project that must stay as it is. */
async function batchOfProjects(browser: Browser, url: string, files: readonly Handed[], tally: Tally, alone = false): Promise<void> {
  const page = await newPage(browser);
  const watch = watchCrashes(page);
  const row = 'damaged project files, opened';
  const again: Handed[] = [];
  try {
    await withEmptyProject(page, url, emptyProject('own', 'My own'));
    await page.goto(`${url}/score`);
    for (const file of files) {
      watch.said = '';
      await page.getByTestId('project-file').waitFor({ state: 'attached' });
      const before = await storedProjects(page);
      await page.evaluate(() => {
        for (const b of document.querySelectorAll<HTMLButtonElement>('button')) if (b.textContent === 'Dismiss') b.click();
      });
      const began = Date.now();
      await page.getByTestId('project-file').setInputFiles({ name: file.name, mimeType: 'application/zip', buffer: file.bytes });
      let after = before;
      let alerts: string[] = [];
      while (Date.now() - began < 2.5 * LIMIT) {
        await page.waitForTimeout(60);
        after = await storedProjects(page);
        alerts = await alertsOn(page);
        if (alerts.length > 0 || after.length > before.length || watch.said) break;
      }
      const time = Date.now() - began;
      const kept =
        JSON.stringify(after.find((p) => p.id === 'own')?.document) === JSON.stringify(before.find((p) => p.id === 'own')?.document);
      const opened = after.length > before.length;
      const sentence = (alerts[0] ?? '').replace(/ ?(Free some space ?)?Dismiss$/, '');
      const report = `${file.what}; ${time} ms; ${alerts[0] ?? 'opened'}`;
      const first = judged({ crashed: watch.said, kept, said: alerts.length > 0, opened, time, sentence });
      // What was refused left everything as it was; a restart now and then shows that it did.
      const second = first === 'survived' && (opened || time % 4 === 0) ? await afterRestart(page, url, time) : '';
      const outcome = second ? (watch.said ? 'crashed' : second) : first;
      if (outcome === 'hung' && !alone) again.push(file);
      else tally.count(row, outcome, `${second && 'after a restart; '}${watch.said}; ${report}`, file);
    }
  } catch (error) {
    for (const file of files.slice(-1)) tally.count(row, 'crashed', String(error), file);
  } finally {
    await page
      .context()
      .close()
      .catch(() => undefined);
  }
  for (const file of again) await batchOfProjects(browser, url, [file], tally, true);
}

/** A project file rebuilt around a damaged document, or damaged as a whole. */
function damagedProject(
  whole: { document: Project; files: Record<string, Uint8Array>; zip: Buffer },
  seed: number,
): { bytes: Buffer; what: string } {
  const random = randomSource(seed ^ 0x5eed);
  if (random() < 0.35) return mutated(whole.zip, seed);
  const { document, what } = mutatedDocument(whole.document, seed);
  const entries: Record<string, Uint8Array> = { ...whole.files, 'project.json': strToU8(JSON.stringify(document)) };
  if (random() < 0.15) delete entries[pick(random, Object.keys(whole.files))];
  return { bytes: Buffer.from(zipSync(entries, { level: 0 })), what };
}

/** Damaged films, sounds and project files, until the time is over or all are tried. `whole` is a project file and what is in it. */
export async function damagedFiles(
  url: string,
  sources: ReadonlyMap<string, Buffer>,
  whole: Parameters<typeof damagedProject>[0],
  { from, count, until, ready }: Trials,
  tally: Tally,
): Promise<void> {
  const names = [...sources.keys()];
  const launch = () => chromium.launch({ executablePath: '/usr/bin/chromium', headless: true, args: CHROMIUM_ARGS });
  let browser = await launch();
  const BATCH = 40;
  for (let at = 0; at < count && Date.now() < until; at += BATCH) {
    await ready();
    // A browser that has crashed is started again.
    if (!browser.isConnected()) browser = await launch();
    const seeds = Array.from({ length: Math.min(BATCH, count - at) }, (_, i) => from + at + i);
    const films = seeds
      .filter((s) => s % 3 !== 0)
      .map((seed): Handed => {
        const source = names[seed % names.length];
        const { bytes, what } = mutated(sources.get(source) as Buffer, seed);
        return { name: `f${seed}.${source.split('.').pop()}`, bytes, what: `${source}, seed ${seed}: ${what}` };
      });
    const projects = seeds.filter((s) => s % 3 === 0).map((seed): Handed => ({ name: `p${seed}.zip`, ...damagedProject(whole, seed) }));
    await Promise.all([batchOfFiles(browser, url, films, tally), batchOfProjects(browser, url, projects, tally)]);
  }
  await browser.close().catch(() => undefined);
}
