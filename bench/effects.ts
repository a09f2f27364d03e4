/** Effects measured beside ffmpeg's comparable filters: milliseconds a frame on one core. */
import { spawnSync } from 'node:child_process';
import { appliedEffect, effectKind, withEffect } from '../src/core/effects';
import { blackPlanes, type Planes } from '../src/core/picture';
import { randomSource } from '../src/core/room';

type Row = [string, string, string];
const FRAMES = 40;
const RUNS = 3;
const PAIRS: readonly [kind: string, numbers: Record<string, number>, filter: string][] = [
  ['saturation', { amount: 150 }, 'hue=s=1.5'],
  ['hue', { amount: 60 }, 'hue=h=60'],
  ['curves', { all25: -10, all75: 10 }, 'curves=all=0/0 0.25/0.15 0.75/0.85 1/1'],
  ['lift gamma gain', { lift: 5, gamma: 120, gainR: 110 }, 'lutrgb=r=val*1.1:g=pow(val/255\\,0.83)*255'],
  ['blur', { amount: 1 }, 'gblur=sigma=7'],
  ['sharpen', { amount: 100, radius: 0.3 }, 'unsharp=5:5:1:5:5:0'],
  ['vignette', { amount: 60 }, 'vignette'],
  ['mosaic', { size: 3 }, 'pixelize=w=22:h=22'],
  ['grain', { amount: 5 }, 'noise=alls=12:allf=t'],
];

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

function picture(width: number, height: number): Planes {
  const random = randomSource(4);
  const planes = blackPlanes(width, height);
  for (let i = 0; i < planes.y.length; i++) planes.y[i] = 40 + ((i % width) * 150) / width + random() * 30;
  for (let i = 0; i < planes.u.length; i++) [planes.u[i], planes.v[i]] = [110 + random() * 30, 120 + random() * 30];
  return planes;
}

/** ffmpeg's milliseconds a frame of a filter, less what the frames themselves cost. */
function theirs(filter: string, size: string): number {
  const run = (vf: string) => {
    const args = [
      '-v',
      'error',
      '-benchmark',
      '-threads',
      '1',
      '-filter_threads',
      '1',
      '-f',
      'lavfi',
      '-i',
      `testsrc2=s=${size}:r=25,format=yuv420p`,
    ];
    const began = performance.now();
    const { status, stderr } = spawnSync('ffmpeg', [...args, '-frames:v', String(FRAMES), '-vf', vf, '-f', 'null', '-']);
    if (status !== 0) throw new Error(`ffmpeg: ${stderr}`);
    return performance.now() - began;
  };
  return median(Array.from({ length: RUNS }, () => (run(filter) - run('null')) / FRAMES));
}

function ours(kind: string, numbers: Record<string, number>, planes: Planes): number {
  const otherwise = Object.fromEntries(Object.entries(effectKind(kind).numbers).map(([name, n]) => [name, n.otherwise]));
  const effect = appliedEffect(kind, { ...otherwise, ...numbers }, { width: planes.width, height: planes.height, index: 0 });
  if (!effect) throw new Error(kind);
  withEffect(planes, effect);
  return median(
    Array.from({ length: RUNS }, () => {
      const began = performance.now();
      for (let k = 0; k < 10; k++) withEffect(planes, effect);
      return (performance.now() - began) / 10;
    }),
  );
}

export function effectRows(): Row[] {
  return PAIRS.flatMap(([kind, numbers, filter]) =>
    (
      [
        ['720p', 1280, 720],
        ['1080p', 1920, 1080],
      ] as const
    ).map(([name, width, height]): Row => {
      const [a, b] = [ours(kind, numbers, picture(width, height)), theirs(filter, `${width}x${height}`)];
      return [
        `effect ${kind}, ${name}, against ffmpeg’s ${filter.split('=')[0]} on one core`,
        `${(b / a).toFixed(2)}× ffmpeg’s speed`,
        `${a.toFixed(1)} ms and ${b.toFixed(1)} ms a frame`,
      ];
    }),
  );
}
