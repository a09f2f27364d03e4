/**
 * Makes the small moving picture of every measure from the demo's takes: `npx tsx scripts/measure-pictures.ts` writes
 * `public/measures/KIND.webp` and a still of each. What is found in the takes is found by the core's own measures. Needs ffmpeg.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { cleanPlate, cutOut, lumaOf, makeBackdrop, medianLuma, PointTracker, shrink } from '../src/core/measure';
import { blackPlanes, type Planes, planesOver, toRgba } from '../src/core/picture';
import { MEASURES } from '../src/views/takes/measures';

const [W, H, RATE] = [320, 180, 10];
const OUT = 'public/measures';
const PAPER = [242, 238, 228] as const;
const MARK = [196, 58, 44] as const;
type Colour = readonly [number, number, number];
/** A picture as bytes of red, green and blue. */
type Shown = Buffer;

/** Frames of a demo take, small, `RATE` a second. */
function takes(name: string, from: number, seconds: number): Planes[] {
  const bytes = execFileSync(
    'ffmpeg',
    [
      ...['-v', 'error', '-ss', String(from), '-t', String(seconds), '-i', `public/demo/${name}.mp4`],
      ...['-vf', `fps=${RATE},scale=${W}:${H}:flags=area,format=yuv420p`, '-f', 'rawvideo', '-'],
    ],
    { maxBuffer: 1e9 },
  );
  const size = (W * H * 3) / 2;
  return Array.from({ length: bytes.length / size }, (_, i) => planesOver(new Uint8Array(bytes.subarray(i * size, (i + 1) * size)), W, H));
}

function shown(planes: Planes): Shown {
  const rgba = new Uint8ClampedArray(4 * W * H);
  toRgba(planes, rgba);
  return Buffer.from(rgba.filter((_, i) => i % 4 < 3));
}

const dot = (to: Shown, x: number, y: number, colour: Colour, half = 1): void => {
  for (let j = Math.round(y) - half; j <= Math.round(y) + half; j++)
    for (let i = Math.round(x) - half; i <= Math.round(x) + half; i++)
      if (i >= 0 && j >= 0 && i < W && j < H) to.set(colour, 3 * (j * W + i));
};

function line(to: Shown, [x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number], colour: Colour, half = 1): void {
  const steps = Math.ceil(Math.max(Math.abs(x1 - x0), Math.abs(y1 - y0), 1));
  for (let k = 0; k <= steps; k++) dot(to, x0 + ((x1 - x0) * k) / steps, y0 + ((y1 - y0) * k) / steps, colour, half);
}

/** A strip of paper along the foot with the values so far as a curve; `marked` is where something is told. */
function charted(to: Shown, values: readonly number[], now: number, marked: number | null = null): Shown {
  const top = H - 46;
  for (let y = top; y < H; y++) for (let x = 0; x < W; x++) to.set(PAPER, 3 * (y * W + x));
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const at = (i: number) => [8 + ((W - 16) * i) / (values.length - 1), H - 8 - 30 * ((values[i] - low) / (high - low || 1))] as const;
  if (marked !== null && now >= marked) line(to, [at(marked)[0], top], [at(marked)[0], H - 1], MARK);
  for (let i = 1; i <= now; i++) line(to, at(i - 1), at(i), [40, 38, 34]);
  return to;
}

/** A picture moved by whole pixels, its edge going on outside. */
function moved({ width, height, ...of }: Planes, dx: number, dy: number): Planes {
  const out = blackPlanes(width, height);
  for (const [part, by] of [
    ['y', 1],
    ['u', 2],
    ['v', 2],
  ] as const) {
    const [w, h] = [width / by, height / by];
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const [sx, sy] = [Math.min(w - 1, Math.max(0, x - Math.round(dx / by))), Math.min(h - 1, Math.max(0, y - Math.round(dy / by)))];
        out[part][y * w + x] = of[part][sy * w + sx];
      }
  }
  return out;
}

const lit = (planes: Planes, gain: number): Planes => ({ ...planes, y: planes.y.map((v) => Math.min(235, 16 + gain * (v - 16))) });

