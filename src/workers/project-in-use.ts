import { changed, type Project, type ProjectChange, projectChangeSchema, readProject } from '@/core/document';
import { say } from '@/core/words';
import { checked } from './checked';

/** A project as it came from the page; throws a sentence where it is none. */
export function receivedProject(value: unknown): Project {
  const read = readProject(value);
  if (!read.ok) throw new Error(read.reason);
  return read.project;
}

/** The project a worker works on: told whole once, and what changes of it from then on. */
export class ProjectInUse {
  current: Project | null = null;

  /** The calls by which the page tells of it. */
  readonly told = {
    use: (next: Project): void => {
      this.current = receivedProject(next);
    },
    change: checked([projectChangeSchema], (change: ProjectChange): void => {
      if (this.current) this.current = changed(this.current, change);
    }),
  };

  /** Throws where no project is open. */
  get open(): Project {
    if (!this.current) throw new Error(say`No project is open.`);
    return this.current;
  }
}
