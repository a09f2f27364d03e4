import * as z from 'zod/mini';
import { say } from '../words';
import { fieldSchemas, listSchemas, type Project } from './schema';

type List = keyof typeof listSchemas;
const LISTS = Object.keys(listSchemas) as List[];
const FIELDS = Object.keys(fieldSchemas) as (keyof typeof fieldSchemas)[];

/** What leads from one document to a later one of the same project: plain data, and only what differs. */
export interface ProjectChange {
  fields: Partial<Project>;
  /** Of each list that differs: the ids as they stand in it now, and the items that are new or other. */
  lists: { [L in List]?: { order: string[]; items: Project[L] } };
}

/** A change as it comes from elsewhere: what it puts into a document is checked as the document itself is. */
export const projectChangeSchema = z.object({
  fields: z.partial(z.object(fieldSchemas)),
  lists: z.strictObject(
    Object.fromEntries(
      LISTS.map((name) => {
        const { item, most } = listSchemas[name];
        const checked = z.object({
          order: z.array(z.string()).check(z.maxLength(most)),
          items: z.array<z.ZodMiniType>(item).check(z.maxLength(most)),
        });
        return [name, z.optional(checked)];
      }),
    ),
  ),
});

/** What differs between two documents, by identity; in each list every id stands once, as in all valid documents. */
export function changeBetween(before: Project, after: Project): ProjectChange {
  const fields = Object.fromEntries(FIELDS.filter((name) => before[name] !== after[name]).map((name) => [name, after[name]]));
  const lists = LISTS.filter((name) => before[name] !== after[name]).map((name) => {
    const known = new Set<object>(before[name]);
    return [name, { order: after[name].map((item) => item.id), items: after[name].filter((item) => !known.has(item)) }];
  });
  return { fields, lists: Object.fromEntries(lists) };
}

/** The later document; what did not change is the very same object. Throws where the change belongs to another document. */
export function changed(before: Project, { fields, lists }: ProjectChange): Project {
  const next = Object.entries(lists).map(([name, { order, items }]) => {
    const all = new Map<string, object>([...before[name as List], ...items].map((item) => [item.id, item]));
    const list = order.map((id) => {
      const item = all.get(id);
      if (!item) throw new Error(say`The change names “${id}” in ${name}, which is not there.`);
      return item;
    });
    return [name, list];
  });
  return { ...before, ...fields, ...Object.fromEntries(next) };
}
