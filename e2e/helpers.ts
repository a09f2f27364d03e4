import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';
import type { Project } from '../src/core/document/index';
import { filmFrames, shotFrames } from '../src/core/evaluate/index';
import { psnr } from '../src/core/picture/index';

/** A folder of this run's own for files made with ffmpeg. */
export const scratch = mkdtempSync(join(tmpdir(), 'ribbon-e2e-'));
mkdirSync(scratch, { recursive: true });

export function ffmpeg(...args: string[]): void {
  execFileSync('ffmpeg', ['-y', '-v', 'error', ...args], { cwd: scratch });
}

/** What ffprobe says of a file, as JSON. */
export function ffprobe(file: string) {
  const text = execFileSync('ffprobe', ['-v', 'error', '-count_packets', '-show_streams', '-show_format', '-of', 'json', file]).toString();
  return JSON.parse(text) as {
    streams: {
      codec_type: string;
      codec_name: string;
      width?: number;
      height?: number;
      r_frame_rate: string;
      nb_read_packets: string;
      start_time: string;
      duration?: string;
    }[];
    format: { duration: string };
  };
}

/** A film through an ffmpeg filter as raw bytes. */
export function rawVideo(file: string, filter: string, ...more: string[]): Uint8Array {
  const args = ['-v', 'error', '-i', file, '-vf', filter, ...more, '-f', 'rawvideo', '-'];
  return new Uint8Array(execFileSync('ffmpeg', args, { maxBuffer: 1e9 }));
}

/** One decoded frame of a film as an 8-bit grey plane. */
export function greyFrame(file: string, index: number, width: number, height: number, first = ''): Uint8Array {
  return rawVideo(file, `select=eq(n\\,${index}),${first}scale=${width}:${height}:flags=area,format=gray`, '-frames:v', '1');
}

export function greyPicture(file: string, width: number, height: number): Uint8Array {
  return greyFrame(file, 0, width, height);
}

/** Opens the app at its first start and waits for the demo project. */
export async function openDemo(page: Page): Promise<void> {
  await page.goto('/plan');
  await expect(page.getByRole('heading', { name: /Plan/ })).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText('1 filmed')).toHaveCount(3);
}

/** Begins a project with nothing in it while the demo is open. */
export async function newProject(page: Page): Promise<void> {
  await page.getByRole('button', { name: /Night laundrette/ }).click();
  await page.getByRole('menuitem', { name: 'New project' }).click();
  await expect(page.getByRole('button', { name: /New project/ })).toBeVisible();
}

/** Begins a project with nothing in it. */
export async function startEmpty(page: Page): Promise<void> {
  await openDemo(page);
  await newProject(page);
}

export const stage = (page: Page, name: string) => page.getByRole('link', { name, exact: true }).filter({ visible: true }).first();

/** Waits until every change is on disk. */
export async function saved(page: Page): Promise<void> {
  await expect(page.locator('[data-saved=true]')).toBeVisible();
}

/** The open project as it is kept. */
export async function kept(page: Page): Promise<Project> {
  await saved(page);
  return page.evaluate(
    () =>
      new Promise<Project>((resolve, reject) => {
        const open = indexedDB.open('fickle-ribbon');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const work = open.result.transaction(['projects', 'shots']);
          const [all, apart] = ['projects', 'shots'].map((name) => work.objectStore(name).getAll());
          work.oncomplete = () => {
            open.result.close();
            const [{ document, apart: order, id }] = all.result.sort((a, b) => b.changed - a.changed);
            const items = new Map(apart.result.filter((s) => s.projectId === id).map((s) => [s.id, s.item]));
            const list = (ids: string[]) => ids.map((one) => items.get(one));
            resolve(order ? { ...document, shots: list(order.shots), nestedShots: list(order.nestedShots) } : document);
          };
        };
      }),
  );
}

/** Presses with a mouse or, on the phone, with a finger. */
export async function press(page: Page, target: Locator): Promise<void> {
  if (await page.evaluate(() => navigator.maxTouchPoints > 0)) await target.tap();
  else await target.click();
}

/** Opens the score at its first shot; where there is none, a plain one is laid on the first bar. */
export async function openShot(page: Page): Promise<void> {
  await stage(page, 'Score').click();
  await page.getByTestId('film-picture').waitFor();
  if ((await kept(page)).shots.length === 0) await dragShot(page);
  await page.getByTestId('shot-strip').first().click();
}

