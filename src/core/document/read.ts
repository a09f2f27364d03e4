import type * as z from 'zod/mini';
import { say } from '../words';
import { migrated } from './migrate';
import { referencesWhole } from './references';
import { PROJECT_VERSION, type Project, projectSchema } from './schema';

/** What reading a project document gave: the project, or a sentence for the user. */
export type ProjectReading = { ok: true; project: Project } | { ok: false; reason: string };

export const versionOf = (value: unknown) => (value as { version?: unknown } | null)?.version;
/** True for a document that only a newer version of the application may touch. */
export const isNewer = (value: unknown): boolean => {
  const version = versionOf(value);
  return typeof version === 'number' && version > PROJECT_VERSION;
};

/** Brings older documents up to this version; what breaks on the way is for the validation to judge. */
export function upToDate(value: unknown): unknown {
  try {
    return migrated(value);
  } catch {
    return value;
  }
}

const unreadable = (what: string): ProjectReading => ({
  ok: false,
  reason: say`This is not a project this version can read: ${what}. Nothing was changed.`,
});

/** The first thing a schema found wrong, with its place; `place` leads to what was parsed. */
export function firstIssue({ issues: [issue] }: z.core.$ZodError, place: readonly PropertyKey[] = []): string {
  const where = [...place, ...issue.path].join('.') || 'document';
  // The schemas' own words where they have some; the library's are none a user could do something with.
  return issue.message === 'Invalid input' ? say`“${where}” cannot be used` : `“${where}”: ${issue.message}`;
}

/** Validates a project document from a file, the data base or a worker: its form, and that everything it names is in it. Never throws. */
export function readProject(value: unknown): ProjectReading {
  if (isNewer(value)) {
    return {
      ok: false,
      reason: say`This project was saved by a newer version of Fickle Ribbon (format ${String(versionOf(value))}; this one reads ${PROJECT_VERSION}). It was left untouched. Reload the page to get the newer version.`,
    };
  }
  const parsed = projectSchema.safeParse(upToDate(value));
  if (!parsed.success) return unreadable(firstIssue(parsed.error));
  const [missing] = referencesWhole(parsed.data).setAside;
  return missing ? unreadable(missing) : { ok: true, project: parsed.data };
}
