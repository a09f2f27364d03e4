/** What a project is called, by its stored document. */
export const nameOf = (document: unknown): string => (document as { name?: string } | null)?.name || 'Unnamed';

/** A name that no other project has: itself, or with a number after it. */
export function freeName(name: string, taken: readonly string[]): string {
  for (let n = 1; ; n++) {
    const own = n === 1 ? name : `${name} ${n}`;
    if (!taken.includes(own)) return own;
  }
}
