import { rmSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { Project } from '../../src/core/document/index';
import { randomSource } from '../../src/core/room/index';
import { brokeDown, type Killable, profileLike, saved, startOn, storedProjects, TAKING_IN } from './browser';
import { pick } from './mutate';
import type { Tally, Trials } from './tally';

/** What was acknowledged as saved when the browser was killed, and what may have been saved since. */
interface Known {
  /** Texts of the state that was acknowledged last and of each state after it. */
  states: string[];
  /** Anything more that has to hold after the restart; '' or what does not. */
  also?: (page: Page) => Promise<string>;
}

/** What of the open project a user would miss: names, takes, ratings, notes, shots, and where undo is. */
async function stateOf(page: Page): Promise<string> {
  const rows = await storedProjects(page);
  return JSON.stringify(
    rows
      .map(({ id, cursor, document: p }) => ({
        id,
        cursor,
        name: p.name,
        takes: p.takes.map((t) => [t.id, t.rating, t.note]),
        media: p.media.map((m) => m.id),
        shots: p.shots.map((s) => s.id),
        song: p.song?.mediaId,
      }))
      .sort((a, b) => a.id.localeCompare(b.id)),
  );
}

type Random = () => number;
/** Does something in the running application and tells of each state that was acknowledged; the browser may be killed at any moment of it. */
type Action = (page: Page, url: string, random: Random, known: Known, films: readonly { name: string; bytes: Buffer }[]) => Promise<void>;

/** Presses a control as the page has it, whatever covers it. */
const pressed = (page: Page, label: RegExp) =>
  page.evaluate((pattern) => {
    const all = [...document.querySelectorAll<HTMLButtonElement>('button')].filter((b) =>
      new RegExp(pattern).test(b.getAttribute('aria-label') ?? b.textContent ?? ''),
    );
    const button = all[Math.floor(Math.random() * all.length)];
    if (button && !button.disabled) button.click();
  }, label.source);

async function acknowledged(page: Page, known: Known): Promise<void> {
  await saved(page);
  const state = await stateOf(page);
  known.states = [state];
}

async function toStorage(page: Page, url: string): Promise<void> {
  await page.goto(`${url}/storage`);
  await page.getByTestId('project-row').first().waitFor({ timeout: 15_000 });
}

async function toLog(page: Page, url: string): Promise<void> {
  await page.goto(`${url}/shoot`);
  await page.getByTestId('media-files').waitFor({ state: 'attached', timeout: 20_000 });
}

const ACTIONS: Record<string, Action> = {
  edit: async (page, url, random, known) => {
    await toLog(page, url);
    await acknowledged(page, known);
    for (;;) {
      for (let n = 1 + Math.floor(random() * 4); n > 0; n--) await pressed(page, /^Rate /);
      if (random() < 0.5) await acknowledged(page, known);
    }
  },
  undo: async (page, url, random, known) => {
    await toLog(page, url);
    for (;;) {
      for (let n = 1 + Math.floor(random() * 5); n > 0; n--) await pressed(page, pick(random, [/^Undo: /, /^Redo: /, /^Rate /]));
      if (random() < 0.6) await acknowledged(page, known);
    }
  },
  import: async (page, url, random, known, films) => {
    await toLog(page, url);
    await acknowledged(page, known);
    for (;;) {
      const { name, bytes } = pick(random, films);
      // A byte of its own makes each film a new one.
      const own = Buffer.concat([bytes, Buffer.from([0, 0, 0, 9, 0x66, 0x72, 0x65, 0x65, Math.floor(random() * 256)])]);
      await page.getByTestId('media-files').setInputFiles({ name, mimeType: 'video/mp4', buffer: own });
      await page.waitForTimeout(50);
      await page.locator(TAKING_IN).first().waitFor({ state: 'detached', timeout: 20_000 });
      await acknowledged(page, known);
    }
  },
  measure: async (page, url, _, known) => {
    await page.goto(`${url}/takes`);
    await acknowledged(page, known);
    await page.waitForTimeout(20_000);
  },
  'save a project file': async (page, url, _, known) => {
    await page.goto(`${url}/deliver`);
    await acknowledged(page, known);
    for (;;) {
      await pressed(page, /^Save the project file$/);
      await page.waitForTimeout(60);
    }
  },
  'make a film': async (page, url, _, known) => {
    await page.goto(`${url}/deliver`);
    await acknowledged(page, known);
    let [frames, total] = [0, 0];
    known.also = async (again) => {
      if (frames < 130 || frames > total - 40) return '';
      // Some seconds were written, and it was not finished: what was broken off is offered, and can be had.
      await again.goto(`${url}/deliver`);
      const offered = again.getByText('A film was broken off in the making');
      await offered
        .first()
        .waitFor({ timeout: 8000 })
        .catch(() => undefined);
      if ((await offered.count()) === 0) return `nothing is left of a film of ${frames} frames`;
      await again.getByRole('button', { name: 'Throw it away' }).first().click();
      return '';
    };
    await pressed(page, /^Make MP4/);
    for (;;) {
      const text = await page
        .getByText(/frame \d+ of \d+/)
        .first()
        .textContent({ timeout: 5000 });
      [frames, total] = (/frame (\d+) of (\d+)/.exec(text ?? '') ?? []).slice(1).map(Number);
      await page.waitForTimeout(30);
    }
  },
  record: async (page, url, _, known) => {
    await page.goto(`${url}/shoot`);
    await page.getByRole('tab', { name: 'Film', exact: true }).click({ timeout: 20_000 });
    await acknowledged(page, known);
    await page.getByRole('button', { name: 'Simulated camera' }).click();
    await page.getByTestId('live-figures').waitFor({ timeout: 20_000 });
    let seconds = 0;
    known.also = async (again) => {
      if (seconds < 2) return '';
      await again.goto(`${url}/shoot`);
      const offered = again.getByText(/recordings? (was|were) cut off/);
      await offered
        .first()
        .waitFor({ timeout: 8000 })
        .catch(() => undefined);
      if ((await offered.count()) === 0) return `nothing is left of a recording of ${seconds.toFixed(1)} s`;
      await again.getByRole('button', { name: 'Keep it as a take' }).click();
      await again
        .getByText(/recordings? (was|were) cut off/)
        .first()
        .waitFor({ state: 'detached', timeout: 20_000 });
      await saved(again);
      const rows = await storedProjects(again);
      const lengths = rows.flatMap((r) => r.document.media).map((m) => m.duration);
      return lengths.some((d) => Math.abs(d - seconds) < 1.6)
        ? ''
        : `${seconds.toFixed(1)} s were recorded, and the takes last ${lengths.map((d) => d.toFixed(1)).join(', ')} s`;
    };
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    for (;;) {
      const text = await page.getByTestId('recorded').textContent({ timeout: 5000 });
      seconds = Number.parseFloat(text ?? '0') || seconds;
      await page.waitForTimeout(30);
    }
  },
  'switch projects': async (page, url, random, known) => {
    await page.goto(`${url}/storage`);
    await page.getByTestId('project-row').first().waitFor({ timeout: 20_000 });
    await acknowledged(page, known);
    for (;;) {
      known.states.length = 0;
      await pressed(page, pick(random, [/^Open$/, /^Copy$/, /^Delete$/, /^Bring back$/, /^Open$/]));
      await page.waitForTimeout(40);
      if (random() < 0.4) {
        await page.waitForTimeout(400);
        await saved(page);
      }
    }
  },
};

/** How long an action goes on before the browser is killed, milliseconds at most. */
const LONGEST: Record<string, number> = { measure: 3500, 'make a film': 5000, record: 7000, import: 2500, 'save a project file': 1500 };

/** After a restart every project must open whole, with nothing missing that was acknowledged. */
async function verdict(page: Page, url: string, known: Known): Promise<string> {
  await toStorage(page, url);
  const state = await stateOf(page);
  const rows = await storedProjects(page);
  if (known.states.length > 0 && !isReached(known.states[0], state)) return `acknowledged: ${known.states[0]}\nfound: ${state}`;
  for (const { document } of rows)
    if (new Set(document.takes.map((t) => t.id)).size !== document.takes.length) return `a take stands twice: ${document.name}`;
  if ((await page.getByText('has been repaired').count()) > 0) return 'the project had to be repaired';
  if ((await page.getByText('That project is no longer here').count()) > 0) return 'the project is gone';
  return (await known.also?.(page)) ?? '';
}

interface Row {
  id: string;
  cursor: number;
  takes: unknown[];
  media: string[];
}

/** Whether a state holds all that an acknowledged one held: the same projects, and none with fewer files unless undo took them. */
function isReached(acknowledged: string, found: string): boolean {
  if (acknowledged === found) return true;
  const [before, after] = [acknowledged, found].map((text) => JSON.parse(text) as Row[]);
  // What was done after the last word of being saved may be there or not; it moves the place in undo.
  return before.every((row) => {
    const now = after.find((r) => r.id === row.id);
    return now !== undefined && (JSON.stringify(now) === JSON.stringify(row) || now.cursor !== row.cursor);
  });
}

/** Kills the browser at random moments and compares what is there after a restart with what had been acknowledged as saved. */
export async function kills(
  url: string,
  template: string,
  films: readonly { name: string; bytes: Buffer }[],
  { from, count, until, ready }: Trials,
  tally: Tally,
): Promise<void> {
  const names = Object.keys(ACTIONS);
  let profile = profileLike(template);
  let browser: Killable | null = null;
  const fresh = async (keep: boolean) => {
    await browser?.kill();
    browser = null;
    if (!keep) rmSync(profile, { recursive: true, force: true });
    profile = profileLike(template);
  };
  /** The trial that was begun once more. */
  let again = -1;
  for (let n = 0; n < count && Date.now() < until; n++) {
    await ready();
    const seed = from + n;
    const random = randomSource(seed);
    const name = names[seed % names.length];
    const row = `killed: ${name}`;
    const known: Known = { states: [] };
    const moment = 200 + random() * (LONGEST[name] ?? 1800);
    try {
      if (!browser) {
        browser = await startOn(profile);
        await toStorage(browser.page, url);
      }
      const { page } = browser;
      const acting = ACTIONS[name](page, url, random, known, films).catch((error: unknown) => error);
      await new Promise((then) => setTimeout(then, moment));
      await browser.kill();
      await acting;
      // What the restart finds is where the next trial goes on.
      browser = await startOn(profile);
      const problem = await verdict(browser.page, url, known);
      tally.count(row, problem ? 'lost' : 'survived', `seed ${seed}, killed after ${moment.toFixed(0)} ms: ${problem}`);
      // A lost profile is left for looking at; the next trial starts from a whole one, as it does now and then anyway.
      if (problem || n % 24 === 23) await fresh(Boolean(problem));
    } catch (error) {
      if (brokeDown(error) && again < n) {
        console.log(`  ${row}, seed ${seed}: the browser broke down by itself; once more.`);
        again = n--;
        await fresh(true);
        continue;
      }
      tally.count(row, 'hung', `seed ${seed}, killed after ${moment.toFixed(0)} ms, profile ${profile}: ${error}`);
      await fresh(true);
    }
  }
  await browser?.kill();
  rmSync(profile, { recursive: true, force: true });
}

const isWholeDemo = ({ takes, song, plans, shots }: Project): boolean =>
  takes.length === 5 && song !== null && plans.length === 3 && shots.length > 0;

/** Waits until the page has opened whatever it opens; gives what is stored then. */
async function opened(page: Page) {
  await page.waitForFunction(() => !document.querySelector('[role=progressbar]') && document.querySelector('h1'), undefined, {
    timeout: 60_000,
  });
  await saved(page);
  return storedProjects(page);
}

/** Breaks the very first start off, by a reload, another page or a kill: the demo must come whole, or go on where it was. */
export async function firstStarts(url: string, { from, count, until, ready }: Trials, tally: Tally): Promise<void> {
  for (let n = 0; n < count && Date.now() < until; n++) {
    await ready();
    const random = randomSource(from + n);
    const how = ['reload', 'another page', 'kill'][n % 3];
    const profile = profileLike(null);
    let browser = await startOn(profile);
    const row = `first start broken off: ${how}`;
    try {
      await browser.page.goto(`${url}/plan`);
      await browser.page.waitForTimeout(random() * 4000);
      if (how === 'reload') await browser.page.reload();
      else if (how === 'another page') await browser.page.goto(`${url}/song`);
      else {
        await browser.kill();
        browser = await startOn(profile);
        await browser.page.goto(`${url}/plan`);
      }
      // Where the browser itself breaks down, it is started again as its user would: what counts is what is there then.
      const rows = await opened(browser.page).catch(async (error: unknown) => {
        if (!brokeDown(error)) throw error;
        console.log(`  ${row}, seed ${from + n}: the browser broke down by itself and was started again.`);
        await browser.kill();
        browser = await startOn(profile);
        await browser.page.goto(`${url}/plan`);
        return opened(browser.page);
      });
      const whole = rows.length === 1 && isWholeDemo(rows[0].document);
      const found = rows
        .map((r) => `${r.document.name}: ${r.document.takes.length} takes, ${r.document.song ? 'a song' : 'no song'}`)
        .join('; ');
      tally.count(row, whole ? 'survived' : 'lost', `seed ${from + n}: ${found}`);
    } catch (error) {
      tally.count(row, 'hung', `seed ${from + n}: ${error}`);
    } finally {
      await browser.close();
      rmSync(profile, { recursive: true, force: true });
    }
  }
}
