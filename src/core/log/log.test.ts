import { describe, expect, it } from 'vitest';
import { emptyProject, type Project, type Take } from '../document';
import type { TakeLock } from '../measure';
import { newPlannedShot, planDay, RECIPES } from '../plan';
import { settingsDiffering, settingsVarying } from './settings';
import { strikeReport, type TakeFigures } from './strike';

const recipe = RECIPES.find((r) => r.id === 'clones') ?? RECIPES[0];
const plan = newPlannedShot('p', recipe, '2026-11-27');
const settings = { shutter: '1/50', aperture: 'f/5.6', iso: '800', whiteBalance: '3200 K', lens: '28 mm' };
const MINUTE = 60_000;

function take(slot: string, more: Partial<Take> = {}): Take {
  return {
    id: `t-${slot}`,
    mediaId: `m-${slot}`,
    plan: 'p',
    slot,
    number: 1,
    tape: 0,
    rating: 0,
    note: '',
    settings,
    filmedAt: 0,
    live: null,
    part: null,
    correction: null,
    ...more,
  };
}

const SLOTS = ['plate', 'place-p1', 'place-p2', 'plate-end'];

function filmed(takes: Take[]): Project {
  const project = emptyProject('x', 'x');
  const media = (id: string): Project['media'][number] => ({
    id,
    kind: 'video',
    name: id,
    type: '',
    bytes: 1,
    duration: 10,
    width: 1280,
    height: 720,
    rotation: 0,
    codec: '',
    fps: 25,
    variableRate: false,
    hasSound: false,
    colour: { matrix: 'bt709', fullRange: false },
  });
  return { ...project, plans: [plan], takes, media: takes.map((t) => media(t.mediaId)) };
}

function lock(more: Partial<TakeLock> = {}): TakeLock {
  const times = Array.from({ length: 100 }, (_, i) => i / 10);
  return {
    times,
    readings: [],
    exposures: times.map(() => 0),
    gains: times.map(() => ({ r: 1, g: 1, b: 1 })),
    perspective: null,
    typical: { dx: 0, dy: 0, turn: 0, scale: 1 },
    corner: 0.1,
    light: { gains: { r: 1, g: 1, b: 1 }, exposure: 0, red: 1, blue: 1 },
    transfer: 'BT.709',
    curves: null,
    changes: [],
    flicker: null,
    bumps: [],
    travel: null,
    match: null,
    trusted: 1,
    ...more,
  };
}
const fine: TakeFigures = { own: lock(), against: lock() };
const ordered = planDay(plan, { barSeconds: 2, beatSeconds: 0.5 }, 25).order.slots.map((s) => s.slot);
const report = (project: Project, figures: Record<string, TakeFigures>) =>
  strikeReport(project, [plan], new Map(Object.entries(figures)), new Map([[plan.id, ordered]]));
const all = (over: Record<string, TakeFigures> = {}) => ({ ...Object.fromEntries(SLOTS.map((s) => [`t-${s}`, fine])), ...over });

