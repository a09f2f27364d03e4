import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import baboon from 'baboon-image';
import { blackPlanes, type Planes } from '../src/core/picture/index';
import { randomSource } from '../src/core/room/index';
import { drawPerson } from '../src/core/staged/index';
import { ffmpeg, scratch } from './helpers';
import { X264 } from './stored';

/** What is behind a performer: Y, U and V at a place of a frame. */
type Behind = (x: number, y: number, frame: number) => readonly [number, number, number];

/** A photograph (of the npm package baboon-image) as a wall, that goes past by so many pixels a frame. */
export const photographWall =
  (past = 0): Behind =>
  (x, y, frame) => {
    const [r, g, b] = [0, 1, 2].map((c) => baboon.get(Math.abs(Math.round(x + past * frame)) % 512, Math.round(y) % 512, c) as number);
    const l = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    return [70 + 0.35 * l, 128 + (0.5 * (b - l)) / 1.8556, 128 + (0.5 * (r - l)) / 1.5748];
  };

/** A tiled wall that goes past by so many pixels a frame, as before a camera that pans. */
export const tiles =
  (past: number): Behind =>
  (x, y, frame) => {
    const at = x + past * frame;
    const seam = at % 40 < 2 || y % 40 < 2;
    const odd = (Math.floor(at / 40) + Math.floor(y / 40)) % 2;
    return [seam ? 80 : 150 + 20 * odd + 0.03 * x, 120, 131];
  };

/** A green backing lit unevenly. */
export const greenBacking: Behind = (x, y) => [120 + 20 * Math.sin(x / 160) + 8 * Math.sin(y / 90), 84, 62];

export interface Filmed {
  file: string;
  /** How much of each pixel the performer covers on a frame, 0..1. */
  truth: (frame: number) => Float32Array;
}

/** Films a dressed performer, or nobody with `walk` null, before something; noisy and compressed as a phone does it. */
export function filmPerformer(
  name: string,
  {
    width,
    height,
    seconds,
    behind,
    walk,
  }: { width: number; height: number; seconds: number; behind: Behind; walk: ((seconds: number) => number) | null },
): Filmed {
  const frames = Math.round(25 * seconds);
  const all: Uint8Array[] = [];
  const random = randomSource(name.length * 31 + 7);
  const set = (f: number, planes: Planes) => {
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [l, u, v] = behind(x, y, f);
        planes.y[y * width + x] = l;
        if (x % 2 === 0 && y % 2 === 0) {
          planes.u[(y >> 1) * (width >> 1) + (x >> 1)] = u;
          planes.v[(y >> 1) * (width >> 1) + (x >> 1)] = v;
        }
      }
  };
  const person = (planes: Planes, f: number) => {
    const at = { x: walk?.(f / 25) ?? 0, floor: 0.96 * height, tall: 0.8 * height, seconds: f / 25 };
    return walk ? drawPerson(planes, at) : new Float32Array(width * height);
  };
  for (let f = 0; f < frames; f++) {
    const planes = blackPlanes(width, height);
    set(f, planes);
    person(planes, f);
    for (let i = 0; i < planes.y.length; i++) planes.y[i] = Math.max(0, Math.min(255, planes.y[i] + 4 * (random() + random() - 1)));
    all.push(planes.y, planes.u, planes.v);
  }
  writeFileSync(join(scratch, `${name}.yuv`), Buffer.concat(all));
  ffmpeg(
    '-f',
    'rawvideo',
    '-pix_fmt',
    'yuv420p',
    '-s',
    `${width}x${height}`,
    '-r',
    '25',
    '-i',
    `${name}.yuv`,
    ...X264,
    '-crf',
    '18',
    '-g',
    '50',
    `${name}.mp4`,
  );
  return { file: join(scratch, `${name}.mp4`), truth: (f) => person(blackPlanes(width, height), f) };
}
