import Papa from 'papaparse';
import { fromCell, LOG_COLUMNS } from '@/core/exchange';
import { say } from '@/core/words';
import { edit, useProject } from './store';

/**
 * Takes what was noted elsewhere back in: settings, rating and note of the takes whose file names stand in the first
 * column `file`. Cells that are missing change nothing. Gives a sentence on what was and what was not used.
 */
export async function readTakeLog(file: File): Promise<string> {
  const { project } = useProject.getState();
  if (!project) return say`No project is open.`;
  const { data, meta } = Papa.parse<Record<string, string>>((await file.text()).replace(/^\ufeff/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
  });
  const known = LOG_COLUMNS.filter((c) => meta.fields?.includes(c));
  if (!meta.fields?.includes('file') || known.length === 0)
    return say`“${file.name}” is not a take log: it needs a column “file” and at least one of ${LOG_COLUMNS.join(', ')}. Nothing was changed.`;
  const strange: string[] = [];
  let used = 0;
  const seen = new Set<string>();
  edit(say`Read the take log`, (draft) => {
    for (const row of data) {
      // Of several files of one name, rows mean one after another; a file cut into takes is told apart by where each begins.
      const begins = Number(row.from_s || Number.NaN);
      const named = new Set(draft.media.filter((m) => m.name === row.file).map((m) => m.id));
      const of = draft.takes.filter((t) => named.has(t.mediaId));
      const left = of.filter((t) => !seen.has(t.id));
      const take = left.find((t) => Math.abs((t.part?.from ?? 0) - begins) < 0.002) ?? left[0] ?? of[0];
      if (!take) {
        strange.push(row.file);
        continue;
      }
      used++;
      seen.add(take.id);
      const text = (column: string, now: string, length: number) =>
        row[column] === undefined ? now : fromCell(row[column]).slice(0, length);
      const { settings } = take;
      settings.shutter = text('shutter', settings.shutter, 20);
      settings.aperture = text('aperture', settings.aperture, 20);
      settings.iso = text('iso', settings.iso, 20);
      settings.whiteBalance = text('white_balance', settings.whiteBalance, 20);
      settings.lens = text('lens', settings.lens, 40);
      take.note = text('note', take.note, 2000);
      const rating = Number(row.rating);
      if (row.rating !== undefined && Number.isInteger(rating) && rating >= 0 && rating <= 3) take.rating = rating;
    }
  });
  return say`${used} ${used === 1 ? 'take' : 'takes'} brought up to date.${strange.length ? say` Not in this project: ${strange.slice(0, 5).join(', ')}${strange.length > 5 ? say` and ${strange.length - 5} more` : ''}.` : ''}`;
}
