import * as Comlink from 'comlink';
import { describe, expect, it, vi } from 'vitest';
import { changed, emptyProject, type Project, type ProjectChange } from '@/core/document';
import { KeptWorker, projectTeller } from './kept-worker';

/** What a worker on the other side of a channel was told, and the project it has now. */
class Told {
  project: Project | null = null;
  readonly calls: string[] = [];

  use(project: Project): void {
    this.calls.push('whole');
    this.project = project;
  }

  change(change: ProjectChange): void {
    this.calls.push('change');
    if (this.project) this.project = changed(this.project, change);
  }

  name(): string {
    if (!this.project) throw new Error('No project is open.');
    return this.project.name;
  }

  never(): Promise<void> {
    return new Promise(() => undefined);
  }
}

/** Workers that are channels; each start is a new one, as with real ones. */
function workers(): { kept: KeptWorker<Told>; made: Told[]; die: () => void } {
  const made: Told[] = [];
  let die = () => undefined as undefined;
  const kept = new KeptWorker<Told>(() => {
    const { port1, port2 } = new MessageChannel();
    const told = new Told();
    made.push(told);
    Comlink.expose(told, port2);
    const fails: (() => void)[] = [];
    die = () => {
      for (const fail of fails) fail();
    };
    const worker = {
      postMessage: (message: unknown, transfer: Transferable[]) => port1.postMessage(message, transfer ?? []),
      addEventListener: (name: string, listener: EventListener) => {
        if (name === 'error') fails.push(() => listener(new Event('error')));
        else port1.addEventListener(name, listener);
      },
      removeEventListener: (name: string, listener: EventListener) => port1.removeEventListener(name, listener),
      terminate: () => {
        port1.close();
        port2.close();
      },
      start: () => port1.start(),
    };
    port1.start();
    return worker as unknown as Worker;
  });
  return { kept, made, die: () => die() };
}

const start = emptyProject('p', 'one');

describe('a kept worker and its project', () => {
  it('is told the whole project once, then only what changes; nothing where nothing does', async () => {
    const { kept, made } = workers();
    const give = projectTeller(kept);
    await give(start);
    await give(start);
    const next = { ...start, name: 'two' };
    await give(next);
    expect(made[0].calls).toEqual(['whole', 'change']);
    expect(await kept.call((api) => api.name())).toBe('two');
    await give({ ...emptyProject('other', 'three') });
    expect(made[0].calls).toEqual(['whole', 'change', 'whole']);
  });

  it('has the last project also where one is told before the one before it is answered', async () => {
    const { kept, made } = workers();
    const give = projectTeller(kept);
    await give(start);
    const [two, back] = [{ ...start, name: 'two', units: 'feet' as const }, { ...start }];
    await Promise.all([give(two), give(back)]);
    expect(made[0].project).toEqual(start);
  });

  it('rests only once nothing waits for it, not between being told a project and being asked of it', async () => {
    const { kept, made } = workers();
    const give = projectTeller(kept);
    const asking = give(start).then(() => kept.call((api) => api.name()));
    kept.rest();
    expect(await asking).toBe('one');
    await vi.waitFor(() => expect(kept.died).toBe(1));
    await give(start);
    expect(await kept.call((api) => api.name())).toBe('one');
    expect(made.map((m) => m.calls)).toEqual([['whole'], ['whole']]);
    expect(kept.died).toBe(1);
  });

  it('what waits for one that dies fails with a sentence; the next one is told all again', async () => {
    const { kept, made, die } = workers();
    const give = projectTeller(kept);
    await give(start);
    const waiting = kept.call((api) => api.never());
    die();
    await expect(waiting).rejects.toThrow(/started again/);
    await give(start);
    expect(made).toHaveLength(2);
    expect(await kept.call((api) => api.name())).toBe('one');
  });

  it('rests only where nothing waits for it; the next call starts it again and it is told all', async () => {
    const { kept, made } = workers();
    const give = projectTeller(kept);
    await give(start);
    const asked = kept.call((api) => api.name());
    kept.rest();
    expect(await asked).toBe('one');
    expect(made).toHaveLength(1);
    kept.rest();
    await give(start);
    expect(await kept.call((api) => api.name())).toBe('one');
    expect(made.map((m) => m.calls)).toEqual([['whole'], ['whole']]);
  });

  it('one that says nothing is given up after its time', async () => {
    vi.useFakeTimers();
    const { kept } = workers();
    const waiting = kept.call((api) => api.never(), 30_000);
    const failed = expect(waiting).rejects.toThrow(/started again/);
    await vi.advanceTimersByTimeAsync(30_000);
    await failed;
    vi.useRealTimers();
    expect(kept.died).toBe(1);
  });
});
