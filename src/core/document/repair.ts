import type * as z from 'zod/mini';
import { say } from '../words';
import { firstIssue, isNewer, upToDate, versionOf } from './read';
import { referencesWhole } from './references';
import { emptyProject, fieldSchemas, listSchemas, MOST_OVERSCAN, PROJECT_VERSION, type Project } from './schema';

type Parts = Record<string, unknown>;
const isParts = (value: unknown): value is Parts => typeof value === 'object' && value !== null && !Array.isArray(value);
const LISTS = {
  media: 'file',
  takes: 'take',
  shots: 'shot',
  nestedShots: 'nested shot',
  unplacedShots: 'shot set aside',
  plans: 'planned shot',
} as const;

/** A margin that earlier versions could write too wide, as wide as it may be; anything else as it is. */
const margin = (overscan: unknown) => (typeof overscan === 'number' && overscan > MOST_OVERSCAN ? MOST_OVERSCAN : overscan);

/** A shot without those of its layers that cannot be read, and without its move where that cannot: its other half may be whole. */
function mendedShot(given: unknown): unknown {
  if (!isParts(given) || !Array.isArray(given.layers)) return given;
  const item: Parts & { layers: unknown[] } = { ...given, layers: given.layers, overscan: margin(given.overscan) };
  const alone = (parts: Parts) => listSchemas.shots.item.safeParse({ ...item, ...parts }).success;
  const layers = item.layers.filter((layer) => alone({ layers: [layer], move: null, overrides: [] }));
  const move = alone({ layers: [], overrides: [] }) ? item.move : null;
  return { ...item, layers, move, overrides: move === null ? [] : item.overrides };
}

/** A song without its beats where only those are broken; null where its file is not known. */
function bareSong(song: Parts): Project['song'] {
  const bare = fieldSchemas.song.safeParse({ ...song, map: null, parts: [] });
  return bare.success ? bare.data : null;
}

/** The fields that are no lists, as far as they can be read; what cannot stays as in a new project. */
function readFields(document: Parts, into: Project & Parts, setAside: string[]): void {
  for (const [name, schema] of Object.entries(fieldSchemas) as [string, z.ZodMiniType][]) {
    const parsed = schema.safeParse(document[name]);
    if (parsed.success) {
      into[name] = parsed.data;
      continue;
    }
    setAside.push(`${name === 'song' ? say`the beats of the song` : say`the project’s ${name}`}: ${firstIssue(parsed.error)}`);
    if (name === 'song' && isParts(document.song)) into.song = bareSong(document.song);
  }
}

function nameOf(item: unknown, i: number): string {
  const name = isParts(item) && typeof item.name === 'string' ? item.name : '';
  return name ? `“${name.slice(0, 100)}”` : `${i + 1}`;
}

/** The items of a list that can be read, whole or in part. */
function readList(name: keyof typeof LISTS, given: unknown, setAside: string[]): unknown[] {
  if (!Array.isArray(given)) {
    setAside.push(say`the list of ${name}`);
    return [];
  }
  const { item: schema, most } = listSchemas[name];
  const word = LISTS[name];
  const kept = given.flatMap((item, i) => {
    const parsed = schema.safeParse(item);
    if (parsed.success) return [parsed.data];
    const half = word.includes('shot') ? schema.safeParse(mendedShot(item)) : parsed;
    setAside.push(`${half.success ? say`something in the` : 'the'} ${word} ${nameOf(item, i)}: ${firstIssue(parsed.error)}`);
    return half.success ? [half.data] : [];
  });
  if (kept.length > most) setAside.push(say`${kept.length - most} of the list of ${name}: there may be ${most}`);
  return kept.slice(0, most);
}

/**
 * What is whole in a project document that `readProject` refuses, and each thing that had to be set aside. Null where it is no
 * project document at all, or a newer version's, which is not ours to mend.
 */
export function repairProject(value: unknown): { project: Project; setAside: string[] } | null {
  if (isNewer(value)) return null;
  const document = upToDate(value);
  if (!isParts(document) || versionOf(document) !== PROJECT_VERSION) return null;
  const setAside: string[] = [];
  const project = emptyProject('repaired', say`Repaired project`) as Project & Parts;
  readFields(document, project, setAside);
  for (const name of Object.keys(LISTS) as (keyof typeof LISTS)[]) (project as Parts)[name] = readList(name, document[name], setAside);
  const whole = referencesWhole(project);
  return { project: whole.project, setAside: [...setAside, ...whole.setAside] };
}
