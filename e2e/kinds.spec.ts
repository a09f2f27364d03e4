import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import type { Project, Shot } from '../src/core/document/index';
import { plainShot } from '../src/core/edit/index';
import { plainLayer, remapKeyAt } from '../src/core/layer/index';
import { test } from './demo';
import { downloadBy, ffmpeg, kept, press, scratch, stage, startEmpty } from './helpers';
import { files, putProject, toLog } from './stored';

const [WIDTH, HEIGHT] = [640, 480];
const WEBM = ['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-crf', '10', '-b:v', '0'];
const H264 = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '8'];
const AV1 = ['-c:v', 'libsvtav1', '-preset', '12', '-crf', '10'];

interface Kind {
  file: string;
  /** How it is encoded. */
  args: readonly string[];
  /** The picture it is made of, where that is not 640×480. */
  size?: string;
  /** Filters before it is encoded. */
  filter: string;
}

const tags = (matrix: string, range = 'tv') => ['-colorspace', matrix, '-color_range', range];
const to = (matrix: string, format: string, range = 'tv') => `scale=out_color_matrix=${matrix}:out_range=${range},format=${format}`;
/** Everything a phone, a camera or another editor may hand over, as far as this browser decodes it. */
const KINDS: readonly Kind[] = [
  { file: 'untagged.mp4', args: H264, filter: to('bt601', 'yuv420p') },
  { file: 'bt709.mp4', args: [...H264, ...tags('bt709')], filter: to('bt709', 'yuv420p') },
  { file: 'full.mp4', args: [...H264, ...tags('bt709', 'pc')], filter: to('bt709', 'yuvj420p', 'pc') },
  { file: 'ten-bit.mp4', args: [...H264, ...tags('bt709')], filter: to('bt709', 'yuv420p10le') },
  { file: 'ten-bit.webm', args: [...WEBM, ...tags('bt709')], filter: to('bt709', 'yuv420p10le') },
  { file: 'ten-bit-601.webm', args: [...WEBM, ...tags('smpte170m')], filter: to('bt601', 'yuv420p10le') },
  { file: 'ten-bit-av1.mp4', args: [...AV1, ...tags('bt709')], filter: to('bt709', 'yuv420p10le') },
  { file: '422.mp4', args: [...H264, ...tags('bt709')], filter: to('bt709', 'yuv422p') },
  { file: '422-ten-bit.mp4', args: [...H264, ...tags('bt709')], filter: to('bt709', 'yuv422p10le') },
  { file: '422.webm', args: [...WEBM, ...tags('smpte170m')], filter: to('bt601', 'yuv422p') },
  { file: '444.mp4', args: [...H264, ...tags('bt709')], filter: to('bt709', 'yuv444p') },
  { file: '444.webm', args: [...WEBM, ...tags('bt709')], filter: to('bt709', 'yuv444p') },
  { file: '444-ten-bit.webm', args: [...WEBM, ...tags('bt709')], filter: to('bt709', 'yuv444p10le') },
  { file: 'alpha.webm', args: [...WEBM, ...tags('bt709')], filter: to('bt709', 'yuva420p') },
  { file: 'rgb.mp4', args: ['-c:v', 'libx264rgb', '-preset', 'veryfast', '-crf', '8'], filter: 'format=rgb24' },
  { file: 'wide-pixels.mp4', args: [...H264, ...tags('bt709')], size: '480x480', filter: `${to('bt709', 'yuv420p')},setsar=4/3` },
  { file: 'tall-pixels.webm', args: [...WEBM, ...tags('bt709')], size: '720x480', filter: `${to('bt709', 'yuv420p')},setsar=8/9` },
  { file: 'late.mp4', args: [...H264, ...tags('bt709'), '-output_ts_offset', '1.5'], filter: to('bt709', 'yuv420p') },
  {
    file: 'bt2020.mp4',
    args: [...AV1, '-colorspace', 'bt2020nc', '-color_primaries', 'bt709', '-color_trc', 'bt709'],
    filter: to('bt2020', 'yuv420p10le'),
  },
];

const SQUARE = `scale=${WIDTH}:${HEIGHT}:flags=bicubic`;

