import type { Project } from '../document';
import { toCsv } from './csv';

/** The columns of the take log that are read back in, and what they set. */
export const LOG_COLUMNS = ['shutter', 'aperture', 'iso', 'white_balance', 'lens', 'rating', 'note'] as const;

/** The log of all takes as CSV, one line a take (with the seconds of the file that it is, where it is a part); seconds and pixels in the column names, times in ISO 8601. */
export function takeLogCsv(project: Project): string {
  const head = [
    'file',
    'from_s',
    'to_s',
    'shot',
    'slot',
    'number',
    'filmed_at',
    'duration_s',
    ...LOG_COLUMNS,
    'lock_corner_px',
    'light_ev',
    'bumps',
  ];
  const rows = project.takes.map((take) => {
    const media = project.media.find((m) => m.id === take.mediaId);
    const plan = project.plans.find((p) => p.id === take.plan);
    const { shutter, aperture, iso, whiteBalance, lens } = take.settings;
    return [
      media?.name ?? '',
      take.part?.from.toFixed(3) ?? '',
      take.part?.to.toFixed(3) ?? '',
      plan?.name ?? '',
      take.slot ?? '',
      take.number,
      take.filmedAt === null ? '' : new Date(take.filmedAt).toISOString(),
      (take.part ? take.part.to - take.part.from : (media?.duration ?? 0)).toFixed(2),
      shutter,
      aperture,
      iso,
      whiteBalance,
      lens,
      take.rating,
      take.note,
      take.live ? take.live.corner.toFixed(2) : '',
      take.live?.exposure?.toFixed(3) ?? '',
      take.live?.bumps.map((b) => `${b.size.toFixed(1)} px at ${b.time.toFixed(1)} s`).join('; ') ?? '',
    ];
  });
  return toCsv([head, ...rows]);
}
