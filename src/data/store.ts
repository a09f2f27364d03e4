import { applyPatches, type Draft, enablePatches, type Patch, produceWithPatches } from 'immer';
import { create } from 'zustand';
import { emptyProject, PROJECT_VERSION, type Project, readProject } from '@/core/shot';
import { db } from './db';

enablePatches();

export interface OpenProject {
  project: Project | null;
  /** 'opening' until the data base has answered. */
  state: 'opening' | 'open' | 'failed';
  /** A sentence to show, or ''. */
  problem: string;
  /** False when another tab holds the project. */
  writable: boolean;
  /** True until the last change is on disk. */
  saving: boolean;
  undoLabel: string;
  redoLabel: string;
  playhead: number;
  selectedShot: string | null;
  /** The planned shot being looked at. */
  selectedPlan: string | null;
}

export const useProject = create<OpenProject>(() => ({
  project: null,
  state: 'opening',
  problem: '',
  writable: true,
  saving: false,
  undoLabel: '',
  redoLabel: '',
  playhead: 0,
  selectedShot: null,
  selectedPlan: null,
}));

const KEPT_STEPS = 500;
let cursor = 0;
let saving: Promise<void> = Promise.resolve();

/** Writes one after another; a failed write is told, and the picture on screen stays as it is. */
function write(job: () => Promise<unknown>): Promise<void> {
  useProject.setState({ saving: true });
  const mine = saving.then(job).then(
    () => undefined,
    (error: unknown) => {
      const full = error instanceof Error && /quota/i.test(`${error.name} ${error.message}`);
      useProject.setState({
        problem: full
          ? 'The browser’s storage is full: your last change is on screen but not saved. Free some space or save the project as a file now (Deliver).'
          : 'Your last change is on screen but could not be saved. Save the project as a file now (Deliver), then reload.',
      });
    },
  );
  saving = mine;
  void mine.then(() => saving === mine && useProject.setState({ saving: false }));
  return mine;
}

async function showLabels(projectId: string): Promise<void> {
  const [undo, redo] = await Promise.all([db.history.get([projectId, cursor - 1]), db.history.get([projectId, cursor])]);
  useProject.setState({ undoLabel: undo?.label ?? '', redoLabel: redo?.label ?? '' });
}

/** Waits until everything done so far is saved. */
export function settled(): Promise<void> {
  return saving;
}

/** Changes the project as one named, undoable step. Returns false when this tab may not write. */
export function edit(label: string, change: (draft: Draft<Project>) => void): boolean {
  const { project, writable } = useProject.getState();
  if (!project) return false;
  if (!writable) {
    useProject.setState({ problem: 'This project is open in another tab, which is the one that writes. Close that tab, or work there.' });
    return false;
  }
  const [next, patches, inverse] = produceWithPatches(project, change);
  if (patches.length === 0) return true;
  useProject.setState({ project: next, undoLabel: label, redoLabel: '' });
  const index = cursor++;
  void write(() =>
    db.transaction('rw', db.projects, db.history, async () => {
      await db.history.where('[projectId+index]').between([next.id, index], [next.id, Number.MAX_SAFE_INTEGER], true, true).delete();
      await db.history.put({ projectId: next.id, index, label, patches, inverse });
      await db.history
        .where('[projectId+index]')
        .between([next.id, 0], [next.id, index - KEPT_STEPS])
        .delete();
      await db.projects.put({ id: next.id, document: next, cursor: index + 1, changed: Date.now() });
    }),
  );
  return true;
}

async function step(back: boolean): Promise<void> {
  await saving;
  const { project, writable } = useProject.getState();
  if (!project || !writable) return;
  const row = await db.history.get([project.id, back ? cursor - 1 : cursor]);
  if (!row) return;
  const next = applyPatches(project, (back ? row.inverse : row.patches) as Patch[]);
  cursor += back ? -1 : 1;
  const at = cursor;
  useProject.setState({ project: next });
  await write(() => db.projects.put({ id: next.id, document: next, cursor: at, changed: Date.now() }));
  await showLabels(next.id);
}

export const undo = () => step(true);
export const redo = () => step(false);

let release: (() => void) | null = null;

/** One tab writes a project; the first to ask holds it until it closes. */
function claim(projectId: string): Promise<boolean> {
  release?.();
  release = null;
  if (typeof navigator === 'undefined' || !navigator.locks) return Promise.resolve(true);
  return new Promise((answer) => {
    void navigator.locks.request(`fickle-ribbon-${projectId}`, { ifAvailable: true }, (lock) => {
      if (!lock) {
        answer(false);
        return undefined;
      }
      answer(true);
      return new Promise<void>((done) => {
        release = done;
      });
    });
  });
}

/** Shows a stored project. */
export async function openProject(id: string): Promise<void> {
  const row = await db.projects.get(id);
  const read = readProject(row?.document);
  if (!row || !read.ok) {
    useProject.setState({ state: 'failed', problem: read.ok ? 'That project is no longer here.' : read.reason });
    return;
  }
  cursor = row.cursor;
  if ((row.document as { version?: unknown }).version !== PROJECT_VERSION) {
    // Steps recorded on an older form of the document do not fit this one.
    await db.history.where('projectId').equals(id).delete();
    cursor = 0;
    await db.projects.put({ ...row, document: read.project, cursor });
  }
  const writable = await claim(id);
  await db.settings.put({ key: 'open', value: id }).catch(() => undefined);
  useProject.setState({
    project: read.project,
    state: 'open',
    writable,
    problem: writable ? '' : 'This project is open in another tab, which is the one that writes. Here you can look.',
    playhead: 0,
    selectedShot: read.project.shots[0]?.id ?? null,
    selectedPlan: read.project.plans[0]?.id ?? null,
  });
  await showLabels(id);
}

/** Stores a whole document as a project of its own and opens it. */
export async function addProject(project: Project): Promise<void> {
  await db.projects.put({ id: project.id, document: project, cursor: 0, changed: Date.now() });
  await db.history.where('projectId').equals(project.id).delete();
  await openProject(project.id);
}

export async function newProject(name: string): Promise<void> {
  await addProject(emptyProject(crypto.randomUUID(), name));
}

/** Opens what was open last. False when there is nothing yet: the first start. */
export async function openLast(): Promise<boolean> {
  const last = await db.settings.get('open');
  const row = (typeof last?.value === 'string' && (await db.projects.get(last.value))) || (await db.projects.orderBy('changed').last());
  if (!row) return false;
  await openProject(row.id);
  return true;
}
