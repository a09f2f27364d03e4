import * as Comlink from 'comlink';
import type { Project } from '@/core/shot';

/** Milliseconds after which a worker that does not answer is taken to be dead. */
const PATIENCE = 30_000;

const DIED = 'A background task ended unexpectedly and was started again. Nothing was lost; try again.';

interface Held<Api> {
  worker: Worker;
  api: Comlink.Remote<Api>;
  died: Promise<never>;
  end: (reason: Error) => void;
}

/** A worker kept for many calls. One that dies is started again with the next call; what waited for it fails with a sentence. */
export class KeptWorker<Api> {
  private held: Held<Api> | null = null;
  /** How often it was started: what was told to an earlier one must be told anew. */
  started = 0;

  constructor(private readonly start: () => Worker) {}

  private begin(): Held<Api> {
    const worker = this.start();
    let end: (reason: Error) => void = () => undefined;
    const died = new Promise<never>((_, reject) => {
      end = reject;
    });
    died.catch(() => undefined);
    const held: Held<Api> = {
      worker,
      api: Comlink.wrap<Api>(worker),
      died,
      end: (reason) => {
        worker.terminate();
        if (this.held === held) this.held = null;
        end(reason);
      },
    };
    worker.addEventListener('error', () => held.end(new Error(DIED)));
    this.started++;
    return held;
  }

  /** Asks the worker. Rejects with its error, or with a sentence where it dies or says nothing for `patience` milliseconds. */
  async call<T>(ask: (api: Comlink.Remote<Api>) => Promise<T>, patience = PATIENCE): Promise<T> {
    this.held ??= this.begin();
    const held = this.held;
    const timer = setTimeout(() => held.end(new Error(DIED)), patience);
    try {
      return await Promise.race([ask(held.api), held.died]);
    } finally {
      clearTimeout(timer);
    }
  }
}

/** Gives a worker the project it works on: once, until there is another or the worker was started again. */
export function projectTeller(worker: KeptWorker<{ use(project: Project): void }>): (project: Project) => Promise<void> {
  let told: { project: Project; started: number } | null = null;
  return async (project) => {
    if (told?.project === project && told.started === worker.started) return;
    await worker.call((api) => api.use(project));
    told = { project, started: worker.started };
  };
}
