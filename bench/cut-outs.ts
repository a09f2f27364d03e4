/** Cut-outs of a drawn performer filmed as phones do it, through H.264; and places followed through such footage. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import baboon from 'baboon-image';
import { cleanPlate, cutOut, type Luma, lumaOf, makeBackdrop, PointTracker } from '../src/core/measure';
import { blackPlanes, type Planes, planesOver } from '../src/core/picture';
import { randomSource } from '../src/core/room';
import { drawPerson, edgeOff, hedge, overlap, restlessBackground } from '../src/core/staged';
import type { AccuracyRow } from './accuracy';

/** Width and height of the frames; each scene is filmed at its own, the performer as tall in both. */
type Size = readonly [width: number, height: number];
export const SMALL: Size = [640, 360];
export const LARGE: Size = [1280, 720];
export type Behind = (x: number, y: number, frame: number) => readonly [number, number, number];

export interface Scene {
  behind: Behind;
  /** What is behind changes from frame to frame. */
  alive?: boolean;
  noise: number;
  light: number;
  /** Of libx264. */
  crf: number;
  preset: string;
  walk: (seconds: number) => number;
  /** Second of the performance it begins at. */
  start: number;
}

/** The photograph of the npm package baboon-image, its contrast and colour in shares, turned on its side or not. */
export const photograph =
  (contrast: number, base: number, colour: number, aside = false): Behind =>
  (x, y) => {
    const at = (c: number) =>
      baboon.get(aside ? 511 - (Math.round(y * 1.2) % 512) : Math.round(x) % 512, Math.round(aside ? x * 0.7 : y) % 512, c) as number;
    const [r, g, b] = [at(0), at(1), at(2)];
    const l = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    return [base + contrast * l, 128 + (colour * (b - l)) / 1.8556, 128 + (colour * (r - l)) / 1.5748];
  };
export const tiles: Behind = (x, y) => {
  const seam = x % 40 < 2 || y % 40 < 2;
  return [seam ? 70 : 120 + ((((x / 40) | 0) + ((y / 40) | 0)) & 1) * 25 + 0.05 * x, x > 400 ? 134 : 124, 131];
};
const leaves = hedge(...LARGE);
const still: Behind = (x, y) => leaves(x, y, 0);
const chance = (n: number) => randomSource(1000 + n)();
/** A shelf of books, each of its own colour and a little lighter to one side. */
const shelf: Behind = (x, y) => {
  const row = Math.floor(y / 90);
  const book = Math.floor((x + 11 * row) / 19);
  const at = 997 * row + book;
  if (y % 90 < 6) return [90, 122, 134];
  return [50 + 130 * chance(at) + 0.6 * ((x + 11 * row) % 19), 128 + 40 * (chance(at + 5e4) - 0.5), 128 + 50 * (chance(at + 9e4) - 0.5)];
};
/** A blind before a window, leaning a little, darker to the right. */
const blind: Behind = (x, y) => [150 - 0.08 * x + 22 * Math.sign(Math.sin((y + 0.03 * x) / 3.1)), 131, 125];
/** The limits of the cut-out are chosen on others than these, by `bench/fit-cut-outs.ts`. */
const SCENES: readonly Scene[] = [
  {
    behind: photograph(0.5, 50, 0.7, true),
    noise: 4,
    light: 1,
    crf: 28,
    preset: 'veryfast',
    walk: (t) => 450 - 90 * t,
    start: 3,
  },
  {
    behind: still,
    noise: 5,
    light: 1,
    crf: 24,
    preset: 'veryfast',
    walk: (t) => 150 + 150 * t,
    start: 6,
  },
  {
    behind: (x, y, frame) => tiles(x * 1.4 + 11, y * 1.3, frame),
    noise: 7,
    light: 0.55,
    crf: 30,
    preset: 'veryfast',
    walk: (t) => 330 + 20 * Math.sin(3 * t),
    start: 9,
  },
  {
    behind: photograph(0.8, 20, 0.9, true),
    noise: 2,
    light: 1,
    crf: 16,
    preset: 'medium',
    walk: (t) => 180 + 100 * t,
    start: 7,
  },
  { behind: shelf, noise: 4, light: 0.8, crf: 23, preset: 'veryfast', walk: (t) => 240 + 90 * t, start: 1 },
  { behind: blind, noise: 5, light: 1, crf: 27, preset: 'fast', walk: (t) => 420 - 70 * t, start: 5 },
];

