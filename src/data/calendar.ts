import { createEvents, type EventAttributes } from 'ics';
import { clock, type PlannedShot, type Timetable } from '@/core/plan';
import { say } from '@/core/words';

/** Year, month, day, hour and minute of a clock time that may lie past midnight. Floating local time. */
function stamp(date: string, minutes: number): [number, number, number, number, number] {
  const [y, m, d] = date.split('-').map(Number);
  const t = new Date(Date.UTC(y, m - 1, d, 0, Math.round(minutes)));
  return [t.getUTCFullYear(), t.getUTCMonth() + 1, t.getUTCDate(), t.getUTCHours(), t.getUTCMinutes()];
}

/** A planned shot's timetable as an iCalendar file (RFC 5545), one event a row, in floating local time. Throws when it cannot be written. */
export function timetableIcs(shot: PlannedShot, table: Timetable): string {
  const events: EventAttributes[] = table.rows.map((row, i) => ({
    title: `${shot.name}: ${row.what}`,
    uid: `${shot.id}-${i}@fickle-ribbon`,
    productId: 'fickle-ribbon',
    start: stamp(shot.schedule.date, row.from),
    startOutputType: 'local',
    end: stamp(shot.schedule.date, Math.max(row.to, row.from + 1)),
    endOutputType: 'local',
    description: `${clock(row.from)} to ${clock(row.to)}`,
  }));
  const { error, value } = createEvents(events);
  if (error || !value) throw new Error(say`The timetable could not be written: ${error?.message ?? say`no reason given`}.`);
  return value;
}