/** Out of focus: the mean of what is around. */
function soft(planes: Planes, reach: number): Planes {
  if (reach < 1) return planes;
  const out = { ...planes, y: new Uint8Array(planes.y.length) };
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      let [sum, n] = [0, 0];
      for (let j = Math.max(0, y - reach); j <= Math.min(H - 1, y + reach); j++)
        for (let i = Math.max(0, x - reach); i <= Math.min(W - 1, x + reach); i++, n++) sum += planes.y[j * W + i];
      out.y[y * W + x] = sum / n;
    }
  return out;
}

const walk = takes('take-3-outfit-two', 0.3, 3);
const empty = takes('take-1-clean-plate', 1, 2);
const [left, right] = ['p1', 'p2'].map((p) => takes(`clones-the-hand-over-place-${p}`, 2, 2.7));
const middle = Math.round(walk.length / 2);

/** What is left of who stands at one place in one take and at another in the next: the median of ever more frames. */
function emptied(): Shown[] {
  const all = [0, 9, 18].flatMap((k) => [left[k], right[k], empty[k % empty.length]]);
  return left.map((frame, i) => {
    const count = 1 + 2 * Math.min(4, Math.max(0, Math.floor((i - 4) / 4)));
    if (count === 1) return shown(frame);
    const plane = (part: 'y' | 'u' | 'v', by: number) =>
      medianLuma(all.slice(0, count).map((p) => ({ width: W / by, height: H / by, data: p[part] }))).data;
    return shown({ ...frame, y: plane('y', 1), u: plane('u', 2), v: plane('v', 2) });
  });
}

function cutOuts(): Shown[] {
  const backdrop = makeBackdrop(cleanPlate(empty, true), 1);
  return walk.map((frame, i) => {
    const { alpha } = cutOut(frame, backdrop, { blur: { dx: 2, dy: 0 }, strokes: null });
    const out = shown(frame);
    // The room goes as the film goes on.
    const gone = Math.min(1, Math.max(0, (i - 6) / 8));
    for (let k = 0; k < W * H; k++) {
      const check = ((Math.floor((k % W) / 12) + Math.floor(k / W / 12)) & 1) === 0 ? 205 : 165;
      const share = gone * (1 - alpha[k] / 255);
      for (let c = 0; c < 3; c++) out[3 * k + c] += share * (check - out[3 * k + c]);
    }
    return out;
  });
}

/** Two takes along a line that is drawn down as the film goes on. */
function along(): Shown[] {
  return left.map((frame, i) => {
    const [a, b] = [shown(frame), shown(right[Math.min(i, right.length - 1)])];
    const x = (y: number) => W / 2 + 10 * Math.sin(y / 26);
    const drawn = Math.min(H, (H * i) / 12);
    for (let y = 0; y < H; y++) b.copy(a, 3 * (y * W + Math.round(x(y))), 3 * (y * W + Math.round(x(y))), 3 * (y + 1) * W);
    for (let y = 1; y < drawn; y++) line(a, [x(y - 1), y - 1], [x(y), y], MARK, 0);
    return a;
  });
}

/** Where the two hands are nearest, with a ring that closes on it. */
function contacts(): Shown[] {
  return along().map((picture, i) => {
    const radius = Math.max(12, 70 - 4 * i);
    for (let a = 0; a < 720; a++)
      dot(picture, W / 2 + radius * Math.cos((a * Math.PI) / 360), 0.52 * H + radius * Math.sin((a * Math.PI) / 360), MARK);
    return picture;
  });
}

/** What two microphones heard, as strips: the second slides until both are alike. */
function heard(): Shown[] {
  const wave = (at: number) => Math.abs(Math.sin(at / 3.1) * Math.sin(at / 11.7) * Math.sin(at / 29.3 + 1));
  return Array.from({ length: 30 }, (_, i) => {
    const out = Buffer.alloc(3 * W * H);
    for (let k = 0; k < W * H; k++) out.set(PAPER, 3 * k);
    const off = 46 * Math.max(0, 1 - i / 18) ** 2;
    for (let x = 6; x < W - 6; x += 3) {
      line(out, [x, 50 - 34 * wave(x)], [x, 50 + 34 * wave(x)], [40, 38, 34], 0);
      line(out, [x, 130 - 34 * wave(x - off)], [x, 130 + 34 * wave(x - off)], off < 1 ? MARK : [120, 114, 104], 0);
    }
    return out;
  });
}

