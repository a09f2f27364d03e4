/** Scores of the Debian package `mma` played by `fluidsynth`, and sound files as samples. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

export const SOUNDS = '/usr/share/sounds/sf2/FluidR3_GM.sf2';

/** A score played at a rate, once for a folder. Throws where it cannot be. */
export function played(folder: string, name: string, score: string, rate: number): { mid: string; wav: string } {
  mkdirSync(folder, { recursive: true });
  const [mma, mid, wav] = ['mma', 'mid', 'wav'].map((end) => join(folder, `${name}.${end}`));
  if (!existsSync(wav)) {
    writeFileSync(mma, score);
    execFileSync('mma', [mma, '-f', mid], { stdio: 'ignore', timeout: 60_000 });
    execFileSync('fluidsynth', ['-ni', '-r', String(rate), '-F', wav, SOUNDS, mid], { stdio: 'ignore', timeout: 120_000 });
  }
  return { mid, wav };
}

/** Mono samples of a sound file at any rate. */
export function samplesOf(file: string, rate: number): Float32Array {
  const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', String(rate), '-f', 'f32le', '-'], { maxBuffer: 1e9 });
  return new Float32Array(new Uint8Array(pcm).buffer);
}
