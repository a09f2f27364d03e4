import * as Comlink from 'comlink';
import { changeBetween, type Project, type ProjectChange } from '@/core/document';
import { say } from '@/core/words';

/** Milliseconds after which a worker that does not answer is taken to be dead. */
const PATIENCE = 30_000;

const DIED = say`A background task ended unexpectedly and was started again. Nothing was lost; try again.`;

interface Held<Api> {
  worker: Worker;
  api: Comlink.Remote<Api>;
  died: Promise<never>;
  end: (reason: Error) => void;
}

/** A worker kept for many calls. One that dies is started again with the next call; what waited for it fails with a sentence. */
export class KeptWorker<Api> {
  private held: Held<Api> | null = null;
  private waiting = 0;
  private toRest = false;
  /** How many have ended: what was told to an earlier one must be told anew. */
  died = 0;

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
        if (this.held === held) {
          this.held = null;
          this.died++;
        }
        end(reason);
      },
    };
    worker.addEventListener('error', () => held.end(new Error(DIED)));
    return held;
  }

  /** Asks the worker. Rejects with its error, or with a sentence where it dies or says nothing for `patience` milliseconds. */
  async call<T>(ask: (api: Comlink.Remote<Api>) => Promise<T>, patience = PATIENCE): Promise<T> {
    this.held ??= this.begin();
    const held = this.held;
    const timer = setTimeout(() => held.end(new Error(DIED)), patience);
    this.waiting++;
    try {
      return await Promise.race([ask(held.api), held.died]);
    } finally {
      this.waiting--;
      clearTimeout(timer);
      // Whoever waited may ask for the next thing at once: of a project that it was told, for one.
      if (this.toRest) setTimeout(() => this.toRest && this.rest(), 0);
    }
  }

  /** Ends the worker with all it keeps, as soon as nothing waits for it: other work needs the memory. The next call starts it again. */
  rest(): void {
    this.toRest = this.waiting > 0;
    if (!this.toRest) this.held?.end(new Error(DIED));
  }
}

/** A worker that works on one project at a time. */
interface OnProject {
  use(project: Project): void;
  change(change: ProjectChange): void;
}

/** Gives a worker the project it works on: whole once, then what changes of it, and whole again where the worker was started again. */
export function projectTeller(worker: KeptWorker<OnProject>): (project: Project) => Promise<void> {
  let told: { project: Project; died: number } | null = null;
  return async (project) => {
    const before = told?.died === worker.died ? told.project : null;
    if (before === project) return;
    // Calls arrive in order: what is told next builds on this, also before it is answered.
    told = { project, died: worker.died };
    try {
      await worker.call((api) => (before?.id === project.id ? api.change(changeBetween(before, project)) : api.use(project)));
    } catch (error) {
      told = null;
      throw error;
    }
  };
}
