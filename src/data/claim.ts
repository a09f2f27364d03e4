/** The right to write a project: one tab holds it, the next in line gets it when that tab closes or opens another project. */
export interface Claim {
  /** Whether it is held now. */
  held: boolean;
  /** Resolves when it is, at once or later; never where it was let go before. */
  granted: Promise<void>;
  /** Lets it go, or stops waiting for it. */
  release(): void;
}

/** Asks for the right to write a project and waits in line where another tab has it. */
export function claim(projectId: string): Promise<Claim> {
  const here: Claim = { held: true, granted: Promise.resolve(), release: () => undefined };
  if (typeof navigator === 'undefined' || !navigator.locks) return Promise.resolve(here);
  const name = `fickle-ribbon-${projectId}`;
  return new Promise((answer) => {
    const leave = new AbortController();
    const until = () => new Promise<void>((done) => leave.signal.addEventListener('abort', () => done()));
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      if (lock) {
        answer({ ...here, release: () => leave.abort() });
        return until();
      }
      const waiting: Claim = { held: false, granted: Promise.resolve(), release: () => leave.abort() };
      waiting.granted = new Promise((granted) => {
        void navigator.locks
          .request(name, { signal: leave.signal }, () => {
            waiting.held = true;
            granted();
            return until();
          })
          .catch(() => undefined);
      });
      answer(waiting);
      return undefined;
    });
  });
}
