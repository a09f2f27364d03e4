import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { unzipSync, zipSync } from 'fflate';
import { beatsReportSchema, seamReportSchema, syncReportSchema, takesReportSchema } from '../src/core/exchange/index';
import type { Planes } from '../src/core/picture/index';
import { synthesiseSong } from '../src/core/room/index';
import { beatFMeasure } from '../src/core/song/index';
import { drawPerson, hedge, overlap, restlessBackground, StagedTake } from '../src/core/staged/index';
import { test } from './demo';
import { ffmpeg, ffprobe, greyFrame, layReveal, makeBadFiles, openDemo, scratch, stage } from './helpers';

// The first starts the application itself, as from the command line; the others use the one the tests run.
let alone = true;
const batch = (...args: string[]) => {
  const env = alone ? process.env : { ...process.env, RIBBON_URL: 'http://127.0.0.1:4173' };
  alone = false;
  return spawnSync(process.execPath, ['--import', 'tsx', 'scripts/batch.ts', ...args], { encoding: 'utf8', env });
};
const DEMO = join(process.cwd(), 'public/demo');

test('beats: against exact truth and beside a reference tracker', () => {
  const out = join(scratch, 'beats.json');
  expect(batch('beats', join(DEMO, 'half-load.m4a'), '--out', out).status).toBe(0);
  const report = beatsReportSchema.parse(JSON.parse(readFileSync(out, 'utf8')));
  const truth = synthesiseSong({ sampleRate: 100 });
  const ours = beatFMeasure(
    report.beats.map((b) => b.time_s),
    truth.beats,
  );
  const heard = execFileSync('aubiotrack', [join(DEMO, 'half-load.m4a')]).toString();
  const theirs = beatFMeasure(heard.trim().split('\n').map(Number), truth.beats);
  expect(ours).toBeGreaterThan(0.95);
  expect(ours).toBeGreaterThanOrEqual(theirs - 0.02);
  expect(
    beatFMeasure(
      report.beats.filter((b) => b.beat === 1).map((b) => b.time_s),
      truth.downbeats,
    ),
  ).toBeGreaterThan(0.95);
  expect(Math.abs(report.tempo_bpm / 112 - 1)).toBeLessThan(0.002);
});

test('takes: the planted bump and light, to the contract', () => {
  const out = join(scratch, 'takes.json');
  const parts = ['take-2-outfit-one', 'take-3-outfit-two'].map((name) => {
    ffmpeg('-i', join(DEMO, `${name}.mp4`), '-t', '2.6', '-c', 'copy', `${name}.mp4`);
    return join(scratch, `${name}.mp4`);
  });
  const run = batch('takes', ...parts, '--out', out);
  expect(run.status).toBe(0);
  // What the report says in words is printed too.
  expect(run.stdout).toMatch(/take-3-outfit-two\.mp4: Moved against take-2-outfit-one\.mp4: 2\.\d\d px/);
  const { takes } = takesReportSchema.parse(JSON.parse(readFileSync(out, 'utf8')));
  const lock = takes[1].against_reference;
  expect(lock).not.toBeNull();
  if (!lock) return;
  expect(Math.abs(lock.shift_x_px - 2.3)).toBeLessThan(0.05);
  expect(Math.abs(lock.shift_y_px + 1.4)).toBeLessThan(0.05);
  expect(Math.abs(lock.turn_deg - 0.04)).toBeLessThan(0.005);
  expect(lock.bumps).toHaveLength(1);
  expect(Math.abs(lock.bumps[0].frame - 43)).toBeLessThanOrEqual(1);
  expect(Math.abs(lock.bumps[0].size_px - Math.hypot(2.3, 1.4))).toBeLessThan(0.3);
  expect(Math.abs((lock.red_gain ?? 0) - 1.04)).toBeLessThan(0.006);
  expect(Math.abs((lock.blue_gain ?? 0) - 0.955)).toBeLessThan(0.006);
  expect(takes[0].against_own_start.bumps).toEqual([]);
  expect(takes[0].against_own_start.corner_px).toBeLessThan(0.05);
});

