import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Project, readProject } from '@/core/document';
import { plainShot } from '@/core/edit';
import { plainEffect, plainLayer, remapKeyAt } from '@/core/layer';
import { type Source, sourceKind } from '@/core/sources';
import { stagedProject } from '@/core/staged';

const kept = new Map<string, Blob>();
vi.mock('@/media/files', () => ({ storeMedia: async (id: string, file: Blob) => void kept.set(id, file) }));
vi.stubGlobal(
  'FontFace',
  class {
    constructor(
      _: string,
      private readonly bytes: ArrayBuffer,
    ) {}
    load = async () => {
      if (this.bytes.byteLength < 4) throw new Error('no font');
      return this;
    };
  },
);

const { chooseTable, takeTable } = await import('./table-files');
const { takeFont } = await import('./font-files');
const { addProject, undo, useProject } = await import('./store');
const now = () => useProject.getState().project as Project;
const CUBE = 'LUT_1D_SIZE 2\n0 0 0\n1 1 1\n';

beforeEach(async () => {
  kept.clear();
  const title = sourceKind({ kind: 'title' }).fresh as Source;
  const layers = [
    plainLayer('words', 'Words', 0, title, [remapKeyAt(0, 0, 0)], {
      effects: [plainEffect('look', 'colour table'), plainEffect('e', 'blur')],
    }),
  ];
  const shot = plainShot('s', 'Shot', { beat: 0, offset: 0 }, { beat: 8, offset: 0 }, { layers });
  await addProject({ ...stagedProject(), id: crypto.randomUUID(), shots: [shot] });
});

describe('files of the user’s that a layer goes by', () => {
  it('a font is kept with the project, used by the title, and the document opens again', async () => {
    await takeFont(now(), 's', 'words', new File(['0123456789'], 'own.woff2'));
    const [media] = now().media.filter((m) => m.kind === 'font');
    expect(now().shots[0].layers[0].source).toMatchObject({ fontId: media.id });
    expect(kept.has(media.id)).toBe(true);
    expect(readProject(JSON.parse(JSON.stringify(now())))).toMatchObject({ ok: true });
    await expect(takeFont(now(), 's', 'words', new File(['x'], 'none.ttf'))).rejects.toThrow('“none.ttf” cannot be read as a font.');
  });

  it('a colour table is kept, chosen for one effect alone, and can be chosen away', async () => {
    await takeTable(now(), 's', 'words', 'look', new File([CUBE], 'warm.cube'));
    const [media] = now().media.filter((m) => m.kind === 'colour table');
    const effects = () => now().shots[0].layers[0].effects.map((e) => e.tableId);
    expect(media).toMatchObject({ name: 'warm.cube', codec: '1D, 2 a side' });
    expect(effects()).toEqual([media.id, undefined]);
    expect(readProject(JSON.parse(JSON.stringify(now())))).toMatchObject({ ok: true });
    chooseTable('s', 'words', 'look', null);
    expect(effects()).toEqual([undefined, undefined]);
    undo();
    expect(effects()).toEqual([media.id, undefined]);
  });

  it('what is no colour table is refused with the line, and nothing is changed', async () => {
    const before = now();
    await expect(takeTable(now(), 's', 'words', 'look', new File(['LUT_1D_SIZE 2\n0 0'], 'torn.cube'))).rejects.toThrow(
      '“torn.cube” cannot be read as a colour table (.cube). Line 2 is no colour of three numbers.',
    );
    expect(now()).toBe(before);
    expect(kept.size).toBe(0);
  });
});
