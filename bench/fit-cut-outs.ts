/**
 * What the limits of the cut-out are chosen by: overlaps on scenes that `bench/cut-outs.ts` does not have, and how far edges are off.
 * `npx tsx bench/fit-cut-outs.ts`, with `720` at that many lines.
 */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Behind, cutOuts, LARGE, photograph, type Scene, SMALL, tiles } from './cut-outs';

/** A number from 0 to 1 for a place of a grid. */
const chance = (x: number, y: number) => {
  const v = Math.sin(x * 127.1 + y * 311.7) * 43758.5453;
  return v - Math.floor(v);
};
const smooth = (t: number) => t * t * (3 - 2 * t);
const between = (a: number, b: number, t: number) => a + (b - a) * t;
/** Value noise: a number from 0 to 1 that changes over a pixel or so. */
function noise(x: number, y: number): number {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const across = smooth(x - i);
  const row = (k: number) => between(chance(i, k), chance(i + 1, k), across);
  return between(row(j), row(j + 1), smooth(y - j));
}
const rough = (x: number, y: number) => (8 * noise(x, y) + 4 * noise(2 * x, 2 * y) + 2 * noise(4 * x, 4 * y) + noise(8 * x, 8 * y)) / 15;

const bricks: Behind = (x, y) => {
  const row = Math.floor(y / 18);
  const along = x + (row & 1) * 22;
  if (y % 18 < 2 || along % 44 < 2) return [150, 126, 131];
  const own = chance(Math.floor(along / 44), row);
  return [85 + 40 * own + 12 * noise(x / 3, y / 3), 114 + 4 * own, 146 + 6 * own];
};
const planks: Behind = (x, y) => {
  const plank = Math.floor(x / 60);
  const grain = x % 60 < 2 ? 0 : 25 * Math.sin(14 * rough(x / 18 + 9 * plank, y / 160));
  return [110 + 30 * chance(plank, 1) + grain, 112, 139];
};
const plaster: Behind = (x, y) => [120 + 60 * (rough(x / 22, y / 22) - 0.5) + 0.04 * x, 124 + 6 * noise(x / 90, y / 90), 133];
const curtain: Behind = (x, y) => [100 + 45 * Math.sin(x / 9 + 2 * noise(x / 60, y / 120)), 136 - 8 * noise(x / 40, 1), 122];
const dots: Behind = (x, y) => (Math.hypot((x % 26) - 13, (y % 26) - 13) < 6 ? [190, 120, 140] : [140, 126, 130]);
const lamps: Behind = (x, y) => {
  let [light, tint] = [30, 0];
  for (let k = 0; k < 14; k++) {
    if (Math.hypot(x - 1330 * chance(k, 3), y - 720 * chance(k, 7)) > 18 + 30 * chance(k, 9)) continue;
    light += 90 * chance(k, 11);
    tint += 12 * (chance(k, 13) - 0.5);
  }
  return [Math.min(220, light + 12 * noise(x / 14, y / 14)), 128 + tint, 128 - tint];
};
const grass: Behind = (x, y) => [60 + 70 * noise(x / 1.7, y / 6) * (0.4 + 0.6 * noise(x / 30, y / 30)), 108, 116];
const posters: Behind = (x, y) => {
  const [column, row] = [Math.floor(x / 130), Math.floor(y / 190)];
  const inside = x % 130 > 20 && x % 130 < 110 && y % 190 > 30 && y % 190 < 160;
  const own = chance(column, row);
  return inside ? [60 + 130 * noise(x / 11 + 50 * own, y / 11), 110 + 36 * own, 110 + 40 * chance(column, 99)] : [165 - 0.05 * y, 126, 129];
};

const SCENES: readonly Scene[] = [
  { behind: photograph(0.35, 70, 0.5), noise: 4, light: 1, crf: 18, preset: 'veryfast', walk: (t) => 130 + 110 * t, start: 0 },
  { behind: tiles, noise: 3, light: 1, crf: 20, preset: 'ultrafast', walk: (t) => 200 + 60 * t, start: 2 },
  { behind: photograph(0.22, 30, 0.3), noise: 6, light: 0.5, crf: 26, preset: 'veryfast', walk: (t) => 260 + 60 * t, start: 4 },
  { behind: bricks, noise: 4, light: 1, crf: 23, preset: 'veryfast', walk: (t) => 160 + 90 * t, start: 2 },
  { behind: planks, noise: 5, light: 0.7, crf: 28, preset: 'veryfast', walk: (t) => 400 - 60 * t, start: 5 },
  { behind: plaster, noise: 6, light: 1, crf: 20, preset: 'ultrafast', walk: (t) => 220 + 100 * t, start: 8 },
  { behind: curtain, noise: 3, light: 0.9, crf: 26, preset: 'fast', walk: (t) => 300 + 50 * t, start: 0 },
  { behind: dots, noise: 4, light: 1, crf: 29, preset: 'veryfast', walk: (t) => 430 - 110 * t, start: 4 },
  { behind: lamps, noise: 7, light: 1, crf: 25, preset: 'veryfast', walk: (t) => 200 + 70 * t, start: 11 },
  { behind: grass, noise: 3, light: 1, crf: 24, preset: 'medium', walk: (t) => 250 + 80 * t, start: 6 },
  { behind: posters, noise: 5, light: 0.6, crf: 22, preset: 'veryfast', walk: (t) => 350 - 40 * t, start: 13 },
];

const folder = mkdtempSync(join(tmpdir(), 'ribbon-fit-cut-'));
try {
  const size = process.argv.includes('720') ? LARGE : SMALL;
  const found = SCENES.map((scene, i) => cutOuts(folder, scene, 10 * i + 1, size));
  for (const way of ['plate', 'takes'] as const) {
    const each = found.map((f) => `${f[way].overlap.toFixed(3)} (${f[way].edge.toFixed(2)} px)`);
    const all = found.reduce((sum, f) => sum + f[way].overlap, 0) / found.length;
    console.log(`${size[1]} lines, ${way}: ${all.toFixed(4)}: ${each.join(', ')}`);
  }
} finally {
  rmSync(folder, { recursive: true });
}
