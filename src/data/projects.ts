import { readProject } from '@/core/document';
import { say } from '@/core/words';
import { claim } from './claim';
import { db, type ProjectRow, pictureKey } from './db';
import { storedDocument } from './documents';
import { addProject, edit, newProject, openProject, settled, useProject } from './store';

/** Days for which a deleted project can be brought back. */
export const KEPT_DAYS = 7;

/** Works on a project that is not open here; a sentence where another tab has it. */
async function withClosed(id: string, work: (row: ProjectRow) => Promise<unknown>): Promise<string> {
  const held = await claim(id);
  try {
    if (!held.held) return say`This project is open in another tab. Close it there first.`;
    const row = await db.projects.get(id);
    if (!row) return say`That project is no longer here.`;
    await work(row);
    return '';
  } finally {
    held.release();
  }
}

/** Names a project anew, open or not. Returns '' or a sentence. */
export async function renameProject(id: string, given: string): Promise<string> {
  const name = given.trim().slice(0, 100);
  if (!name) return say`A project needs a name.`;
  if (useProject.getState().project?.id === id) {
    edit(say`Rename the project`, (draft) => {
      draft.name = name;
    });
    return '';
  }
  return withClosed(id, (row) => db.projects.put({ ...row, document: { ...(row.document as object), name } }));
}

/** A copy of a project under a name of its own, opened; its files are shared. Returns '' or a sentence. */
export async function copyProject(id: string): Promise<string> {
  await settled();
  const read = readProject((await storedDocument(id))?.document);
  if (!read.ok) return read.reason;
  await addProject({ ...read.project, id: crypto.randomUUID(), name: say`${read.project.name.slice(0, 94)}, copy` });
  return '';
}

/** Opens another project than one that is about to go. False where there is no other. */
async function leave(id: string): Promise<boolean> {
  const other = await db.projects
    .orderBy('changed')
    .reverse()
    .filter((row) => row.id !== id && !row.deleted)
    .first();
  if (other) await openProject(other.id);
  return other !== undefined;
}

/** Deletes a project; it can be brought back for some days. The open one is left for the one changed last before it, or an empty one. Returns '' or a sentence. */
export async function deleteProject(id: string): Promise<string> {
  if (useProject.getState().project?.id === id && !(await leave(id))) await newProject(say`New project`);
  await settled();
  return withClosed(id, (row) => db.projects.put({ ...row, deleted: Date.now() }));
}

/** Brings a deleted project back and opens it. */
export async function bringBack(id: string): Promise<string> {
  const problem = await withClosed(id, ({ deleted: _, ...row }) => db.projects.put(row));
  if (!problem) await openProject(id);
  return problem;
}

/** Deletes a project for good, with its steps of undo. Its files go with the next sweep. */
export function deleteForGood(id: string): Promise<string> {
  return withClosed(id, () =>
    db.transaction('rw', [db.projects, db.shots, db.history, db.settings, db.versions, db.versionDocuments], async () => {
      await db.projects.delete(id);
      await db.settings.delete(pictureKey(id));
      await db.shots.where('projectId').equals(id).delete();
      for (const table of [db.history, db.versions, db.versionDocuments]) await table.where('projectId').equals(id).delete();
    }),
  );
}

/** Forgets the steps of undo and the earlier versions of a project that is not open, and with them the files only they need. */
export function forgetUndo(id: string): Promise<string> {
  return withClosed(id, (row) =>
    db.transaction('rw', [db.projects, db.history, db.versions, db.versionDocuments], async () => {
      for (const table of [db.history, db.versions, db.versionDocuments]) await table.where('projectId').equals(id).delete();
      await db.projects.put({ ...row, cursor: 0 });
    }),
  );
}
