import { describe, expect, it, vi } from 'vitest';
import type { Project, SoundClip } from '@/core/document';
import { stagedMedia, stagedProject } from '@/core/staged';

const RATE = 8000;
/** Every file sounds like its own seconds: a sample is the second it stands at, over a hundred. */
vi.mock('./files', () => ({ openMedia: async (id: string) => id }));
vi.mock('./sound', () => ({
  decodeSound: async (_id: string, _rate: unknown, from: number, to: number) => ({
    sampleRate: RATE,
    channels: [Float32Array.from({ length: Math.ceil((to - from) * RATE) }, (_, i) => (from + i / RATE) / 100)],
  }),
}));
const { mixedSound } = await import('./mixed');

const clip = (more: Partial<SoundClip>): SoundClip => ({
  id: 'c',
  thread: 'effects',
  mediaId: 'effect',
  from: 2,
  to: 6,
  start: { beat: 0, offset: 0 },
  // Beat 0 is a quarter of a second into the song; its frame the sixth.
  nudge: 0,
  gain: 0,
  fadeIn: 0,
  fadeOut: 0,
  ...more,
});
/** A project in which only some clips, or the song under them, are heard. */
function heard(clips: SoundClip[], song = false): Project {
  const project = stagedProject();
  return {
    ...project,
    media: [...project.media, stagedMedia('effect', 'audio')],
    sound: { ...project.sound, song: { ...project.sound.song, on: song }, clips },
  };
}
const START = 6 / 25;
/** Seconds of the file that are heard so long after the clip began. */
async function seconds(project: Project, since: readonly number[]): Promise<number[]> {
  const [left] = await mixedSound(project, START, 6 * RATE, RATE);
  return since.map((t) => Math.round(1000 * left[Math.round(t * RATE)]) / 10);
}

describe('a laid sound', () => {
  it('runs as recorded', async () => expect(await seconds(heard([clip({})]), [0.5, 2, 3.9, 4.1])).toEqual([2.5, 4, 5.9, 0]));
  it('twice as fast it is over in half the time', async () =>
    expect(await seconds(heard([clip({ speed: 2 })]), [0.5, 1.9, 2.1])).toEqual([3, 5.8, 0]));
  it('reversed it runs from its end to its beginning', async () =>
    expect(await seconds(heard([clip({ reverse: true })]), [0.5, 3.5, 4.1])).toEqual([5.5, 2.5, 0]));
  it('reversed at half its speed', async () =>
    expect(await seconds(heard([clip({ reverse: true, speed: 0.5, from: 4 })]), [1, 3, 4.1])).toEqual([5.5, 4.5, 0]));
  it('to one side it is heard there only', async () => {
    const [left, right] = await mixedSound(heard([clip({ pan: 100 })]), START, RATE, RATE);
    expect(Math.abs(left[4000])).toBeLessThan(1e-6);
    expect(right[4000]).toBeCloseTo(0.025 * Math.SQRT2, 5);
  });
  it('a stretch in the middle is the same as in the whole', async () => {
    const project = heard([clip({ speed: 1.5, reverse: true })]);
    const [whole] = await mixedSound(project, START, 3 * RATE, RATE);
    const [part] = await mixedSound(project, START + 1, RATE, RATE);
    for (const i of [0, 100, 4000, 7900]) expect(part[i]).toBeCloseTo(whole[RATE + i], 4);
  });
  it('takes the song down by as much as it is told, while it lasts', async () => {
    const quiet = clip({ gain: -60, duck: 20, to: 3 });
    const [left] = await mixedSound(heard([quiet], true), START, 3 * RATE, RATE);
    const [plain] = await mixedSound(heard([], true), START, 3 * RATE, RATE);
    expect(left[4000] / plain[4000]).toBeCloseTo(0.1, 4);
    expect(left[2 * RATE] / plain[2 * RATE]).toBeCloseTo(1, 4);
  });
});
