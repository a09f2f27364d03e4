import { describe, expect, it } from 'vitest';
import { randomSource } from '../room';
import { brokenRules, type OrderRule, type OrderSlot, orderCost, orderSlots } from './order';

const COSTS = { outfitMinutes: 12, rigMinutes: 15, lightMinutes: 10 };

function permutations<T>(items: readonly T[]): T[][] {
  if (items.length <= 1) return [[...items]];
  return items.flatMap((item, i) => permutations([...items.slice(0, i), ...items.slice(i + 1)]).map((rest) => [item, ...rest]));
}

/** Random slots and rules; `until` only when `timed`. Rules are drawn along a hidden order, so that one always exists. */
function instance(seed: number, n: number, timed: boolean): { slots: OrderSlot[]; rules: OrderRule[] } {
  const random = randomSource(seed);
  const pick = (k: number) => Math.floor(random() * k);
  const slots = Array.from({ length: n }, (_, i) => ({
    id: `s${i}`,
    minutes: 3 + pick(15),
    outfit: ['', 'blue', 'red', 'green'][pick(4)],
    rig: ['tripod', 'slider'][pick(2)],
    light: ['warm', 'cold'][pick(2)],
    depth: random() < 0.2 ? null : 1 + pick(5),
    mess: random() < 0.2,
    until: timed && random() < 0.5 ? 20 + pick(60) : null,
  }));
  const hidden = slots.map((s) => s.id).sort(() => random() - 0.5);
  const rules: OrderRule[] = [];
  for (let k = 0; k < pick(n); k++) {
    const a = pick(n - 1);
    const b = a + 1 + pick(n - a - 1);
    rules.push({ kind: 'before', first: hidden[a], next: hidden[b], why: '' });
  }
  if (random() < 0.5) {
    const a = pick(n - 1);
    rules.push({ kind: 'right after', first: hidden[a], next: hidden[a + 1], why: '' });
  }
  return { slots, rules };
}

describe('the order of the slots', () => {
  it.each([
    ['without a light window', false, 1],
    ['with a light window', true, 1001],
  ] as const)('agrees with trying every order: 100 instances of 4 to 7 slots and 20 of 8, %s', (_, timed, first) => {
    for (let k = 0; k < 100; k++) {
      const n = k < 10 ? 8 : 4 + (k % 4);
      const { slots, rules } = instance(first + k, n, timed);
      const found = orderSlots(slots, rules, COSTS);
      const best = Math.min(...permutations(slots).map((order) => orderCost(order, rules, COSTS)));
      expect(found.cost).toBeCloseTo(best, 9);
      const order = found.order.map((id) => slots.find((s) => s.id === id) as OrderSlot);
      expect(orderCost(order, rules, COSTS)).toBeCloseTo(best, 9);
      expect(found.exact).toBe(true);
    }
  });

  it('orders 20 slots keeping every rule, and says that it is not exact', () => {
    const { slots, rules } = instance(5, 20, true);
    const found = orderSlots(slots, rules, COSTS);
    expect(found.exact).toBe(false);
    expect([...found.order].sort()).toEqual(slots.map((s) => s.id).sort());
    expect(brokenRules(found.order, rules)).toEqual([]);
    const asWritten = orderCost(slots, [], COSTS);
    expect(found.cost).toBeLessThan(asWritten);
  });

  it('does not hide a change of clothes behind an empty plate', () => {
    const base = { minutes: 5, rig: 'tripod', light: 'warm', depth: null, mess: false, until: null };
    const slots = [
      { ...base, id: 'blue', outfit: 'blue' },
      { ...base, id: 'still', outfit: '' },
      { ...base, id: 'red', outfit: 'red' },
    ];
    expect(orderSlots(slots, [], COSTS).cost).toBe(12);
    expect(orderCost(slots, [], COSTS)).toBe(12);
  });

  it('says so when the rules contradict each other, and when there are too many slots', () => {
    const { slots } = instance(3, 4, false);
    const rule = (first: string, next: string): OrderRule => ({ kind: 'before', first, next, why: '' });
    expect(() => orderSlots(slots, [rule('s0', 's1'), rule('s1', 's0')], COSTS)).toThrow(/contradict/);
    const rightAfter = (first: string, next: string): OrderRule => ({ kind: 'right after', first, next, why: '' });
    expect(() => orderSlots(slots, [rightAfter('s0', 's1'), rightAfter('s0', 's2')], COSTS)).toThrow(/contradict/);
    expect(() => orderSlots(instance(1, 31, false).slots, [], COSTS)).toThrow(/30 slots/);
    expect(orderSlots([], [], COSTS)).toEqual({ order: [], cost: 0, exact: true });
  });
});