/** Opens the score at its first shot and shows a take, by the name of its file, in the upmost layer; gives that. */
export async function showTake(page: Page, name: string): Promise<Locator> {
  await openShot(page);
  const layer = page.getByTestId('layer').first();
  await layer.locator('summary').first().click();
  await layer.getByRole('combobox', { name: /^Take/ }).selectOption({ label: name });
  return layer;
}

/** Types a value into the first field of a name that is to be seen. */
export async function typed(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true }).filter({ visible: true }).first();
  await field.fill(value);
  await field.press('Enter');
}

/** Opens the score, lays the reveal on the bar it proposes and waits for its strip. */
export async function layReveal(page: Page): Promise<void> {
  await press(page, stage(page, 'Score'));
  await press(page, page.getByRole('button', { name: 'Masked reveal' }));
  await expect(page.getByTestId('shot-strip').first()).toBeVisible({ timeout: 120_000 });
  await saved(page);
}

/** Opens the selected shot into single frames. */
export async function unfold(page: Page): Promise<void> {
  await press(page, page.getByRole('button', { name: 'Unfold the shot' }));
  await expect(page.getByTestId('unfolded')).toBeVisible();
}

/** A point on the score at the start of a bar, above its strips: its place on its line, eight bars to each. */
export async function barAt(page: Page, bar: number): Promise<{ x: number; y: number }> {
  const line = page
    .getByTestId('score-line')
    .nth(Math.floor((bar - 1) / 8))
    .locator('[data-line]');
  await line.scrollIntoViewIfNeeded();
  const box = await line.boundingBox();
  if (!box) throw new Error('no line');
  return { x: box.x + (((bar - 1) % 8) / 8) * box.width, y: box.y + 4 };
}

/** Lays a plain shot on the first bar by dragging over it. */
export async function dragShot(page: Page): Promise<void> {
  const [from, to] = [await barAt(page, 1), await barAt(page, 2)];
  await page.mouse.move(from.x + 2, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
}

/** Starts the download a button gives and keeps the file under `name`. */
export async function downloadBy(page: Page, button: RegExp, name: string): Promise<string> {
  const download = page.waitForEvent('download', { timeout: 170_000 });
  await press(page, page.getByRole('button', { name: button }));
  const file = join(scratch, name);
  await (await download).saveAs(file);
  return file;
}

const X264 = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-pix_fmt', 'yuv420p'];
/** The filter that turns a picture so that a file flagged with the turn shows it upright. */
const TURNED = { 180: 'hflip,vflip', 90: 'transpose=cclock' };

/**
 * Phone-like clips that are not the demo's: a moving pattern with something falling through it, as shown
 * (`width`×`height`). One is stored turned and flagged to be turned back; the other has a variable rate and no sound.
 */
export function makeClips(
  width: number,
  height: number,
  turn: 90 | 180,
): { rotated: string; variable: string; song: string; flat: string } {
  const flat = `flat${turn}.mp4`;
  const [w, h] = [Math.round(width / 4), Math.round(height / 7)];
  const falls = `color=c=white@0.9:s=${w}x${h}:r=30000/1001:d=4,format=rgba[c];[0][c]overlay=x=${width / 3}:y='-${h}+(t-1)*${height * 0.85}':enable='gte(t,1)'`;
  ffmpeg('-f', 'lavfi', '-i', `testsrc2=s=${width}x${height}:r=30000/1001:d=4`, '-filter_complex', falls, ...X264, flat);
  ffmpeg('-i', flat, '-vf', TURNED[turn], ...X264, `turned${turn}.mp4`);
  const [rotated, variable] = [`phone${turn}_outfit_one.mp4`, `phone${turn}_outfit_two.mp4`];
  ffmpeg('-i', `turned${turn}.mp4`, '-c', 'copy', '-metadata:s:v:0', `rotate=${360 - turn}`, rotated);
  // Every seventh and eleventh frame is missing.
  ffmpeg('-i', flat, '-vf', "select='mod(n,7)*mod(n,11)',hue=s=0.4", '-fps_mode', 'vfr', ...X264, '-an', variable);
  ffmpeg('-i', join(process.cwd(), 'public/demo/half-load.m4a'), '-ss', '10', '-t', '40', '-c:a', 'libmp3lame', '-b:a', '128k', 'song.mp3');
  return { rotated: join(scratch, rotated), variable: join(scratch, variable), song: join(scratch, 'song.mp3'), flat: join(scratch, flat) };
}

/** Takes two clips and a song into an empty project. */
async function takeInOwnFiles(page: Page, width: number, height: number, turn: 90 | 180): Promise<{ flat: string }> {
  const clips = makeClips(width, height, turn);
  await startEmpty(page);
  await press(page, stage(page, 'Shoot'));
  await page.getByTestId('media-files').setInputFiles([clips.rotated, clips.variable, clips.song]);
  const logged = new RegExp(`${width}×${height}, 29\\.97 fps, 4\\.0 s, H\\.264, no sound, turned ${turn}°`);
  await expect(page.getByText(logged)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/\(varies\)/)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('song.mp3')).toBeVisible({ timeout: 60_000 });
  await press(page, stage(page, 'Song'));
  await expect(page.getByText(/11[12]\.\d\d BPM/)).toBeVisible({ timeout: 60_000 });
  return clips;
}

