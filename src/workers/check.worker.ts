import * as Comlink from 'comlink';
import { checkProject, type MeasuredTake } from '@/core/check';
import { changed, type Project, type ProjectChange } from '@/core/shot';

let project: Project | null = null;

const api = {
  use(next: Project) {
    project = next;
  },
  /** What changed of the project in use. */
  change(change: ProjectChange) {
    if (project) project = changed(project, change);
  },
  /** Everything the rules find in the project in use. */
  check(measured: readonly MeasuredTake[]) {
    if (!project) throw new Error('No project is open.');
    return checkProject(project, measured);
  },
};
export type CheckApi = typeof api;
Comlink.expose(api);
