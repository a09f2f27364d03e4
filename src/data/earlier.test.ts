import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { stagedProject } from '@/core/staged';
import { db } from './db';
import { goBackTo, keepVersion, openVersion, outdated, versionsOf, watchVersions } from './earlier';
import { addProject, edit, settled, undo, useProject } from './store';

const [MINUTE, HOUR, DAY] = [60_000, 3_600_000, 86_400_000];
const NOW = 1_800_000_000_000;

describe('which versions stay', () => {
  /** Ages of what stays of versions of some ages. */
  const staying = (ages: readonly number[], name = '') => {
    const all = ages.map((age, id) => ({ id, at: NOW - age, name }));
    const gone = outdated(all, NOW);
    return all.filter(({ id }) => !gone.includes(id)).map(({ at }) => NOW - at);
  };

  it('all of the last two hours, one an hour of the last day, one a day of two weeks', () => {
    const recent = Array.from({ length: 12 }, (_, i) => i * 10 * MINUTE);
    expect(staying(recent)).toEqual(recent);
    const day = Array.from({ length: 6 * 22 }, (_, i) => 2 * HOUR + 5 * MINUTE + i * 10 * MINUTE);
    expect(staying(day).length).toBe(22);
    const weeks = Array.from({ length: 24 * 20 }, (_, i) => DAY + HOUR + i * HOUR);
    expect(staying(weeks).length).toBeLessThanOrEqual(14);
    expect(Math.max(...staying(weeks))).toBeLessThanOrEqual(14 * DAY);
  });

  it('what stays once is not thinned further by the next look', () => {
    const ages = Array.from({ length: 2000 }, (_, i) => i * 10 * MINUTE);
    const once = staying(ages);
    expect(staying(once)).toEqual(once);
  });

  it('those with a name stay whatever their age, the newest thirty of them', () => {
    expect(staying([400 * DAY, DAY], 'Rough cut')).toHaveLength(2);
    expect(
      staying(
        Array.from({ length: 40 }, (_, i) => i * DAY),
        'Rough cut',
      ),
    ).toEqual(Array.from({ length: 30 }, (_, i) => i * DAY));
  });
});

describe('versions of the open project', () => {
  const named = (name: string) => edit('Rename', (d) => Object.assign(d, { name }) && undefined);
  const nameNow = () => useProject.getState().project?.name;
  beforeEach(async () => {
    await Promise.all([db.versions.clear(), db.versionDocuments.clear()]);
    await addProject({ ...stagedProject(), id: crypto.randomUUID(), name: 'Morning' });
  });
  const id = () => useProject.getState().project?.id ?? '';

  it('the first change keeps how it was before; the next within ten minutes none', async () => {
    const stop = watchVersions();
    named('Noon');
    named('Evening');
    await expect.poll(() => versionsOf(id()).then((all) => all.length)).toBe(1);
    stop();
    const [only] = await versionsOf(id());
    await goBackTo(only);
    expect(nameNow()).toBe('Morning');
  });

  it('going back is one step of undo, and how it was before that is a version too', async () => {
    const { project } = useProject.getState();
    if (!project) throw new Error('Nothing is open.');
    await keepVersion(project, 'At first');
    named('Noon');
    const [first] = await versionsOf(id());
    await goBackTo(first);
    expect(nameNow()).toBe('Morning');
    await undo();
    expect(nameNow()).toBe('Noon');
    const all = await versionsOf(id());
    expect(all.map((v) => v.name)).toEqual(['', 'At first']);
  });

  it('one can be opened beside the project; one that is gone is said to be', async () => {
    const { project } = useProject.getState();
    if (!project) throw new Error('Nothing is open.');
    await keepVersion(project);
    const [only] = await versionsOf(id());
    const before = id();
    await openVersion(only);
    await settled();
    expect(id()).not.toBe(before);
    expect(nameNow()).toMatch(/^Morning, /);
    await db.versionDocuments.clear();
    await expect(openVersion(only)).rejects.toThrow('no longer here');
    await expect(goBackTo(only)).rejects.toThrow('no longer here');
  });
});
