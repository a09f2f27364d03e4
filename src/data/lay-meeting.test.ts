import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Project, readProject, type Take } from '@/core/document';
import { sceneOf, shotFrames } from '@/core/evaluate';
import { placeFrame, sourceSecond } from '@/core/layer';
import { stagedMedia, stagedProject } from '@/core/staged';
import { frameToSeconds } from '@/core/time';

const made: string[] = [];
vi.mock('./facts', () => ({
  gatherFacts: async () => ({ facts: { seams: { keyframes: [], feather: 1, from: [], why: '' } }, media: [] }),
}));
vi.mock('./lay-plan', () => ({ corrected: async (takes: string[]) => void made.push(`corrected ${takes.join()}`) }));
vi.mock('./kept', () => ({
  keepOutline: async (_: Project, takeId: string) => {
    made.push(`outline ${takeId}`);
    return { media: [stagedMedia('outline', 'silhouette')], silhouetteId: 'outline' };
  },
}));
const { layMeeting } = await import('./lay-meeting');
const { addProject, settled, useProject } = await import('./store');

const now = () => useProject.getState().project as Project;
const take = (id: string) => now().takes.find((t) => t.id === id) as Take;
const quiet = () => undefined;

beforeEach(async () => {
  await settled();
  made.length = 0;
  await addProject({ ...stagedProject(120), id: crypto.randomUUID() });
});

describe('two takes that meet', () => {
  it('touch on one beat, each at its own second, with the way there before it and the hand over the seam around it', async () => {
    useProject.setState({ playhead: 100 });
    await layMeeting({ take: take('t1'), at: 3.1 }, { take: take('t2'), at: 1.2 }, quiet);
    expect(made).toEqual(['corrected t1,t2', 'outline t1']);
    const [shot] = now().shots;
    if (shot.move?.kind !== 'clones') throw new Error('no clones');
    // The second take has 1.2 s before its contact: two whole beats of half a second.
    expect(shot.move.at.beat).toBe(2);
    const scene = sceneOf(now(), shot);
    const met = frameToSeconds(placeFrame(scene, shot.move.at), scene.rate);
    for (const [name, second] of [
      ['place1', 3.1],
      ['place2', 1.2],
    ] as const) {
      const layer = shot.layers.find((l) => l.id === name);
      expect(layer && sourceSecond(scene, layer, met)).toBeCloseTo(second, 6);
    }
    expect(shot.layers.filter((l) => l.id.startsWith('over'))).toHaveLength(1);
    const [first, end] = shotFrames(now(), shot);
    expect(first).toBeGreaterThanOrEqual(100);
    // Both takes still have picture at its end.
    expect(3.1 + frameToSeconds(end, scene.rate) - met).toBeLessThanOrEqual(10);
    expect(readProject(now())).toMatchObject({ ok: true });
  });

  it('at the very beginning of a take they touch on the shot’s first beat', async () => {
    await layMeeting({ take: take('t1'), at: 0.1 }, { take: take('t2'), at: 4 }, quiet);
    const [shot] = now().shots;
    expect(shot.move).toMatchObject({ at: { beat: 0 }, crossings: [{ place: 0, from: { beat: 0 }, until: { beat: 1 } }] });
  });
});
