/**
 * Errors of the measures on generated takes with exact truth: photographs that ship in packages, a walking figure with a shadow,
 * noise. The floor is what general-purpose libraries reach when used with care.
 */
import { createRequire } from 'node:module';
import baboon from 'baboon-image';
import {
  blockColours,
  cleanPlate,
  collisions,
  curvesThrough,
  cutOut,
  freeCut,
  type GrabCutLibrary,
  LockMeter,
  lumaOf,
  makeBackdrop,
  makeReference,
  meanColours,
  NO_MOVE,
  occupied,
  readLight,
  resized,
  type Similarity,
  summarise,
  syncSounds,
  type TakeLock,
  ToneLevels,
  TRANSFERS,
  transferOf,
} from '../src/core/measure';
import {
  alongCurves,
  BT709,
  meanPlanes,
  type Planes,
  recoloured,
  reducedPlanes,
  tableOf,
  takeToProject,
  throughTable,
} from '../src/core/picture';
import { randomSource, synthesiseSong } from '../src/core/room';
import { overlap, photographBackground, type StagedOptions, StagedTake } from '../src/core/staged';

const [W, H] = [640, 360];
const photo = photographBackground(
  { width: 512, height: 512, rgb: (x, y) => [baboon.get(x, y, 0), baboon.get(x, y, 1), baboon.get(x, y, 2)] },
  W,
  H,
);
/** What, measured, the floor. */
export type AccuracyRow = [string, string, string];

const walker = (f: number) => (f >= 1000 ? null : { x: 120 + 9 * f, y: 190, tall: 230, arm: 0.5 + 0.5 * Math.sin(f / 3) });
const numbers = (n: number) => Array.from({ length: n }, (_, i) => i);

function measured(take: StagedTake, frames: number, reference: StagedTake): TakeLock {
  const first = numbers(5).map((f) => reference.frame(1000 + f));
  const lock = makeReference(first.map(lumaOf));
  const colours = meanColours(first.map((p) => blockColours(lock.fine, p)));
  const meter = new LockMeter(lock);
  const seen = numbers(frames).map((f) => {
    const planes = take.frame(f);
    const reading = meter.read(lumaOf(planes));
    return { reading, light: readLight(lock.fine, colours, BT709, planes, BT709, reading) };
  });
  return summarise(
    seen.map((_, f) => f / 25),
    seen.map((s) => s.reading),
    seen.map((s) => s.light),
    W,
    H,
  );
}

function lockRows(): AccuracyRow[] {
  const pose = (f: number): Similarity =>
    f >= 1000 ? NO_MOVE : { dx: 0.02 * f, dy: -0.012 * f, turn: 0.001 * f, scale: 1 + 0.0009 * Math.sin(f / 6) };
  const take = new StagedTake({ background: photo, figure: walker, pose, seed: 22 });
  const { readings } = measured(take, 40, take);
  const off = (pick: (m: Similarity) => number) =>
    Math.sqrt(readings.reduce((sum, r, f) => sum + (pick(r) - pick(pose(f))) ** 2, 0) / readings.length);
  const knocked = (f: number): Similarity => (f >= 18 && f < 1000 ? { dx: 1.7, dy: -0.9, turn: 0.03, scale: 1 } : NO_MOVE);
  const bumped = new StagedTake({ background: photo, figure: walker, pose: knocked, noise: 2.5, seed: 24 });
  const { bumps } = measured(bumped, 40, bumped);
  const size = Math.abs((bumps[0]?.size ?? 0) - Math.hypot(1.7, 0.9));
  return [
    [
      'lock: drift, RMS',
      `${Math.hypot(
        off((m) => m.dx),
        off((m) => m.dy),
      ).toFixed(3)} px`,
      '0.05 px',
    ],
    ['lock: turn, RMS', `${off((m) => m.turn).toFixed(4)}°`, '0.005°'],
    ['lock: scale, RMS', off((m) => m.scale).toFixed(5), '0.0001'],
    [
      'lock: bumps found of one; frame; size',
      `${bumps.length}; ${Math.abs((bumps[0]?.frame ?? 99) - 18)}; ${size.toFixed(2)} px`,
      '1; 1; 0.3 px',
    ],
  ];
}

const byBt709 = (l: number) => (l < 0.018 ? 4.5 * l : 1.099 * l ** 0.45 - 0.099);

