import { say } from '@/core/words';

/** Milliseconds after which a decoder that says nothing is taken to have stopped. */
const PATIENCE = 10_000;

const STOPPED = say`The decoder stopped answering: what comes next in the file is damaged. Copy it from the camera again, or use another take.`;

/** The same values, but an error where the next one does not come in time: a damaged file can leave a decoder waiting for ever. */
export async function* answering<T>(source: AsyncGenerator<T, void, unknown>, patience = PATIENCE): AsyncGenerator<T, void, unknown> {
  let whole = false;
  // One clock for all values, not one for each: a song has thousands.
  let waited: { since: number; giveUp(): void } | null = null;
  const clock = setInterval(() => {
    if (waited && performance.now() - waited.since >= patience) waited.giveUp();
  }, patience / 10);
  const nextOf = () =>
    new Promise<IteratorResult<T, void>>((resolve, reject) => {
      waited = { since: performance.now(), giveUp: () => reject(new Error(STOPPED)) };
      source.next().then(resolve, reject);
    });
  try {
    for (;;) {
      const next = await nextOf();
      waited = null;
      if (next.done) {
        whole = true;
        return;
      }
      yield next.value;
    }
  } finally {
    clearInterval(clock);
    // One that does not answer is not waited for here either.
    const ended = source.return();
    if (whole) await ended;
    else ended.catch(() => undefined);
  }
}
