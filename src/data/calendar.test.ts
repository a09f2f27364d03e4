import { describe, expect, it } from 'vitest';
import { newPlannedShot, planDay, RECIPES } from '@/core/plan';
import { timetableIcs } from './calendar';

describe('the timetable as iCalendar (RFC 5545)', () => {
  const shot = { ...newPlannedShot('s1', RECIPES[0], '2026-12-31'), name: 'Clones; the hand-over, part 1' };
  const late = { ...shot, schedule: { ...shot.schedule, time: '23:10' } };
  const { table } = planDay(late, { barSeconds: 2, beatSeconds: 0.5 }, 25);
  const text = timetableIcs(late, table);

  it('has one event a row, in local time, past midnight on the next day', () => {
    expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(table.rows.length);
    expect(text).toMatch(/^BEGIN:VCALENDAR\r\nVERSION:2.0/);
    expect(text).toContain('DTSTART:20261231T231000');
    expect(text).toMatch(/DTEND:20270101T00\d{4}/);
    expect(text).not.toMatch(/DTSTART:\d{8}T\d{6}Z/);
  });

  it('escapes what the format asks for and folds long lines', () => {
    expect(text.replace(/\r\n[ \t]/g, '')).toContain('SUMMARY:Clones\\; the hand-over\\, part 1');
    for (const line of text.split('\r\n')) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
  });
});
