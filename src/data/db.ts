import Dexie, { type Table } from 'dexie';
import type { Patch } from 'immer';

/** A stored project document as written; validated when it is read. */
export interface ProjectRow {
  id: string;
  document: unknown;
  /** Of each list of shots that is kept one by one, not in the document, their ids; none where it holds them all. */
  apart?: Record<string, string[]>;
  /** How many history entries are applied; those beyond are redo. */
  cursor: number;
  changed: number;
  /** When it was deleted; such a project can be brought back for a while. */
  deleted?: number;
}

export interface HistoryRow {
  projectId: string;
  index: number;
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/** One shot of a project, as it stands in its document. */
export interface ShotRow {
  projectId: string;
  id: string;
  item: unknown;
}

/** A document as it was before it was repaired. */
export interface OriginalRow {
  id?: number;
  projectId: string;
  document: unknown;
  at: number;
}

/** A project as it was at a time; its document lies apart, so that lists of them are quick. */
export interface VersionRow {
  id: number;
  projectId: string;
  at: number;
  /** Given by the user; '' where it was kept by itself. */
  name: string;
  shots: number;
  takes: number;
}

/** Something worked out from media; may be deleted at any time. */
export interface DerivedRow {
  key: string;
  value: unknown;
}

class Database extends Dexie {
  projects!: Table<ProjectRow, string>;
  shots!: Table<ShotRow, [string, string]>;
  history!: Table<HistoryRow, [string, number]>;
  originals!: Table<OriginalRow, number>;
  versions!: Table<VersionRow, number, Omit<VersionRow, 'id'>>;
  versionDocuments!: Table<{ id: number; projectId: string; document: unknown }, number>;
  derived!: Table<DerivedRow, string>;
  /** When each derived thing was last used: the day it was made or read. */
  ages!: Table<{ key: string; at: number }, string>;
  settings!: Table<{ key: string; value: unknown }, string>;

  constructor() {
    // What is said to be saved is on the disk, not on its way there.
    super('fickle-ribbon', { chromeTransactionDurability: 'strict' });
    this.version(5).stores({ versions: '++id, projectId', versionDocuments: 'id, projectId' });
    this.version(4).stores({ shots: '[projectId+id], projectId' });
    this.version(3).stores({ originals: '++id, projectId', ages: 'key, at' });
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

/** Under this setting a project's picture stands, as a data URL, with when the project was changed that it shows. */
export const pictureKey = (projectId: string) => `picture of ${projectId}`;

/** Milliseconds between two calls to pages that are kept frozen. */
const CALL = 400;

/**
 * Opens the data base. A page that is left may be kept frozen by the browser, to be shown again when the user goes back; frozen in
 * the middle of opening the data base it would keep every other page from it, for ever. A call on a channel that it listens to
 * makes the browser give it up: one is sent again and again until the data base is open.
 */
export async function openData(): Promise<void> {
  const channel =
    typeof document === 'undefined' || typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('fickle-ribbon-page');
  // Listening is what matters; whoever is awake has nothing to do.
  if (channel) channel.onmessage = () => undefined;
  const call = () => channel?.postMessage('opening');
  call();
  const calling = setInterval(call, CALL);
  try {
    await db.open();
  } finally {
    clearInterval(calling);
  }
}
