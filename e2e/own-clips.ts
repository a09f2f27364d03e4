import { join } from 'node:path';
import { ffmpeg, scratch } from './helpers';
import { clip, room } from './staged-clips';

/** A song by ffmpeg: a low hit on each beat of 120 a minute, a higher one on each bar. */
function song(): string {
  const hit = (f: number, every: number) => `sin(2*PI*${f}*mod(t,${every}))*exp(-18*mod(t,${every}))`;
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc='0.6*${hit(80, 0.5)}+0.3*${hit(660, 2)}':d=40:s=44100`, '03_slow-rinse.wav');
  return join(scratch, '03_slow-rinse.wav');
}

/** What somebody brings: one room empty, with a performer on the left and on the right, another room, and a song. */
export function ownFiles(): string[] {
  const wave = (s: number) => 0.8 * Math.sin(3 * s);
  return [
    clip('room-empty.mp4', 3, null),
    clip('room-left.mp4', 6, (s) => ({ x: 150 + 8 * Math.sin(s), y: 210, tall: 200, arm: wave(s) })),
    clip('room-right.mp4', 6, (s) => ({ x: 470 + 8 * Math.sin(s), y: 210, tall: 200, arm: -wave(s) })),
    clip('hall.mp4', 5, (s) => ({ x: 200 + 30 * s, y: 210, tall: 200, arm: wave(s) }), { background: room(true) }),
    song(),
  ];
}
