import { applyPatches, type Draft, enablePatches, produceWithPatches } from 'immer';
import { create } from 'zustand';
import { editProblem, emptyProject, type Media, PROJECT_VERSION, type Project, readProject, repairProject } from '@/core/document';
import { say } from '@/core/words';
import { type Claim, claim } from './claim';
import { db, type ProjectRow } from './db';
import { putDocument, storedDocument } from './documents';
import { Journal } from './journal';

enablePatches();

export interface OpenProject {
  project: Project | null;
  /** 'opening' until the data base has answered. */
  state: 'opening' | 'open' | 'failed';
  /** A sentence to show, or ''. */
  problem: string;
  /** Something to know of what was opened, or ''. */
  notice: string;
  /** What had to be set aside for the project to open; empty where it was whole. */
  setAside: readonly string[];
  /** False when another tab holds the project. */
  writable: boolean;
  /** True until the last change is on disk. */
  saving: boolean;
  /** True where the last change could not be written. */
  unsaved: boolean;
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
  notice: '',
  setAside: [],
  writable: true,
  saving: false,
  unsaved: false,
  undoLabel: '',
  redoLabel: '',
  playhead: 0,
  selectedShot: null,
  selectedPlan: null,
}));

export const ELSEWHERE = say`Another project was opened while it was being worked out, so it was put into neither. Open the project it belongs to and do it again.`;

/** Of the open project; it holds what is open, and lives on until that is written where another is opened. */
let journal: Journal | null = null;
let held: Claim | null = null;
/** All writes, one after another. */
let queue: Promise<void> = Promise.resolve();
let retry: ReturnType<typeof setTimeout> | undefined;
/** Milliseconds until a write that failed is tried again by itself. */
const RETRY = 15_000;

function failed(error: unknown): void {
  const full = error instanceof Error && /quota/i.test(`${error.name} ${error.message}`);
  useProject.setState({
    unsaved: true,
    problem: full
      ? say`The browser’s storage is full: your last change is on screen but not saved. Free some space, or save the project as a file now (Deliver).`
      : say`Your last change is on screen but could not be saved. Save the project as a file now (Deliver), then reload.`,
  });
  clearTimeout(retry);
  retry = setTimeout(() => void save(), RETRY);
}

/** Puts work at the end of the queue. Resolves when it is done, whatever became of it; `saving` is true until the queue is empty. */
function inTurn(work: () => Promise<unknown>): Promise<void> {
  useProject.setState({ saving: true });
  const mine = queue.then(work).then(() => undefined, failed);
  queue = mine;
  void mine.then(() => queue === mine && useProject.setState({ saving: false }));
  return mine;
}

const waiting = new Set<Journal>();

/** Writes the open project as it is when its turn comes; changes made until then go with it. */
export function save(): Promise<void> {
  const own = journal;
  if (!own || waiting.has(own)) return queue;
  waiting.add(own);
  return inTurn(async () => {
    waiting.delete(own);
    clearTimeout(retry);
    await own.write();
    if (useProject.getState().unsaved) useProject.setState({ unsaved: false, problem: '' });
  });
}

/** Waits until everything done so far is saved, or could not be. */
export async function settled(): Promise<void> {
  for (let seen = queue; ; seen = queue) {
    await seen;
    if (seen === queue) return;
  }
}

/** Shows what the journal holds. */
function show({ project, undoable, redoable }: Journal): void {
  useProject.setState({ project, undoLabel: undoable?.label ?? '', redoLabel: redoable?.label ?? '' });
}

function mayWrite(): boolean {
  const { writable } = useProject.getState();
  if (!writable)
    useProject.setState({ problem: say`This was not done: the project is open in another tab, which is the one that writes.` });
  return writable;
}

/** Adds files to a project, each once. */
export function withFiles(draft: Draft<Project>, files: readonly Media[]): void {
  for (const file of files) if (!draft.media.some((m) => m.id === file.id)) draft.media.push(file as Draft<Media>);
}

/**
 * Changes the project as one named, undoable step; the change is made on the project as it is now. Returns false, and says why,
 * where it was not made: when this tab may not write, when the step belongs to another project than the open one (`of` names its
 * id: for results of long work), or when the project could not be opened again after it.
 */
export function edit(label: string, change: (draft: Draft<Project>) => void, of?: string): boolean {
  if (!journal || !mayWrite()) return false;
  const { project } = journal;
  if (of !== undefined && of !== project.id) {
    useProject.setState({ problem: ELSEWHERE });
    return false;
  }
  const [next, patches, inverse] = produceWithPatches(project, change);
  if (patches.length === 0) return true;
  const problem = editProblem(project, next);
  if (problem) {
    useProject.setState({
      problem: say`“${label}” was not done, for the project could not be opened again after it (${problem}). Nothing was changed.`,
    });
    return false;
  }
  journal.record({ label, patches, inverse }, next);
  show(journal);
  void save();
  return true;
}

