import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document';
import { beatMapOf, sceneOf } from '@/core/evaluate';
import { placeFrame } from '@/core/layer';
import { MOVES } from '@/core/moves';
import { RECIPES } from '@/core/plan';
import { STAGED_FACTS, stagedProject } from '@/core/staged';
import { barToBeat } from '@/core/time';

vi.mock('./facts', () => ({ gatherFacts: async () => ({ facts: STAGED_FACTS, media: [] }) }));
const measured = vi.fn();
vi.mock('./media', async (original) => ({ ...(await original<object>()), takeMeasurement: measured, correctTake: vi.fn() }));

const { layable, layPlan } = await import('./lay-plan');
const { addPlan } = await import('./plans');
const { addProject, edit, settled, undo, useProject } = await import('./store');
const { plannedSlots } = await import('@/core/edit');

const now = () => useProject.getState().project as Project;
const quiet = () => undefined;

beforeEach(async () => {
  await settled();
  measured.mockReset();
  await addProject({ ...stagedProject(), id: crypto.randomUUID() });
});

/** A plan of a recipe on bar 5, each of its slots filled, but those left out. */
function filled(id: string, without: readonly string[] = []): string {
  addPlan(RECIPES.find((r) => r.id === id) ?? RECIPES[0]);
  const plan = now().plans[0];
  const slots = plannedSlots(now(), plan).filter((s) => !without.includes(s.id));
  edit('Fill the slots', (draft) => {
    draft.plans[0].bar = 5;
    const [one] = draft.takes;
    draft.takes = slots.map((slot, i) => ({ ...one, id: `take-${slot.id}`, mediaId: `m${(i % 3) + 1}`, plan: plan.id, slot: slot.id }));
  });
  return plan.id;
}

it('every recipe of the plan has its move', () => {
  const made = MOVES.flatMap(({ planned }) => planned?.recipe ?? []);
  expect(RECIPES.map((r) => r.id).filter((id) => !made.includes(id))).toEqual([]);
  for (const recipe of RECIPES) {
    const planned = MOVES.find((m) => m.planned?.recipe === recipe.id)?.planned;
    if (planned?.beat) expect(recipe.inputs.map((i) => i.key)).toContain(planned.beat);
  }
});

describe.each(RECIPES.map(({ id }) => id))('a planned shot of “%s”', (id) => {
  it('is laid by one press where the plan says, of the takes that fill its slots, and goes with one step back', async () => {
    const planId = filled(id);
    const before = JSON.stringify(now().shots);
    await layPlan(planId, quiet);
    const [shot] = now().shots;
    expect(shot.name).toBe(now().plans[0].name);
    const planned = MOVES.find((m) => m.kind === shot.move?.kind)?.planned;
    const input = planned?.beat ? (now().plans[0].inputs[planned.beat] as number) - 1 : 0;
    const beat = barToBeat(beatMapOf(now()), 5) + input;
    const scene = sceneOf(now(), shot);
    const frame = placeFrame({ ...scene, beat: 0 }, { beat, offset: 0 });
    expect(frame).toBeGreaterThanOrEqual(scene.first);
    expect(frame).toBeLessThan(scene.end);
    const shown = shot.layers.flatMap(({ source }) => (source.kind === 'take' ? [source.takeId] : []));
    expect(shown.every((takeId) => now().takes.some((t) => t.id === takeId && t.plan === planId))).toBe(true);
    undo();
    expect(JSON.stringify(now().shots)).toBe(before);
  });
});

describe('what is missing', () => {
  it('is said by its name, and nothing is laid while the first of the takes is not there', async () => {
    const planId = filled('whip', ['take-1']);
    expect(layable(now(), now().plans[0])).toMatchObject({ enough: false });
    await expect(layPlan(planId, quiet)).rejects.toThrow(/Still to be filmed: “Take 1”/);
    expect(now().shots).toEqual([]);
  });
  it('is said when the rest is enough', async () => {
    const planId = filled('vanish and reappear', ['return']);
    expect(await layPlan(planId, quiet)).toMatch(/Laid without “Coming back”/);
    expect(now().shots[0].move).toMatchObject({ kind: 'vanish', back: null });
  });
});

describe('before it is laid', () => {
  it('takes that are mixed are corrected', async () => {
    await layPlan(filled('clones'), quiet);
    expect(measured).toHaveBeenCalled();
  });
  it('takes that are not are left as they are', async () => {
    await layPlan(filled('whip'), quiet);
    expect(measured).not.toHaveBeenCalled();
  });
});
