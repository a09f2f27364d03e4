import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const PICTURE = ['-f', 'lavfi', '-i', 'testsrc2=s=320x240:r=25:d=2'];
const SOUND = ['-f', 'lavfi', '-i', 'sine=f=440:d=2:r=48000'];
const X264 = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-g', '12'];

/** Sound and whole kinds of containers, each made by ffmpeg in a second. */
const KINDS: Record<string, string[]> = {
  'plain.mp4': [...PICTURE, ...SOUND, ...X264, '-c:a', 'aac'],
  'fast.mp4': [...PICTURE, ...SOUND, ...X264, '-c:a', 'aac', '-movflags', '+faststart'],
  'fragments.mp4': [...PICTURE, ...SOUND, ...X264, '-c:a', 'aac', '-movflags', '+frag_keyframe+empty_moov'],
  'silent.mov': [...PICTURE, ...X264],
  'film.webm': [...PICTURE, ...SOUND, '-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-c:a', 'libopus'],
  'film.mkv': [...PICTURE, ...SOUND, ...X264, '-c:a', 'libmp3lame'],
  'sound.mp3': [...SOUND, '-c:a', 'libmp3lame'],
  'sound.m4a': [...SOUND, '-c:a', 'aac'],
  'sound.wav': SOUND,
  'sound.flac': [...SOUND, '-c:a', 'flac'],
  'sound.ogg': [...SOUND, '-c:a', 'libvorbis'],
};

/** Whole files of every kind that is taken in, by name; made in a folder. */
export function wholeFiles(folder: string): Map<string, Buffer> {
  mkdirSync(folder, { recursive: true });
  const files = new Map<string, Buffer>();
  for (const [name, args] of Object.entries(KINDS)) {
    execFileSync('ffmpeg', ['-y', '-v', 'error', ...args, name], { cwd: folder });
    files.set(name, readFileSync(join(folder, name)));
  }
  return files;
}
