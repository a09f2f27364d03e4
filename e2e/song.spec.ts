import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { eventsOf } from '../src/core/check/index';
import type { Project } from '../src/core/document/index';
import { beatToSeconds, constantBeatMap } from '../src/core/time/index';
import { test } from './demo';
import { downloadBy, ffmpeg, ffprobe, kept, layReveal, openDemo, scratch, stage } from './helpers';

const DEMO_SONG = join(process.cwd(), 'public/demo/half-load.m4a');

async function openSong(page: Page): Promise<void> {
  await openDemo(page);
  await stage(page, 'Song').click();
  await expect(page.getByTestId('loupe')).toBeVisible();
}

const mapOf = (project: Project) => {
  if (!project.song?.map) throw new Error('no beat map');
  return project.song.map;
};
/** Song times of all anchors of the shots. */
const anchorsOf = (project: Project) => project.shots.flatMap((s) => eventsOf(s).map(([, a]) => beatToSeconds(mapOf(project), a.beat)));

test('beats put right by hand: closer to the samples, a beat dragged, locked, the rest solved again, undone', async ({ page }) => {
  await openSong(page);
  await expect(page.getByText('112.00 BPM')).toBeVisible();
  const before = mapOf(await kept(page));
  const loupe = page.getByTestId('loupe');
  // The middle stays where it is, from the whole song to single samples.
  await page
    .getByTestId('score-line')
    .nth(2)
    .locator('.cursor-text')
    .click({ position: { x: 200, y: 40 } });
  const where = await page.getByTestId('where').textContent();
  await page.getByRole('slider', { name: 'How close' }).fill('0');
  await page.getByRole('slider', { name: 'How close' }).fill('100');
  expect(Number(await loupe.getAttribute('data-span'))).toBeLessThan(0.005);
  await expect(page.getByTestId('where')).toHaveText(where ?? '');
  for (let i = 0; i < 9; i++) await page.getByRole('button', { name: 'Farther away' }).click();
  // Drag the handle that is nearest to the middle by 30 pixels.
  const handles = page.locator('[data-beat]');
  const boxes = await handles.evaluateAll((all) => all.map((h) => h.getBoundingClientRect().x + h.getBoundingClientRect().width / 2));
  const middle = boxes.reduce((best, x, i) => (Math.abs(x - 640) < Math.abs(boxes[best] - 640) ? i : best), 0);
  const span = Number(await loupe.getAttribute('data-span'));
  const width = (await loupe.boundingBox())?.width ?? 1;
  const grip = await handles.nth(middle).boundingBox();
  if (!grip) throw new Error('no handle');
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height - 8);
  await page.mouse.down();
  await page.mouse.move(grip.x + grip.width / 2 + 15, grip.y + grip.height - 8);
  await page.mouse.move(grip.x + grip.width / 2 + 30, grip.y + grip.height - 8);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: Move a beat' })).toBeVisible();
  const dragged = mapOf(await kept(page));
  const [locked] = dragged.locked ?? [];
  const moves = dragged.beats.map((t, i) => t - before.beats[i]);
  expect(moves[locked]).toBeCloseTo((30 / width) * span, 3);
  expect(moves[locked + 1]).toBeGreaterThan(0);
  expect(moves[locked + 1]).toBeLessThan(moves[locked]);
  expect(moves[locked + 10]).toBe(0);
  // Solved again: the beat that was dragged stays, the others go back to what is heard.
  await page.getByRole('button', { name: 'Solve the rest again' }).click();
  await expect(page.getByRole('button', { name: 'Undo: Solve the rest again' })).toBeVisible();
  const solved = mapOf(await kept(page));
  expect(solved.beats).toContain(dragged.beats[locked]);
  expect(Math.abs(solved.beats[20] - before.beats[20])).toBeLessThan(0.01);
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(async () => mapOf(await kept(page))).toEqual(before);
});

