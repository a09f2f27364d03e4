import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { wholeFragments } from './fragments';

const folder = mkdtempSync(join(tmpdir(), 'fragments-'));
const file = join(folder, 'whole.mp4');
execFileSync('ffmpeg', [
  '-y',
  '-v',
  'error',
  '-f',
  'lavfi',
  '-i',
  'testsrc2=s=160x90:r=25:d=4',
  '-c:v',
  'libx264',
  '-g',
  '12',
  '-pix_fmt',
  'yuv420p',
  '-movflags',
  'frag_keyframe+empty_moov',
  file,
]);
const bytes = readFileSync(file);
const wholeOf = (size: number) => wholeFragments((at, length) => new Uint8Array(bytes.subarray(at, Math.min(size, at + length))), size);

const secondsOf = (path: string) =>
  Number(
    execFileSync('ffprobe', ['-v', 'error', '-count_packets', '-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0', path])
      .toString()
      .split(',')[0],
  ) / 25;

describe('a recording that was cut off (ISO/IEC 14496-12; a file written by ffmpeg)', () => {
  it('cut anywhere, what is whole can be read and lacks at most one fragment', () => {
    for (let size = 2000; size < bytes.length; size += Math.floor(bytes.length / 17)) {
      const whole = wholeOf(size);
      expect(whole).toBeLessThanOrEqual(size);
      if (whole === 0) continue;
      const cut = join(folder, `cut-${size}.mp4`);
      writeFileSync(cut, bytes.subarray(0, whole));
      const seconds = secondsOf(cut);
      expect(seconds).toBeGreaterThan(0);
      expect(4 * (size / bytes.length) - seconds).toBeLessThan(1.1);
    }
  });

  it('nothing is whole before the first fragment, nor in what is no film at all', () => {
    expect(wholeOf(40)).toBe(0);
    expect(wholeFragments(() => new Uint8Array(0), 0)).toBe(0);
    const text = new TextEncoder().encode('This is a shopping list, not a film. '.repeat(40));
    expect(wholeFragments((at, length) => text.subarray(at, at + length), text.length)).toBe(0);
  });
});
