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

/** As `derived`, for long work that hands over parts as it goes: broken off by a reload, it goes on from them. */
export function derivedInParts<T, P>(key: string, work: (begun: Begun<P>) => Promise<T>): Promise<T> {
  return derived(key, async () => {
    const own = db.derived.where('key').startsWith(`part of ${key}#`);
    // Keys come in order: numbers are padded.
    const parts = (await own.toArray()).map((row) => row.value as P);
    let next = parts.length;
    const value = await work({
      parts,
      keep(part) {
        void db.derived.put({ key: `part of ${key}#${String(next++).padStart(6, '0')}`, value: part }).catch(() => undefined);
      },
    });
    await db.derived
      .where('key')
      .startsWith(`part of ${key}#`)
      .delete()
      .catch(() => undefined);
    return value;
  });
}