test('by keyboard alone: half, double, a beat later, a bar locked, a part named, a gain; all kept over a reload', async ({ page }) => {
  await openSong(page);
  const pressed = async (name: string | RegExp) => {
    await page.getByRole('button', { name }).focus();
    await page.keyboard.press('Enter');
  };
  const count = mapOf(await kept(page)).beats.length;
  await pressed('Half as many');
  expect(mapOf(await kept(page)).beats.length).toBe(Math.ceil(count / 2));
  await pressed('Twice as many');
  await pressed('Bar lines a beat later');
  expect(mapOf(await kept(page)).bar1).toBe(1);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Alt+ArrowRight');
  await page.locator('body').press('Alt+ArrowRight');
  await pressed('Lock this bar');
  expect(mapOf(await kept(page)).locked).toHaveLength(5);
  await pressed('1 ms later');
  await page.getByRole('tab', { name: 'Beats' }).focus();
  await page.keyboard.press('ArrowRight');
  const name = page.getByRole('textbox', { name: /^Name of the part at bar 5$/ });
  await name.focus();
  await name.fill('Verse');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('score-line').getByText('Verse')).toBeVisible();
  await page.getByRole('tab', { name: 'Parts' }).focus();
  await page.keyboard.press('ArrowRight');
  const gain = page.getByLabel('Gain here in dB').first();
  await gain.fill('-6');
  await page.keyboard.press('Enter');
  const bead = page.getByRole('button', { name: /^Gain of -6 dB/ });
  await bead.focus();
  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('button', { name: /^Gain of -5.5 dB/ })).toBeVisible();
  const project = await kept(page);
  expect(project.song?.parts[1]).toMatchObject({ beat: 16, name: 'Verse' });
  await page.reload();
  await expect(page.getByTestId('score-line').getByText('Verse')).toBeVisible();
  expect(await kept(page)).toEqual(project);
});

