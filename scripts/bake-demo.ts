/**
 * Renders the demo's takes and song to ordinary files in public/demo. Needs ffmpeg (x264, aac).
 * `npx tsx scripts/bake-demo.ts [song|plate|one|two ...]`; without names, everything.
 */
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { bump, RoomCamera, STILL, synthesiseSong, type TakeOptions, takeFall } from '../src/core/room/index';

const OUT = 'public/demo';
const [WIDTH, HEIGHT, FPS] = [1280, 720, 25];

interface Bake {
  file: string;
  seconds: number;
  /** Seconds by which the performance starts later than the file. */
  late: number;
  /** Where in the song the take's playback stood, seconds. */
  songAt: number;
  options: Partial<TakeOptions>;
}

/** 0 before `from`, 1 after `to`, smooth between. */
const fade = (t: number, from: number, to: number) => {
  const u = Math.min(1, Math.max(0, (t - from) / (to - from)));
  return u * u * (3 - 2 * u);
};

const BAKES: Record<string, Bake> = {
  plate: { file: 'take-1-clean-plate.mp4', seconds: 8, late: 0, songAt: 30, options: { outfit: null, seed: 21 } },
  one: { file: 'take-2-outfit-one.mp4', seconds: 10, late: 0, songAt: 14.7, options: { outfit: 0, seed: 11 } },
  two: {
    file: 'take-3-outfit-two.mp4',
    seconds: 10,
    late: 0.32,
    songAt: 14.38,
    options: { outfit: 1, seed: 34, pose: bump(1.4, 2.3, -1.4, 0.04), exposure: () => 0, balance: [1.04, 0.955] },
  },
  left: {
    file: 'clones-the-hand-over-place-p1.mp4',
    seconds: 8,
    late: 0,
    songAt: 33.6,
    options: { outfit: 0, seed: 55, act: 'gives', place: -0.62 },
  },
  right: {
    file: 'clones-the-hand-over-place-p2.mp4',
    seconds: 8,
    late: 0,
    songAt: 33.6,
    options: {
      outfit: 1,
      seed: 66,
      act: 'takes',
      place: 0.62,
      pose: bump(1.2, 1.8, 1.1, -0.03),
      exposure: (t) => 0.1 - 0.12 * fade(t, 5.2, 7),
    },
  },
};

function song(): string {
  const { channels, sampleRate } = synthesiseSong();
  const data = new Float32Array(channels[0].length * 2);
  for (let i = 0; i < channels[0].length; i++) {
    data[2 * i] = channels[0][i];
    data[2 * i + 1] = channels[1][i];
  }
  const raw = `${OUT}/song.f32`;
  writeFileSync(raw, new Uint8Array(data.buffer));
  run([
    '-f',
    'f32le',
    '-ar',
    String(sampleRate),
    '-ac',
    '2',
    '-i',
    raw,
    '-c:a',
    'aac',
    '-b:a',
    '128k',
    '-metadata',
    'title=Half Load',
    '-movflags',
    '+faststart',
    `${OUT}/half-load.m4a`,
  ]);
  return raw;
}

function run(args: string[]): void {
  const done = spawnSync('ffmpeg', ['-y', '-v', 'error', ...args], { stdio: 'inherit' });
  if (done.status !== 0) throw new Error(`ffmpeg ended with ${done.status}`);
}

async function take(bake: Bake, camera: RoomCamera): Promise<void> {
  const options: TakeOptions = {
    width: WIDTH,
    height: HEIGHT,
    outfit: null,
    act: 'toss',
    seed: 1,
    place: -0.25,
    pose: () => STILL,
    exposure: () => 0.1,
    balance: [1, 1],
    noise: 0.8,
    shutter: 0.02,
    ...bake.options,
  };
  const fall = takeFall(options);
  const input = ['-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-s', `${WIDTH}x${HEIGHT}`, '-r', String(FPS), '-i', '-'];
  const sound = [
    '-ss',
    String(bake.songAt),
    '-i',
    `${OUT}/half-load.m4a`,
    '-f',
    'lavfi',
    '-i',
    'anoisesrc=amplitude=0.01:color=brown:sample_rate=44100',
  ];
  const filter = '[1:a]volume=0.12,lowpass=f=5000,aecho=0.8:0.7:23|41:0.3|0.2[s];[s][2:a]amix=inputs=2:normalize=0[a]';
  const colour = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];
  const video = [
    '-c:v',
    'libx264',
    '-preset',
    'slow',
    '-crf',
    '21',
    '-maxrate',
    '2800k',
    '-bufsize',
    '4M',
    '-g',
    '25',
    '-bf',
    '2',
    '-pix_fmt',
    'yuv420p',
    ...colour,
  ];
  const args = [
    '-y',
    '-v',
    'error',
    ...input,
    ...sound,
    '-filter_complex',
    filter,
    '-map',
    '0:v',
    '-map',
    '[a]',
    '-t',
    String(bake.seconds),
    ...video,
    '-c:a',
    'aac',
    '-b:a',
    '96k',
    '-ac',
    '1',
    '-movflags',
    '+faststart',
    `${OUT}/${bake.file}`,
  ];
  const encoder = spawn('ffmpeg', args, { stdio: ['pipe', 'inherit', 'inherit'] });
  for (let n = 0; n < bake.seconds * FPS; n++) {
    const frame = camera.draw(options, fall, n / FPS - bake.late, n);
    for (const plane of [frame.y, frame.u, frame.v]) {
      if (!encoder.stdin.write(plane)) await new Promise((resolve) => encoder.stdin.once('drain', resolve));
    }
    if (n % 25 === 0) process.stdout.write(`${bake.file} ${n / FPS} s\n`);
  }
  encoder.stdin.end();
  await new Promise((resolve) => encoder.once('close', resolve));
}

mkdirSync(OUT, { recursive: true });
const names = process.argv.slice(2);
const wanted = (name: string) => names.length === 0 || names.includes(name);
if (wanted('song')) rmSync(song());
const takes = Object.entries(BAKES).filter(([name]) => wanted(name));
if (takes.length > 0) {
  const camera = new RoomCamera(WIDTH, HEIGHT, 2);
  for (const [, bake] of takes) await take(bake, camera);
}
