import type { Project } from '@/core/document';
import { db, type ProjectRow } from './db';

/** Lists whose items are kept one by one, so that an edit of one writes one. Ids stand once in both together. */
const APART = ['shots', 'nestedShots'] as const;

/** A stored document as it was written; to be called in a transaction. */
async function documentOf(row: ProjectRow): Promise<unknown> {
  const { apart } = row;
  if (!apart) return row.document;
  const rows = await db.shots.where('projectId').equals(row.id).toArray();
  const items = new Map(rows.map(({ id, item }) => [id, item]));
  // By the names of the version that wrote them: the document is brought up whole.
  const lists = Object.entries(apart).map(([name, ids]) => [name, ids.map((id) => items.get(id) ?? null)]);
  return { ...(row.document as object), ...Object.fromEntries(lists) };
}

/** The document of a project with its row, read as one; none where it is not there. */
export function storedDocument(id: string): Promise<{ row: ProjectRow; document: unknown } | undefined> {
  return db.transaction('r', db.projects, db.shots, async () => {
    const row = await db.projects.get(id);
    return row && { row, document: await documentOf(row) };
  });
}

/**
 * Writes a document in the place of the one written before, within the caller's transaction over projects and shots: of its shots
 * only those that are other than in `before` (by identity), all where that is null.
 */
export async function putDocument(project: Project, before: Project | null, more: Pick<ProjectRow, 'cursor'>): Promise<void> {
  const projectId = project.id;
  const known = new Set<object>(APART.flatMap((name) => before?.[name] ?? []));
  const items = APART.flatMap((name) => project[name]);
  const rows = items.filter((item) => !known.has(item)).map((item) => ({ projectId, id: item.id, item }));
  const ids = new Set(items.map((item) => item.id));
  if (!before) await db.shots.where('projectId').equals(projectId).delete();
  else {
    const gone = APART.flatMap((name) => before[name]).filter((item) => !ids.has(item.id));
    if (gone.length > 0) await db.shots.bulkDelete(gone.map((item): [string, string] => [projectId, item.id]));
  }
  if (rows.length > 0) await db.shots.bulkPut(rows);
  const order = (name: (typeof APART)[number]) => project[name].map((item) => item.id);
  await db.projects.put({
    id: projectId,
    document: { ...project, shots: [], nestedShots: [] },
    apart: { shots: order('shots'), nestedShots: order('nestedShots') },
    changed: Date.now(),
    ...more,
  });
}