/** Leaves that swing by up to three pixels, each patch in its own time. */
const SWINGING: Scene = {
  behind: restlessBackground(still, { above: LARGE[1], below: LARGE[1], swing: 3 }),
  alive: true,
  noise: 4,
  light: 1,
  crf: 24,
  preset: 'veryfast',
  walk: (t) => 170 + 90 * t,
  start: 8,
};

const person = (planes: Planes, { walk, start }: Scene, frame: number) =>
  drawPerson(planes, {
    x: (walk(frame / 25) * planes.width) / SMALL[0],
    floor: 0.96 * planes.height,
    tall: 0.8 * planes.height,
    seconds: start + frame / 25,
  });

/** More of what is behind than a frame shows, for a camera that goes past it. */
const BEYOND = [64, 32] as const;

/** Y, U and V of what is behind in a frame, at whole places, so many wide and high. */
function seenBehind({ behind }: Scene, wide: number, high: number, frame: number): Float32Array {
  const out = new Float32Array(3 * wide * high);
  for (let y = 0; y < high; y++) for (let x = 0; x < wide; x++) out.set(behind(x, y, frame), 3 * (y * wide + x));
  return out;
}

interface Filming {
  frames: number;
  seed: number;
  size?: Size;
  /** Pixels by which the picture has gone past at a frame, right and down, 0 or more. */
  past?: (frame: number) => [number, number];
  /** Share of a frame for which the shutter is open. */
  shutter?: number;
  /** Gain on brightness by frame. */
  lit?: (frame: number) => number;
  /** Frames as the camera has them, before any codec. */
  raw?: boolean;
  draw?: (planes: Planes, frame: number) => void;
}

/** Moments of a frame that are averaged where the shutter stays open. */
const MOMENTS = 6;

/** Adds the share `part` of what is behind, gone past by so much, to three full planes. */
function expose(
  into: Float32Array,
  set: Float32Array,
  [width, height]: Size,
  [right, down]: readonly [number, number],
  part: number,
): void {
  const wide = width + BEYOND[0];
  const [ox, oy] = [Math.floor(right), Math.floor(down)];
  const [fx, fy] = [right - ox, down - oy];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0, at = 3 * ((y + oy) * wide + x + ox); c < 3; c++, at++, i++) {
        // Between the places of what is behind: what a lens does.
        const upper = set[at] + fx * (set[at + 3] - set[at]);
        const lower = set[at + 3 * wide] + fx * (set[at + 3 * wide + 3] - set[at + 3 * wide]);
        into[i] += part * (upper + fy * (lower - upper));
      }
}

/** Frames of a scene as they come out of the file again, or as they went in. */
export function filmed(folder: string, scene: Scene, filming: Filming): Planes[] {
  const { frames, seed, size = SMALL, past = () => [0, 0], shutter = 0, lit = () => 1, raw: uncoded = false, draw } = filming;
  const random = randomSource(seed);
  const [width, height] = size;
  const bytesAFrame = (width * height * 3) / 2;
  const behind = (f: number) => seenBehind(scene, width + BEYOND[0], height + BEYOND[1], f);
  const same = behind(0);
  const list: Planes[] = [];
  for (let f = 0; f < frames; f++) {
    const planes = blackPlanes(width, height);
    const set = scene.alive ? behind(f) : same;
    const light = new Float32Array(3 * width * height);
    const moments = shutter ? MOMENTS : 1;
    for (let k = 0; k < moments; k++) expose(light, set, size, past(f + shutter * ((k + 0.5) / moments - 0.5)), 1 / moments);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        planes.y[i] = light[3 * i];
        if ((x | y) & 1) continue;
        planes.u[(y >> 1) * (width >> 1) + (x >> 1)] = light[3 * i + 1];
        planes.v[(y >> 1) * (width >> 1) + (x >> 1)] = light[3 * i + 2];
      }
    draw?.(planes, f);
    const gain = scene.light * lit(f);
    for (let i = 0; i < planes.y.length; i++)
      planes.y[i] = Math.max(16, Math.min(235, 16 + gain * (planes.y[i] - 16) + scene.noise * (random() + random() - 1)));
    list.push(planes);
  }
  if (uncoded) return list;
  const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-y', '-v', 'error', ...args], { cwd: folder });
  writeFileSync(join(folder, 'in.yuv'), Buffer.concat(list.flatMap(({ y, u, v }) => [y, u, v])));
  const raw = ['-f', 'rawvideo', '-pix_fmt', 'yuv420p'];
  ffmpeg(
    ...raw,
    '-s',
    `${width}x${height}`,
    '-r',
    '25',
    '-i',
    'in.yuv',
    '-c:v',
    'libx264',
    '-preset',
    scene.preset,
    '-crf',
    String(scene.crf),
    'film.mp4',
  );
  ffmpeg('-i', 'film.mp4', ...raw, 'out.yuv');
  const bytes = new Uint8Array(readFileSync(join(folder, 'out.yuv')));
  return Array.from({ length: bytes.length / bytesAFrame }, (_, f) =>
    planesOver(bytes.slice(f * bytesAFrame, (f + 1) * bytesAFrame), width, height),
  );
}

