import { sentenceOf } from '@/media/sentence';
import { handRests } from './hand-rests';
import { Cancelled } from './jobs';
import { type Pair, useMeasuring } from './measuring';
import { measurementKey, takeMeasurement } from './media';
import { usePlayback } from './playback';
import { useProject } from './store';

export const pairKey = ({ media, against }: Pair): string => measurementKey(media, against);

let control = new AbortController();
let running = false;

/** Resolves when nothing plays and the hand rests: measuring leaves the machine to the player, and to what was just pressed. */
async function quiet(): Promise<void> {
  if (usePlayback.getState().playing)
    await new Promise<void>((go) => {
      const stop = usePlayback.subscribe(({ playing }) => {
        if (playing) return;
        stop();
        go();
      });
    });
  await handRests();
}

async function measureNext(): Promise<boolean> {
  const [next, ...queue] = useMeasuring.getState().queue;
  if (!next) return false;
  const { key, media, against } = next;
  const tell = (done: number) => {
    useMeasuring.setState({ doing: { key, name: media.name, done } });
    return quiet();
  };
  useMeasuring.setState({ queue, doing: { key, name: media.name, done: 0 } });
  const { signal } = control;
  try {
    const value = await takeMeasurement(media, against, tell, signal);
    useMeasuring.setState((s) => ({ measured: new Map(s.measured).set(key, value) }));
  } catch (error) {
    // One take that cannot be measured does not stop those after it.
    if (!(error instanceof Cancelled)) useMeasuring.setState((s) => ({ problems: new Map(s.problems).set(key, sentenceOf(error)) }));
  }
  return true;
}

async function run(): Promise<void> {
  if (running) return;
  running = true;
  while (await measureNext());
  running = false;
  useMeasuring.setState({ doing: null });
}

/** Has pairs measured that are not yet; they come before what was asked for earlier. It goes on whatever page is open. */
export function wantMeasured(pairs: readonly Pair[]): void {
  const { measured, doing, queue } = useMeasuring.getState();
  const wanted = pairs.map((pair) => ({ ...pair, key: pairKey(pair) })).filter(({ key }) => !measured.has(key) && key !== doing?.key);
  const keys = new Set(wanted.map((w) => w.key));
  useMeasuring.setState((s) => ({
    queue: [...wanted, ...queue.filter((q) => !keys.has(q.key))],
    problems: new Map([...s.problems].filter(([key]) => !keys.has(key))),
  }));
  void run();
}

/** Stops measuring; what was measured so far of a take is kept and gone on from. */
export function stopMeasuring(): void {
  useMeasuring.setState({ queue: [] });
  control.abort();
  control = new AbortController();
}

// Another project has other takes.
useProject.subscribe((now, before) => {
  if (before.project && now.project?.id !== before.project.id) stopMeasuring();
});
