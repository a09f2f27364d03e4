import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { proposePlain } from '@/core/edit';
import { stagedProject } from '@/core/staged';
import { constantBeatMap } from '@/core/time';

/** A clock that the test moves, and what was put on it. */
const clock = vi.hoisted(() => ({
  now: 0,
  sounds: [] as { kind: string; at: number; seconds: number; stopped: boolean }[],
  mixed: [] as { from: number; seconds: number }[],
  fails: false,
  mute: false,
}));
vi.mock('./sound', () => {
  const source = (kind: string, seconds: number) => {
    const sound = { kind, at: 0, seconds, stopped: false };
    return {
      buffer: null as { length: number } | null,
      connect: () => undefined,
      addEventListener: () => undefined,
      start(at: number) {
        Object.assign(sound, { at, seconds: this.buffer ? this.buffer.length / 1000 : seconds });
        clock.sounds.push(sound);
      },
      stop: () => {
        sound.stopped = true;
      },
    };
  };
  return {
    audio: () => ({
      get currentTime() {
        return clock.now;
      },
      sampleRate: 1000,
      outputLatency: 0,
      destination: {},
      resume: async () => undefined,
      createBuffer: (_: number, length: number) => ({ length, copyToChannel: () => undefined }),
      createBufferSource: () => source('stretch', 0),
    }),
    tone: (frequency: number, seconds: number, at: number) => {
      const made = source(frequency > 1500 ? 'one' : 'click', seconds);
      made.start(at);
      return made;
    },
  };
});
vi.mock('./jobs', () => ({
  samplesOf: async () => ({ sampleRate: 1000, channels: [new Float32Array(10)] }),
  soundWorker: {
    call: async (ask: (api: unknown) => unknown) =>
      ask({
        mix: (from: number, count: number, rate: number) => {
          if (clock.fails) throw new Error('the worker died');
          clock.mixed.push({ from, seconds: count / rate });
          return clock.mute ? null : [new Float32Array(count), new Float32Array(count)];
        },
      }),
  },
}));
vi.mock('./kept-worker', () => ({ projectTeller: () => async () => undefined }));
const frames: (() => void)[] = [];
vi.stubGlobal('requestAnimationFrame', (go: () => void) => void frames.push(go));

const playback = await import('./playback');
const { useProject } = await import('./store');
const { play, seek, seekIntoFilm, togglePlay, loopBar, loopFrames, songTime, playedSpot, usePlayback } = playback;

const playhead = () => useProject.getState().playhead;
const settle = async () => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};
/** Lets the clock run on, a frame of the screen at a time. */
async function run(seconds: number): Promise<void> {
  for (const end = clock.now + seconds; clock.now < end - 1e-9; ) {
    clock.now = Math.min(end, clock.now + 1 / 60);
    await vi.advanceTimersByTimeAsync(1000 / 60);
    for (const go of frames.splice(0)) go();
    await settle();
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  const project = stagedProject();
  if (project.song) project.song.map = constantBeatMap(120, 0, 180);
  useProject.setState({ project, playhead: 0 });
  usePlayback.setState({ playing: false, click: false, countIn: false, loop: null });
  Object.assign(clock, { now: 10, sounds: [], mixed: [], fails: false, mute: false });
  frames.length = 0;
});
afterEach(() => {
  if (usePlayback.getState().playing) togglePlay();
  vi.useRealTimers();
});

