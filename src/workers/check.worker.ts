import * as Comlink from 'comlink';
import { checkProject, type MeasuredTake } from '@/core/check';
import { ProjectInUse } from './project-in-use';

const project = new ProjectInUse();

const api = {
  ...project.told,
  /** Everything the rules find in the project in use. */
  check: (measured: readonly MeasuredTake[]) => checkProject(project.open, measured),
};
export type CheckApi = typeof api;
Comlink.expose(api);
