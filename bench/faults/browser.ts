import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, chromium, type Page } from '@playwright/test';
import { CHROMIUM_ARGS } from '../../scripts/chromium';
import type { Project } from '../../src/core/document/index';

/** A browser of its own process, so that it can be killed as a crash or a dead battery would. */
export interface Killable {
  page: Page;
  /** Ends the browser process at once, with all it has in hand. */
  kill(): Promise<void>;
  close(): Promise<void>;
}

/** What shows that a file is being taken in; takes that are looked at afterwards keep nobody waiting. */
export const TAKING_IN = '[role=progressbar]:not([aria-label="Looking at the takes"])';

/** Starts Chromium on a profile. The page lets dialogs pass and never waits for the network. */
export async function startOn(profile: string): Promise<Killable> {
  rmSync(join(profile, 'DevToolsActivePort'), { force: true });
  for (const lock of ['SingletonLock', 'SingletonCookie', 'SingletonSocket']) rmSync(join(profile, lock), { force: true });
  const args = [
    '--headless=new',
    ...CHROMIUM_ARGS,
    '--autoplay-policy=no-user-gesture-required',
    '--disable-session-crashed-bubble',
    '--hide-crash-restore-bubble',
    '--remote-debugging-port=0',
    `--user-data-dir=${profile}`,
    'about:blank',
  ];
  const child: ChildProcess = spawn('/usr/bin/chromium', args, { stdio: 'ignore', detached: true });
  const gone = new Promise<void>((done) => child.once('exit', () => done()));
  const file = join(profile, 'DevToolsActivePort');
  let port = '';
  for (let tries = 0; tries < 200 && !port; tries++) {
    await new Promise((again) => setTimeout(again, 50));
    if (existsSync(file)) [port] = readFileSync(file, 'utf8').split('\n');
  }
  if (!port) throw new Error('The browser did not start.');
  const browser: Browser = await chromium.connectOverCDP(`http://127.0.0.1:${port}`);
  const [context] = browser.contexts();
  const page = context.pages()[0] ?? (await context.newPage());
  await page.setViewportSize({ width: 1280, height: 800 });
  const kill = async () => {
    try {
      process.kill(-(child.pid as number), 'SIGKILL');
    } catch {
      // It is gone already.
    }
    await gone;
    await browser.close().catch(() => undefined);
  };
  return {
    page,
    kill,
    async close() {
      await browser.close().catch(() => undefined);
      await Promise.race([gone, new Promise((late) => setTimeout(late, 1000))]);
      await kill();
    },
  };
}

/** A profile of its own, as a copy of another or empty. */
export function profileLike(other: string | null): string {
  const made = mkdtempSync(join(tmpdir(), 'ribbon-faults-'));
  if (other) cpSync(other, made, { recursive: true, filter: (f) => !/Singleton|DevToolsActivePort|Crashpad/.test(f) && existsSync(f) });
  return made;
}

/** Notes why a page broke, if it does: `said` is '' while all is well. */
export function watchCrashes(page: Page): { said: string } {
  const watch = { said: '' };
  page.on('crash', () => {
    watch.said = 'the page crashed';
  });
  page.on('pageerror', (error) => {
    watch.said ||= error.message;
  });
  return watch;
}

/** Whether an error says that the browser's own process broke down, and not that the page could not go on. */
export const brokeDown = (error: unknown): boolean => /Target crashed|Page crashed/.test(String(error));

/** Every stored project document of a page's origin. */
export function storedProjects(page: Page): Promise<{ id: string; cursor: number; document: Project; steps: number }[]> {
  return page.evaluate(
    () =>
      new Promise<{ id: string; cursor: number; document: Project; steps: number }[]>((resolve, reject) => {
        const open = indexedDB.open('fickle-ribbon');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const db = open.result;
          if (!db.objectStoreNames.contains('projects')) {
            db.close();
            return resolve([]);
          }
          const work = db.transaction(['projects', 'shots', 'history']);
          const shots = work.objectStore('shots').getAll();
          const all = work.objectStore('projects').getAll();
          const steps = work.objectStore('history').getAll();
          work.oncomplete = () => {
            db.close();
            resolve(
              all.result.map((row) => ({
                ...row,
                document: row.apart
                  ? {
                      ...row.document,
                      ...Object.fromEntries(
                        Object.entries(row.apart as Record<string, string[]>).map(([list, ids]) => [
                          list,
                          ids.map((id) => shots.result.find((s) => s.projectId === row.id && s.id === id)?.item),
                        ]),
                      ),
                    }
                  : row.document,
                steps: steps.result.filter((s: { projectId: string }) => s.projectId === row.id).length,
              })),
            );
          };
          work.onerror = () => reject(work.error);
        };
      }),
  );
}

/** Waits until the page says that all is saved. */
export const saved = (page: Page, timeout = 10_000) => page.locator('[data-saved=true]').waitFor({ state: 'attached', timeout });

/** Puts one empty project into a browser that has never been here, so that no demo opens. */
export async function withEmptyProject(page: Page, url: string, document: Project): Promise<void> {
  await page.route('**/nothing', (route) => route.fulfill({ contentType: 'text/html', body: '<title>nothing</title>' }));
  await page.goto(`${url}/nothing`);
  await page.evaluate(
    (project) =>
      new Promise<void>((resolve, reject) => {
        // Dexie counts its versions in tens.
        const open = indexedDB.open('fickle-ribbon', 40);
        open.onupgradeneeded = () => {
          const db = open.result;
          db.createObjectStore('projects', { keyPath: 'id' }).createIndex('changed', 'changed');
          const history = db.createObjectStore('history', { keyPath: ['projectId', 'index'] });
          history.createIndex('projectId', 'projectId');
          history.createIndex('[projectId+index]', ['projectId', 'index']);
          db.createObjectStore('shots', { keyPath: ['projectId', 'id'] }).createIndex('projectId', 'projectId');
          db.createObjectStore('derived', { keyPath: 'key' });
          db.createObjectStore('settings', { keyPath: 'key' });
          db.createObjectStore('ages', { keyPath: 'key' }).createIndex('at', 'at');
          db.createObjectStore('originals', { keyPath: 'id', autoIncrement: true }).createIndex('projectId', 'projectId');
        };
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const work = open.result.transaction('projects', 'readwrite');
          work.objectStore('projects').put({ id: project.id, document: project, cursor: 0, changed: Date.now() });
          work.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
    document,
  );
}