/** A place on the performer that is followed. */
function followed(): Shown[] {
  const small = walk.map((p) => shrink(lumaOf(p), 1));
  const plate = cleanPlate(empty, true);
  const { alpha } = cutOut(walk[0], makeBackdrop(plate, 1), { blur: { dx: 2, dy: 0 }, strokes: null });
  let [x, y, n] = [0, 0, 0];
  for (let k = 0; k < alpha.length; k++)
    if (alpha[k] > 128) {
      x += k % W;
      y += Math.floor(k / W);
      n++;
    }
  const tracker = new PointTracker(small[0], { x: x / n, y: y / n - 20, radius: 14 });
  const way: [number, number][] = [];
  return walk.map((frame, i) => {
    const at = i === 0 ? { x: x / n, y: y / n - 20 } : tracker.next(small[i]);
    way.push([at.x, at.y]);
    const out = shown(frame);
    for (let k = 1; k < way.length; k++) line(out, way[k - 1], way[k], PAPER, 0);
    line(out, [at.x - 12, at.y], [at.x + 12, at.y], MARK);
    line(out, [at.x, at.y - 12], [at.x, at.y + 12], MARK);
    return out;
  });
}

/** A recording as a strip, cut where nothing moves. */
function parts(): Shown[] {
  const busy = (s: number) => (s < 0.28 || (s > 0.4 && s < 0.62) || s > 0.72 ? 1 : 0.08) * (0.55 + 0.45 * Math.abs(Math.sin(37 * s)));
  const values = Array.from({ length: 120 }, (_, i) => busy(i / 119));
  return walk.map((frame, i) => {
    const now = Math.min(119, Math.round((119 * i) / (walk.length - 6)));
    const out = charted(shown(frame), values, now);
    for (const cut of [0.34, 0.67]) if (now / 119 > cut) line(out, [8 + (W - 16) * cut, H - 46], [8 + (W - 16) * cut, H - 1], MARK);
    return out;
  });
}

const knock = walk.map((_, i) => (i < 14 ? 0 : 9 * Math.exp(-(i - 14) / 4) * Math.cos((i - 14) * 1.9)));
const fade = walk.map((_, i) => 1 - 0.35 * Math.min(1, Math.max(0, (i - 8) / 12)) + (i % 2 ? 0.02 : -0.02));
const blur = walk.map((_, i) => Math.round(3 * Math.max(0, 1 - Math.abs(i - 17) / 6)));

const PICTURES: Record<(typeof MEASURES)[number]['kind'], () => Shown[]> = {
  steadiness: () => walk.map((frame, i) => charted(shown(moved(frame, knock[i], knock[i] / 2)), knock, i, 14)),
  light: () => walk.map((frame, i) => charted(shown(lit(frame, fade[i])), fade, i)),
  sharpness: () =>
    walk.map((frame, i) =>
      charted(
        shown(soft(frame, blur[i])),
        blur.map((b) => -b),
        i,
        17,
      ),
    ),
  cut: parts,
  sync: heard,
  seam: along,
  contacts,
  set: emptied,
  figure: cutOuts,
  points: followed,
};

mkdirSync(OUT, { recursive: true });
for (const { kind } of MEASURES) {
  const frames = PICTURES[kind]();
  const raw = ['-y', '-v', 'error', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', `${W}x${H}`, '-r', String(RATE), '-i', '-'];
  const small = ['-vf', 'scale=192:108:flags=area'];
  const webp = ['-c:v', 'libwebp_anim', '-lossless', '0', '-q:v', '45', '-compression_level', '6', '-loop', '0'];
  // It rests on its end before it begins anew.
  const last = frames[frames.length - 1];
  execFileSync('ffmpeg', [...raw, ...small, ...webp, `${OUT}/${kind}.webp`], { input: Buffer.concat([...frames, ...Array(6).fill(last)]) });
  execFileSync('ffmpeg', [...raw, ...small, '-frames:v', '1', '-q:v', '6', `${OUT}/${kind}.jpg`], {
    input: frames[kind === 'sharpness' ? 17 : middle],
  });
}
