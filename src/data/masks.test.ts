import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { plainShot } from '@/core/edit';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { stagedMedia, stagedProject } from '@/core/staged';

const kept = (id: string, kind: 'matte' | 'still' | 'silhouette') => ({ ...stagedMedia(id, kind) });
const { asked } = vi.hoisted(() => ({ asked: [] as unknown[][] }));
let hue: number | null = null;
let paths = [{ from: 0, x: Float32Array.from([100, 110]) }];
vi.mock('./kept', () => ({
  keepOutline: async (_: unknown, takeId: string) => {
    asked.push(['outline', takeId]);
    return { media: [kept('new-outline', 'silhouette')], silhouetteId: 'new-outline' };
  },
  keepCutOut: async (_: unknown, takeId: string, second: number) => {
    asked.push(['cut-out', takeId, second]);
    return { media: [kept('new-cut', 'matte')], matteId: 'new-cut' };
  },
  keepPlate: async (_: unknown, takeId: string) => {
    asked.push(['plate', takeId]);
    return { media: [kept('new-plate', 'still')], plateId: 'new-plate' };
  },
}));
vi.mock('./cut-along', () => ({
  keepAlong: async (_: unknown, takeId: string) => {
    asked.push(['along', takeId]);
    return { media: [kept('along', 'matte')], matteId: 'along', begins: 2.5 };
  },
  correctedForCut: async (_: unknown, takeId: string) => void asked.push(['corrected', takeId]),
  backingHue: async () => hue,
}));
vi.mock('./set-up', () => ({
  seamBetween: async (
    _: unknown,
    span: { first: { take: { id: string }; from: number }; second: { take: { id: string }; from: number } },
  ) => {
    asked.push(['seam', span.first.take.id, span.first.from, span.second.take.id, span.second.from]);
    return { seam: { paths } };
  },
  seamKeyframesOf: (seam: { paths: typeof paths }) =>
    seam.paths.map((p) => ({ from: p.from, points: [0, 100].map((y, i) => ({ x: p.x[i] / 10, y, soft: 4 })) })),
  widestSoft: () => 4,
}));