describe('may I strike?', () => {
  it('with everything there, measured and good: yes', () => {
    const r = report(filmed(SLOTS.map((s) => take(s))), all());
    expect(r.verdict).toBe('yes');
    expect(r.rows.every((row) => row.state === 'good')).toBe(true);
  });

  it('nothing is green that was not measured', () => {
    const r = report(filmed(SLOTS.map((s) => take(s))), {});
    expect(r.verdict).toBe('look');
    for (const row of r.rows) {
      expect(row.state).toBe('unsure');
      expect(row.text).toContain('not measured');
    }
  });

  it('a bump asks for just that take again, with its size, its second and how long it takes', () => {
    const bumped = { ...fine, own: lock({ bumps: [{ frame: 50, time: 2, size: 6.5 }] }) };
    const r = report(filmed(SLOTS.map((s) => take(s))), all({ 't-place-p1': bumped }));
    expect(r.verdict).toBe('no');
    expect(r.again.map((row) => row.slot.id)).toEqual(['place-p1']);
    expect(r.rows[1].text).toContain('bumped by 6.5 px at 2.0 s');
    expect(r.minutes).toBeGreaterThan(1);
    expect(r.text).toContain('Place 1');
  });

  it('a second, clean take of the slot makes it good', () => {
    const bumped = { ...fine, own: lock({ bumps: [{ frame: 50, time: 2, size: 6.5 }] }) };
    const again = take('place-p1', { id: 'again', mediaId: 'm-again', number: 2 });
    const r = report(filmed([...SLOTS.map((s) => take(s)), again]), { ...all({ 't-place-p1': bumped }), again: fine });
    expect(r.verdict).toBe('yes');
    expect(r.rows[1].best?.take.id).toBe('again');
  });

  it('missing slots are asked for in the planned order; a second plate only when there is no first', () => {
    const r = report(filmed([take('place-p2')]), all());
    expect(r.again.map((row) => row.slot.id)).toEqual(['plate', 'place-p1', 'plate-end']);
    const spare = report(filmed([take('plate'), take('place-p1'), take('place-p2')]), all());
    expect(spare.again).toEqual([]);
    expect(spare.rows[3].state).toBe('missing');
  });

  it('light that drifts within a take asks for it again; light that differs between takes can be put right', () => {
    const drift = lock({ exposures: Array.from({ length: 100 }, (_, i) => i * 0.003) });
    const brighter = lock({ light: { gains: { r: 1.2, g: 1.2, b: 1.2 }, exposure: 0.26, red: 1, blue: 1 } });
    const r = report(
      filmed(SLOTS.map((s) => take(s))),
      all({ 't-place-p1': { ...fine, own: drift }, 't-place-p2': { own: lock(), against: brighter } }),
    );
    expect(r.rows[1].state).toBe('fix');
    expect(r.rows[1].text).toMatch(/drifts by 0\.2\d EV/);
    expect(r.rows[2].state).toBe('unsure');
    expect(r.rows[2].text).toContain('0.26 EV brighter');
  });

  it('a camera that stands far off asks again, a little off is mended', () => {
    const far = { own: lock(), against: lock({ corner: 40 }) };
    const near = { own: lock(), against: lock({ corner: 4 }) };
    const r = report(filmed(SLOTS.map((s) => take(s))), all({ 't-place-p1': far, 't-place-p2': near }));
    expect(r.rows[1].state).toBe('fix');
    expect(r.rows[2].state).toBe('unsure');
  });

  it('a plate filmed an hour away from its takes is not fresh', () => {
    const takes = SLOTS.map((s) => take(s, { filmedAt: s === 'plate' ? 1 : 70 * MINUTE }));
    const r = report(filmed(takes), all());
    expect(r.rows[0].text).toMatch(/70 minutes away/);
    expect(r.rows[0].state).toBe('unsure');
  });
});

describe('settings against the plan and among takes', () => {
  it('the same settings, however written, are no difference; unset ones are not judged', () => {
    expect(settingsDiffering(plan, take('plate', { settings: { ...settings, shutter: '50', aperture: '5,6', iso: 'ISO 800' } }))).toEqual(
      [],
    );
    expect(
      settingsDiffering(plan, take('plate', { settings: { shutter: '', aperture: '', iso: '', whiteBalance: '', lens: '' } })),
    ).toEqual([]);
  });

  it('names each difference, and what cannot be read', () => {
    const out = settingsDiffering(
      plan,
      take('plate', { settings: { shutter: '1/60', aperture: 'f/8', iso: '1600', whiteBalance: '', lens: '35 mm' } }),
    );
    expect(out).toEqual(['f/8 instead of f/5.6', 'shutter 1/60 instead of 1/50', 'ISO 1600 instead of 800', 'lens 35 mm instead of 28 mm']);
    expect(settingsDiffering(plan, take('plate', { settings: { ...settings, iso: 'lots' } }))).toEqual(['the ISO “lots” cannot be read']);
  });

  it('what varies among takes', () => {
    expect(settingsVarying([take('plate'), take('place-p1', { settings: { ...settings, iso: '400' } })])).toEqual(['ISO: 800 and 400']);
    expect(settingsVarying([take('plate'), take('place-p1')])).toEqual([]);
  });
});
