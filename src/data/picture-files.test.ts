import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { stagedProject } from '@/core/staged';

const kept = new Map<string, Blob>();
vi.mock('@/media/files', () => ({
  storeMedia: async (id: string, file: Blob) => void kept.set(id, file),
  hasMedia: async (id: string) => kept.has(id),
  openMedia: async (id: string) => kept.get(id),
}));
vi.mock('./jobs', async (original) => ({
  ...(await original<typeof import('./jobs')>()),
  makeStill: async (_: Project, frame: number) => new Blob([`still ${frame}`], { type: 'image/png' }),
}));
/** What each file would be read as: its size, or nothing. */
const sizes = new Map<string, [number, number] | null>();
vi.stubGlobal('createImageBitmap', async (file: File) => {
  const size = sizes.get(file.name) ?? [640, 361];
  if (sizes.get(file.name) === null) throw new Error('unread');
  return { width: size[0], height: size[1], close: () => undefined };
});

const { addFrameLayer, addPictureLayer } = await import('./picture-files');
const { addProject, useProject } = await import('./store');
const now = () => useProject.getState().project as Project;
const file = (name: string, bytes: string, type = 'image/png') => new File([bytes], name, { type });

beforeEach(async () => {
  kept.clear();
  sizes.clear();
  const shot = plainShot('s', 'Shot', { beat: 0, offset: 0 }, { beat: 8, offset: 0 }, { layers: [] });
  await addProject({ ...stagedProject(), id: crypto.randomUUID(), shots: [shot] });
});

describe('a picture from a file', () => {
  it('is kept with the project and laid on top, under its own name; an odd size is made even', async () => {
    await addPictureLayer(now(), 's', file('sign over the door.png', 'a'));
    const [media] = now().media.filter((m) => m.kind === 'picture');
    expect(media).toMatchObject({ name: 'sign over the door.png', width: 640, height: 362, codec: 'PNG' });
    const top = now().shots[0].layers.at(-1);
    expect(top).toMatchObject({ name: 'sign over the door', source: { kind: 'picture', mediaId: media.id } });
    expect(kept.has(media.id)).toBe(true);
  });
  it('the same file twice is one file and two layers', async () => {
    await addPictureLayer(now(), 's', file('sign.png', 'a'));
    await addPictureLayer(now(), 's', file('sign.png', 'a'));
    expect(now().media.filter((m) => m.kind === 'picture')).toHaveLength(1);
    expect(now().shots[0].layers).toHaveLength(2);
  });
  it('that cannot be read, or is too large, is refused with a sentence, and nothing is changed', async () => {
    sizes.set('broken.png', null);
    sizes.set('huge.jpg', [12_000, 9_000]);
    const before = now();
    await expect(addPictureLayer(now(), 's', file('broken.png', 'x'))).rejects.toThrow(
      '“broken.png” cannot be read as a picture. PNG, JPEG, WebP, AVIF, GIF and SVG can.',
    );
    await expect(addPictureLayer(now(), 's', file('huge.jpg', 'y', 'image/jpeg'))).rejects.toThrow(
      /108 million pixels; 50 million are read at most/,
    );
    expect(now()).toEqual(before);
    expect(kept.size).toBe(0);
  });
});

describe('the frame at the playhead', () => {
  it('becomes a picture named by its timecode', async () => {
    useProject.setState({ playhead: 60 });
    await addFrameLayer(now(), 's');
    expect(now().shots[0].layers.at(-1)?.name).toBe('Frame 00:00:02:10');
    const [media] = now().media.filter((m) => m.kind === 'picture');
    expect(await kept.get(media.id)?.text()).toBe('still 60');
  });
});