const some = (list: readonly Planes[], n: number) => Array.from({ length: n }, (_, k) => list[Math.floor(((k + 0.5) * list.length) / n)]);
const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;

/** Pixels by which the performer stands further right in other takes of the set-up. */
const ELSEWHERE = [-170, 190];

/** How good cut-outs are: their overlap with the truth, and how far their edge is off in pixels, in the mean over some frames. */
interface Good {
  overlap: number;
  edge: number;
}

function cutBy(set: ReturnType<typeof cleanPlate>, scene: Scene, take: readonly Planes[]): Good {
  const backdrop = makeBackdrop(set, 1);
  const { width, height } = take[0];
  const found = [0, 12, 24, 36, 48].map((f) => {
    const truth = person(blackPlanes(width, height), scene, f);
    const { alpha } = cutOut(take[f], backdrop, { blur: { dx: 2, dy: 0 }, strokes: null });
    return { overlap: overlap(alpha, truth), edge: edgeOff(alpha, truth, width) };
  });
  return { overlap: mean(found.map((f) => f.overlap)), edge: mean(found.map((f) => f.edge)) };
}

/** Cut-outs of a scene by a plate of nobody, by the take's own median, and by that of it and two more takes of its set-up. */
export function cutOuts(folder: string, scene: Scene, seed: number, size: Size) {
  const plate = cleanPlate(some(filmed(folder, scene, { frames: 30, seed, size }), 20), true);
  const aside = (by: number, n: number) => {
    const there = { ...scene, walk: (t: number) => scene.walk(t) + by };
    return filmed(folder, scene, { frames: 50, seed: seed + 1 + n, size, draw: (planes, f) => void person(planes, there, f) });
  };
  const take = aside(0, 0);
  const all = [take, ...ELSEWHERE.map((by, i) => aside(by, 1 + i))].flatMap((t) => some(t, 7));
  return {
    plate: cutBy(plate, scene, take),
    own: () => cutBy(cleanPlate(some(take, 20), false), scene, take),
    takes: cutBy(cleanPlate(all, false), scene, take),
  };
}

/** Pixels to each side within which a place is marked where it can be held best, as somebody would who marks an eye or a button. */
const CHOICE = 32;
const RADIUS = 16;

/** The place near another whose brightness changes most in the direction in which it changes least (Shi & Tomasi 1994). */
function distinct({ data, width }: Luma, x: number, y: number): { x: number; y: number } {
  const held = (cx: number, cy: number) => {
    let [xx, xy, yy] = [0, 0, 0];
    for (let v = cy - RADIUS; v <= cy + RADIUS; v++)
      for (let u = cx - RADIUS, i = v * width + u; u <= cx + RADIUS; u++, i++) {
        const [across, down] = [data[i + 1] - data[i - 1], data[i + width] - data[i - width]];
        xx += across * across;
        xy += across * down;
        yy += down * down;
      }
    return xx + yy - Math.hypot(xx - yy, 2 * xy);
  };
  let best = { x, y, hold: held(x, y) };
  for (let v = y - CHOICE; v <= y + CHOICE; v += 4)
    for (let u = x - CHOICE; u <= x + CHOICE; u += 4) {
      const hold = held(u, v);
      if (hold > best.hold) best = { x: u, y: v, hold };
    }
  return best;
}

