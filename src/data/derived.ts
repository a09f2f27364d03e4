import { db } from './db';

const DAY = 86_400_000;

/** Notes that a derived thing was used today; once a day is enough. */
async function used(key: string): Promise<void> {
  const at = Date.now();
  const before = await db.ages.get(key);
  if (!before || at - before.at > DAY) await db.ages.put({ key, at });
}

/** Keeps a derived value where there is room; it can always be worked out again. Null is not kept. Gives it back. */
export async function keepDerived<T>(key: string, value: T): Promise<T> {
  if (value === null) return value;
  await db.derived.put({ key, value }).catch(() => undefined);
  await used(key).catch(() => undefined);
  return value;
}

/** Drops what was worked out and not used for `days`. */
export async function dropUnused(days: number): Promise<void> {
  const keys = await db.ages
    .where('at')
    .below(Date.now() - days * DAY)
    .primaryKeys();
  await dropDerived(keys);
}

/** Drops derived values; whatever needs one works it out again. */
export async function dropDerived(keys: readonly string[]): Promise<void> {
  await db.derived.bulkDelete([...keys]);
  await db.ages.bulkDelete([...keys]);
}

/** What is being worked out, by its key. */
const underWay = new Map<string, Promise<unknown>>();

/**
 * A value worked out once and kept under `key`; `work` runs only when it is not there yet and nobody is at it. Where the one who is at it
 * gives up, whoever waited works it out themselves. Null is not kept.
 */
export async function derived<T>(key: string, work: () => Promise<T>): Promise<T> {
  const row = await db.derived.get(key);
  if (row) {
    void used(key).catch(() => undefined);
    return row.value as T;
  }
  const other = underWay.get(key) as Promise<T> | undefined;
  if (other)
    return other.catch((error: unknown) => {
      if (error instanceof Error && error.name === 'Cancelled') return derived(key, work);
      throw error;
    });
  const run = work()
    .then((value) => keepDerived(key, value))
    .finally(() => underWay.delete(key));
  underWay.set(key, run);
  return run;
}

/** What long work that was broken off had gathered, in order, and where what it gathers goes. */
export interface Begun<P> {
  parts: P[];
  keep(part: P): void;
}

/** The parts of the run that got furthest; one whose beginning another run has taken over does not count. `rows` in order. */
function furthest<P>(rows: readonly { name: string; part: P }[]): P[] {
  const runs = new Map<string, P[]>();
  for (const { name, part } of rows) {
    const [run, number] = name.split('#');
    const own = runs.get(run) ?? [];
    if (Number(number) === own.length) own.push(part);
    runs.set(run, own);
  }
  return [...runs.values()].reduce((most, run) => (run.length > most.length ? run : most), []);
}

/**
 * As `derived`, for long work that hands over parts as it goes: broken off by a reload, it goes on from them. Each run writes under
 * a name of its own, so that two at once do not mix; the one that got furthest is gone on from.
 */
export async function derivedInParts<T, P>(key: string, work: (begun: Begun<P>) => Promise<T>): Promise<T> {
  const prefix = `part of ${key}#`;
  let mine = '';
  const value = await derived(key, async () => {
    const rows = await db.derived.where('key').startsWith(prefix).sortBy('key');
    const parts = furthest(rows.map((row) => ({ name: row.key.slice(prefix.length), part: row.value as P })));
    const run = crypto.randomUUID();
    mine = `${prefix}${run}#`;
    // Numbers are padded, so that keys come in order.
    const name = (n: number) => `${mine}${String(n).padStart(6, '0')}`;
    let next = 0;
    const keep = (part: P) => db.derived.put({ key: name(next++), value: part }).catch(() => undefined);
    for (const part of parts) await keep(part);
    await db.derived.bulkDelete(rows.map((row) => row.key)).catch(() => undefined);
    return work({ parts, keep: (part) => void keep(part) });
  });
  // Only once the whole is kept: a reload between the two would begin from nothing.
  if (mine)
    await db.derived
      .where('key')
      .startsWith(mine)
      .delete()
      .catch(() => undefined);
  return value;
}