/** The background with gains on linear light, coded by a camera's tone curve: ITU-R BT.709, where none is given. */
function inLight([gr, gg, gb]: readonly [number, number, number], coded: (light: number) => number = byBt709): StagedOptions['background'] {
  const linear = (v: number) => (v < 0.081 ? v / 4.5 : ((v + 0.099) / 1.099) ** (1 / 0.45));
  return (x, y, frame) => {
    const [yy, u, v] = photo(x, y, frame);
    const l = (yy - 16) / 219;
    const [b, r] = [l + (1.8556 * (u - 128)) / 224, l + (1.5748 * (v - 128)) / 224];
    const g = (l - 0.2126 * r - 0.0722 * b) / 0.7152;
    const [R, G, B] = [r, g, b].map((c, k) => coded(linear(Math.max(0, c)) * [gr, gg, gb][k]));
    const lit = 0.2126 * R + 0.7152 * G + 0.0722 * B;
    return [16 + 219 * lit, 128 + (224 * (B - lit)) / 1.8556, 128 + (224 * (R - lit)) / 1.5748];
  };
}

function lightRow(): AccuracyRow {
  const reference = new StagedTake({ background: photo, seed: 23 });
  let [ev, balance] = [0, 0];
  for (const gains of [
    [1.12, 1.07, 1.01],
    [0.86, 0.9, 0.97],
    [1.3, 1.3, 1.3],
  ] as const) {
    const { light } = measured(new StagedTake({ background: inLight(gains), figure: walker, seed: 25 }), 10, reference);
    const truth = Math.log2(0.2126 * gains[0] + 0.7152 * gains[1] + 0.0722 * gains[2]);
    ev = Math.max(ev, Math.abs((light?.exposure ?? 9) - truth));
    balance = Math.max(
      balance,
      Math.abs((light?.red ?? 9) / (gains[0] / gains[1]) - 1),
      Math.abs((light?.blue ?? 9) / (gains[2] / gains[1]) - 1),
    );
  }
  return ['light: exposure; balance, worst of three', `${ev.toFixed(4)} EV; ${(100 * balance).toFixed(2)} %`, '0.01 EV; 0.3 %'];
}

/** Tone curves of cameras: those that are told apart, and three that are not among them (from memory: Hable 2010; a contrast; Reinhard et al. 2002). */
const UNKNOWN: readonly [string, (light: number) => number][] = [
  ['film', (l) => Math.max(0, (4 * l * (0.6 * l + 0.05) + 0.004) / (4 * l * (0.6 * l + 0.5) + 0.06) - 0.0667) ** (1 / 2.2)],
  ['contrast', (l) => ((v) => 0.6 * v + 0.4 * v * v * (3 - 2 * v))(Math.min(1, byBt709(l)))],
  ['shoulder', (l) => ((3 * l * (1 + l / 3)) / (1 + 3 * l)) ** (1 / 2.2)],
];

/** Light between two takes of a camera of some tone curve: stops, and what is left at any level of green after the match. */
function toneRows(): AccuracyRow[] {
  const among = (curves: readonly (readonly [string, (light: number) => number])[]) => {
    let [ev, byPlain, before, after] = [0, 0, 0, 0];
    for (const [, code] of curves)
      for (const stops of [0.25, -0.25]) {
        const gain = 2 ** stops;
        const reference = new StagedTake({ background: inLight([1, 1, 1], code), seed: 23 });
        const take = new StagedTake({ background: inLight([gain, gain, gain], code), figure: walker, seed: 25 });
        const { light } = measured(take, 10, reference);
        if (!light) continue;
        const { r, g, b } = light.gains;
        const laid = numbers(5).map((f) => recoloured(take.frame(2 * f), takeToProject(BT709, { r: 1 / r, g: 1 / g, b: 1 / b })));
        const still = meanPlanes(numbers(9).map((f) => reference.frame(1000 + f)));
        const levels = (pictures: readonly Planes[]) => {
          const seen = new ToneLevels();
          for (const picture of pictures) seen.see(still, picture, light.gains);
          return seen.levels();
        };
        const worst = (pictures: readonly Planes[]) =>
          Math.max(...levels(pictures)[1].map((l) => (l.weight > 0.2 ? 255 * Math.abs(l.off) : 0)));
        const found = levels(laid);
        const curves = curvesThrough(found);
        const table = curves && tableOf(alongCurves(curves));
        const matched = laid.map((p) => {
          const out = { ...p, y: p.y.slice(), u: p.u.slice(), v: p.v.slice() };
          if (table) throughTable(out, table);
          return out;
        });
        ev = Math.max(ev, Math.abs(light.exposure * transferOf(found, light.gains).perStop - stops));
        byPlain = Math.max(byPlain, Math.abs(light.exposure - stops));
        before = Math.max(before, worst(laid));
        after = Math.max(after, worst(matched));
      }
    return { ev, byPlain, before, after };
  };
  const row = (name: string, { ev, byPlain, before, after }: ReturnType<typeof among>): AccuracyRow => [
    name,
    `${ev.toFixed(3)} EV; ${after.toFixed(1)} of 255`,
    `by BT.709 alone ${byPlain.toFixed(3)} EV; ${before.toFixed(1)} of 255`,
  ];
  return [
    row(
      '±0.25 EV by five tone curves that are told apart: stops off; most that a level of green is left off',
      among(TRANSFERS.map((t) => [t.name, t.code])),
    ),
    row('the same by three curves that nothing knows', among(UNKNOWN)),
  ];
}

