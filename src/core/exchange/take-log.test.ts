import { describe, expect, it } from 'vitest';
import { emptyProject, type Project } from '../document';
import { stagedMedia } from '../staged';
import { LOG_COLUMNS, takeLogCsv } from './take-log';

const project: Project = {
  ...emptyProject('p', 'Laundrette'),
  media: [{ ...stagedMedia('m'), name: 'one, best.mp4', duration: 8.04 }],
  takes: [
    {
      id: 't',
      mediaId: 'm',
      plan: null,
      slot: null,
      number: 2,
      tape: 0,
      rating: 3,
      note: 'said "again"\nand again',
      settings: { shutter: '1/50', aperture: 'f/5.6', iso: '800', whiteBalance: '3200 K', lens: '28 mm' },
      filmedAt: Date.UTC(2026, 10, 27, 19, 30),
      live: { corner: 6.456, exposure: -0.1234, bumps: [{ time: 2.04, size: 6.46 }] },
      part: null,
      correction: null,
    },
  ],
};

describe('the take log as CSV', () => {
  const text = takeLogCsv(project);
  const [head] = text.split('\r\n');

  it('names every column that is read back, with units where there are any', () => {
    for (const column of LOG_COLUMNS) expect(head.split(',')).toContain(column);
    expect(head).toContain('duration_s');
    expect(head).toContain('lock_corner_px');
  });

  it('quotes what needs it, keeps line breaks inside quotes, and writes times as ISO 8601', () => {
    expect(text).toContain(
      '"one, best.mp4",,,,,2,2026-11-27T19:30:00.000Z,8.04,1/50,f/5.6,800,3200 K,28 mm,3,"said ""again""\nand again",6.46,-0.123,6.5 px at 2.0 s',
    );
    expect(text.endsWith('\r\n')).toBe(true);
  });

  it('says which seconds of its file a part is, and how long that is', () => {
    const part = { ...project, takes: project.takes.map((t) => ({ ...t, part: { from: 1.5, to: 4.25 } })) };
    expect(takeLogCsv(part)).toContain('"one, best.mp4",1.500,4.250,,,2,2026-11-27T19:30:00.000Z,2.75,');
  });

  it('leaves blank what is not known', () => {
    const bare = { ...project, takes: project.takes.map((t) => ({ ...t, filmedAt: null, live: null, note: '' })) };
    expect(takeLogCsv(bare).split('\r\n')[1]).toMatch(/,2,,8\.04,.*,3,,,,$/);
  });
});
