/** Takes filmed from elsewhere than their reference: how many of made-up camera moves are found, and how near. */
import { execFileSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import baboon from 'baboon-image';
import { bestLie, featureGuesses, LockMeter, type Luma, makeReference, medianLuma } from '../src/core/measure';
import { chained, cornersApart, type Homography, ofMove } from '../src/core/picture';
import { randomSource } from '../src/core/room';
import type { AccuracyRow } from './accuracy';

// Required, not imported: the module is itself a thenable, which an import would wait on for ever.
const cv = createRequire(import.meta.url)('@techstark/opencv-js');
const DEMO = join(process.cwd(), 'public/demo');
const [W, H] = [1280, 720];
/** Moves of each kind and pair of pictures. */
const EACH = 6;

/** The median of a second of a film, as the measures take it. */
function opening(file: string, from: number): Luma {
  const frames = Array.from({ length: 5 }, (_, i) => {
    const args = ['-v', 'error', '-ss', String(from + i / 5), '-i', join(DEMO, file), '-frames:v', '1'];
    const raw = execFileSync('ffmpeg', [...args, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], { maxBuffer: 1e8 });
    return { width: W, height: H, data: new Uint8Array(raw) };
  });
  return medianLuma(frames);
}

/** A photograph from the npm package baboon-image, as BT.709 brightness. */
function photograph(): Luma {
  const data = Uint8Array.from({ length: 512 * 512 }, (_, i) => {
    const rgb = [0, 1, 2].map((c) => baboon.get(i % 512, Math.floor(i / 512), c));
    return 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
  });
  return { width: 512, height: 512, data };
}

/** A camera of 62° across, panned and tilted by degrees and then rolled, zoomed and shifted by shares of the frame. */
function camera(width: number, pan: number, tilt: number, turn: number, scale: number, shift: number): Homography {
  const focal = width / 2 / Math.tan((31 * Math.PI) / 180);
  const [p, t] = [Math.tan((pan * Math.PI) / 180), Math.tan((tilt * Math.PI) / 180)];
  const [cp, ct] = [1 / Math.hypot(1, p), 1 / Math.hypot(1, t)];
  const panned: Homography = [1, 0, focal * p, 0, 1 / cp, 0, -p / focal, 0];
  const tilted: Homography = [1 / ct, 0, 0, 0, 1, -focal * t, 0, t / focal];
  return chained(ofMove({ dx: shift * width, dy: 0, turn, scale }), chained(tilted, panned));
}

/** A picture from there by OpenCV's Lanczos filter, in other light, softer, with noise. */
function filmedFrom({ width, height, data }: Luma, map: Homography, random: () => number): Luma {
  const times = (p: readonly number[], q: readonly number[]) =>
    Array.from({ length: 9 }, (_, i) => [0, 1, 2].reduce((s, k) => s + p[3 * Math.floor(i / 3) + k] * q[3 * k + (i % 3)], 0));
  const [cx, cy] = [width / 2 - 0.5, height / 2 - 0.5];
  const matrix = times([1, 0, cx, 0, 1, cy, 0, 0, 1], times([...map, 1], [1, 0, -cx, 0, 1, -cy, 0, 0, 1]));
  const [src, dst, m] = [cv.matFromArray(height, width, cv.CV_8UC1, data), new cv.Mat(), cv.matFromArray(3, 3, cv.CV_64FC1, matrix)];
  cv.warpPerspective(src, dst, m, new cv.Size(width, height), cv.INTER_LANCZOS4, cv.BORDER_REFLECT, new cv.Scalar());
  const soft = 0.2 + random();
  cv.GaussianBlur(dst, dst, new cv.Size(0, 0), soft, soft);
  const gain = 0.75 + 0.5 * random();
  const seen = Uint8Array.from(dst.data as Uint8Array, (v) =>
    Math.max(0, Math.min(255, Math.round(16 + (v - 16) * gain + (random() + random() + random() - 1.5) * 1.4))),
  );
  for (const mat of [src, dst, m]) mat.delete();
  return { width, height, data: seen };
}

export async function elsewhereRows(): Promise<AccuracyRow[]> {
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
  const [empty, one] = [opening('take-1-clean-plate.mp4', 0.2), opening('take-2-outfit-one.mp4', 0.2)];
  const photo = photograph();
  // A performer in the one and nobody in the other; a performer in both; and another scene altogether.
  const pairs: (readonly [Luma, Luma])[] = [
    [empty, one],
    [one, opening('take-2-outfit-one.mp4', 8)],
    [photo, photo],
  ];
  const random = randomSource(41);
  const to = (most: number) => (2 * random() - 1) * most;
  const kinds: (readonly [string, (width: number) => Homography])[] = [
    ['put back: to 5° and 3 %, a tenth of the frame', (w) => camera(w, to(3), to(2), to(5), 1 + to(0.03), to(0.1))],
    ['a quarter of the frame aside', (w) => camera(w, 0, 0, to(2), 1, Math.sign(to(1)) * 0.25)],
    ['turned by 15°', (w) => camera(w, 0, 0, Math.sign(to(1)) * 15, 1, to(0.05))],
    ['0.8 or 1.25 times as large', (w) => camera(w, 0, 0, to(2), random() < 0.5 ? 0.8 : 1.25, to(0.05))],
    ['panned to 12°, tilted to 6°', (w) => camera(w, to(12), to(6), to(3), 1, 0)],
  ];
  return kinds.map(([name, make]): AccuracyRow => {
    let [all, near] = [0, 0];
    const errors: number[] = [];
    for (const [reference, other] of pairs) {
      for (let i = 0; i < EACH; i++, all++) {
        const map = make(reference.width);
        const seen = filmedFrom(other, map, random);
        const plain = new LockMeter(makeReference([reference])).read(seen);
        if (plain.trusted && cornersApart(ofMove(plain), map, seen.width, seen.height) < 1) near++;
        const lie = bestLie(reference, seen, featureGuesses(cv, reference, seen));
        if (lie) errors.push(cornersApart(lie.map, map, seen.width, seen.height));
      }
    }
    errors.sort((a, b) => a - b);
    const at = (share: number) => (errors[Math.min(errors.length - 1, Math.floor(share * errors.length))] ?? Number.NaN).toFixed(2);
    return [
      `filmed from elsewhere, ${name}: found, worst corner off`,
      `${errors.length} of ${all}; ${at(0.5)} px, nine in ten under ${at(0.9)} px`,
      `by blocks and phase correlation alone ${near} of ${all}`,
    ];
  });
}
