import { describe, expect, it } from 'vitest';
import { around } from '../units';
import type { Luma } from './luma';
import { findWhips, pictureStep, WHIP_WIDTH } from './whips';

const [W, H] = [WHIP_WIDTH, 36];
/** Repeatable numbers from -0.5 to 0.5. */
function random(seed: number): () => number {
  let now = seed;
  return () => {
    now = (now * 1103515245 + 12345) % 2147483648;
    return now / 2147483648 - 0.5;
  };
}

/** A room wider and taller than the picture: boxes of many sizes, one over another. */
function room(seed: number): { at(x: number, y: number): number } {
  const next = random(seed);
  const size = 512;
  const data = new Float32Array(size * size).fill(110);
  for (let k = 0; k < 900; k++) {
    const [x, y, w, h] = [next(), next(), next(), next()].map((v) => v + 0.5);
    const value = 128 + 200 * next();
    for (let j = 0; j < 4 + h * 50; j++)
      for (let i = 0; i < 4 + w * 40; i++) data[(Math.floor(y * size + j) % size) * size + (Math.floor(x * size + i) % size)] = value;
  }
  return { at: (x, y) => data[around(Math.round(y), size) * size + around(Math.round(x), size)] };
}

/** What a camera sees that looks at a place of the room at each second (pixels), its shutter open for half of each frame. */
function film(
  look: (second: number) => [number, number],
  seed = 3,
  { fps = 25, seconds = 3, over = (_frame: Luma, _second: number) => {} } = {},
) {
  const wall = room(seed);
  const noise = random(seed + 1);
  const times = Array.from({ length: seconds * fps }, (_, i) => i / fps);
  const frames = times.map((t) => {
    const opens = Array.from({ length: 8 }, (_, k) => look(t + (k / 16) * (1 / fps)));
    const data = Uint8Array.from({ length: W * H }, (_, i) => {
      let sum = 0;
      for (const [x, y] of opens) sum += wall.at(x + (i % W), y + Math.floor(i / W));
      return Math.max(0, Math.min(255, sum / 8 + 6 * noise()));
    });
    const frame = { width: W, height: H, data };
    over(frame, t);
    return frame;
  });
  return { frames, times };
}

/** Rests, then goes a way in some seconds around an instant, fastest there, and rests. */
const thrown = (at: number, lasts: number, far: number) => (t: number) => {
  const share = Math.min(1, Math.max(0, (t - at) / lasts + 0.5));
  return far * (share < 0.5 ? 4 * share ** 3 : 1 - 4 * (1 - share) ** 3);
};

const whipsOf = ({ frames, times }: ReturnType<typeof film>) =>
  findWhips(
    frames.slice(1).map((frame, i) => pictureStep(frames[i], frame)),
    times,
  );

describe('a camera that is thrown round', () => {
  const cases = [1, 2, 3, 4].flatMap((seed) =>
    (['left', 'right', 'up', 'down'] as const).flatMap((way) => [0.4, 0.7].map((lasts) => [way, lasts, seed] as const)),
  );
  it.each(cases)('to show the picture going %s in %s s is found, its fastest instant within a frame (room %s)', (way, lasts, seed) => {
    const far = (way === 'left' || way === 'right' ? 2.2 * W : 2.2 * H) * (way === 'left' || way === 'up' ? 1 : -1);
    const go = thrown(1.6, lasts, far);
    const found = whipsOf(film((t) => (way === 'left' || way === 'right' ? [go(t), 0] : [0, go(t)]), seed));
    expect(found.map((w) => w.way)).toEqual([way]);
    expect(Math.abs(found[0].peak - 1.6)).toBeLessThan(0.06);
    // It sets off and comes to rest slowly, which is no throw yet.
    expect([found[0].from >= 1.55 - lasts / 2, found[0].to <= 1.65 + lasts / 2]).toEqual([true, true]);
  });
  it('twice, at 30 and at 60 pictures a second', () => {
    for (const fps of [30, 60]) {
      const [out, back] = [thrown(0.8, 0.4, 150), thrown(2.2, 0.4, -150)];
      expect(whipsOf(film((t) => [out(t) + back(t), 0], 5, { fps })).map((w) => [w.way, Math.round(10 * w.peak)])).toEqual([
        ['left', 8],
        ['right', 22],
      ]);
    }
  });
  it.each<[string, (t: number) => [number, number]]>([
    ['stands', () => [0, 0]],
    ['is held by hand', (t) => [1.5 * Math.sin(9 * t), Math.cos(7 * t)]],
    ['pans slowly', (t) => [25 * t, 0]],
    ['is knocked', (t) => [t > 1.5 ? 6 * Math.exp(-12 * (t - 1.5)) * Math.cos(60 * (t - 1.5)) : 0, 0]],
  ])('that %s is none', (_, look) => {
    for (const seed of [1, 2, 3]) expect(whipsOf(film(look, seed))).toEqual([]);
  });
  it('a cut is none', () => {
    expect(whipsOf(film((t) => [t < 1.5 ? 0 : 250, 0]))).toEqual([]);
  });
  it('somebody who runs through the picture is none, nor is the light as it is switched on', () => {
    const runs = film(() => [0, 0], 2, {
      over: ({ data }, t) => {
        const x0 = Math.round((t - 1) * 60);
        for (let y = 6; y < H; y++)
          for (let x = Math.max(0, x0); x < Math.min(W, x0 + 14); x++) data[y * W + x] = 30 + (((x - x0) * 7 + y * 5) % 60);
      },
    });
    expect(whipsOf(runs)).toEqual([]);
    const lit = film(() => [0, 0], 2, {
      over: ({ data }, t) => {
        if (t > 1.5) for (let i = 0; i < data.length; i++) data[i] = Math.min(255, data[i] * 1.6);
      },
    });
    expect(whipsOf(lit)).toEqual([]);
  });
});
