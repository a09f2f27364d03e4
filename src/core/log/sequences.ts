import { say } from '../words';
/** Files that are taken in together: one by itself, or numbered pictures that follow one another. */
export type Taking<F> = { kind: 'file'; file: F } | { kind: 'sequence'; name: string; files: F[] };

/** Numbered pictures in a row from which on they are a film and not pictures one by one. */
const LEAST = 3;
const NUMBERED = /^(.*?)(\d+)\.(png|jpe?g|webp|avif)$/i;

/**
 * Pictures whose names differ by a number alone (`smoke_0001.png`), in the order of their numbers, where at least three lie together;
 * everything else by itself, in the order given. A number that is missing in between is passed over. Common practice of image sequences.
 */
export function sequencesIn<F extends { name: string }>(files: readonly F[]): Taking<F>[] {
  const rows = new Map<string, { at: number; file: F }[]>();
  for (const file of files) {
    const [, stem, number, ending] = NUMBERED.exec(file.name) ?? [];
    if (stem === undefined) continue;
    const key = `${stem}\n${ending.toLowerCase()}`;
    rows.set(key, [...(rows.get(key) ?? []), { at: Number(number), file }]);
  }
  const rowOf = new Map<F, F[]>();
  for (const row of rows.values()) {
    if (row.length < LEAST) continue;
    const ordered = row.toSorted((a, b) => a.at - b.at).map(({ file }) => file);
    for (const file of ordered) rowOf.set(file, ordered);
  }
  return files.flatMap((file): Taking<F>[] => {
    const row = rowOf.get(file);
    if (!row) return [{ kind: 'file', file }];
    if (file !== files.find((f) => rowOf.get(f) === row)) return [];
    const stem = (NUMBERED.exec(row[0].name)?.[1] ?? '').replace(/[-_. ]+$/, '');
    return [{ kind: 'sequence', name: say`${stem || 'Pictures'} (${row.length} pictures)`, files: row }];
  });
}