test('sync and seam on files', () => {
  const sync = join(scratch, 'sync.json');
  expect(batch('sync', join(DEMO, 'take-2-outfit-one.mp4'), join(DEMO, 'half-load.m4a'), '--out', sync).status).toBe(0);
  const heard = syncReportSchema.parse(JSON.parse(readFileSync(sync, 'utf8')));
  // The take was filmed to the song from 14.7 s on; AAC frames are 23 ms long, so a file's own start is not exact.
  expect(heard.found).toBe(true);
  expect(Math.abs(heard.offset_s - 14.7)).toBeLessThan(0.05);
  expect(heard.spread_s).toBeLessThan(0.0002);
  const names = ['clones-the-hand-over-place-p1', 'clones-the-hand-over-place-p2', 'take-1-clean-plate'];
  const small = names.map((name) => join(scratch, `small-${name}.mp4`));
  for (const [i, name] of names.entries())
    ffmpeg('-ss', '3.6', '-i', join(DEMO, `${name}.mp4`), '-t', '2', '-vf', 'scale=640:360', '-crf', '16', small[i]);
  const out = join(scratch, 'seam.json');
  expect(batch('seam', ...small, '--out', out).status).toBe(0);
  const seam = seamReportSchema.parse(JSON.parse(readFileSync(out, 'utf8')));
  // The hand crosses from frame 111 to 119 of the whole takes, 21 to 29 here.
  expect(seam.crossings).toHaveLength(1);
  expect(Math.abs(seam.crossings[0].from_frame - 21)).toBeLessThanOrEqual(2);
  expect(Math.abs(seam.crossings[0].to_frame - 29)).toBeLessThanOrEqual(2);
  expect(seam.stands[0].points.every((p) => p.x_px > 200 && p.x_px < 440)).toBe(true);
});

/** Planes as a film, nearly as they are. */
function filmOf(name: string, frames: readonly Planes[]): string {
  const raw = join(scratch, `${name}.yuv`);
  writeFileSync(raw, Buffer.concat(frames.flatMap(({ y, u, v }) => [y, u, v])));
  const size = `${frames[0].width}x${frames[0].height}`;
  ffmpeg('-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-s', size, '-r', '25', '-i', raw, '-c:v', 'libx264', '-crf', '16', `${name}.mp4`);
  return join(scratch, `${name}.mp4`);
}

test('matte before moving leaves and water: 0.90 by the shipped segmentation, with a plate and with none', () => {
  const [W, H] = [640, 360];
  const background = restlessBackground(hedge(W, H), { above: 200, below: 330, swing: 6 });
  const set = new StagedTake({ background, alive: true, width: W, height: H });
  const frames = (from: number, count: number) => Array.from({ length: count }, (_, f) => set.frame(from + f));
  const plate = filmOf('leaves-plate', frames(100, 25));
  const acted = frames(0, 16);
  const covers = acted.map((planes, f) => drawPerson(planes, { x: 300, floor: 340, tall: 280, seconds: 5 + f / 25 }));
  const take = filmOf('leaves', acted);
  const out = join(scratch, 'matte.png');
  for (const files of [[take, plate], [take]]) {
    expect(batch('matte', ...files, '--at', '0.32', '--out', out).status).toBe(0);
    expect(overlap(greyFrame(out, 0, W, H, 'alphaextract,'), covers[8]), `${files.length} files`).toBeGreaterThan(0.9);
  }
});

test('render: a project file becomes the film; bad input gets a sentence and exit code 1', async ({ page }) => {
  await openDemo(page);
  await layReveal(page);
  await stage(page, 'Deliver').click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the project file' }).click();
  const zip = join(scratch, 'batch.zip');
  await (await download).saveAs(zip);
  await page.close();
  // Two beats of it are enough.
  const files = unzipSync(readFileSync(zip));
  const project = JSON.parse(new TextDecoder().decode(files['project.json']));
  project.shots[0].end = { beat: project.shots[0].start.beat + 2, offset: 0 };
  writeFileSync(zip, zipSync({ ...files, 'project.json': new TextEncoder().encode(JSON.stringify(project)) }, { level: 0 }));
  const film = join(scratch, 'batch.webm');
  expect(batch('render', zip, '--out', film).status).toBe(0);
  expect(
    ffprobe(film)
      .streams.map((s) => s.codec_name)
      .sort(),
  ).toEqual(['opus', 'vp9']);
  const refused = batch('takes', makeBadFiles().hevc, '--out', join(scratch, 'none.json'));
  expect(refused.status).toBe(1);
  expect(refused.stderr).toContain('HEVC (H.265), profile Main, which this browser cannot decode');
  expect(batch('beats').status).toBe(2);
});
