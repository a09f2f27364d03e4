import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { emptyProject, type Media, readProject, type Shot, type Take } from '@/core/document';
import { plainShot, plannedSlots } from '@/core/edit';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { newPlannedShot, RECIPES } from '@/core/plan';
import { cutTake, slotsFor, wholeAgain } from './cut-takes';
import { addProject, undo, useProject } from './store';

const recipe = RECIPES.find((r) => r.id === 'clones') ?? RECIPES[0];
const plan = newPlannedShot('plan', recipe, '2026-01-01');
const media: Media = {
  id: 'film',
  kind: 'video',
  name: 'long.mp4',
  type: 'video/mp4',
  bytes: 1000,
  duration: 60,
  width: 1280,
  height: 720,
  rotation: 0,
  codec: 'avc',
  fps: 25,
  variableRate: false,
  hasSound: true,
  colour: { matrix: 'bt709', fullRange: false },
};
const take: Take = {
  id: 'take',
  mediaId: 'film',
  part: null,
  plan: 'plan',
  slot: null,
  number: 1,
  tape: 11,
  rating: 2,
  note: 'long',
  settings: { shutter: '1/50', aperture: '', iso: '', whiteBalance: '', lens: '' },
  filmedAt: 1_000_000,
  live: { corner: 0.1, exposure: null, bumps: [{ time: 25, size: 3 }] },
  correction: null,
};
const shot = (sync: number): Shot =>
  plainShot(
    `shot-${sync}`,
    'Clones',
    { beat: 4, offset: 0 },
    { beat: 8, offset: 0 },
    {
      layers: [sync, sync + 20].map((second, i) =>
        plainLayer(`l${i}`, 'Take', 0, { kind: 'take', takeId: 'take' }, [remapKeyAt(0, 0, second)]),
      ),
    },
  );
const project = () => {
  const { project: open } = useProject.getState();
  if (!open) throw new Error('no project');
  return open;
};
const slots = plannedSlots({ ...emptyProject('x', 'x'), plans: [plan] }, plan).map((s) => s.id);

beforeEach(async () => {
  await addProject({
    ...emptyProject(crypto.randomUUID(), 'Parts'),
    media: [media],
    plans: [plan],
    takes: [{ ...take, slot: slots[0] }],
    shots: [shot(5)],
  });
});

describe('a take cut into parts', () => {
  it('fills the slots in their order, from its own on; the last again when they run out', () => {
    const spans = Array.from({ length: slots.length + 1 }, (_, i) => ({ from: i, to: i + 1 }));
    expect(slotsFor(project(), project().takes[0], spans).map((p) => p.slot)).toEqual([...slots, slots.at(-1)]);
    expect(slotsFor(project(), { ...take, plan: null }, spans.slice(0, 2)).map((p) => p.slot)).toEqual([null, null]);
  });

  it('becomes takes of their own: time, knocks and shots go with the part they lie in; one undo brings it back', async () => {
    const spans = [
      { from: 2, to: 20 },
      { from: 22, to: 40 },
    ];
    cutTake('take', slotsFor(project(), project().takes[0], spans));
    const [one, two] = project().takes;
    expect(project().takes).toHaveLength(2);
    expect(one).toMatchObject({ id: 'take', part: spans[0], slot: slots[0], number: 1, filmedAt: 1_002_000, note: 'long', rating: 2 });
    expect(two).toMatchObject({ part: spans[1], slot: slots[1], number: 1, tape: 0, filmedAt: 1_022_000 });
    expect(one.live?.bumps).toEqual([]);
    expect(two.live?.bumps).toEqual([{ time: 25, size: 3 }]);
    const shown = project().shots[0].layers.map(({ source }) => source.kind === 'take' && source.takeId);
    expect(shown).toEqual(['take', two.id]);
    expect(readProject(JSON.parse(JSON.stringify(project()))).ok).toBe(true);
    await undo();
    expect(project().takes).toEqual([{ ...take, slot: slots[0] }]);
  });

  it('an in and out alone change the take, and all of the file can be used again', () => {
    cutTake('take', [{ from: 4, to: 9, slot: slots[0] }]);
    expect(project().takes[0]).toMatchObject({ id: 'take', part: { from: 4, to: 9 }, number: 1 });
    wholeAgain('take');
    expect(project().takes[0].part).toBeNull();
  });

  it('two parts for one slot are its first and second take', () => {
    cutTake(
      'take',
      [
        { from: 0, to: 9 },
        { from: 9, to: 20 },
      ].map((p) => ({ ...p, slot: slots[1] })),
    );
    expect(project().takes.map((t) => t.number)).toEqual([1, 2]);
  });
});
