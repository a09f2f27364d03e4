import * as z from 'zod/mini';

/** The document's entry in a project file; films and songs stand beside it as `media/<id>`. */
export const PROJECT_DOCUMENT = 'project.json';

/** The most a project's document may take, bytes: a hundred times the largest there is. */
export const LARGEST_DOCUMENT = 200e6;

/** The most entries a project file may have. */
export const MOST_ENTRIES = 20_001;

const fileSchema = z.object({ id: z.string(), bytes: z.int().check(z.nonnegative()), sha256: z.string().check(z.regex(/^[0-9a-f]{64}$/)) });
/** A file beside the document: how long it is and the SHA-256 of its bytes. */
export type FileSum = z.infer<typeof fileSchema>;

/** The document of a project file: the project with the sums of the files beside it. */
export function projectDocument(project: object, files: readonly FileSum[]): string {
  return JSON.stringify({ ...project, files }, null, 1);
}

/** The sums that a project file's document gives for its files, by id; none for files of versions that gave none. */
export function fileSums(document: unknown): Map<string, FileSum> {
  const { files } = (document ?? {}) as { files?: unknown };
  const sums = new Map<string, FileSum>();
  for (const item of Array.isArray(files) ? files : []) {
    const parsed = fileSchema.safeParse(item);
    if (parsed.success) sums.set(parsed.data.id, parsed.data);
  }
  return sums;
}

/** The id of a file from the name of its entry; null for what is no file of a project. */
export function entryFile(name: string): string | null {
  return /^media\/([0-9a-f]{8,64})$/.exec(name)?.[1] ?? null;
}

/** A document with a file's id replaced wherever it stands. The input is not changed. */
export function withFileRenamed<T>(document: T, from: string, to: string): T {
  const again = (value: unknown): unknown => {
    if (value === from) return to;
    if (Array.isArray(value)) return value.map(again);
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, again(item)]));
  };
  return again(document) as T;
}
