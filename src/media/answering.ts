import { say } from '@/core/words';

/** Milliseconds after which a decoder that says nothing is taken to have stopped. */
const PATIENCE = 10_000;

const STOPPED = say`The decoder stopped answering: what comes next in the file is damaged. Copy it from the camera again, or use another take.`;

/** The same values, but an error where the next one does not come in time: a damaged file can leave a decoder waiting for ever. */
export async function* answering<T>(source: AsyncGenerator<T, void, unknown>, patience = PATIENCE): AsyncGenerator<T, void, unknown> {
  let whole = false;
  try {
    for (;;) {
      let timer: ReturnType<typeof setTimeout> | undefined;
      const late = new Promise<never>((_, reject) => {
        timer = setTimeout(() => reject(new Error(STOPPED)), patience);
      });
      const next = await Promise.race([source.next(), late]).finally(() => clearTimeout(timer));
      if (next.done) {
        whole = true;
        return;
      }
      yield next.value;
    }
  } finally {
    // One that does not answer is not waited for here either.
    const ended = source.return();
    if (whole) await ended;
    else ended.catch(() => undefined);
  }
}
