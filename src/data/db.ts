import Dexie, { type Table } from 'dexie';
import type { Patch } from 'immer';

/** A stored project document as written; validated when it is read. */
export interface ProjectRow {
  id: string;
  document: unknown;
  /** How many history entries are applied; those beyond are redo. */
  cursor: number;
  changed: number;
}

export interface HistoryRow {
  projectId: string;
  index: number;
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/** Something worked out from media; may be deleted at any time. */
export interface DerivedRow {
  key: string;
  value: unknown;
}

class Database extends Dexie {
  projects!: Table<ProjectRow, string>;
  history!: Table<HistoryRow, [string, number]>;
  derived!: Table<DerivedRow, string>;
  settings!: Table<{ key: string; value: unknown }, string>;

  constructor() {
    super('fickle-ribbon');
    this.version(2)
      .stores({})
      .upgrade(async (old) => {
        // Whips were kept by themselves before every move could be.
        const settings = old.table<{ key: string; value: unknown }, string>('settings');
        const whips = (await settings.get('kept whips'))?.value as
          | ({ name: string; seconds: number } & Record<string, unknown>)[]
          | undefined;
        if (!whips) return;
        const value = whips.map(({ name, seconds, ...numbers }) => ({ name, kind: 'whip', numbers, seconds: { frames: seconds } }));
        await settings.put({ key: 'kept moves', value });
        await settings.delete('kept whips');
      });
    this.version(1).stores({ projects: 'id, changed', history: '[projectId+index], projectId', derived: 'key', settings: 'key' });
  }
}

export const db = new Database();

/** A value worked out once and kept under `key`; `work` runs only when it is not there yet. Null is not kept. */
export async function derived<T>(key: string, work: () => Promise<T>): Promise<T> {
  const row = await db.derived.get(key);
  if (row) return row.value as T;
  const value = await work();
  if (value !== null) await db.derived.put({ key, value }).catch(() => undefined);
  return value;
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
export function derivedInParts<T, P>(key: string, work: (begun: Begun<P>) => Promise<T>): Promise<T> {
  return derived(key, async () => {
    const prefix = `part of ${key}#`;
    const rows = await db.derived.where('key').startsWith(prefix).sortBy('key');
    const parts = furthest(rows.map((row) => ({ name: row.key.slice(prefix.length), part: row.value as P })));
    const run = crypto.randomUUID();
    // Numbers are padded, so that keys come in order.
    const name = (n: number) => `${prefix}${run}#${String(n).padStart(6, '0')}`;
    let next = 0;
    const keep = (part: P) => db.derived.put({ key: name(next++), value: part }).catch(() => undefined);
    for (const part of parts) await keep(part);
    await db.derived.bulkDelete(rows.map((row) => row.key)).catch(() => undefined);
    const value = await work({ parts, keep: (part) => void keep(part) });
    await db.derived
      .where('key')
      .startsWith(`${prefix}${run}#`)
      .delete()
      .catch(() => undefined);
    return value;
  });
}
