import { writeFileSync, readFileSync, existsSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import baboon from 'baboon-image';
import { blackPlanes, type Planes } from '@/core/picture';
import { randomSource } from '@/core/room';
import { drawPerson, hedge } from '@/core/staged';
export interface Scene { name: string; W: number; H: number; frames: number; behind: (x: number, y: number) => readonly number[]; noise: number; crf: number; preset: string; walk: (t: number) => number; start: number; light: number }
const photo = (k: number, base: number, c: number, flip = false) => (x: number, y: number) => { const at = (ch: number) => baboon.get(flip ? 511 - (Math.round(y * 1.2) % 512) : Math.round(x) % 512, (flip ? Math.round(x * 0.7) : Math.round(y)) % 512, ch) as number; const [r, g, b] = [at(0), at(1), at(2)]; const l = 0.2126 * r + 0.7152 * g + 0.0722 * b; return [base + k * l, 128 + (c * (b - l)) / 1.8556, 128 + (c * (r - l)) / 1.5748] as const; };
const room = (x: number, y: number) => { const tile = ((x / 40) | 0) + ((y / 40) | 0); const seam = x % 40 < 2 || y % 40 < 2; return [seam ? 70 : 120 + (tile & 1) * 25 + 0.05 * x, 124 + (x > 400 ? 10 : 0), 131] as const; };
const h = hedge(640, 360);
export const SCENES: Scene[] = [
 { name: 'fur18', behind: photo(0.35, 70, 0.5), noise: 4, crf: 18, preset: 'veryfast', walk: (t) => 130 + 110 * t, start: 0, light: 1 },
 { name: 'fur28', behind: photo(0.5, 50, 0.7, true), noise: 4, crf: 28, preset: 'veryfast', walk: (t) => 450 - 90 * t, start: 3, light: 1 },
 { name: 'hedge24', behind: (x, y) => h(x, y, 0), noise: 5, crf: 24, preset: 'veryfast', walk: (t) => 150 + 150 * t, start: 6, light: 1 },
 { name: 'room20', behind: room, noise: 3, crf: 20, preset: 'ultrafast', walk: (t) => 200 + 60 * t, start: 2, light: 1 },
 { name: 'room30', behind: (x, y) => room(x * 1.4 + 11, y * 1.3), noise: 7, crf: 30, preset: 'veryfast', walk: (t) => 330 + 20 * Math.sin(3 * t), start: 9, light: 0.55 },
 { name: 'dark26', behind: photo(0.22, 30, 0.3), noise: 6, crf: 26, preset: 'veryfast', walk: (t) => 260 + 60 * t, start: 4, light: 0.5 },
 { name: 'strong16', behind: photo(0.8, 20, 0.9, true), noise: 2, crf: 16, preset: 'medium', walk: (t) => 180 + 100 * t, start: 7, light: 1 },
].map((s) => ({ W: 640, H: 360, frames: 50, ...s }));
export function person(planes: Planes, s: Scene, f: number) { return drawPerson(planes, { x: s.walk(f / 25), floor: 0.96 * s.H, tall: 0.8 * s.H, seconds: s.start + f / 25 }); }
if (process.argv[1].includes('tmp-gen')) for (const s of SCENES) for (const kind of ['plate', 'walk']) {
  const out = `/tmp/cutq/${s.name}-${kind}`; const all: Uint8Array[] = []; const random = randomSource(s.name.length * 7 + kind.length);
  for (let f = 0; f < (kind === 'plate' ? 30 : s.frames); f++) { const p = blackPlanes(s.W, s.H);
    for (let y = 0; y < s.H; y++) for (let x = 0; x < s.W; x++) { const [l, u, v] = s.behind(x, y); p.y[y * s.W + x] = l; if (!(x & 1) && !(y & 1)) { p.u[(y >> 1) * 320 + (x >> 1)] = u; p.v[(y >> 1) * 320 + (x >> 1)] = v; } }
    if (kind === 'walk') person(p, s, f);
    for (let i = 0; i < p.y.length; i++) p.y[i] = Math.max(16, Math.min(235, 16 + s.light * (p.y[i] - 16) + s.noise * (random() + random() - 1)));
    all.push(p.y, p.u, p.v); }
  writeFileSync(`${out}.yuv`, Buffer.concat(all));
  execFileSync('ffmpeg', ['-y', '-v', 'error', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-s', '640x360', '-r', '25', '-i', `${out}.yuv`, '-c:v', 'libx264', '-preset', s.preset, '-crf', String(s.crf), `${out}.mp4`]);
  execFileSync('ffmpeg', ['-y', '-v', 'error', '-i', `${out}.mp4`, '-f', 'rawvideo', '-pix_fmt', 'yuv420p', `${out}.yuv`]);
}
