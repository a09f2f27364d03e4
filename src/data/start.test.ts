import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';

const brought: string[][] = [];
vi.mock('./taking-in', () => ({ bring: async (files: File[]) => void brought.push(files.map((f) => f.name)) }));
vi.mock('./demo', () => ({ DEMO_NAME: 'Night laundrette', openDemo: vi.fn(async () => '') }));
const { openDemo } = await import('./demo');
const { openTheDemo, projectName, stageOf, startOwn } = await import('./start');
const { db } = await import('./db');
const { newProject, settled, useProject } = await import('./store');

beforeEach(async () => {
  await settled();
  await db.projects.clear();
  brought.length = 0;
  vi.mocked(openDemo).mockClear();
});

describe('a project of one’s own', () => {
  it.each([
    [['03_slow-rinse.wav', 'a.mp4'], [], 'Slow rinse'],
    [['a.mp4'], [], 'New project'],
    [['a.mp4'], ['New project', 'New project 2'], 'New project 3'],
    [['Half.Load.mp3'], ['Half Load'], 'Half Load 2'],
    [['___.mp3'], [], 'New project'],
  ])('of %j beside %j is called %s', (names, taken, name) => {
    expect(
      projectName(
        names.map((n) => ({ name: n, type: '' })),
        taken,
      ),
    ).toBe(name);
  });

  it('begins with its files, and is gone on with as far as it has come', async () => {
    await startOwn([new File([], 'clip.mp4'), new File([], 'late-wash.mp3')]);
    expect(useProject.getState().project?.name).toBe('Late wash');
    expect(brought).toEqual([['clip.mp4', 'late-wash.mp3']]);
    expect(stageOf()).toBe('/shoot');
  });

  it('a project file is opened instead: nothing empty is left beside it, and one that cannot be opened says why', async () => {
    useProject.setState({ project: null, problem: 'It is damaged.' });
    await expect(startOwn([new File([], 'evening.zip')])).rejects.toThrow('It is damaged.');
    expect(await db.projects.count()).toBe(0);
    expect(brought).toEqual([['evening.zip']]);
    await newProject('Evening');
    expect(await startOwn([new File([], 'evening.zip')])).toBe('/shoot');
  });
});

describe('the demo', () => {
  it('is opened as it is here, and afresh where it is not or was deleted', async () => {
    await newProject('Night laundrette');
    const [{ id }] = await db.projects.toArray();
    await newProject('Another');
    await openTheDemo(() => undefined);
    expect(useProject.getState().project?.id).toBe(id);
    expect(openDemo).not.toHaveBeenCalled();
    await settled();
    await db.projects.update(id, { deleted: 1 });
    await openTheDemo(() => undefined);
    expect(openDemo).toHaveBeenCalledOnce();
  });
  it('that cannot be fetched says so', async () => {
    vi.mocked(openDemo).mockResolvedValueOnce('The demo file could not be fetched.');
    await expect(openTheDemo(() => undefined)).rejects.toThrow(/could not be fetched/);
  });
});