test('listening: a bar over and over, counted in, and a stretch tapped that the rest is solved around @clock', async ({ page }) => {
  await openSong(page);
  await page
    .getByTestId('score-line')
    .nth(1)
    .locator('.cursor-text')
    .click({ position: { x: 30, y: 40 } });
  await page.getByRole('button', { name: 'Loop bar' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const bars = new Set<string>();
  for (let i = 0; i < 28; i++) {
    bars.add(((await page.getByTestId('where').textContent()) ?? '').split(' beat')[0]);
    await page.waitForTimeout(100);
  }
  // A bar of this song lasts 2.14 s: it went round.
  expect([...bars]).toEqual(['bar 5']);
  await page.getByRole('button', { name: 'Loop bar' }).click();
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByText('Count in').click();
  const held = await page.getByTestId('where').textContent();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(1000);
  await expect(page.getByTestId('where')).toHaveText(held ?? '');
  await expect(page.getByTestId('where')).not.toHaveText(held ?? '', { timeout: 5000 });
  const before = mapOf(await kept(page));
  await page.getByRole('button', { name: 'Twice as many' }).click();
  // Taps on the beat, by the clock the sound runs on.
  await page.getByRole('button', { name: 'Tap the beat' }).focus();
  for (let i = 0; i < 8; i++) {
    await page.keyboard.press('t');
    await page.waitForTimeout(60000 / 112 - 6);
  }
  await expect(page.getByRole('button', { name: 'Undo: Tap a stretch' })).toBeVisible({ timeout: 20_000 });
  const tapped = mapOf(await kept(page));
  expect(tapped.locked?.length).toBeGreaterThanOrEqual(6);
  // The tempo that was tapped holds for the whole song again.
  expect(Math.abs(tapped.beats.length - before.beats.length)).toBeLessThan(8);
});

test('tempo maps out and in again: MIDI to the tick, CSV, chapters; a list that is none is refused', async ({ page }) => {
  await openSong(page);
  const before = mapOf(await kept(page));
  await page.getByRole('tab', { name: 'Files' }).click();
  await expect(page.getByText('LUFS').first()).toBeVisible();
  const script = 'ffmpeg -nostats -i "$1" -af ebur128 -f null - 2>&1';
  const log = execFileSync('sh', ['-c', script, 'sh', DEMO_SONG]).toString().split('Summary:')[1];
  const shown = Number((await page.locator('dd').first().textContent())?.replace('−', '-').split(' ')[0]);
  expect(Math.abs(shown - Number(/I:\s+(-?[\d.]+)/.exec(log)?.[1]))).toBeLessThanOrEqual(0.15);
  const midi = await downloadBy(page, /MIDI tempo map/, 'map.mid');
  const csv = await downloadBy(page, /Save as CSV/, 'beats.csv');
  const vtt = await downloadBy(page, /WebVTT/, 'parts.vtt');
  expect(readFileSync(vtt, 'utf8')).toMatch(/^WEBVTT\n\nbar 0\n00:00:00\.000 --> 00:00:00\.2\d\d\nLead-in\n\nbar 1\n/);
  await page.getByRole('tab', { name: 'Beats' }).click();
  await page.getByRole('button', { name: 'Half as many' }).click();
  await page.getByRole('tab', { name: 'Files' }).click();
  const input = page.getByLabel('Read beats from a MIDI file or a list', { exact: true });
  await input.setInputFiles(midi);
  await expect(page.getByText(/beats read, 112\.00 BPM, 4 in a bar/)).toBeVisible();
  const again = mapOf(await kept(page));
  expect(again.bar1).toBe(before.bar1);
  for (const [i, t] of again.beats.entries()) expect(Math.abs(t - before.beats[i])).toBeLessThan(1e-6);
  expect(readFileSync(await downloadBy(page, /MIDI tempo map/, 'again.mid'))).toEqual(readFileSync(midi));
  await input.setInputFiles(csv);
  await expect(page.getByRole('button', { name: 'Undo: Read beats from beats.csv' })).toBeVisible();
  const broken = join(scratch, 'broken.txt');
  writeFileSync(broken, '0.5\nsoon\n1.5\n');
  await input.setInputFiles(broken);
  await expect(page.getByText(/Line 2 \(“soon”\)/)).toBeVisible();
  expect(mapOf(await kept(page)).beats).toHaveLength(before.beats.length);
});

test('another mix, 3.217 s later and 2 % faster, slides in within 10 ms; an edit without the shot lays it aside', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  const before = await kept(page);
  ffmpeg(
    '-i',
    DEMO_SONG,
    '-filter_complex',
    'atempo=1.02,adelay=3217:all=1,highpass=f=120,acompressor',
    '-c:a',
    'libmp3lame',
    'another-mix.mp3',
  );
  await stage(page, 'Song').click();
  await page.getByRole('tab', { name: 'Files' }).click();
  const mix = page.getByLabel('Take in another mix', { exact: true });
  await mix.setInputFiles(join(scratch, 'another-mix.mp3'));
  await expect(
    page.getByText(/another mix of the song: it begins 3\.2[12]\d s later and runs (2\.0|1\.9)\d % faster.*went along/),
  ).toBeVisible({
    timeout: 60_000,
  });
  const after = await kept(page);
  const was = anchorsOf(before);
  for (const [i, t] of anchorsOf(after).entries()) expect(Math.abs(t - (3.217 + was[i] / 1.02))).toBeLessThan(0.01);
  expect(after.song?.parts.map((p) => p.beat)).toEqual(before.song?.parts.map((p) => p.beat));
  await page.getByRole('button', { name: /^Undo/ }).click();
  // Eight seconds around the shot are gone.
  const at = was[0];
  ffmpeg('-i', DEMO_SONG, '-af', `aselect='not(between(t,${at - 2},${at + 6}))',asetpts=N/SR/TB`, 'shorter.wav');
  await mix.setInputFiles(join(scratch, 'shorter.wav'));
  await expect(page.getByText(/No longer in it: the shot “Masked reveal”/)).toBeVisible({ timeout: 60_000 });
  expect((await kept(page)).shots).toHaveLength(0);
  await page.getByRole('button', { name: 'Lay it at the playhead' }).click();
  expect((await kept(page)).shots).toHaveLength(1);
  expect((await kept(page)).unplacedShots).toHaveLength(0);
});

test('threads: a take found in the song by its sound, an effect, and a film that sounds like them', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  ffmpeg('-f', 'lavfi', '-i', 'sine=frequency=3000:duration=1:sample_rate=48000', 'whistle.wav');
  await stage(page, 'Song').click();
  await page.getByRole('tab', { name: 'Sound' }).click();
  await page.getByRole('combobox', { name: 'Take' }).selectOption({ label: 'take-2-outfit-one.mp4' });
  await expect(page.getByText(/Its file begins at bar -?\d+ beat [\d.]+ of the song, to \d+\.\d ms/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Lay its sound in the song' }).click();
  await expect(page.getByRole('button', { name: 'Undo: Lay the sound of a take' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Take sound' }).uncheck();
  await page.getByRole('checkbox', { name: 'Song' }).uncheck();
  const project = await kept(page);
  const [first] = anchorsOf(project);
  // The effect begins on the shot's second beat.
  await stage(page, 'Score').click();
  await page.getByTestId('shot-strip').first().click();
  await stage(page, 'Song').click();
  await page.getByRole('tab', { name: 'Sound' }).click();
  await page.getByLabel('Take in an effect', { exact: true }).setInputFiles(join(scratch, 'whistle.wav'));
  await expect(page.getByRole('button', { name: 'Undo: Lay whistle.wav' })).toBeVisible();
  await page.getByRole('button', { name: 'Take away the sound take-2-outfit-one.mp4' }).click();
  const laid = await kept(page);
  const [clip] = laid.sound.clips;
  const start = beatToSeconds(mapOf(laid), clip.start.beat) - first;
  await stage(page, 'Deliver').click();
  const film = await downloadBy(page, /Make WebM/, 'threads.webm');
  expect(
    ffprobe(film)
      .streams.map((s) => s.codec_name)
      .sort(),
  ).toEqual(['opus', 'vp9']);
  const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', film, '-ac', '1', '-ar', '8000', '-f', 'f32le', '-'], { maxBuffer: 1e8 });
  const sound = new Float32Array(new Uint8Array(pcm).buffer);
  const loud = (from: number, to: number) => {
    const part = sound.subarray(Math.max(0, Math.round(from * 8000)), Math.round(to * 8000));
    return Math.sqrt(part.reduce((sum, v) => sum + v * v, 0) / Math.max(1, part.length));
  };
  expect(loud(start + 0.1, start + 0.9)).toBeGreaterThan(0.05);
  expect(loud(start + 1.2, start + 2)).toBeLessThan(0.002);
});

test('a song without a beat says so, and is tapped; a constant tempo takes over', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /Night laundrette/ }).click();
  await page.getByRole('menuitem', { name: 'New project' }).click();
  await expect(page.getByRole('button', { name: /New project/ })).toBeVisible();
  ffmpeg('-f', 'lavfi', '-i', 'anoisesrc=d=20:c=pink:a=0.3', 'rain.flac');
  await stage(page, 'Shoot').click();
  await page.getByTestId('media-files').setInputFiles(join(scratch, 'rain.flac'));
  await stage(page, 'Song').click();
  await expect(page.getByText('No steady beat found. Tap the beat instead.')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Tap the beat' }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.waitForTimeout(500);
  for (let i = 0; i < 5; i++) {
    await page.getByRole('button', { name: /^Tap the beat/ }).click();
    await page.waitForTimeout(450);
  }
  await expect(page.getByText(/\d+\.\d\d BPM/).first()).toBeVisible();
  await page.getByLabel('Constant tempo in BPM').fill('118');
  await page.keyboard.press('Enter');
  const { beats } = mapOf(await kept(page));
  const even = constantBeatMap(118, beats[0], beats.length).beats;
  for (const [i, t] of beats.entries()) expect(t).toBeCloseTo(even[i], 6);
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
});