function step(back: boolean): Promise<void> {
  const taken = back ? journal?.undoable : journal?.redoable;
  if (!journal || !taken || !mayWrite()) return settled();
  try {
    const next = applyPatches(journal.project, back ? taken.inverse : taken.patches);
    if (editProblem(journal.project, next)) throw new Error('it does not fit');
    journal.move(back, next);
    show(journal);
  } catch {
    journal.forget();
    show(journal);
    useProject.setState({
      problem: say`This step cannot be undone or done again: it no longer fits the project. Nothing was changed; undo begins anew from here.`,
    });
  }
  return save();
}

/** Takes the last step back at once; resolves when that is written. */
export const undo = () => step(true);
/** Does the step taken back last again, at once; resolves when that is written. */
export const redo = () => step(false);

/** Forgets the steps of the open project; what is opened whole begins with nothing to undo. */
export function forgetSteps(): Promise<void> {
  if (!journal) return settled();
  journal.forget();
  show(journal);
  return save();
}

/** A stored document as it can be opened, and whether it must be written anew; or why it cannot. */
function readDocument(document: unknown, id: string): { project: Project; fresh: boolean; setAside: string[] } | string {
  const read = readProject(document);
  if (read.ok) return { project: read.project, fresh: (document as { version?: unknown }).version !== PROJECT_VERSION, setAside: [] };
  const repaired = repairProject(document);
  if (!repaired) return read.reason;
  return { project: { ...repaired.project, id }, fresh: true, setAside: repaired.setAside };
}

async function display(id: string): Promise<void> {
  const open = useProject.getState();
  await settled();
  const stored = await storedDocument(id);
  if (!stored || stored.row.deleted) {
    const problem = say`That project is no longer here.`;
    useProject.setState(open.project ? { problem } : { state: 'failed', problem });
    return;
  }
  const { row, document } = stored;
  const read = readDocument(document, id);
  if (typeof read === 'string') {
    useProject.setState(open.project ? { problem: read } : { state: 'failed', problem: read });
    return;
  }
  const own = held && journal?.project.id === id ? held : await claim(id);
  // Another form of the document: steps recorded on the old one do not fit.
  const steps = read.fresh ? Journal.empty(read.project) : await Journal.open(read.project, row.cursor, row.apart !== undefined);
  // What was changed meanwhile in the project shown until now is still its own.
  await settled();
  const before = held;
  [held, journal] = [own, steps];
  useProject.setState({
    state: 'open',
    writable: own.held,
    problem: '',
    notice: '',
    setAside: read.setAside,
    unsaved: false,
    playhead: 0,
    selectedShot: read.project.shots[0]?.id ?? null,
    selectedPlan: read.project.plans[0]?.id ?? null,
  });
  show(steps);
  if (before && before !== own) before.release();
  // What another tab has written until it closed is read then.
  if (!own.held) void own.granted.then(() => inOrder(async () => own === held && display(id))).catch(() => undefined);
  await db.settings.put({ key: 'open', value: id }).catch(() => undefined);
  if (own.held && read.fresh) {
    if (read.setAside.length > 0) await db.originals.add({ projectId: id, document, at: Date.now() });
    await save();
  }
}

let opening: Promise<void> = Promise.resolve();

function inOrder(work: () => Promise<unknown>): Promise<void> {
  const mine = opening.then(work).then(() => undefined);
  opening = mine.catch(() => undefined);
  return mine;
}

/** Shows a stored project, after all that was asked for before; one that is not whole is repaired and its original kept. */
export function openProject(id: string): Promise<void> {
  return inOrder(async () => {
    // What is open and this tab's to write is newer here than on disk.
    const { project, writable } = useProject.getState();
    if (project && project === journal?.project && project.id === id && writable) return;
    await display(id);
  });
}

/** The open project; `same` is false once another one is open. */
export function openNow(): { same: () => boolean } {
  const id = useProject.getState().project?.id;
  return { same: () => useProject.getState().project?.id === id };
}

/** Stores a whole document as a project of its own and opens it. */
export async function addProject(project: Project): Promise<void> {
  const read = readProject(project);
  if (!read.ok) throw new Error(read.reason);
  await db.transaction('rw', db.projects, db.shots, db.history, async () => {
    await putDocument(read.project, null, { cursor: 0 });
    await db.history.where('projectId').equals(project.id).delete();
  });
  await openProject(project.id);
}

export async function newProject(name: string): Promise<void> {
  await addProject(emptyProject(crypto.randomUUID(), name));
}

const isHere = (row: ProjectRow | undefined): row is ProjectRow => row !== undefined && !row.deleted;

/** Opens what was open last. False when there is nothing yet: the first start. */
export async function openLast(): Promise<boolean> {
  const last = await db.settings.get('open');
  const known = typeof last?.value === 'string' ? await db.projects.get(last.value) : undefined;
  const row = isHere(known) ? known : await db.projects.orderBy('changed').reverse().filter(isHere).first();
  if (!row) return false;
  await openProject(row.id);
  return true;
}

/** Under this setting stands the id of a demo that is being opened, until it is whole: broken off, it is gone on with. */
export const DEMO_OPENING = 'demo being opened';

/** Whether a demo was begun and not finished. */
export async function demoIsBegun(): Promise<boolean> {
  return (await db.settings.get(DEMO_OPENING)) !== undefined;
}
