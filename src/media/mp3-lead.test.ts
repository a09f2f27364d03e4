import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { mp3Lead } from './mp3-lead';

/** A file, not a pipe: the encoder goes back to write its header. */
function made(...args: string[]): Blob {
  const file = join(mkdtempSync(join(tmpdir(), 'lead-')), 'sound');
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'sine=d=2', ...args, file]);
  return new Blob([new Uint8Array(readFileSync(file))]);
}

describe('silence an MP3 encoder put in front', () => {
  it.each([
    ['44100', '2', ['-metadata', 'title=Half load'], 1105 / 44100],
    ['48000', '1', [], 1105 / 48000],
    ['22050', '1', ['-b:a', '32k'], 1105 / 22050],
  ])('at %s Hz, %s channels: what ffmpeg itself leaves out', async (rate, channels, more, expected) => {
    const file = made('-ar', rate, '-ac', channels, '-c:a', 'libmp3lame', ...more, '-f', 'mp3');
    expect(await mp3Lead(file)).toBeCloseTo(expected, 9);
  });

  it('is nothing where nothing is said, and in other files', async () => {
    expect(await mp3Lead(made('-c:a', 'libmp3lame', '-write_xing', '0', '-f', 'mp3'))).toBe(0);
    expect(await mp3Lead(made('-f', 'wav'))).toBe(0);
    expect(await mp3Lead(made('-c:a', 'flac', '-f', 'flac'))).toBe(0);
    expect(await mp3Lead(new Blob([]))).toBe(0);
  });
});