async function matteRows(): Promise<AccuracyRow[]> {
  const cv: GrabCutLibrary & { onRuntimeInitialized?: () => void } = createRequire(import.meta.url)('@techstark/opencv-js');
  if (!cv.Mat) {
    await new Promise<void>((done) => {
      cv.onRuntimeInitialized = done;
    });
  }
  const take = new StagedTake({ background: photo, figure: (f) => ({ x: 180 + 60 * f, y: 190, tall: 260, arm: f / 4 }), seed: 28 });
  const empty = new StagedTake({ background: photo, seed: 29 });
  const plate = cleanPlate(
    numbers(7).map((f) => empty.frame(f)),
    true,
  );
  const backdrop = makeBackdrop(plate, 1);
  const [known, free] = [[] as number[], [] as number[]];
  for (const f of [0, 2, 4]) {
    const [frame, truth] = [take.frame(f), take.alpha(f)];
    known.push(overlap(cutOut(frame, backdrop, { blur: { dx: 0, dy: 0 }, strokes: null }).alpha, truth));
    const coarse = resized(resized(truth, W, H, W / 10, H / 10), W / 10, H / 10, W, H);
    free.push(overlap(freeCut(cv, frame, coarse, null).alpha, truth));
  }
  return [
    ['cut-out with the plate: overlap, worst of three', Math.min(...known).toFixed(3), '0.97'],
    ['cut-out without, from a coarse segmentation: overlap, worst of three', Math.min(...free).toFixed(3), '0.92'],
  ];
}

function collisionRow(): AccuracyRow {
  const [a, b] = [
    new StagedTake({ background: photo, figure: (f) => ({ x: 150 + 8 * f, y: 190, tall: 220, arm: 0 }), seed: 31 }),
    new StagedTake({ background: photo, figure: () => ({ x: 430, y: 190, tall: 220, arm: 0 }), seed: 32 }),
  ];
  const empty = new StagedTake({ background: photo, seed: 33 });
  const backdrop = makeBackdrop(
    cleanPlate(
      numbers(7).map((f) => empty.frame(f)),
      true,
    ),
  );
  const truly = numbers(60).filter((f) => {
    const [p, q] = [a.alpha(f), b.alpha(f)];
    return p.reduce((n, v, i) => n + (v > 0.5 && q[i] > 0.5 ? 1 : 0), 0) > 40;
  });
  const still = occupied(reducedTo(b, 0, backdrop.factor), backdrop);
  const [found] = collisions(
    60,
    (f) => occupied(reducedTo(a, f, backdrop.factor), backdrop)?.figure ?? null,
    () => still?.figure ?? null,
  );
  const off = found ? Math.max(Math.abs(found.from - truly[0]), Math.abs(found.to - truly[truly.length - 1])) : 99;
  return ['occupancy: first and last frame of an overlap', `${off} frames off`, '2 frames'];
}

const reducedTo = (take: StagedTake, frame: number, factor: number): Planes => reducedPlanes(take.frame(frame), factor);

/** A minute of the song on a clock that is 61 parts per million fast, in noise. */
function syncRow(): AccuracyRow {
  const rate = 44100;
  const song = synthesiseSong({ sampleRate: rate }).channels[0];
  const [start, ppm] = [4.3217, 61];
  const random = randomSource(41);
  const heard = Float32Array.from({ length: 60 * rate }, (_, i) => {
    const at = (start + i / rate / (1 + ppm * 1e-6)) * rate;
    const k = Math.floor(at);
    return song[k] * (1 - at + k) + song[k + 1] * (at - k) + 0.04 * (random() - 0.5);
  });
  const found = syncSounds({ channels: [song], sampleRate: rate }, { channels: [heard], sampleRate: rate });
  if (!found.ok) return ['sync', found.reason, '0.2 ms'];
  const { offset, driftPpm } = found.match;
  const off = [0, 30, 60].map((t) => Math.abs(offset + (start + t) * (1 + driftPpm * 1e-6) - t * (1 + ppm * 1e-6)));
  return [
    'sync: offset; clock over 60 s',
    `${(1000 * Math.max(...off)).toFixed(3)} ms; ${Math.abs(driftPpm - ppm).toFixed(2)} ppm`,
    '0.2 ms; 2 ppm',
  ];
}

export async function accuracyRows(): Promise<AccuracyRow[]> {
  return [...lockRows(), lightRow(), ...toneRows(), collisionRow(), ...(await matteRows()), syncRow()];
}
