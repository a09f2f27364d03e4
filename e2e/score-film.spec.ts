import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { eventsOf } from '../src/core/check/index';
import type { Project, Shot } from '../src/core/document/index';
import { layerSecond, sceneOf } from '../src/core/evaluate/index';
import { layerTime } from '../src/core/layer/index';
import type { MoveOf } from '../src/core/moves/index';
import { beatToSeconds, frameToSeconds } from '../src/core/time/index';
import { test } from './demo';
import { barAt, downloadBy, ffmpeg, kept, openDemo, rawVideo, scratch, stage } from './helpers';
import { putProject } from './stored';

const DEMO = join(process.cwd(), 'public/demo');
const [W, H] = [160, 90];
/** The demo song: 112 BPM, bar 1 at 0.25 s. */
const frameOf = (beat: number) => Math.floor((0.25 + (beat * 60) / 112) * 25 + 0.5);

/** Raw bytes as planes of one size. */
const planesOf = (bytes: Uint8Array, size: number) =>
  Array.from({ length: bytes.length / size }, (_, i) => bytes.subarray(i * size, (i + 1) * size));

/** Every frame of a film as small grey planes. */
const greyFilm = (file: string) => planesOf(rawVideo(file, `format=gray,scale=${W}:${H}:flags=area`), W * H);

/** The film read once: its frames small and grey, and its upper and left edges above and beside a line a little further in. */
function readFilm(file: string): { film: Uint8Array[]; border: Uint8Array; sides: Uint8Array } {
  const [grey, border, sides] = ['grey.raw', 'border.raw', 'sides.raw'].map((name) => join(scratch, name));
  const parts = [
    `[g]scale=${W}:${H}:flags=area[grey]`,
    '[b]split=2[b1][b2];[b1]crop=640:2:0:0,scale=64:1:flags=area[t];[b2]crop=640:2:0:6,scale=64:1:flags=area[u];[t][u]vstack[border]',
    '[s]split=2[s1][s2];[s1]crop=2:360:0:0,scale=1:64:flags=area[l];[s2]crop=2:360:6:0,scale=1:64:flags=area[m];[l][m]hstack[sides]',
  ];
  const raw = (name: string, out: string) => ['-map', `[${name}]`, '-f', 'rawvideo', out];
  const graph = `[0:v]format=gray,split=3[g][b][s];${parts.join(';')}`;
  ffmpeg('-i', file, '-filter_complex', graph, ...raw('grey', grey), ...raw('border', border), ...raw('sides', sides));
  return { film: planesOf(readFileSync(grey), W * H), border: readFileSync(border), sides: readFileSync(sides) };
}

const difference = (a: Uint8Array, b: Uint8Array) => a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;

/** A frame enlarged about its middle. */
function enlarged(frame: Uint8Array, scale: number): Uint8Array {
  return Uint8Array.from({ length: W * H }, (_, i) => {
    const u = Math.min(W - 1.001, Math.max(0, ((i % W) + 0.5 - W / 2) / scale + W / 2 - 0.5));
    const v = Math.min(H - 1.001, Math.max(0, (Math.floor(i / W) + 0.5 - H / 2) / scale + H / 2 - 0.5));
    const [x, y] = [Math.floor(u), Math.floor(v)];
    const at = (a: number, b: number) => frame[b * W + a];
    const row = (b: number) => at(x, b) + (u - x) * (at(x + 1, b) - at(x, b));
    return row(y) + (v - y) * (row(y + 1) - row(y));
  });
}

/** How sharp a frame is across: smeared sideways it is not. */
const sharpness = (frame: Uint8Array) => frame.reduce((sum, v, i) => (i % W ? sum + Math.abs(v - frame[i - 1]) : sum), 0) / frame.length;

let actions = 0;
/** Puts the playhead on a bar by a tap on the score. */
async function tapBar(page: Page, bar: number): Promise<void> {
  const { x, y } = await barAt(page, bar);
  await page.mouse.click(x + 1, y);
  actions++;
}

