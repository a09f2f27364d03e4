import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Media, Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { stagedMedia, stagedProject } from '@/core/staged';

const sizes = new Map<string, number | null>();
let taken: { ok: true; media: Media } | { ok: false; reason: string };
let answer = 'use';
const { questions } = vi.hoisted(() => ({ questions: [] as { text: string }[] }));
vi.mock('@/media/files', () => ({ mediaSize: async (id: string) => (sizes.has(id) ? sizes.get(id) : 1) }));
vi.mock('./jobs', () => ({ takeIn: async () => taken }));
vi.mock('./ask', () => ({
  ask: async (question: { text: string }) => {
    questions.push(question);
    return answer;
  },
}));
const { lookForMissing, pointTo, useMissing } = await import('./missing');
const { addProject, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const file = new File([new Uint8Array(4)], 'other.mp4');
const media = (id: string) => now().media.find((m) => m.id === id) as Media;
const quiet = () => undefined;

beforeEach(async () => {
  sizes.clear();
  questions.length = 0;
  answer = 'use';
  const project = stagedProject();
  project.takes[0].part = { from: 2, to: 9 };
  const layers = [plainLayer('l', 'Layer', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 3)])];
  await addProject({
    ...project,
    id: crypto.randomUUID(),
    shots: [plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 12, offset: 0 }, { layers })],
  });
});

describe('files that are missing', () => {
  it('are those that are not in storage, or not as long as they were', async () => {
    sizes.set('m1', null).set('song', 77);
    await lookForMissing();
    expect([...useMissing.getState().files].sort()).toEqual(['m1', 'song']);
    sizes.clear();
    await lookForMissing();
    expect(useMissing.getState().files.size).toBe(0);
  });

  it('the same file heals it without a question', async () => {
    taken = { ok: true, media: media('m1') };
    expect(await pointTo(media('m1'), file, quiet)).toBe('');
    expect(questions).toEqual([]);
    expect(now().media).toHaveLength(stagedProject().media.length);
  });

  it('another is used everywhere in its place when the user says so, and undone in one step', async () => {
    taken = { ok: true, media: { ...stagedMedia('new'), duration: 6 } };
    expect(await pointTo(media('m1'), file, quiet)).toBe('');
    expect(questions[0].text).toMatch(/“other\.mp4” \(1280×720, 6\.0 s, 0\.0 MB\) is not the file that is missing: “m1\.mp4”/);
    expect(now().media.map((m) => m.id)).not.toContain('m1');
    const [take] = now().takes;
    // The part lay beyond the end of the new file: all of it is used.
    expect([take.mediaId, take.part]).toEqual(['new', null]);
    undo();
    expect([now().takes[0].mediaId, now().takes[0].part]).toEqual(['m1', { from: 2, to: 9 }]);
  });

  it('is left as it is when the user says no, when there is no picture in it, or when it cannot be read', async () => {
    taken = { ok: true, media: stagedMedia('new') };
    answer = 'none';
    expect(await pointTo(media('m1'), file, quiet)).toBe('');
    taken = { ok: true, media: stagedMedia('sound', 'audio') };
    expect(await pointTo(media('m1'), file, quiet)).toMatch(/holds no picture, and “m1\.mp4” is a film/);
    taken = { ok: false, reason: 'This file cannot be read.' };
    expect(await pointTo(media('m1'), file, quiet)).toBe('This file cannot be read.');
    expect(now().takes[0].mediaId).toBe('m1');
  });
});