/** From two clips and a song of one's own to a film of their reveal and more moves; checks the film's size, rate and length, and that every shot shows. */
export async function walkOwnFiles(page: Page, width: number, height: number, turn: 90 | 180, moves: readonly string[]): Promise<void> {
  const clips = await takeInOwnFiles(page, width, height, turn);
  await press(page, stage(page, 'Takes'));
  await expect(page.getByText(/against phone\d+_outfit_one.mp4/)).toBeVisible({ timeout: 120_000 });
  await layReveal(page);
  await expect(page.getByTestId('film-picture')).toHaveAttribute('data-frame', /\d+/, { timeout: 20_000 });
  for (const [i, move] of moves.entries()) {
    await page.getByLabel('Find on the score').fill(`bar ${3 + 2 * i}`);
    await press(page, page.getByLabel('Found').getByRole('option').first());
    await press(page, page.getByRole('button', { name: move, exact: true }));
    await expect.poll(async () => (await kept(page)).shots.length, { timeout: 120_000 }).toBe(i + 2);
  }
  const project = await kept(page);
  await press(page, stage(page, 'Deliver'));
  const film = await downloadBy(page, /Make MP4/, `own${turn}.mp4`);
  const video = ffprobe(film).streams.find((s) => s.codec_type === 'video');
  expect(video).toMatchObject({ codec_name: 'h264', width, height, r_frame_rate: '30000/1001' });
  const [first, end] = filmFrames(project);
  expect(Number(video?.nb_read_packets)).toBe(end - first);
  // Every shot shows a picture in its middle: nowhere is the film black but between shots.
  for (const shot of project.shots) {
    const [from, to] = shotFrames(project, shot);
    const seen = greyFrame(film, Math.round((from + to) / 2) - first, 36, 36);
    expect(seen.reduce((a, b) => a + b, 0) / seen.length, shot.name).toBeGreaterThan(40);
  }
  // Upright: the film's small picture is like the scene as it was, and unlike the scene turned over.
  const [small, scene] = [greyFrame(film, 5, 36, 36), greyFrame(clips.flat, 5, 36, 36)];
  expect(psnr(small, scene)).toBeGreaterThan(psnr(small, scene.toReversed()) + 3);
}

/** Files that cannot be used, by what is wrong with them. */
export function makeBadFiles(): Record<'text' | 'truncated' | 'hevc' | 'empty' | 'endless', string> {
  const at = (name: string) => join(scratch, name);
  writeFileSync(at('text.mp4'), 'This is a shopping list, not a film.\n'.repeat(40));
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=640x360:r=25:d=6',
    '-c:v',
    'libx264',
    '-pix_fmt',
    'yuv420p',
    '-movflags',
    '+faststart',
    'whole.mp4',
  );
  writeFileSync(at('truncated.mp4'), readFileSync(at('whole.mp4')));
  truncateSync(at('truncated.mp4'), Math.round(readFileSync(at('whole.mp4')).length * 0.4));
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=640x360:r=25:d=1',
    '-c:v',
    'libx265',
    '-x265-params',
    'log-level=none',
    '-tag:v',
    'hvc1',
    '-pix_fmt',
    'yuv420p',
    'filmed.hevc.mp4',
  );
  writeFileSync(at('empty.mp4'), '');
  ffmpeg('-f', 'lavfi', '-i', 'color=s=64x36:r=1:d=5400', '-c:v', 'libx264', '-preset', 'ultrafast', 'ninety-minutes.mp4');
  return {
    text: at('text.mp4'),
    truncated: at('truncated.mp4'),
    hevc: at('filmed.hevc.mp4'),
    empty: at('empty.mp4'),
    endless: at('ninety-minutes.mp4'),
  };
}