/** Lays a move on a bar, from certain takes where they are given. Returns how many actions it took. */
async function lay(page: Page, name: string, bar: number, takes: readonly string[] = []): Promise<number> {
  actions = 0;
  await tapBar(page, bar);
  const open = page.getByRole('button', { name: 'From which takes' });
  if (takes.length && (await open.getAttribute('aria-expanded')) === 'false') {
    await open.click();
    actions++;
  }
  for (const [i, take] of takes.entries()) {
    await page.getByRole('combobox', { name: i ? 'Second take' : 'First take' }).selectOption({ label: take });
    actions++;
  }
  const before = (await kept(page)).shots.length;
  await page.getByRole('button', { name, exact: true }).click();
  actions++;
  await expect.poll(async () => (await kept(page)).shots.length, { timeout: 120_000 }).toBe(before + 1);
  return actions;
}

const [ONE, TWO] = ['take-2-outfit-one.mp4', 'take-3-outfit-two.mp4'];
const [LEFT, RIGHT] = ['clones-the-hand-over-place-p1.mp4', 'clones-the-hand-over-place-p2.mp4'];

const shotOf = <K extends NonNullable<Shot['move']>['kind']>(project: Project, kind: K, n = 0): { shot: Shot; move: MoveOf<K> } => {
  const shot = project.shots.filter((s) => s.move?.kind === kind)[n];
  return { shot, move: shot.move as MoveOf<K> };
};

/** Frames whose upper or left edge is black along a stretch where the picture a little further in is not. */
function darkEdges(border: Uint8Array, sides: Uint8Array, frames: number, leftOut: (frame: number) => boolean): string[] {
  const dark: string[] = [];
  for (let k = 0; k < frames; k++) {
    if (leftOut(k)) continue;
    const places = [...Array(64).keys()];
    const above = places.filter((i) => border[k * 128 + i] < 18 && border[k * 128 + 64 + i] > 45).length;
    const left = places.filter((i) => sides[k * 128 + 2 * i] < 18 && sides[k * 128 + 2 * i + 1] > 45).length;
    // A single dark spot is something in the picture; an edge is a stretch.
    if (Math.max(above, left) > 3) dark.push(`frame ${k}: ${above} above, ${left} left`);
  }
  return dark;
}

