/**
 * One picture of every effect, done on a frame of the demo: `npx tsx scripts/contact-sheet.ts` writes `docs/effects.png` and its captions
 * into `docs/effects.md`, and into `public/effects` a small moving picture of each, which it passes over from one side, and a still. Needs ffmpeg.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { appliedEffect, clearedBy, EFFECTS, withEffect } from '../src/core/effects';
import { blackPlanes, compose, type Planes, planesOver, wholeLayer } from '../src/core/picture';

const [W, H, ACROSS] = [320, 180, 4];
/** The planes of a picture, and by how much each is smaller than it. */
const PARTS = [
  ['y', 1],
  ['u', 2],
  ['v', 2],
] as const;

/** Numbers that show what an effect does, where those half way to the end do not. */
const SHOWN: Record<string, Record<string, number>> = {
  exposure: { amount: 1.2 },
  contrast: { amount: 180 },
  saturation: { amount: 220 },
  temperature: { kelvin: 3200 },
  hue: { amount: 120 },
  curves: { all25: -12, all75: 14, b25: 10 },
  'lift gamma gain': { lift: 8, gammaB: 140, gainR: 115 },
  tones: { amount: 100, darkHue: 220, darkSaturation: 60, middleHue: 330, middleSaturation: 50, lightHue: 45, lightSaturation: 70 },
  invert: { amount: 100 },
  posterise: { steps: 5 },
  blur: { amount: 2 },
  'directional blur': { amount: 14, angle: 20 },
  'zoom blur': { amount: 25 },
  'spin blur': { amount: 14 },
  sharpen: { amount: 250, radius: 1 },
  glow: { amount: 150, from: 55, radius: 5 },
  vignette: { amount: 85 },
  grain: { amount: 9, size: 0.6 },
  flicker: { amount: 2, seed: 3 },
  mosaic: { size: 6 },
  crystals: { size: 6, seed: 2 },
  displace: { amount: 4, wave: 1, size: 30 },
  'lens distortion': { amount: 60 },
  'chromatic shift': { amount: 2.5 },
  mirror: { side: 1 },
  tile: { amount: 3, mirrored: 1 },
  dissolve: { amount: 45, pieces: 1, size: 5 },
  'chroma key': { range: 9, softness: 6, hue: 165, strength: 20 },
  'luma key': { from: 45, softness: 10 },
  spill: { amount: 100, hue: 30 },
};

/** A table as one from a file: shadows towards blue, highlights towards orange. */
const TABLES = new Map([
  [
    'table',
    {
      kind: '1D' as const,
      side: 3,
      low: [0, 0, 0],
      high: [1, 1, 1],
      values: Float32Array.of(0, 0.03, 0.16, 0.55, 0.5, 0.46, 1, 0.93, 0.78),
    },
  ],
]);

const raw = execFileSync('ffmpeg', [
  ...['-v', 'error', '-ss', '4', '-i', 'public/demo/take-3-outfit-two.mp4', '-frames:v', '1'],
  ...['-vf', `scale=${W}:${H}:flags=area,format=yuv420p`, '-f', 'rawvideo', '-'],
]);
const frame = planesOver(new Uint8Array(raw), W, H);

function shown(kind: string, numbers: Readonly<Record<string, { otherwise: number }>>): Planes {
  const otherwise = Object.fromEntries(Object.entries(numbers).map(([name, n]) => [name, n.otherwise]));
  const effect = appliedEffect(kind, { ...otherwise, ...SHOWN[kind] }, { width: W, height: H, index: 0 }, 'table');
  if (!effect) throw new Error(`Nothing is shown of the effect “${kind}”.`);
  const alpha = clearedBy(frame, [effect]);
  if (!alpha) return withEffect(frame, effect, TABLES);
  const out = blackPlanes(W, H);
  const coverage = { kind: 'matte', matteId: 'key', map: { a: 1, b: 0, c: 0, d: 0, e: 1, f: 0 } } as const;
  compose([wholeLayer(frame, { coverage })], out, new Map([['key', { width: W, height: H, alpha }]]));
  return out;
}

const tiles = [{ name: 'As filmed', planes: frame }, ...EFFECTS.map(({ kind, name, numbers }) => ({ name, planes: shown(kind, numbers) }))];
const sheet = blackPlanes(ACROSS * W, Math.ceil(tiles.length / ACROSS) * H);
tiles.forEach(({ planes }, i) => {
  const [left, top] = [(i % ACROSS) * W, Math.floor(i / ACROSS) * H];
  for (const [part, by] of PARTS)
    for (let row = 0; row < H / by; row++)
      sheet[part].set(planes[part].subarray((row * W) / by, ((row + 1) * W) / by), ((top / by + row) * sheet.width) / by + left / by);
});
execFileSync(
  'ffmpeg',
  ['-y', '-v', 'error', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-s', `${sheet.width}x${sheet.height}`, '-i', '-', 'docs/effects.png'],
  { input: Buffer.concat([sheet.y, sheet.u, sheet.v]) },
);
const rows = Array.from({ length: Math.ceil(tiles.length / ACROSS) }, (_, k) => tiles.slice(k * ACROSS, (k + 1) * ACROSS));
const line = (cells: readonly string[]) => `| ${Array.from({ length: ACROSS }, (_, i) => cells[i] ?? '').join(' | ')} |`;
writeFileSync(
  'docs/effects.md',
  [
    '# Effects',
    '',
    'Every effect on a frame of the demo, row by row as in the table; made by `npx tsx scripts/contact-sheet.ts`. Each is checked against something outside in `src/core/effects/*.test.ts`.',
    '',
    '![All effects](effects.png)',
    '',
    line([]),
    `|${' --- |'.repeat(ACROSS)}`,
    ...rows.map((row) => line(row.map(({ name }) => name))),
    '',
  ].join('\n'),
);

/** Frames of a small moving picture: it passes over, rests, and passes off again. */
const [PASS, REST, RATE] = [10, 8, 10];
const passes = Array.from({ length: PASS + 1 }, (_, i) => i / PASS);
const course = [...passes, ...Array<number>(REST).fill(1), ...passes.toReversed(), ...Array<number>(REST / 2).fill(0)];

/** The frame with what was done to it left of a place, 0 to 1. */
function passed(done: Planes, at: number): Buffer {
  const out = blackPlanes(W, H);
  for (const part of ['y', 'u', 'v'] as const) out[part].set(done[part]);
  const edge = 2 * Math.round((at * W) / 2);
  for (const [part, by] of PARTS)
    for (let row = 0; row < H / by; row++) {
      const from = (row * W) / by;
      out[part].set(frame[part].subarray(from + edge / by, from + W / by), from + edge / by);
    }
  return Buffer.concat([out.y, out.u, out.v]);
}

mkdirSync('public/effects', { recursive: true });
for (const { kind, numbers } of EFFECTS) {
  const done = shown(kind, numbers);
  const raw = ['-y', '-v', 'error', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-s', `${W}x${H}`, '-r', String(RATE), '-i', '-'];
  const name = `public/effects/${kind.replaceAll(' ', '-')}`;
  const small = ['-vf', 'scale=192:108:flags=area'];
  execFileSync(
    'ffmpeg',
    [...raw, ...small, '-c:v', 'libwebp_anim', '-lossless', '0', '-q:v', '40', '-compression_level', '6', '-loop', '0', `${name}.webp`],
    {
      input: Buffer.concat(course.map((at) => passed(done, at))),
    },
  );
  execFileSync('ffmpeg', [...raw, ...small, '-frames:v', '1', '-q:v', '6', `${name}.jpg`], { input: passed(done, 0.5) });
}
