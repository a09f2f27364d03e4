/** Playing measured: pictures shown a second against those of the film, and how far they are from what is heard. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { kept, newProject, saved } from '../e2e/helpers';
import { putProject } from '../e2e/stored';
import type { Project, Shot } from '../src/core/document';
import { plainShot } from '../src/core/edit';
import { type Effect, type Layer, plainEffect, plainLayer, plainMask, remapKeyAt, still } from '../src/core/layer';
import { decoderRates } from './decoder';
import { layOn, MOVES, openScore } from './score';

interface Played {
  /** Different pictures shown a second. */
  shown: number;
  /** Milliseconds between two pictures, the 95th percentile. */
  late: number;
  /** Milliseconds from pressing play to the first new picture. */
  first: number;
  /** Frames the picture is from what is heard, in the mean. */
  apart: number;
}

/** Presses play on the page that is open and watches the picture for some seconds. */
async function watchPlaying(page: Page, seconds: number): Promise<Played> {
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
    first: from - pressed,
    apart: frames.reduce((a, b) => a + b, 0) / frames.length,
  };
}

/** Frames of a timecode at 25 a second at the end of a text. */
function framesOf(text: string): number {
  const [h, m, s, f] = (/(\d+):(\d+):(\d+):(\d+)\s*$/.exec(text) ?? []).slice(1).map(Number);
  return ((h * 60 + m) * 60 + s) * 25 + f;
}

async function playFrom(page: Page, bar: number, seconds: number): Promise<Played> {
  await page.getByLabel('Find on the score').fill(`bar ${bar}`);
  await page.keyboard.press('Enter');
  await page.getByTestId('where').click();
  // Long enough for decoders that wait to be closed, as they are while somebody thinks.
  await page.waitForTimeout(6000);
  return watchPlaying(page, seconds);
}

const rowOf = (what: string, played: Played): [string, string, string] => [
  `playing ${what}, pictures shown against the film’s 25 a second`,
  `${(played.shown / 25).toFixed(2)}`,
  `${played.shown.toFixed(1)} a second, 95 % of gaps under ${played.late.toFixed(0)} ms, ${played.apart.toFixed(1)} frames from what is heard, first after ${played.first.toFixed(0)} ms`,
];

/** Four effects over all of a shot. */
const HEAVY: readonly [string, Effect['numbers']][] = [
  ['curves', { all25: still(-8), all75: still(8) }],
  ['glow', { amount: still(60), radius: still(3) }],
  ['chromatic shift', { amount: still(1) }],
  ['grain', { amount: still(6) }],
];

/**
 * One take alone at bar 1, and five layers at bar 9: the whole frame below, and four turned, masked and scaled over it; the same at bar 17
 * with four effects over all of them.
 */
function layered(project: Project): Project {
  const [plate, one, two, three, four] = [0, 1, 2, 3, 4].map((i) => project.takes[i % project.takes.length].id);
  const layer = (id: string, takeId: string, more: Partial<Layer> = {}) =>
    plainLayer(id, id, 0, { kind: 'take', takeId }, [remapKeyAt(0, 0, 0.2)], more);
  const shot = (id: string, beat: number, layers: Layer[]): Shot =>
    plainShot(id, id, { beat, offset: 0 }, { beat: beat + 16, offset: 0 }, { layers });
  const ellipse = plainMask('oval', 'ellipse', {
    x: still(50),
    y: still(50),
    width: still(40),
    height: still(60),
    turn: still(0),
    inside: still(1),
    outside: still(3),
  });
  const upper = [one, two, three, four].map((takeId, i) =>
    layer(`layer-${i}`, takeId, {
      numbers: {
        x: still(i % 2 ? 22 : -22),
        y: still(i < 2 ? -22 : 22),
        scale: still(55),
        turn: still(i % 2 ? 4 : 0),
        opacity: still(i === 3 ? 80 : 100),
      },
      masks: i % 2 ? [ellipse] : [],
    }),
  );
  const look = plainLayer('look', 'Look', 0, { kind: 'below' }, [remapKeyAt(0, 0, 0)], {
    effects: HEAVY.map(([kind, numbers], i) => plainEffect(`effect-${i}`, kind, numbers)),
  });
  const shots = [
    shot('one', 0, [layer('alone', two)]),
    shot('five', 32, [layer('below', plate), ...upper]),
    shot('six', 64, [layer('below', plate), ...upper, look]),
  ];
  return { ...project, shots };
}