describe('playing', () => {
  it('the playhead follows what is heard, to the frame', async () => {
    seek(50);
    await play();
    await run(1.06);
    // Sound begins 60 ms after it is ready; a second of it has been heard.
    expect(songTime()).toBeCloseTo(3, 2);
    expect(playhead()).toBe(75);
    await run(2);
    expect(playhead()).toBe(125);
  });

  it('stretches lie end to end on the clock and on the song', async () => {
    await play();
    await run(4);
    const heard = clock.sounds.filter((s) => s.kind === 'stretch');
    expect(heard.length).toBeGreaterThan(3);
    for (const [i, s] of heard.entries()) {
      if (i === 0) continue;
      expect(s.at).toBeCloseTo(heard[i - 1].at + heard[i - 1].seconds, 9);
      expect(clock.mixed[i].from).toBeCloseTo(clock.mixed[i - 1].from + clock.mixed[i - 1].seconds, 9);
    }
    // Nothing is mixed further ahead than it need be.
    const last = heard[heard.length - 1];
    expect(last.at + last.seconds - clock.now).toBeLessThan(4);
  });

  it('paused everything falls silent at once, and it goes on from there', async () => {
    await play();
    await run(1.06);
    const at = playhead();
    togglePlay();
    expect(clock.sounds.every((s) => s.stopped || s.at + s.seconds <= clock.now)).toBe(true);
    await run(1);
    expect(playhead()).toBe(at);
    togglePlay();
    await settle();
    await run(0.56);
    expect(playhead()).toBeCloseTo(at + 12, -0.5);
  });

  it('pressed twice fast it plays once', async () => {
    const both = [play(), play()];
    await Promise.all(both);
    expect(clock.sounds.filter((s) => s.kind === 'stretch' && s.at < 10.1)).toHaveLength(1);
  });

  it('paused before the sound was ready nothing is heard', async () => {
    const begun = play();
    togglePlay();
    await begun;
    await run(0.5);
    expect(clock.sounds.filter((s) => !s.stopped)).toEqual([]);
    expect(usePlayback.getState().playing).toBe(false);
  });

  it('stops at the song’s end', async () => {
    seek(Math.round(89 * 25));
    await play();
    await run(2);
    expect(usePlayback.getState().playing).toBe(false);
    expect(playhead()).toBeLessThanOrEqual(90 * 25);
    expect(clock.mixed.at(-1)).toMatchObject({ from: expect.closeTo(89.4, 3), seconds: expect.closeTo(0.6, 3) });
  });

  it('a worker that dies ends the playing, and the next press begins anew', async () => {
    clock.fails = true;
    await play();
    expect(usePlayback.getState().playing).toBe(false);
    clock.fails = false;
    await play();
    await run(0.5);
    expect(usePlayback.getState().playing).toBe(true);
  });

  it('sought while playing it goes on from the new place', async () => {
    await play();
    await run(0.5);
    seek(1000);
    await settle();
    await run(1.06);
    expect(playhead()).toBeGreaterThanOrEqual(1024);
    expect(playhead()).toBeLessThan(1028);
    seek(-5);
    expect(playhead()).toBe(0);
  });

  it('before and after the film the playhead goes to its first frame, in it and while it plays it stays', async () => {
    const { project } = useProject.getState();
    if (!project) throw new Error('no project');
    seekIntoFilm();
    expect(playhead()).toBe(0);
    // At 120 beats a minute and 25 frames a second: from frame 100 to 150.
    const shot = proposePlain(project, 'late', { beat: 8, offset: 0 }, { beat: 12, offset: 0 }, project.takes[0].id);
    useProject.setState({ project: { ...project, shots: [shot] } });
    seekIntoFilm();
    expect(playhead()).toBe(100);
    for (const [from, to] of [
      [149, 149],
      [150, 100],
      [20, 100],
    ]) {
      seek(from);
      seekIntoFilm();
      expect(playhead()).toBe(to);
    }
    seek(0);
    await play();
    seekIntoFilm();
    expect(playhead()).toBeLessThan(10);
  });
});

describe('clicks', () => {
  it('lie on the beats, the one of each bar told apart', async () => {
    usePlayback.setState({ click: true });
    seek(5);
    await play();
    await run(3);
    const began = clock.sounds[0].at - 0.2;
    const clicks = clock.sounds.filter((s) => s.kind !== 'stretch' && s.at < clock.now);
    const beats = clicks.map((s) => (s.at - began) * 2);
    expect(beats.map((b) => Math.round(b))).toEqual([1, 2, 3, 4, 5, 6]);
    for (const b of beats) expect(b).toBeCloseTo(Math.round(b), 6);
    expect(clicks.map((s) => s.kind)).toEqual(['click', 'click', 'click', 'one', 'click', 'click']);
  });

  it('a bar is counted in to the next beat', async () => {
    usePlayback.setState({ countIn: true });
    // A tenth of a second after beat 4.
    seek(Math.round(2.1 * 25));
    await play();
    const counted = clock.sounds.filter((s) => s.kind !== 'stretch');
    const [stretch] = clock.sounds.filter((s) => s.kind === 'stretch');
    expect(counted).toHaveLength(4);
    const from = playhead() / 25;
    const fifth = stretch.at + 2.5 - from;
    expect(counted.map((c) => c.at)).toEqual([4, 3, 2, 1].map((k) => expect.closeTo(fifth - k / 2, 6)));
  });
});

describe('a loop', () => {
  it('is the bar at the playhead, in frames of the film, and a second press plays on', () => {
    seek(60);
    loopBar();
    expect(usePlayback.getState().loop).toEqual({ from: 4, to: 8 });
    const { project } = useProject.getState();
    if (!project) throw new Error('no project');
    expect(loopFrames(project)).toEqual({ first: 50, end: 100 });
    loopBar();
    expect(usePlayback.getState().loop).toBeNull();
    expect(loopFrames(project)).toBeNull();
  });

  it('comes round without a gap; the frame at its end is never seen', async () => {
    usePlayback.setState({ loop: { from: 4, to: 6 } });
    seek(50);
    await play();
    const seen = new Set<number>();
    const laps = new Set<number>();
    for (let i = 0; i < 150; i++) {
      await run(1 / 60);
      seen.add(playhead());
      laps.add(playedSpot().lap);
    }
    expect(Math.min(...seen)).toBe(50);
    expect(Math.max(...seen)).toBe(74);
    expect([...laps]).toEqual([0, 1, 2]);
    const heard = clock.sounds.filter((s) => s.kind === 'stretch');
    for (const [i, s] of heard.entries()) if (i) expect(s.at).toBeCloseTo(heard[i - 1].at + heard[i - 1].seconds, 9);
    for (const { from, seconds } of clock.mixed) {
      expect(from).toBeGreaterThanOrEqual(2 - 1e-9);
      expect(from + seconds).toBeLessThanOrEqual(3 + 1e-6);
    }
  });
});
