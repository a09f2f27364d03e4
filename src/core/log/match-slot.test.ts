import { describe, expect, it } from 'vitest';
import { emptyProject, type Project } from '../document';
import { newPlannedShot, RECIPES } from '../plan';
import { constantBeatMap } from '../time';
import { matchSlot } from './match-slot';

const recipe = (id: string) => RECIPES.find((r) => r.id === id) ?? RECIPES[0];
const clones = { ...newPlannedShot('c', recipe('clones'), '2026-11-27'), bar: 5, bars: 4 };
const curtain = { ...newPlannedShot('r', recipe('curtain reveal'), '2026-11-27'), bar: 20, bars: 8 };
const HOUR = 3_600_000;

/** Two planned shots over a song at 120 BPM, and one take: place 1, filmed at one o'clock for 10 s. */
function project(): Project {
  const empty = emptyProject('x', 'x');
  const media = {
    ...{ id: 'm1', kind: 'video' as const, name: 'a.mp4', type: '', bytes: 1, duration: 10, width: 64, height: 36, rotation: 0 as const },
    ...{ codec: '', fps: 25, variableRate: false, hasSound: true, colour: { matrix: 'bt709' as const, fullRange: false } },
  };
  const settings = { shutter: '', aperture: '', iso: '', whiteBalance: '', lens: '' };
  const take = { id: 't1', mediaId: 'm1', plan: 'c', slot: 'place-p1', number: 1, tape: 0, rating: 0, note: '', settings };
  return {
    ...empty,
    plans: [clones, curtain],
    media: [media],
    takes: [{ ...take, filmedAt: HOUR, live: null, part: null, correction: null }],
    song: { mediaId: 's', map: constantBeatMap(120, 0, 200), parts: [] },
  };
}
const film = { name: 'VID_0412.mp4', duration: 9, beganAt: null, heardIn: null, songAt: null };

describe('a film from another camera finds its slot', () => {
  it('by its name before all else', () => {
    const named = { ...film, name: 'place-p2 second try.mov', heardIn: 't1', beganAt: HOUR };
    expect(matchSlot(project(), 'c', named)).toEqual({ plan: 'c', slot: 'place-p2', by: 'name' });
    expect(matchSlot(project(), 'c', { ...film, name: 'empty set.mov' })).toEqual({ plan: 'c', slot: 'plate', by: 'name' });
  });
  it('by the planned shot its name speaks of, though another is being looked at', () => {
    const own = { ...film, name: `${curtain.name.replaceAll(' ', '-')}-two.mp4` };
    expect(matchSlot(project(), 'c', own)).toEqual({ plan: 'r', slot: 'two', by: 'name' });
  });
  it('by the take whose sound it shares, then by the time it was filmed', () => {
    expect(matchSlot(project(), 'r', { ...film, heardIn: 't1' })).toEqual({ plan: 'c', slot: 'place-p1', by: 'sound' });
    expect(matchSlot(project(), 'r', { ...film, beganAt: HOUR + 2000 })).toEqual({ plan: 'c', slot: 'place-p1', by: 'time' });
    // Half a minute later nothing overlaps.
    expect(matchSlot(project(), 'r', { ...film, beganAt: HOUR + 30_000 }).by).toBe('length');
  });
  it('by the bars its sound lies on, though another shot is being looked at', () => {
    // Bars 5 to 8 last from 8 to 16 s; bars 20 to 27 from 38 to 54 s.
    expect(matchSlot(project(), 'r', { ...film, songAt: 7 })).toMatchObject({ plan: 'c', slot: 'place-p2', by: 'bars' });
    expect(matchSlot(project(), 'c', { ...film, songAt: 41 })).toMatchObject({ plan: 'r', slot: 'one', by: 'bars' });
    expect(matchSlot(project(), 'c', { ...film, songAt: 80 })).toMatchObject({ plan: 'c', by: 'length' });
  });
  it('nowhere when nothing is planned', () => {
    expect(matchSlot({ ...project(), plans: [] }, null, film)).toEqual({ plan: null, slot: null, by: null });
  });
});
