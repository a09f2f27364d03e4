import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { emptyProject, readProject } from '@/core/document';
import { RECIPES } from '@/core/plan';
import { stagedMedia } from '@/core/staged';
import { laundrettePlans } from './laundrette';
import { addPlan, changePlan, removePlan } from './plans';
import { addProject, edit, redo, settled, undo, useProject } from './store';
import { readTakeLog } from './take-log';

const state = () => useProject.getState();
const project = () => {
  const { project: open } = state();
  if (!open) throw new Error('no project');
  return open;
};
const recipe = (id: string) => RECIPES.find((r) => r.id === id) ?? RECIPES[0];

beforeEach(async () => {
  await addProject(emptyProject(crypto.randomUUID(), 'Plans'));
});

describe('planned shots in the open project', () => {
  it('the first stands on a set of its own; the next takes over set, camera and schedule but not its places', () => {
    addPlan(recipe('clones'));
    const first = project().plans[0];
    changePlan(first.id, 'Tilt', (p) => void Object.assign(p.camera, { tilt: 7 }));
    changePlan(first.id, 'Room', (p) => void Object.assign(p.room, { back: 7.5 }));
    addPlan(recipe('hidden fill'));
    const second = project().plans[1];
    expect(state().selectedPlan).toBe(second.id);
    expect(second.camera.tilt).toBe(7);
    expect(second.room.back).toBe(7.5);
    expect(second.places.map((p) => p.name)).toEqual(recipe('hidden fill').places.map((p) => p.name));
    // Changing one does not change the other.
    changePlan(second.id, 'Tilt', (p) => void Object.assign(p.camera, { tilt: -3 }));
    expect(project().plans[0].camera.tilt).toBe(7);
  });

  it('two of one recipe have names of their own, and all of it reads back as a valid project', () => {
    addPlan(recipe('whip'));
    addPlan(recipe('whip'));
    expect(project().plans.map((p) => p.name)).toEqual(['Whip', 'Whip 2']);
    expect(readProject(JSON.parse(JSON.stringify(project()))).ok).toBe(true);
  });

  it('removing one frees its takes; undo brings both back', async () => {
    addPlan(recipe('clones'));
    const [{ id }] = project().plans;
    edit('Take', (draft) => {
      draft.media.push(stagedMedia('m'));
      draft.takes.push({
        id: 't',
        mediaId: 'm',
        plan: id,
        slot: 'plate',
        number: 1,
        tape: 0,
        rating: 0,
        note: '',
        settings: { shutter: '', aperture: '', iso: '', whiteBalance: '', lens: '' },
        filmedAt: null,
        live: null,
        part: null,
        correction: null,
      });
    });
    removePlan(id);
    expect(project().plans).toEqual([]);
    expect(project().takes[0]).toMatchObject({ plan: null, slot: null });
    await undo();
    expect(project().takes[0]).toMatchObject({ plan: id, slot: 'plate' });
    await redo();
    await settled();
    expect(project().plans).toEqual([]);
  });

  it('the demo’s three planned shots are valid, stand in one room and keep their takes apart', () => {
    const plans = laundrettePlans('2026-11-27');
    expect(plans.map((p) => p.recipe)).toEqual(['curtain reveal', 'clones', 'dolly zoom']);
    expect(readProject({ ...project(), plans }).ok).toBe(true);
    expect(new Set(plans.map((p) => p.id)).size).toBe(3);
    expect(new Set(plans.map((p) => p.props.length)).size).toBe(1);
  });
});

describe('a take log read in', () => {
  const csv = (text: string) => new File([text], 'log.csv', { type: 'text/csv' });
  const media = {
    id: 'm',
    kind: 'video' as const,
    name: 'a.mp4',
    type: '',
    bytes: 1,
    duration: 5,
    width: 640,
    height: 360,
    rotation: 0 as const,
    codec: '',
    fps: 25,
    variableRate: false,
    hasSound: false,
    colour: { matrix: 'bt709' as const, fullRange: false },
  };

  beforeEach(async () => {
    edit('Take', (draft) => {
      draft.media.push(media);
      draft.takes.push({
        id: 't',
        mediaId: 'm',
        plan: null,
        slot: null,
        number: 1,
        tape: 0,
        rating: 2,
        note: 'as it was',
        settings: { shutter: '1/50', aperture: '', iso: '', whiteBalance: '', lens: '' },
        filmedAt: null,
        live: null,
        part: null,
        correction: null,
      });
    });
  });

  it('sets what its columns say and leaves the rest; a byte order mark and quotes do no harm', async () => {
    expect(await readTakeLog(csv('\ufefffile,note,rating\r\na.mp4,"late, ""lovely""",3\r\n'))).toMatch(/^1 take brought up to date/);
    expect(project().takes[0]).toMatchObject({ note: 'late, "lovely"', rating: 3, settings: { shutter: '1/50' } });
    await undo();
    expect(project().takes[0]).toMatchObject({ note: 'as it was', rating: 2 });
  });

  it('ratings that are none are not taken, names that are not known are told', async () => {
    expect(await readTakeLog(csv('file,rating\na.mp4,7\nb.mp4,1\n'))).toContain('Not in this project: b.mp4');
    expect(project().takes[0].rating).toBe(2);
  });

  it('what is no log changes nothing and says so', async () => {
    const before = project();
    expect(await readTakeLog(csv('milk,eggs\n1,12\n'))).toMatch(/not a take log/);
    expect(await readTakeLog(csv(''))).toMatch(/not a take log/);
    expect(project()).toBe(before);
  });
});
