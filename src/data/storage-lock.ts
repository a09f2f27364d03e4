const LOCK = 'fickle-ribbon-taking-in';

/** Runs work that stores files before a project names them; nothing is swept away meanwhile, in any tab. */
export function takingIn<T>(work: () => Promise<T>): Promise<T> {
  if (typeof navigator === 'undefined' || !navigator.locks) return work();
  return navigator.locks.request(LOCK, { mode: 'shared' }, work) as Promise<T>;
}

/** Runs work while no files are being taken in; null where some are. */
export function whileNothingComesIn<T>(work: () => Promise<T>): Promise<T | null> {
  if (typeof navigator === 'undefined' || !navigator.locks) return work();
  return navigator.locks.request(LOCK, { ifAvailable: true }, (lock) => (lock ? work() : null)) as Promise<T | null>;
}
