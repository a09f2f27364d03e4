import { describe, expect, it } from 'vitest';
import { shotListCsv } from '../exchange';
import { planDay, planOrder } from './day';
import { contextOf, newPlannedShot, recipeOf } from './plan';
import { RECIPES } from './recipes';
import { plannedShotSchema } from './schema';

const TEMPO = { barSeconds: 240 / 112, beatSeconds: 60 / 112 };
const planned = (id: string) => newPlannedShot('s', RECIPES.find((r) => r.id === id) ?? RECIPES[0], '2026-11-27');

describe('every recipe, from empty', () => {
  it('there are eighteen, each with a name of its own', () => {
    expect(RECIPES).toHaveLength(18);
    expect(new Set(RECIPES.map((r) => r.id)).size).toBe(18);
  });

  it.each(RECIPES.map((r) => [r.name, r] as const))(
    '%s: valid document, slots, order, marks, kit, cautions, moves and checks',
    (_, recipe) => {
      const shot = newPlannedShot('s', recipe, '2026-11-27');
      expect(plannedShotSchema.safeParse(shot).error).toBeUndefined();
      const c = contextOf(shot, TEMPO);
      const slots = recipe.slots(c);
      expect(slots.length).toBeGreaterThan(0);
      expect(new Set(slots.map((s) => s.id)).size).toBe(slots.length);
      for (const s of slots) {
        expect(s.what.length).toBeGreaterThan(20);
        expect(s.place === null || shot.places.some((p) => p.id === s.place)).toBe(true);
      }
      for (const list of [recipe.marks(c), recipe.kit(c), recipe.cautions(c), recipe.checks(c)]) {
        expect(list.length).toBeGreaterThan(0);
        for (const text of list) expect(text).not.toMatch(/undefined|NaN|null|\[object/);
      }
      expect(recipe.cautions(c).join(' ')).toMatch(/local rules.*licensed/i);
      for (const b of recipe.builds(c)) expect(b.text).not.toMatch(/undefined|NaN/);
      const { order, table } = planDay(shot, TEMPO, 25);
      expect(order.broken).toEqual([]);
      expect(order.slots.map((s) => s.slot.id).sort()).toEqual(slots.map((s) => s.id).sort());
      for (const s of order.slots) expect(s.reason.length).toBeGreaterThan(10);
      const plates = order.slots.map((s) => s.slot.plate);
      if (plates.includes('first')) expect(plates[0]).toBe('first');
      if (plates.includes('last')) expect(plates.at(-1)).toBe('last');
      expect(table.end).toBeGreaterThan(19 * 60 + 40);
    },
  );

  it.each(RECIPES.map((r) => [r.name, r] as const))('%s: the dry run stays sound over the whole shot, and moves', (_, recipe) => {
    const shot = newPlannedShot('s', recipe, '2026-11-27');
    const c = contextOf(shot, TEMPO);
    const slots = new Set(recipe.slots(c).map((s) => s.id));
    const seen = new Set<string>();
    for (let i = 0; i <= 96; i++) {
      const frame = recipe.dryRun(c, i / 96);
      seen.add(JSON.stringify(frame));
      expect(frame.zoom).toBeGreaterThanOrEqual(1 - 1e-9);
      for (const layer of frame.layers) {
        expect(slots.has(layer.slot), layer.slot).toBe(true);
        expect(layer.opacity).toBeGreaterThanOrEqual(0);
        expect(layer.opacity).toBeLessThanOrEqual(1);
        for (const f of layer.figures) {
          expect(shot.places.some((p) => p.id === f.place)).toBe(true);
          expect(f.arms).toBeGreaterThanOrEqual(0);
          expect(f.arms).toBeLessThanOrEqual(1);
        }
        if (layer.region) for (const v of Object.values(layer.region)) expect(v >= -0.001 && v <= 1.001).toBe(true);
      }
      expect(JSON.stringify(frame)).not.toContain('null,"y"');
      for (const m of frame.marks) expect(Number.isFinite(m.x + m.y + m.angle + m.strength)).toBe(true);
    }
    expect(seen.size).toBeGreaterThan(5);
  });

  it('a recipe of a newer version is not lost: the shot falls back to one that is known', () => {
    expect(recipeOf({ ...planned('clones'), recipe: 'not yet invented' })).toBe(RECIPES[0]);
  });
});

describe('the order and the timetable', () => {
  it('clones with contact follow each other at once; the thing that passes is not touched between', () => {
    const { slots } = planOrder(planned('clones'), TEMPO, 25);
    expect(slots.map((s) => s.slot.id)).toEqual(['plate', 'place-p1', 'place-p2', 'plate-end']);
    expect(slots[2].reason).toMatch(/untouched/);
  });

  it('objects arrive from the back of the set to the front', () => {
    const shot = planned('things arrive');
    const { slots } = planOrder({ ...shot, inputs: { ...shot.inputs, thread: 0 } }, TEMPO, 25);
    const depths = slots.map((s) => shot.places.find((p) => p.id === s.slot.place)?.z ?? 0).filter((z) => z > 0);
    expect(depths).toEqual([...depths].sort((a, b) => b - a));
  });

  it('the user’s own order stands, and what it breaks is named', () => {
    const order = planOrder({ ...planned('curtain reveal'), order: ['two', 'plate', 'one'] }, TEMPO, 25);
    expect(order.own).toBe(true);
    expect(order.slots.map((s) => s.slot.id)).toEqual(['two', 'plate', 'one']);
    expect(order.broken.join(' ')).toMatch(/Take two.*should come after Take one/);
    expect(order.broken.join(' ')).toMatch(/should come after Clean plate/);
    const partly = planOrder({ ...planned('clones'), order: ['plate', 'place-p2', 'plate-end', 'gone'] }, TEMPO, 25);
    expect(partly.slots.map((s) => s.slot.id)).toEqual(['plate', 'place-p2', 'place-p1', 'plate-end']);
  });

  it('rows follow each other without gaps; an outfit change stands between the two outfits; breaks come in time', () => {
    const shot = planned('curtain reveal');
    const { table } = planDay({ ...shot, schedule: { ...shot.schedule, breakEvery: 60 } }, TEMPO, 25);
    table.rows.forEach((row, i) => {
      if (i) expect(row.from).toBeCloseTo(table.rows[i - 1].to, 9);
    });
    expect(table.rows.some((r) => r.kind === 'change' && r.what.includes('second outfit'))).toBe(true);
    expect(table.rows.some((r) => r.kind === 'break')).toBe(true);
    // 4 tries each of 2 + 4 bars and 9 s, and a plate of 8 s.
    expect(table.recorded).toBeCloseTo(8 + 2 * 4 * (6 * TEMPO.barSeconds + 9), 6);
    expect(table.gigabytes).toBeCloseTo((table.recorded * 100) / 8000, 9);
  });

  it('half speed on screen means the song at double speed on set: the passage takes half as long', () => {
    const shot = planned('whip');
    const slow = planDay({ ...shot, delivery: { ...shot.delivery, slowest: 50 } }, TEMPO, 25);
    const full = planDay(shot, TEMPO, 25);
    expect(slow.table.recorded).toBeLessThan(full.table.recorded * 0.75);
  });

  it('outdoors the takes that must match come before the window closes', () => {
    const shot = { ...planned('clones'), outdoors: { latitude: 52, longitude: 13, utcOffset: 120, bearing: 0 } };
    const day = { ...shot, schedule: { ...shot.schedule, date: '2026-06-21', time: '11:00' } };
    expect(planDay(day, TEMPO, 25).order.slots).toHaveLength(4);
  });
});

describe('the shot list as CSV (RFC 4180)', () => {
  const shot = { ...planned('clones'), name: 'The "hand-over", bar 9', ticked: ['plate'] };
  const text = shotListCsv([{ shot, order: planOrder(shot, TEMPO, 25), barSeconds: TEMPO.barSeconds }]);

  it('has a head with units and a line a slot, quotes doubled, CRLF', () => {
    const lines = text.trimEnd().split('\r\n');
    expect(lines[0]).toContain('across_m,from_lens_m');
    expect(lines).toHaveLength(5);
    expect(lines[1]).toMatch(/^"The ""hand-over"", bar 9",clones,1,Clean plate,/);
    expect(lines[1]).toMatch(/,yes$/);
    expect(lines[2]).toMatch(/,no$/);
    // Left of the axis is a negative number, not a formula.
    expect(lines[2]).toContain(',Place 1,-0.85,3.20,');
  });

  it('gives spreadsheets no formula to run', () => {
    const evil = shotListCsv([{ shot: { ...shot, name: '=1+1' }, order: planOrder(shot, TEMPO, 25), barSeconds: 2 }]);
    expect(evil.split('\r\n')[1]).toMatch(/^"'=1\+1",/);
  });
});
