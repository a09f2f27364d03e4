import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { shotFrames } from '@/core/evaluate';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { stagedProject } from '@/core/staged';
import type { Picture } from './picture';

/** Milliseconds that drawing takes, and whether a file of it is missing. */
const drawing = { ms: 0, faults: 0, times: 0 };
vi.mock('./painting', () => ({
  filesOf: () => [],
  paint: async (_: unknown, planes: { y: Uint8Array }) => {
    const until = performance.now() + drawing.ms;
    while (performance.now() < until);
    drawing.times++;
    planes.y.fill(180);
  },
}));
vi.mock('./pictures', () => ({
  picturesOf: async () => ({ faults: new Map(Array.from({ length: drawing.faults }, (_, i) => [String(i), i])) }),
}));
vi.stubGlobal('navigator', {});
const { FOR_FILM, Preview } = await import('./preview');
const { RenderCache } = await import('./render-cache');

const layers = [plainLayer('a', 'A', 0, { kind: 'colour', r: 1, g: 0, b: 0 }, [remapKeyAt(0, 0, 0)], { numbers: {} })];
const shot = plainShot('s', 'S', { beat: 8, offset: 0 }, { beat: 12, offset: 0 }, { layers });
const project: Project = { ...stagedProject(), frame: { width: 32, height: 18, rate: { num: 25, den: 1 } }, shots: [shot] };
const [first] = shotFrames(project, shot);

function cached() {
  const files = new Map<string, Blob>();
  const pictures = new Map<Blob, Picture>();
  const coding = {
    encode: async (picture: Picture) => {
      const blob = new Blob(['x']);
      pictures.set(blob, picture);
      return blob;
    },
    decode: async (blob: Blob) => pictures.get(blob) as Picture,
  };
  const kept = new RenderCache(
    1e6,
    {
      list: async () => [],
      read: async (name) => files.get(name) as Blob,
      write: async (name, bytes) => void files.set(name, bytes),
      remove: async (name) => void files.delete(name),
    },
    coding,
  );
  return { files, preview: new Preview(FOR_FILM, kept) };
}
const settled = () => new Promise((done) => setTimeout(done, 20));
afterEach(() => Object.assign(drawing, { ms: 0, faults: 0, times: 0 }));

describe('pictures of the film', () => {
  it('that were slow, one after another, are kept though they are sent away at once, and are not drawn again', async () => {
    drawing.ms = 36;
    const { files, preview } = cached();
    for (const frame of [first, first + 1]) {
      const { rgba } = await preview.frame(project, frame);
      structuredClone(rgba, { transfer: [rgba.buffer] });
    }
    await settled();
    // The first was searched for in the file: that says nothing of how slow it is.
    expect(files.size).toBe(1);
    const drawn = drawing.times;
    const again = await preview.frame(project, first + 1);
    expect(drawing.times).toBe(drawn);
    expect(again.rgba[1]).toBeGreaterThan(100);
  });

  it('that are quick, or of which something cannot be read, are not kept', async () => {
    const { files, preview } = cached();
    for (const frame of [first, first + 1, first + 2]) await preview.frame(project, frame);
    Object.assign(drawing, { ms: 36, faults: 1 });
    for (const frame of [first + 3, first + 4]) await preview.frame(project, frame);
    await settled();
    expect(files.size).toBe(0);
  });
});
