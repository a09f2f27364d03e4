import type { Project } from '@/core/document';
import type { Frames } from '@/core/units';
import type { FilmFault, Leave } from '@/media/fault';

/** How something is asked for. */
export interface ExportAsk {
  project: Project;
  playhead: Frames;
  /** The file of the user's choice that it is written to; null where it is downloaded. */
  chosen: FileSystemFileHandle | null;
  /** What may be left of a film that cannot be read. */
  leave: readonly Leave[];
  /** Told what is done and how far it is, 0..1. */
  tell: (text: string, done: number) => void;
  signal: AbortSignal;
}

/** What came of it: the file and a sentence about it, or where it stopped. */
export type Exported = { ok: true; file: Blob; said: string } | { ok: false; fault: FilmFault };

/** One kind of file that leaves the application. A format is one file and a line in `index.ts`. */
export interface ExportFormat {
  readonly id: string;
  readonly group: 'film' | 'still' | 'project';
  /** On its button. */
  readonly label: string;
  readonly type: string;
  /** Whether it can be written straight to a file of the user's choice. */
  readonly streams: boolean;
  /** Its ending, or more of its name before it. */
  ending(playhead: Frames): string;
  /** Why it cannot be made now, in a sentence; '' where it can. */
  unavailable(project: Project): string;
  make(ask: ExportAsk): Promise<Exported>;
}
