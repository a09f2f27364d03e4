import { type Project, readProject } from '@/core/document';
import { say } from '@/core/words';
import { db, type VersionRow } from './db';
import { addProject, edit, openNow, settled, useProject } from './store';

const MINUTE = 60_000;
const [HOUR, DAY] = [60 * MINUTE, 24 * 60 * MINUTE];
/** So long after the last version the next change keeps another one. */
const EVERY = 10 * MINUTE;
/** How far apart versions stay that were kept by themselves, by their age; older ones than the last of these go. */
const APART = [
  { within: 2 * HOUR, every: 0 },
  { within: DAY, every: HOUR },
  { within: 14 * DAY, every: DAY },
] as const;
/** Named versions of a project that are kept. */
const MOST_NAMED = 30;

/** Ids of versions of one project that are kept no longer: of those without a name ever fewer the older they are, the oldest of each stretch staying. */
export function outdated(versions: readonly Pick<VersionRow, 'id' | 'at' | 'name'>[], now: number): number[] {
  const sorted = versions.toSorted((a, b) => a.at - b.at);
  const named = sorted.filter(({ name }) => name !== '');
  const gone = named.slice(0, Math.max(0, named.length - MOST_NAMED)).map(({ id }) => id);
  let last = Number.NEGATIVE_INFINITY;
  for (const { id, at, name } of sorted) {
    if (name !== '') continue;
    const rule = APART.find(({ within }) => now - at <= within);
    if (rule && at - last >= rule.every) last = at;
    else gone.push(id);
  }
  return gone;
}

/** Keeps a project as it is, for being gone back to; those that are too old or too many go. */
export async function keepVersion(project: Project, name = '', at = Date.now()): Promise<void> {
  const projectId = project.id;
  await db.transaction('rw', db.versions, db.versionDocuments, async () => {
    const { shots, takes } = project;
    const id = await db.versions.add({ projectId, at, name, shots: shots.length, takes: takes.length });
    await db.versionDocuments.put({ id, projectId, document: project });
    const gone = outdated(await db.versions.where('projectId').equals(projectId).toArray(), at);
    await db.versions.bulkDelete(gone);
    await db.versionDocuments.bulkDelete(gone);
  });
}

/** Keeps the open project as it was before a change, where the last version is some minutes old. Gives what ends it. */
export function watchVersions(): () => void {
  /** When the last version of each project was kept. */
  const kept = new Map<string, number>();
  const look = async (before: Project) => {
    const now = Date.now();
    const known = kept.get(before.id);
    kept.set(before.id, now);
    const last = known ?? (await db.versions.where('projectId').equals(before.id).last())?.at ?? 0;
    // Nothing is lost by one that could not be kept: full storage is told of where work is saved.
    if (now - last >= EVERY) await keepVersion(before).catch(() => undefined);
    else kept.set(before.id, last);
  };
  return useProject.subscribe(({ project, writable }, { project: before }) => {
    if (!writable || !project || !before || project === before || project.id !== before.id) return;
    // An empty project is had again by a press.
    if (before.media.length + before.plans.length === 0) return;
    const recent = kept.get(before.id);
    if (recent === undefined || Date.now() - recent >= EVERY) void look(before);
  });
}

/** The versions of a project, newest first. */
export async function versionsOf(projectId: string): Promise<VersionRow[]> {
  return (await db.versions.where('projectId').equals(projectId).sortBy('at')).reverse();
}

async function documentOf(id: number): Promise<Project> {
  const row = await db.versionDocuments.get(id);
  if (!row) throw new Error(say`That version is no longer here.`);
  const read = readProject(row.document);
  if (!read.ok) throw new Error(say`That version cannot be opened: ${read.reason}`);
  return read.project;
}

/** Brings the open project back to a version of it, as one step that can be undone; how it is now is kept as a version too. Throws a sentence. */
export async function goBackTo({ id, at }: Pick<VersionRow, 'id' | 'at'>): Promise<void> {
  const { same } = openNow();
  const was = await documentOf(id);
  const { project } = useProject.getState();
  if (!project || !same() || was.id !== project.id) throw new Error(say`Another project is open by now.`);
  await settled();
  await keepVersion(project);
  const done = edit(
    say`Go back to the version of ${new Date(at).toLocaleString(undefined, { dateStyle: 'short', timeStyle: 'short' })}`,
    (draft) => {
      for (const key of Object.keys(draft)) if (!(key in was)) delete (draft as Record<string, unknown>)[key];
      Object.assign(draft, was);
    },
  );
  if (done) useProject.setState({ selectedShot: was.shots[0]?.id ?? null, selectedPlan: was.plans[0]?.id ?? null });
}

/** Opens a version as a project of its own. Throws a sentence. */
export async function openVersion({ id, at }: Pick<VersionRow, 'id' | 'at'>): Promise<void> {
  const was = await documentOf(id);
  const day = new Date(at).toLocaleDateString(undefined, { dateStyle: 'short' });
  await addProject({ ...was, id: crypto.randomUUID(), name: `${was.name.slice(0, 80)}, ${day}` });
}
