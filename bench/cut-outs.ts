/** Cut-outs of a drawn performer filmed as phones do it, through H.264; and places followed through such footage. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import baboon from 'baboon-image';
import { cleanPlate, cutOut, lumaOf, makeBackdrop, PointTracker } from '../src/core/measure';
import { blackPlanes, type Planes, planesOver } from '../src/core/picture';
import { randomSource } from '../src/core/room';
import { drawPerson, hedge, overlap } from '../src/core/staged';
import type { AccuracyRow } from './accuracy';

/** Width and height of the frames; each scene is filmed at its own, the performer as tall in both. */
type Size = readonly [width: number, height: number];
const SMALL: Size = [640, 360];
const LARGE: Size = [1280, 720];
type Behind = (x: number, y: number) => readonly [number, number, number];

interface Scene {
  /** Whether the limits of the cut-out were chosen on it; only the others count. */
  tuned: boolean;
  behind: Behind;
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
const photograph =
  (contrast: number, base: number, colour: number, aside = false): Behind =>
  (x, y) => {
    const at = (c: number) =>
      baboon.get(aside ? 511 - (Math.round(y * 1.2) % 512) : Math.round(x) % 512, Math.round(aside ? x * 0.7 : y) % 512, c) as number;
    const [r, g, b] = [at(0), at(1), at(2)];
    const l = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    return [base + contrast * l, 128 + (colour * (b - l)) / 1.8556, 128 + (colour * (r - l)) / 1.5748];
  };
const tiles: Behind = (x, y) => {
  const seam = x % 40 < 2 || y % 40 < 2;
  return [seam ? 70 : 120 + ((((x / 40) | 0) + ((y / 40) | 0)) & 1) * 25 + 0.05 * x, x > 400 ? 134 : 124, 131];
};
const leaves = hedge(...LARGE);
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
const SCENES: readonly Scene[] = [
  { tuned: true, behind: photograph(0.35, 70, 0.5), noise: 4, light: 1, crf: 18, preset: 'veryfast', walk: (t) => 130 + 110 * t, start: 0 },
  { tuned: true, behind: tiles, noise: 3, light: 1, crf: 20, preset: 'ultrafast', walk: (t) => 200 + 60 * t, start: 2 },
  {
    tuned: true,
    behind: photograph(0.22, 30, 0.3),
    noise: 6,
    light: 0.5,
    crf: 26,
    preset: 'veryfast',
    walk: (t) => 260 + 60 * t,
    start: 4,
  },
  {
    tuned: false,
    behind: photograph(0.5, 50, 0.7, true),
    noise: 4,
    light: 1,
    crf: 28,
    preset: 'veryfast',
    walk: (t) => 450 - 90 * t,
    start: 3,
  },
  {
    tuned: false,
    behind: (x, y) => leaves(x, y, 0),
    noise: 5,
    light: 1,
    crf: 24,
    preset: 'veryfast',
    walk: (t) => 150 + 150 * t,
    start: 6,
  },
  {
    tuned: false,
    behind: (x, y) => tiles(x * 1.4 + 11, y * 1.3),
    noise: 7,
    light: 0.55,
    crf: 30,
    preset: 'veryfast',
    walk: (t) => 330 + 20 * Math.sin(3 * t),
    start: 9,
  },
  {
    tuned: false,
    behind: photograph(0.8, 20, 0.9, true),
    noise: 2,
    light: 1,
    crf: 16,
    preset: 'medium',
    walk: (t) => 180 + 100 * t,
    start: 7,
  },
  { tuned: false, behind: shelf, noise: 4, light: 0.8, crf: 23, preset: 'veryfast', walk: (t) => 240 + 90 * t, start: 1 },
  { tuned: false, behind: blind, noise: 5, light: 1, crf: 27, preset: 'fast', walk: (t) => 420 - 70 * t, start: 5 },
];

const person = (planes: Planes, { walk, start }: Scene, frame: number) =>
  drawPerson(planes, {
    x: (walk(frame / 25) * planes.width) / SMALL[0],
    floor: 0.96 * planes.height,
    tall: 0.8 * planes.height,
    seconds: start + frame / 25,
  });

/** More of what is behind than a frame shows, for a camera that goes past it. */
const BEYOND = [64, 32] as const;

/** Y, U and V of what is behind at whole places, so many wide and high. */
function seenBehind({ behind }: Scene, wide: number, high: number): Float32Array {
  const out = new Float32Array(3 * wide * high);
  for (let y = 0; y < high; y++) for (let x = 0; x < wide; x++) out.set(behind(x, y), 3 * (y * wide + x));
  return out;
}

interface Filming {
  frames: number;
  seed: number;
  size?: Size;
  /** Pixels a frame by which the picture goes past, right and down. */
  past?: [number, number];
  draw?: (planes: Planes, frame: number) => void;
}

/** Frames of a scene as they come out of the file again. */
function filmed(folder: string, scene: Scene, { frames, seed, size = SMALL, past = [0, 0], draw }: Filming): Planes[] {
  const random = randomSource(seed);
  const [width, height] = size;
  const wide = width + BEYOND[0];
  const bytesAFrame = (width * height * 3) / 2;
  const set = seenBehind(scene, wide, height + BEYOND[1]);
  const all: Uint8Array[] = [];
  for (let f = 0; f < frames; f++) {
    const planes = blackPlanes(width, height);
    const [ox, oy] = [Math.floor(past[0] * f), Math.floor(past[1] * f)];
    const [fx, fy] = [past[0] * f - ox, past[1] * f - oy];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = 3 * ((y + oy) * wide + x + ox);
        // Between the places of what is behind: what a lens does.
        const upper = set[at] + fx * (set[at + 3] - set[at]);
        const lower = set[at + 3 * wide] + fx * (set[at + 3 * wide + 3] - set[at + 3 * wide]);
        planes.y[y * width + x] = upper + fy * (lower - upper);
        if (!((x | y) & 1)) {
          planes.u[(y >> 1) * (width >> 1) + (x >> 1)] = set[at + 1];
          planes.v[(y >> 1) * (width >> 1) + (x >> 1)] = set[at + 2];
        }
      }
    draw?.(planes, f);
    for (let i = 0; i < planes.y.length; i++)
      planes.y[i] = Math.max(16, Math.min(235, 16 + scene.light * (planes.y[i] - 16) + scene.noise * (random() + random() - 1)));
    all.push(planes.y, planes.u, planes.v);
  }
  const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-y', '-v', 'error', ...args], { cwd: folder });
  writeFileSync(join(folder, 'in.yuv'), Buffer.concat(all));
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

/** Overlap of cut-outs of a take with the truth by an empty set, in the mean over some frames. */
const cutBy = (set: ReturnType<typeof cleanPlate>, scene: Scene, take: readonly Planes[]) => {
  const backdrop = makeBackdrop(set, 1);
  const { width, height } = take[0];
  return mean(
    [0, 12, 24, 36, 48].map((f) =>
      overlap(cutOut(take[f], backdrop, { blur: { dx: 2, dy: 0 }, strokes: null }).alpha, person(blackPlanes(width, height), scene, f)),
    ),
  );
};

/** By a plate of nobody, and the take that was cut out. */
function byPlate(folder: string, scene: Scene, seed: number, size: Size): { take: Planes[]; plate: number } {
  const plate = cleanPlate(some(filmed(folder, scene, { frames: 30, seed, size }), 20), true);
  const take = filmed(folder, scene, { frames: 50, seed: seed + 1, size, draw: (planes, f) => void person(planes, scene, f) });
  return { take, plate: cutBy(plate, scene, take) };
}

/** By a plate of nobody at both sizes, by the take's own median, and by that of it and two more takes of its set-up. */
function cutOuts(folder: string, scene: Scene, seed: number): { plate: number; large: number; own: number; takes: number } {
  const { take, plate } = byPlate(folder, scene, seed, SMALL);
  const others = ELSEWHERE.map((aside, i) => {
    const walk = (t: number) => scene.walk(t) + aside;
    return filmed(folder, scene, { frames: 50, seed: seed + 2 + i, draw: (planes, f) => void person(planes, { ...scene, walk }, f) });
  });
  const all = [take, ...others].flatMap((t) => some(t, 7));
  return {
    plate,
    large: byPlate(folder, scene, seed, LARGE).plate,
    own: cutBy(cleanPlate(some(take, 20), false), scene, take),
    takes: cutBy(cleanPlate(all, false), scene, take),
  };
}

/** How far a followed place is off while the picture goes past by parts of a pixel: RMS pixels, and frames in which it was lost. */
function followed(folder: string, scene: Scene, seed: number): { rms: number; lost: number } {
  const [vx, vy] = [1.37, 0.61];
  const frames = filmed(folder, scene, { frames: 40, seed, past: [vx, vy] });
  const errors: number[] = [];
  let lost = 0;
  for (const [x, y] of [
    [200, 120],
    [330, 180],
    [450, 240],
  ]) {
    const tracker = new PointTracker(lumaOf(frames[0]), { x, y, radius: 16 });
    for (let f = 1; f < frames.length; f++) {
      const at = tracker.next(lumaOf(frames[f]));
      if (at.lost) lost++;
      else errors.push((at.x - (x - vx * f)) ** 2 + (at.y - (y - vy * f)) ** 2);
    }
  }
  return { rms: Math.sqrt(mean(errors)), lost };
}

export function cutOutRows(): AccuracyRow[] {
  const folder = mkdtempSync(join(tmpdir(), 'ribbon-cut-'));
  try {
    const found = SCENES.flatMap((scene, i) => (scene.tuned ? [] : [cutOuts(folder, scene, 10 * i + 1)]));
    // Along a blind's slats no place is to be told from the next.
    const points = SCENES.filter((s) => !s.tuned && s.light === 1 && s.behind !== blind).map((scene, i) =>
      followed(folder, scene, 100 + i),
    );
    const list = (values: readonly number[]) => values.map((v) => v.toFixed(3)).join(', ');
    return [
      [
        'cut-out through H.264 (CRF 16 to 30, 360 lines), by the plate: overlap, mean of six scenes kept out',
        `${mean(found.map((f) => f.plate)).toFixed(3)} (${list(found.map((f) => f.plate))})`,
        '0.97',
      ],
      ['the same at 720 lines', `${mean(found.map((f) => f.large)).toFixed(3)} (${list(found.map((f) => f.large))})`, '0.97'],
      [
        'the same by the median of the take itself, the performer on one place for up to half of two seconds',
        `${mean(found.map((f) => f.own)).toFixed(3)} (${list(found.map((f) => f.own))})`,
        '0.95',
      ],
      [
        'the same by the median of three takes, the performer elsewhere in each',
        `${mean(found.map((f) => f.takes)).toFixed(3)} (${list(found.map((f) => f.takes))})`,
        '0.95',
      ],
      [
        'a place followed through H.264: RMS, worst of three scenes; frames lost',
        `${Math.max(...points.map((p) => p.rms)).toFixed(3)} px; ${points.reduce((n, p) => n + p.lost, 0)} of ${points.length * 117}`,
        '0.1 px',
      ],
    ];
  } finally {
    rmSync(folder, { recursive: true });
  }
}
