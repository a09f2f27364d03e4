import { say } from '../words';
import { firstIssue } from './read';
import { referencesWhole } from './references';
import { fieldSchemas, listSchemas, type Project } from './schema';

/** Items that were found valid before; documents are never changed in place, so what was valid stays so. */
const valid = new WeakSet<object>();

function checked(schema: (typeof listSchemas)[keyof typeof listSchemas]['item'], item: object): string {
  if (valid.has(item)) return '';
  const parsed = schema.safeParse(item);
  if (!parsed.success) return firstIssue(parsed.error);
  valid.add(item);
  return '';
}

/**
 * Whether a project could be opened again after an edit: '' or the first thing that is wrong. Only what differs from `before`, by
 * identity, is looked at.
 */
export function editProblem(before: Project, after: Project): string {
  for (const [name, schema] of Object.entries(fieldSchemas)) {
    const field = name as keyof typeof fieldSchemas;
    if (before[field] === after[field]) continue;
    const parsed = schema.safeParse(after[field]);
    if (!parsed.success) return firstIssue(parsed.error, [name]);
  }
  for (const [name, { item: schema, most }] of Object.entries(listSchemas)) {
    const list = name as keyof typeof listSchemas;
    if (before[list] === after[list]) continue;
    if (after[list].length > most) return say`${name}: more than ${most}`;
    for (const [i, item] of after[list].entries()) {
      if (item === before[list][i]) continue;
      const problem = checked(schema, item);
      if (problem) return `${name}.${i}: ${problem}`;
    }
  }
  return referencesWhole(after).setAside[0] ?? '';
}