/** How far a followed place is off while the picture goes past by parts of a pixel: RMS pixels, and frames in which it was lost. */
function followed(folder: string, scene: Scene, filming: Filming & Required<Pick<Filming, 'past'>>): { rms: number; lost: number } {
  const frames = filmed(folder, scene, filming);
  const errors: number[] = [];
  let lost = 0;
  const [left, top] = filming.past(0);
  for (const [nearX, nearY] of PLACES) {
    const first = lumaOf(frames[0]);
    const { x, y } = distinct(first, nearX, nearY);
    const tracker = new PointTracker(first, { x, y, radius: RADIUS });
    for (let f = 1; f < frames.length; f++) {
      const at = tracker.next(lumaOf(frames[f]));
      const [right, down] = filming.past(f);
      if (at.lost) lost++;
      else errors.push((at.x - (x - right + left)) ** 2 + (at.y - (y - down + top)) ** 2);
    }
  }
  return { rms: Math.sqrt(mean(errors)), lost };
}
const PLACES = [
  [200, 120],
  [330, 180],
  [450, 240],
] as const;
const FOLLOWED = { frames: 40, size: SMALL };

function followedRow(
  folder: string,
  what: string,
  filming: Omit<Filming, 'seed' | 'frames'> & Required<Pick<Filming, 'past'>>,
): AccuracyRow {
  // Along a blind's slats no place is to be told from the next.
  const points = SCENES.filter((s) => s.light === 1 && s.behind !== blind).map((scene, i) =>
    followed(folder, scene, { ...FOLLOWED, ...filming, seed: 100 + i }),
  );
  const lost = points.reduce((n, p) => n + p.lost, 0);
  return [
    `${what}: RMS, worst of three scenes; frames lost`,
    `${Math.max(...points.map((p) => p.rms)).toFixed(3)} px; ${lost} of ${points.length * PLACES.length * (FOLLOWED.frames - 1)}`,
    '0.1 px',
  ];
}

function goodRow(what: string, found: readonly Good[], asked: string): AccuracyRow {
  const each = found.map((f) => f.overlap.toFixed(3)).join(', ');
  const edge = `edge ${mean(found.map((f) => f.edge)).toFixed(2)} px off`;
  return [what, `${mean(found.map((f) => f.overlap)).toFixed(3)}${found.length > 1 ? ` (${each})` : ''}; ${edge}`, asked];
}

export function cutOutRows(): AccuracyRow[] {
  const folder = mkdtempSync(join(tmpdir(), 'ribbon-cut-'));
  try {
    const at = (size: Size) => SCENES.map((scene, i) => cutOuts(folder, scene, 10 * i + 31, size));
    const [large, small] = [at(LARGE), at(SMALL)];
    const by = (way: 'plate' | 'takes', found: typeof large) => found.map((f) => f[way]);
    const swinging = cutOuts(folder, SWINGING, 5, LARGE);
    return [
      goodRow(
        'cut-out through H.264 (CRF 16 to 30), 720 lines, by the plate: overlap, mean of six scenes kept out',
        by('plate', large),
        '0.97; 1.5 px',
      ),
      goodRow('the same by the median of three takes, the performer elsewhere in each', by('takes', large), '0.95'),
      goodRow('the same before leaves that swing by three pixels, by the plate', [swinging.plate], '0.95'),
      goodRow('at 360 lines, the performer half as tall in pixels, by the plate', by('plate', small), '0.97; 1.5 px'),
      goodRow('at 360 lines by the median of three takes', by('takes', small), '0.95'),
      goodRow(
        'at 360 lines by the median of one take of two seconds, the performer on one place for up to half of it',
        small.map((f) => f.own()),
        'what was never seen cannot be known',
      ),
    ];
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Distinct places followed in scenes of which nothing was tuned: as a camera has them, and through H.264. */
export function trackedRows(): AccuracyRow[] {
  const folder = mkdtempSync(join(tmpdir(), 'ribbon-track-'));
  try {
    return [
      followedRow(folder, 'a place followed as light halves, through blur of up to three pixels and noise', {
        past: (f) => [30 + 28 * Math.sin(f / 4), 15 + 12 * Math.sin(f / 3)],
        shutter: 0.5,
        lit: (f) => 1 - (0.5 * f) / 40,
        raw: true,
      }),
      followedRow(folder, 'a place followed through H.264', { past: (f) => [1.37 * f, 0.61 * f] }),
    ];
  } finally {
    rmSync(folder, { recursive: true });
  }
}