/** Takes files in, lays each on the score for a beat, and gives the still of each beat's second frame as R'G'B'. */
async function stillsOf(page: Page, names: readonly string[]): Promise<Map<string, Uint8Array>> {
  const project = await kept(page);
  const byName = new Map(project.takes.map((t) => [project.media.find((m) => m.id === t.mediaId)?.name ?? '', t]));
  const shots = names.map((name, i): Shot => {
    const take = byName.get(name);
    if (!take) throw new Error(`${name} was not taken in`);
    const layer = plainLayer('shown', 'The take', 0, { kind: 'take', takeId: take.id }, [remapKeyAt(0, 0, 0)]);
    return plainShot(`s${i}`, name, { beat: i, offset: 0 }, { beat: i + 1, offset: 0 }, { layers: [layer] });
  });
  await putProject(page, { ...project, frame: { ...project.frame, width: WIDTH, height: HEIGHT }, shots } as Project);
  const out = new Map<string, Uint8Array>();
  for (const [i, name] of names.entries()) {
    await press(page, stage(page, 'Score'));
    await expect(page.getByTestId('score-line').first()).toBeVisible();
    if (i > 0) {
      await page.getByTestId('where').click();
      await page.keyboard.press('Shift+ArrowRight');
    }
    await press(page, stage(page, 'Deliver'));
    out.set(name, pixels(await downloadBy(page, /^Save PNG$/, `${name}.png`)));
  }
  return out;
}

const pixels = (file: string, filter = 'null') =>
  new Uint8Array(
    execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-vf', filter, '-frames:v', '1', '-pix_fmt', 'rgb24', '-f', 'rawvideo', '-'], {
      maxBuffer: 1e8,
    }),
  );

function difference(a: Uint8Array, b: Uint8Array): number {
  expect(a.length).toBe(b.length);
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i] - b[i]);
  return sum / a.length;
}

async function takeIn(page: Page, names: readonly string[]): Promise<void> {
  await startEmpty(page);
  await toLog(page);
  await files(page).setInputFiles(names.map((name) => join(scratch, name)));
  await expect.poll(async () => (await kept(page)).takes.length, { timeout: 120_000 }).toBe(names.length);
}

test('every kind of film that is decoded looks as ffmpeg shows it', async ({ page }) => {
  for (const { file, args, size, filter } of KINDS)
    ffmpeg('-f', 'lavfi', '-i', `testsrc2=s=${size ?? `${WIDTH}x${HEIGHT}`}:r=25:d=0.4`, '-vf', `gblur=2,${filter}`, ...args, file);
  const names = KINDS.map((k) => k.file);
  await takeIn(page, names);
  const stills = await stillsOf(page, names);
  // ffmpeg scatters what it rounds from ten bits to eight, which alone is about one and a half.
  for (const [name, still] of stills) expect(difference(still, pixels(join(scratch, name), SQUARE)), name).toBeLessThan(2);
});

test('high dynamic range is drawn in for an ordinary screen, and said so', async ({ page }) => {
  const hdr = (name: string, transfer: string, signal: number) => {
    // A grey of so much of the signal, ten bits, limited range (ITU-R BT.2100-2 table 9).
    const code = Math.round(64 + 876 * signal);
    const grey = `nullsrc=s=${WIDTH}x${HEIGHT}:r=25:d=0.4,format=yuv420p10le,geq=lum=${code}:cb=512:cr=512`;
    const tagged = ['-colorspace', 'bt2020nc', '-color_primaries', 'bt2020', '-color_trc', transfer];
    ffmpeg('-f', 'lavfi', '-i', grey, ...WEBM, ...tagged, name);
  };
  hdr('pq.webm', 'smpte2084', 0.58);
  hdr('hlg.webm', 'arib-std-b67', 0.75);
  hdr('dark.webm', 'smpte2084', 0.3);
  const names = ['pq.webm', 'hlg.webm', 'dark.webm'];
  await takeIn(page, names);
  await expect(page.getByText('HDR (PQ) drawn in to BT.709')).toHaveCount(2);
  await expect(page.getByText('HDR (HLG) drawn in to BT.709')).toHaveCount(1);
  const stills = await stillsOf(page, names);
  const grey = (name: string) => (stills.get(name) as Uint8Array)[3 * (WIDTH * 100 + 100)];
  // Both are the reference white of ITU-R BT.2408 (203 cd/m²): the same bright grey, with room above it.
  expect(Math.abs(grey('pq.webm') - grey('hlg.webm'))).toBeLessThan(5);
  expect(grey('pq.webm')).toBeGreaterThan(200);
  expect(grey('pq.webm')).toBeLessThan(250);
  // PQ 0.3 is 10.1 cd/m², below the knee: 255 · (10.1 / 203)^(1/2.4) = 73.
  expect(Math.abs(grey('dark.webm') - 73)).toBeLessThan(4);
});
