import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type FigureAt, type StagedOptions, StagedTake } from '../src/core/staged/index';
import { ffmpeg, scratch } from './helpers';
import { X264 } from './stored';

export const [CLIP_WIDTH, CLIP_HEIGHT] = [640, 360];
const FPS = 25;

/** A tiled room with a darker floor; `other` is another one. */
export const room =
  (other = false): StagedOptions['background'] =>
  (x, y) => {
    const tile = (Math.floor(x / 40) + Math.floor(y / 40)) % 2;
    const seam = x % 40 < 2 || y % 40 < 2;
    const wall = other ? 90 + 60 * tile : 165 + 14 * tile;
    const floor = y > 300 ? -45 : 0;
    return [seam ? wall - 35 + floor : wall + floor + 0.02 * x, other ? 118 : 124, other ? 140 : 131];
  };

/** A room with things in it that are there at a second. */
export const withThings = (
  things: readonly ((second: number) => readonly [left: number, top: number, width: number, height: number, light: number] | null)[],
): StagedOptions['background'] => {
  const behind = room();
  let [of, boxes] = [Number.NaN, things.map((thing) => thing(0))];
  return (x, y, frame) => {
    if (frame !== of) [of, boxes] = [frame, things.map((thing) => thing(frame / FPS))];
    for (const box of boxes) if (box && x >= box[0] && x < box[0] + box[2] && y >= box[1] && y < box[1] + box[3]) return [box[4], 110, 150];
    return behind(x, y, frame);
  };
};

/** Films a staged take: noisy, with whoever is in it, compressed as a phone does it. `second` gives where somebody is. */
export function clip(
  name: string,
  seconds: number,
  figure: ((second: number) => FigureAt | null) | null,
  more: Partial<StagedOptions> = {},
): string {
  const take = new StagedTake({
    width: CLIP_WIDTH,
    height: CLIP_HEIGHT,
    seed: [...name].reduce((sum, c) => sum + c.charCodeAt(0), 0),
    background: room(),
    figure: figure && ((frame) => figure(frame / FPS)),
    ...more,
  });
  const frames = Math.round(seconds * FPS);
  const size = (CLIP_WIDTH * CLIP_HEIGHT * 3) / 2;
  const raw = Buffer.alloc(frames * size);
  for (let f = 0; f < frames; f++) {
    const { y, u, v } = take.frame(f);
    raw.set(y, f * size);
    raw.set(u, f * size + y.length);
    raw.set(v, f * size + y.length + u.length);
  }
  const file = join(scratch, `${name}.yuv`);
  writeFileSync(file, raw);
  const shape = ['-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-s', `${CLIP_WIDTH}x${CLIP_HEIGHT}`, '-r', String(FPS)];
  ffmpeg(...shape, '-i', file, ...X264, '-crf', '18', '-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', name);
  return join(scratch, name);
}