test('the laundrette film: each move stands after six actions or fewer, and every event of the film is where its beat is', async ({
  page,
}) => {
  await openDemo(page);
  // Half the size is told as well, and made and read in a third of the time.
  const demo = await kept(page);
  await putProject(page, { ...demo, frame: { ...demo.frame, width: 640, height: 360 } });
  await stage(page, 'Score').click();
  const counted = {
    reveal: await lay(page, 'Masked reveal', 4, [ONE, TWO]),
    whip: await lay(page, 'Whip', 7, [RIGHT, ONE]),
    freeze: await lay(page, 'Freeze frame', 9, [LEFT]),
    ramp: await lay(page, 'Speed ramp', 11, [RIGHT]),
    split: await lay(page, 'Split screen', 13, [LEFT, RIGHT]),
  };
  for (const count of Object.values(counted)) expect(count).toBeLessThanOrEqual(6);
  // The rest of the film: another whip, turning; another ramp; a ring.
  await lay(page, 'Whip', 16, [LEFT, RIGHT]);
  await page.getByLabel('The view goes').selectOption('turn');
  await lay(page, 'Speed ramp', 17, [ONE]);
  await lay(page, 'Masked reveal', 20, [TWO, ONE]);
  await page.getByLabel('Uncovered by').selectOption('ring');
  await expect(page.getByTestId('move-problem')).toHaveCount(0);

  const project = await kept(page);
  await stage(page, 'Deliver').click();
  await expect(page.getByText(/640×360, 25 fps, \d+ frames/)).toBeVisible();
  const file = await downloadBy(page, /Make MP4/, 'laundrette.mp4');
  const { film, border, sides } = readFilm(file);
  const first = Math.min(...project.shots.map((s) => frameOf(s.start.beat) + s.start.offset));
  const at = (frame: number) => film[frame - first];
  const seconds = film.length / 25;
  expect(seconds).toBeGreaterThan(40);
  expect(seconds).toBeLessThan(60);
  // Shot follows on shot: nowhere is it black between them.
  expect(film.findIndex((frame) => frame.reduce((a, b) => a + b, 0) / frame.length < 40)).toBe(-1);
  const place = (shot: Shot, p: { beat: number; offset: number }) => frameOf(shot.start.beat + p.beat) + p.offset;
  const step = (frame: number) => difference(at(frame), at(frame - 1));

  // Cuts: what changes on a shot's first frame is more than what moves before.
  const ordered = project.shots.toSorted((a, b) => a.start.beat - b.start.beat);
  for (const [i, shot] of ordered.slice(1).entries()) {
    // Panels that close move fastest at their end; their own check is below.
    if (ordered[i].move?.kind === 'split') continue;
    const cut = frameOf(shot.start.beat) + shot.start.offset;
    const before = Math.max(...[1, 2, 3].map((k) => step(cut - k)));
    expect(step(cut), `${shot.name}: the cut on its frame against the frames before`).toBeGreaterThan(1.6 * before);
  }

  // The reveal: by which take each pixel is, where the two differ.
  {
    const { shot, move } = shotOf(project, 'reveal');
    const [one, two] = [ONE, TWO].map((name) => greyFilm(join(DEMO, name)));
    const [from, to] = [place(shot, move.start), place(shot, move.end)];
    const share = (frame: number) => {
      const index = (sync: number) => Math.round(sync * 25) + frame - from;
      const [a, b, now] = [one[index(move.before.sync)], two[index(move.after.sync)], at(frame)];
      let [mine, all] = [0, 0];
      for (let i = 0; i < now.length; i++) {
        if (Math.abs(a[i] - b[i]) < 14) continue;
        all++;
        if (Math.abs(now[i] - b[i]) < Math.abs(now[i] - a[i])) mine++;
      }
      return mine / all;
    };
    for (const frame of [from - 8, from - 1]) expect(share(frame)).toBeLessThan(0.04);
    for (const frame of [to, to + 8]) expect(share(frame)).toBeGreaterThan(0.96);
    expect(share(Math.round((from + to) / 2))).toBeGreaterThan(0.1);
  }

  // The whip sideways: smeared the same on both sides of its cut, so the middle of the smear is where the cut is.
  {
    const { shot, move } = shotOf(project, 'whip');
    const cut = place(shot, move.cut);
    const rest = Math.min(sharpness(at(cut - 12)), sharpness(at(cut + 11)));
    let [sum, weight] = [0, 0];
    // A frame's exposure lies about its own instant, so the smear is even about the cut's.
    for (let f = cut - 9; f <= cut + 9; f++) {
      const lost = Math.max(0, rest - sharpness(at(f)));
      sum += lost * f;
      weight += lost;
    }
    expect(Math.abs(sum / weight - cut)).toBeLessThanOrEqual(0.5);
    expect(sharpness(at(cut))).toBeLessThan(0.6 * rest);
  }

  // The freeze: a change on its beat, stillness until the first part sets off, another change as it runs on.
  {
    const { shot, move } = shotOf(project, 'freeze');
    const [freeze, runs] = [place(shot, move.at), place(shot, move.until)];
    const landing = (part: number) => place(shot, { beat: move.at.beat + part * move.every, offset: 0 });
    const off = landing(1) - move.flight;
    for (let f = freeze + 1; f < off; f++) expect(step(f)).toBeLessThan(0.35);
    expect(step(freeze)).toBeGreaterThan(1);
    expect(step(runs)).toBeGreaterThan(0.8);
    for (const i of [1, 2]) {
      const land = landing(i);
      const flying = [...Array(move.flight).keys()].map((k) => step(land - k));
      expect(Math.max(...flying)).toBeGreaterThan(0.7);
      expect(step(land + 2)).toBeLessThan(0.35);
    }
    // It shakes as the last one lands, most at once.
    const last = landing(move.parts.length);
    expect(step(last)).toBeGreaterThan(step(last + move.shake + 1) + 0.5);
    expect(step(last + move.shake + 1)).toBeLessThan(0.35);
  }

  // The ramp: which frame of the take each frame of the film is, against its map; the poses on their beats.
  {
    // The ramp of the take in which the laundry falls, since it moves most.
    const { shot, move } = shotOf(project, 'ramp', 1);
    const take = greyFilm(join(DEMO, ONE));
    const scene = sceneOf(project, shot);
    const [layer] = shot.layers;
    const seen = (frame: number) => {
      const asked = layerSecond(project, scene, layer, frame) * 25;
      const scale = (() => {
        const keys = move.poses.map((p, i) => ({ f: place(shot, p), v: i % 2 ? 1 + move.zoom / 100 : 1 }));
        const k = Math.max(
          0,
          keys.findLastIndex((q) => q.f <= frame),
        );
        const [a, b] = [keys[k], keys[Math.min(k + 1, keys.length - 1)]];
        const x = b.f > a.f ? (frame - a.f) / (b.f - a.f) : 0;
        return a.v + (b.v - a.v) * (x * x * (3 - 2 * x));
      })();
      let [best, least] = [0, Number.POSITIVE_INFINITY];
      for (let i = Math.max(0, Math.floor(asked) - 8); i <= Math.min(take.length - 1, Math.ceil(asked) + 8); i++) {
        const d = difference(at(frame), enlarged(take[i], scale * (shot.overscan / 100)));
        if (d < least) [best, least] = [i, d];
      }
      const here = difference(at(frame), enlarged(take[Math.round(asked)], scale * (shot.overscan / 100)));
      return { best, asked, least, here };
    };
    const errors: number[] = [];
    const [from, to] = [place(shot, move.poses[0]), place(shot, move.poses[move.poses.length - 1])];
    for (let f = from; f < to; f++) {
      const { best, asked } = seen(f);
      // Told only where the take itself moves.
      const k = Math.round(asked);
      if (take[k - 4] && take[k + 4] && difference(take[k - 4], take[k + 4]) > 2) errors.push(Math.abs(best - asked));
    }
    expect(errors.length).toBeGreaterThan(8);
    expect(errors.reduce((a, b) => a + b, 0) / errors.length).toBeLessThan(0.8);
    for (const pose of move.poses) {
      // On a rest of the take its frames are alike: the one asked for is as near as the nearest.
      const { least, here } = seen(place(shot, pose));
      expect(here).toBeLessThan(1.1 * least + 0.2);
    }
    expect(layerTime(scene, layer).speedAt(frameToSeconds(from, { num: 25, den: 1 }))).toBeCloseTo(0.4, 6);
  }

  // The panels: gutters stand black where they belong once open, and are not there before.
  {
    const { shot, move } = shotOf(project, 'split');
    const [open, close] = [place(shot, move.open), place(shot, move.close)];
    const gutter = (frame: number) => Math.min(...[0, 1].map((k) => at(frame)[45 * W + Math.round((W * (k + 1)) / 3 - 0.5)]));
    expect(gutter(open)).toBeGreaterThan(40);
    expect(gutter(open + move.frames)).toBeLessThan(40);
    expect(gutter(close - move.frames - 1)).toBeLessThan(40);
    expect(gutter(close - 1)).toBeGreaterThan(30);
  }

  // Gutters reach the edge; panels are left out.
  const panels = project.shots.filter((s) => s.move?.kind === 'split').map((s) => [frameOf(s.start.beat), frameOf(s.end.beat)]);
  expect(darkEdges(border, sides, film.length, (k) => panels.some(([from, to]) => k + first >= from && k + first < to))).toEqual([]);

  // +7 % of tempo and another frame rate: every event within half a frame of its beat; two undos, the same bytes.
  const bytes = JSON.stringify(project);
  await page.getByLabel(/Frames a second/).selectOption('24000/1001');
  await stage(page, 'Song').click();
  await page.getByLabel('Constant tempo in BPM').fill('119.84');
  await page.getByLabel('Constant tempo in BPM').press('Enter');
  await expect(page.getByText('119.84 BPM')).toBeVisible();
  const faster = await kept(page);
  const { map } = faster.song ?? {};
  if (!map) throw new Error('no map');
  const rate = { num: 24000, den: 1001 };
  expect(faster.frame.rate).toEqual(rate);
  expect(faster.shots).toEqual(project.shots);
  const problems: string[] = [];
  for (const shot of faster.shots)
    for (const [name, event] of eventsOf(shot)) {
      const time = beatToSeconds(map, event.beat);
      const frame = Math.round((time * 24000) / 1001);
      if (Math.abs(frameToSeconds(frame, rate) - time) > 0.5 * (1001 / 24000) + 1e-9) problems.push(name);
    }
  expect(problems).toEqual([]);
  for (const _ of [0, 1]) await page.getByRole('button', { name: /^Undo/ }).click();
  expect(JSON.stringify(await kept(page))).toBe(bytes);
});