/** Of those the shot with four effects alone, at the film's beginning. */
export function heavy(project: Project): Project {
  const shot = layered(project).shots[2];
  return { ...project, shots: [{ ...shot, start: { beat: 0, offset: 0 }, end: { beat: 16, offset: 0 } }] };
}

/** Each move of the demo at 720p, one take alone, and a reveal of two takes at 1080p. */
export async function playingRows(
  browser: Browser,
  fresh: () => Promise<Page>,
  url: string,
  demo: string,
  scratch: string,
): Promise<[string, string, string][]> {
  const rows: [string, string, string][] = [];
  const plain = await fresh();
  await openScore(plain, url);
  await saved(plain);
  await putProject(plain, layered(await kept(plain)));
  await plain.waitForTimeout(5000);
  await playFrom(plain, 1, 1);
  rows.push(rowOf('one take, 720p', await playFrom(plain, 1, 4)));
  rows.push(rowOf('five layers, 720p', await playFrom(plain, 9, 4)));
  rows.push(rowOf('six layers and four effects, 720p', await playFrom(plain, 17, 4)));
  await plain.getByTestId('shot-strip').nth(2).click();
  await plain.getByRole('button', { name: 'Draw this shot ahead' }).click();
  await plain.getByText('Drawing the shot').waitFor();
  await plain.getByText('Drawing the shot').waitFor({ state: 'detached', timeout: 120_000 });
  rows.push(rowOf('the same once it was drawn ahead', await playFrom(plain, 17, 4)));
  await plain.context().close();
  const page = await fresh();
  await openScore(page, url);
  for (const [name, bar] of MOVES) {
    await layOn(page, name, bar);
    await page.waitForTimeout(5000);
    // Once through, so that the sound and the decoders are awake, as they are for whoever works.
    if (bar === MOVES[0][1]) await playFrom(page, bar, 1);
    rows.push(rowOf(`a ${name.toLowerCase()}, 720p`, await playFrom(page, bar, 4)));
  }
  await page.context().close();
  const large = ['take-2-outfit-one.mp4', 'take-3-outfit-two.mp4'].map((name) => {
    const out = join(scratch, `1080-${name}`);
    const args = [
      '-vf',
      'scale=1920:1080',
      '-c:v',
      'libx264',
      '-preset',
      'veryfast',
      '-crf',
      '20',
      '-g',
      '25',
      '-pix_fmt',
      'yuv420p',
      '-c:a',
      'copy',
    ];
    execFileSync('ffmpeg', ['-y', '-v', 'error', '-i', join(demo, name), ...args, out]);
    return out;
  });
  const other = await fresh();
  await openScore(other, url);
  await newProject(other);
  await other.getByRole('link', { name: 'Shoot', exact: true }).first().click();
  await other.getByTestId('media-files').setInputFiles([...large, join(demo, 'half-load.m4a')]);
  await other.getByText('Song half-load.m4a').waitFor({ timeout: 120_000 });
  await other.getByRole('link', { name: 'Score', exact: true }).first().click();
  await layOn(other, 'Masked reveal', 4);
  await other.waitForTimeout(5000);
  await playFrom(other, 4, 1);
  rows.push(rowOf('a masked reveal, 1080p', await playFrom(other, 4, 4)));
  await other.context().close();
  const rates = await decoderRates(browser, url, [join(demo, 'take-3-outfit-two.mp4'), large[1]]);
  rows.push([
    'the decoder alone, one take in order, against 25 pictures a second, 720p and 1080p',
    rates.map((r) => `${(r / 25).toFixed(1)}×`).join(' and '),
    `${rates.map((r) => r.toFixed(0)).join(' and ')} a second`,
  ]);
  return rows;
}
