import { expect, it, vi } from 'vitest';
import type { SoundClip } from '@/core/document';
import { stagedMedia, stagedProject } from '@/core/staged';

const RATE = 48_000;
/** Every file is a tone of 440 Hz on both sides. */
vi.mock('./files', () => ({ openMedia: async (id: string) => id }));
vi.mock('./sound', () => ({
  decodeSound: async (_id: string, _rate: unknown, from: number, to: number) => ({
    sampleRate: RATE,
    channels: [
      Float32Array.from({ length: Math.ceil((to - from) * RATE) }, (_, i) => 0.5 * Math.sin(2 * Math.PI * 440 * (from + i / RATE))),
    ],
  }),
}));
const { mixedSound } = await import('./mixed');

/** Hertz heard on either side between half a second and a second after a laid sound of four seconds begins. */
async function hertz(more: Partial<SoundClip>, from = 6 / 25): Promise<[number, number]> {
  const base = stagedProject();
  const clip: SoundClip = {
    id: 'c',
    thread: 'effects',
    mediaId: 'effect',
    from: 2,
    to: 6,
    start: { beat: 0, offset: 0 },
    nudge: 0,
    gain: 0,
    fadeIn: 0,
    fadeOut: 0,
    ...more,
  };
  const media = [...base.media, stagedMedia('effect', 'audio')];
  const sound = { ...base.sound, song: { ...base.sound.song, on: false }, clips: [clip] };
  const sides = await mixedSound({ ...base, media, sound }, from, 1.2 * RATE, RATE);
  return sides.map((samples) => {
    let crossings = 0;
    for (let i = RATE / 2; i < RATE; i++) if (samples[i - 1] < 0 && samples[i] >= 0 && samples[i] - samples[i - 1] > 1e-4) crossings++;
    return 2 * crossings;
  }) as [number, number];
}

it('a laid sound is as high as it is laid, at any speed and turned round; without a pitch of its own that goes with its speed', async () => {
  expect((await hertz({ speed: 0.5 }))[0]).toBeCloseTo(220, -1);
  expect((await hertz({ speed: 0.5, pitch: 0 }))[0]).toBeCloseTo(440, -1);
  expect(Math.abs((await hertz({ pitch: 12 }))[0] - 880)).toBeLessThan(10);
  expect(Math.abs((await hertz({ speed: 2, pitch: -12, reverse: true }))[0] - 220)).toBeLessThan(10);
});

it('it keeps its side, and begins in its middle as it does in the whole', async () => {
  expect((await hertz({ speed: 0.5, pitch: 0, pan: 100 }))[0]).toBe(0);
  expect(Math.abs((await hertz({ speed: 0.5, pitch: 0 }, 6 / 25 + 3))[1] - 440)).toBeLessThan(10);
});
