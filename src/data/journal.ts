import type { Patch } from 'immer';
import * as z from 'zod/mini';
import type { Project } from '@/core/document';
import { db, type HistoryRow } from './db';
import { putDocument } from './documents';

/** One step of undo. */
export interface Step {
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/** Steps kept for undo; older ones are forgotten. */
const MOST_STEPS = 500;

const patchSchema = z.object({
  op: z.enum(['add', 'remove', 'replace']),
  path: z.array(z.union([z.string(), z.number()])),
  value: z.optional(z.unknown()),
});
const rowSchema = z.object({
  projectId: z.string(),
  index: z.int(),
  label: z.string(),
  patches: z.array(patchSchema),
  inverse: z.array(patchSchema),
});

/**
 * The steps of undo and redo of one project: all in memory, so that a step and what it does to the project are one, and written
 * behind it in order. `cursor` counts the steps that are applied, from the project's first one ever.
 */
export class Journal {
  /** Steps from this number on differ from what is written. */
  private changedFrom = Number.POSITIVE_INFINITY;
  /** The document as it is written; null where it must be written whole. */
  private written: Project | null = null;

  private constructor(
    /** The project as it is after the steps applied. */
    public project: Project,
    private first: number,
    private steps: Step[],
    private cursor: number,
  ) {}

  /**
   * The steps written for a project; none where they do not fit together, for a step undone on the wrong document is worse than none.
   * `apart` where its shots are kept one by one already.
   */
  static async open(project: Project, cursor: number, apart: boolean): Promise<Journal> {
    const rows = await db.history.where('projectId').equals(project.id).sortBy('index');
    const first = rows[0]?.index ?? cursor;
    const whole =
      rows.every((row, i) => row.index === first + i && rowSchema.safeParse(row).success) &&
      Number.isInteger(cursor) &&
      cursor >= first &&
      cursor <= first + rows.length;
    if (!whole) return Journal.empty(project);
    const steps = rows.map(({ label, patches, inverse }) => ({ label, patches, inverse }));
    const opened = new Journal(project, first, steps, cursor);
    if (apart) opened.written = project;
    return opened;
  }

  /** A journal without steps that takes the place of whatever is written. */
  static empty(project: Project): Journal {
    const made = new Journal(project, 0, [], 0);
    made.changedFrom = 0;
    return made;
  }

  get undoable(): Step | undefined {
    return this.steps[this.cursor - 1 - this.first];
  }

  get redoable(): Step | undefined {
    return this.steps[this.cursor - this.first];
  }

  /** Adds the step that led to `project` at the cursor; what could be redone is forgotten. */
  record(step: Step, project: Project): void {
    this.project = project;
    this.changedFrom = Math.min(this.changedFrom, this.cursor);
    this.steps.splice(this.cursor - this.first, Number.POSITIVE_INFINITY, step);
    this.cursor++;
    const over = this.steps.length - MOST_STEPS;
    if (over > 0) {
      this.steps.splice(0, over);
      this.first += over;
    }
  }

  /** Goes a step back, or on, to `project`. */
  move(back: boolean, project: Project): void {
    this.project = project;
    this.cursor += back ? -1 : 1;
  }

  /** Forgets every step, as after one that no longer fits. */
  forget(): void {
    this.steps = [];
    this.first = 0;
    this.cursor = 0;
    this.changedFrom = 0;
  }

  /** Writes the project as it is now together with the steps that are not written yet, all or nothing. */
  async write(): Promise<void> {
    const { project, first, cursor } = this;
    const projectId = project.id;
    const from = Math.max(first, this.changedFrom);
    const changed = this.changedFrom !== Number.POSITIVE_INFINITY;
    const rows: HistoryRow[] = changed ? this.steps.slice(from - first).map((step, i) => ({ projectId, index: from + i, ...step })) : [];
    this.changedFrom = Number.POSITIVE_INFINITY;
    const between = (low: number, high: number) =>
      db.history.where('[projectId+index]').between([projectId, low], [projectId, high], true, false);
    try {
      await db.transaction('rw', db.projects, db.shots, db.history, async () => {
        if (changed) {
          await between(from, Number.MAX_SAFE_INTEGER).delete();
          await between(0, first).delete();
          await db.history.bulkPut(rows);
        }
        await putDocument(project, this.written, { cursor });
      });
      this.written = project;
    } catch (error) {
      this.changedFrom = Math.min(this.changedFrom, changed ? from : Number.POSITIVE_INFINITY);
      throw error;
    }
  }
}