const { addDuck, addFreshLayer, addMeasuredMask, addPatch, addTakeLayer, takeBelow } = await import('./masks');
const { addProject, undo, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const shot = () => now().shots[0];
const layer = (id: string) => shot().layers.find((l) => l.id === id) as (typeof shot extends () => infer S ? S : never)['layers'][number];
const quiet = () => undefined;
const take = (id: string, takeId: string, from: number) => plainLayer(id, id, 0, { kind: 'take', takeId }, [remapKeyAt(0, 0, from)]);

beforeEach(async () => {
  asked.length = 0;
  hue = null;
  paths = [{ from: 0, x: Float32Array.from([100, 110]) }];
  const layers = [
    take('low', 't1', 1),
    take('high', 't2', 2),
    plainLayer('patch', 'Patch', 0, { kind: 'still', mediaId: 'empty' }, [remapKeyAt(0, 0, 0)]),
  ];
  await addProject({
    ...stagedProject(),
    id: crypto.randomUUID(),
    shots: [plainShot('s', 'Shot', { beat: 8, offset: 0 }, { beat: 12, offset: 0 }, { layers })],
  });
  useProject.setState({ playhead: 120 });
});

describe('masks that are measured', () => {
  it('an outline over time rides on its layer, and its file comes into the project', async () => {
    await addMeasuredMask('s', 'high', 'silhouette', quiet);
    expect(asked).toEqual([['outline', 't2']]);
    expect(layer('high').masks).toMatchObject([
      { kind: 'silhouette', silhouetteId: 'new-outline', layerId: null, attachedToLayer: true, combine: 'add' },
    ]);
    expect(now().media.map((m) => m.id)).toContain('new-outline');
    undo();
    expect(layer('high').masks).toEqual([]);
    expect(now().media.map((m) => m.id)).not.toContain('new-outline');
  });

  it('a cut-out is of the second shown at the playhead', async () => {
    await addMeasuredMask('s', 'low', 'cut-out', quiet);
    const [[, takeId, second]] = asked as [string, string, number][];
    // Film frame 120 is 4.8 s; beat 8 at 112 BPM from 0.25 s on is 4.536 s, on frame 113: seven frames in.
    expect([takeId, second]).toEqual(['t1', expect.closeTo(1 + 7 / 25, 2)]);
    expect(layer('low').masks).toMatchObject([{ kind: 'matte', matteId: 'new-cut' }]);
  });

  it('a cut-out over time begins where its film does; before a coloured backing its spill goes as well, once', async () => {
    await addMeasuredMask('s', 'high', 'cut-out over time', quiet);
    expect(layer('high').masks).toMatchObject([{ kind: 'travelling', matteId: 'along', begins: 2.5 }]);
    expect(layer('high').effects).toEqual([]);
    hue = 120;
    await addMeasuredMask('s', 'high', 'cut-out over time', quiet);
    await addMeasuredMask('s', 'high', 'cut-out over time', quiet);
    expect(layer('high').effects.map((e) => [e.kind, e.numbers.hue[0].value])).toEqual([['spill', 120]]);
    expect(asked.filter(([what]) => what === 'corrected')).toHaveLength(3);
  });

  it('a seam is sought to the take below, from the seconds both show as the shot begins', async () => {
    await addMeasuredMask('s', 'high', 'seam', quiet);
    expect(asked).toEqual([['seam', 't1', 1, 't2', 2]]);
    const [mask] = layer('high').masks;
    expect(mask).toMatchObject({ kind: 'seam', keyframes: [{ from: 0 }] });
    expect(mask.numbers.outside[0].value).toBe(4);
  });

  it('says what is missing: no take in the layer, none below, the layer gone', async () => {
    await expect(addMeasuredMask('s', 'patch', 'silhouette', quiet)).rejects.toThrow(/needs a layer that shows a take/);
    await expect(addMeasuredMask('s', 'low', 'seam', quiet)).rejects.toThrow(/another take in the layer below/);
    await expect(addMeasuredMask('s', 'nobody', 'seam', quiet)).rejects.toThrow(/no longer in the project/);
    expect(asked).toEqual([]);
  });
});

describe('a layer that ducks', () => {
  it('has the outline of the take next below taken out, at that layer’s second', async () => {
    expect(takeBelow(shot(), layer('patch'))?.id).toBe('high');
    await addDuck(now(), shot(), layer('patch'), quiet);
    expect(asked).toEqual([['outline', 't2']]);
    expect(layer('patch').masks).toMatchObject([
      { kind: 'silhouette', silhouetteId: 'new-outline', layerId: 'high', combine: 'subtract', attachedToLayer: false },
    ]);
  });

  it('needs a take below it', async () => {
    expect(takeBelow(shot(), layer('low'))).toBeNull();
    await expect(addDuck(now(), shot(), layer('low'), quiet)).rejects.toThrow(/needs a take in a layer below/);
  });
});

describe('layers that are added', () => {
  it('a take from a second on, on its own tape; a made source by its own blend; a patch of the empty set in the middle', async () => {
    addTakeLayer(now(), 's', 't3', 4);
    expect(shot().layers.at(-1)).toMatchObject({ tape: 3, source: { kind: 'take', takeId: 't3' }, timeRemap: [{ source: 4 }] });
    addFreshLayer('s', 'light leak');
    expect(shot().layers.at(-1)).toMatchObject({ source: { kind: 'light leak' }, blend: 'screen' });
    await addPatch(now(), shot(), quiet);
    expect(asked).toEqual([['plate', 't1']]);
    expect(shot().layers.at(-1)).toMatchObject({
      name: 'Patch',
      source: { kind: 'still', mediaId: 'new-plate' },
      masks: [{ kind: 'ellipse' }],
    });
    expect(shot().layers).toHaveLength(6);
  });

  it('nothing is added for a take that is gone, or a source that needs something', () => {
    addTakeLayer(now(), 's', 'gone', 0);
    addFreshLayer('s', 'take');
    expect(shot().layers).toHaveLength(3);
  });
});
