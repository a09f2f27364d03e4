import { say } from '../words';
/** What the solver needs to know of a slot. */
export interface OrderSlot {
  id: string;
  /** Minutes the slot itself takes, tries and resets included. */
  minutes: number;
  /** '' when nobody is in the frame: what was worn before stays on. */
  outfit: string;
  rig: string;
  light: string;
  /** Distance from the camera of what happens, metres; null when it does not matter (plates). */
  depth: number | null;
  /** Leaves a mess or something that cannot be undone. */
  mess: boolean;
  /** Must be filmed before this many minutes from the start have passed; null for any time. */
  until: number | null;
}

export type OrderRule =
  | { kind: 'before'; first: string; next: string; why: string }
  | { kind: 'right after'; first: string; next: string; why: string };

export interface OrderCosts {
  outfitMinutes: number;
  rigMinutes: number;
  lightMinutes: number;
}

/** Weights of what is not counted in minutes, in minutes' worth. Common practice: worth some walking, not worth a change of clothes. */
const FRONT_BEFORE_BACK = 3;
const AFTER_MESS = 8;
const TOO_LATE = 1000;

/** Slots beyond which the search keeps only the most promising part orders. */
const EXACT = 14;
const BEAM = 3000;
const NARROW = 200;

export interface Ordering {
  order: string[];
  /** Minutes of changes plus the weights of soft wishes left unmet. */
  cost: number;
  exact: boolean;
}

/**
 * Minutes to go from one slot to the next: outfit, rig and lamps that change. Nothing before the first; the first
 * outfit is put on while setting up. `worn` is the outfit last needed, '' for none yet.
 */
export function changeMinutes(from: OrderSlot | null, worn: string, to: OrderSlot, costs: OrderCosts): number {
  if (!from) return 0;
  return (
    (to.outfit !== '' && worn !== '' && worn !== to.outfit ? costs.outfitMinutes : 0) +
    (from.rig !== to.rig ? costs.rigMinutes : 0) +
    (from.light !== to.light ? costs.lightMinutes : 0)
  );
}

/** Whether `done`, filmed before `slot`, stands nearer to the camera: hands and feet then pass in front of what has landed. */
const frontBeforeBack = (done: OrderSlot, slot: OrderSlot) => done.depth !== null && slot.depth !== null && done.depth < slot.depth - 0.25;

/** Whether `done` left a mess in which `slot` now has to be filmed. */
const afterMess = (done: OrderSlot, slot: OrderSlot) => done.mess && !slot.mess && slot.depth !== null;

/** Soft cost of filming `slot` after all those in `done`: nearer ones already filmed, a mess already made, light gone. */
function softCost(slot: OrderSlot, done: readonly OrderSlot[], startsAt: number): number {
  const front = done.filter((d) => frontBeforeBack(d, slot)).length;
  const messes = done.filter((d) => afterMess(d, slot)).length;
  return FRONT_BEFORE_BACK * front + AFTER_MESS * messes + (slot.until !== null && startsAt + slot.minutes > slot.until ? TOO_LATE : 0);
}

function bitsOf(slots: readonly OrderSlot[], holds: (s: OrderSlot) => boolean): number {
  return slots.reduce((bits, s, i) => (holds(s) ? bits | (1 << i) : bits), 0);
}

function bitCount(bits: number): number {
  let count = 0;
  for (let b = bits; b; b &= b - 1) count++;
  return count;
}

/** The cost of a whole order as `orderSlots` counts it; Infinity when a rule is broken. */
export function orderCost(order: readonly OrderSlot[], rules: readonly OrderRule[], costs: OrderCosts): number {
  if (
    brokenRules(
      order.map((s) => s.id),
      rules,
    ).length
  )
    return Number.POSITIVE_INFINITY;
  let [cost, time, worn] = [0, 0, ''];
  order.forEach((slot, i) => {
    const change = changeMinutes(i ? order[i - 1] : null, worn, slot, costs);
    worn = slot.outfit || worn;
    cost += change + softCost(slot, order.slice(0, i), time + change);
    time += change + slot.minutes;
  });
  return cost;
}

/** Rules that an order breaks. */
export function brokenRules(order: readonly string[], rules: readonly OrderRule[]): OrderRule[] {
  const at = (id: string) => order.indexOf(id);
  return rules.filter(({ kind, first, next }) => {
    const [a, b] = [at(first), at(next)];
    if (a < 0 || b < 0) return false;
    return kind === 'before' ? a > b : b !== a + 1;
  });
}

interface Part {
  mask: number;
  last: number;
  worn: string;
  time: number;
  cost: number;
  before: Part | null;
}

/** What an instance looks like to the search: rules and wishes as sets of slots, bit by bit. */
interface Instance {
  slots: readonly OrderSlot[];
  costs: OrderCosts;
  needs: number[];
  follows: number[];
  followed: number[];
  nearer: number[];
  mess: number[];
  outfits: string[];
  timed: boolean;
  /** Slots that need each outfit, camera set-up and lamp setting, with what a change to it costs. */
  groups: { kind: 'outfit' | 'rig' | 'light'; value: string; bits: number; minutes: number }[];
}

function instanceOf(slots: readonly OrderSlot[], rules: readonly OrderRule[], costs: OrderCosts): Instance {
  const n = slots.length;
  const index = new Map(slots.map((s, i) => [s.id, i]));
  const needs = new Array<number>(n).fill(0);
  const follows = new Array<number>(n).fill(-1);
  const followed = new Array<number>(n).fill(-1);
  for (const { kind, first, next } of rules) {
    const [a, b] = [index.get(first), index.get(next)];
    if (a === undefined || b === undefined) continue;
    needs[b] |= 1 << a;
    if (kind === 'right after') {
      if ((follows[b] >= 0 && follows[b] !== a) || (followed[a] >= 0 && followed[a] !== b)) throw new Error(CONTRADICTION);
      follows[b] = a;
      followed[a] = b;
    }
  }
  const values = (kind: 'outfit' | 'rig' | 'light', minutes: number) =>
    [...new Set(slots.map((s) => s[kind]))]
      .filter((value) => kind !== 'outfit' || value !== '')
      .map((value) => ({ kind, value, bits: bitsOf(slots, (s) => s[kind] === value), minutes }));
  return {
    slots,
    costs,
    needs,
    follows,
    followed,
    nearer: slots.map((s) => bitsOf(slots, (o) => frontBeforeBack(o, s))),
    mess: slots.map((s) => bitsOf(slots, (o) => afterMess(o, s))),
    outfits: [...new Set(['', ...slots.map((s) => s.outfit)])],
    timed: slots.some((s) => s.until !== null),
    groups: [...values('outfit', costs.outfitMinutes), ...values('rig', costs.rigMinutes), ...values('light', costs.lightMinutes)],
  };
}

/**
 * Cost that no continuation of a part order can avoid: one change for each outfit, set-up and lamp setting still to come,
 * and what the slots to come pay for those already filmed and for the time already gone.
 */
function unavoidable({ slots, groups, nearer, mess }: Instance, part: Part): number {
  const last = slots[part.last];
  let sum = 0;
  for (const { kind, value, bits, minutes } of groups) {
    if ((bits & ~part.mask) === 0) continue;
    const now = kind === 'outfit' ? part.worn : last[kind];
    if (now !== value && now !== '') sum += minutes;
  }
  for (let i = 0; i < slots.length; i++) {
    if (part.mask & (1 << i)) continue;
    sum += FRONT_BEFORE_BACK * bitCount(part.mask & nearer[i]) + AFTER_MESS * bitCount(part.mask & mess[i]);
    const { until, minutes } = slots[i];
    if (until !== null && part.time + minutes > until) sum += TOO_LATE;
  }
  return sum;
}

/** Every part order one slot longer that the rules allow. */
function continuations({ slots, costs, needs, follows, followed, nearer, mess }: Instance, part: Part): Part[] {
  const tied = part.last >= 0 ? followed[part.last] : -1;
  const from = part.last < 0 ? null : slots[part.last];
  const out: Part[] = [];
  for (let i = 0; i < slots.length; i++) {
    const bit = 1 << i;
    const barred = part.mask & bit || (needs[i] & part.mask) !== needs[i] || (follows[i] >= 0 && follows[i] !== part.last);
    if (barred || (tied >= 0 && tied !== i)) continue;
    const slot = slots[i];
    const change = changeMinutes(from, part.worn, slot, costs);
    const time = part.time + change + slot.minutes;
    const soft = FRONT_BEFORE_BACK * bitCount(part.mask & nearer[i]) + AFTER_MESS * bitCount(part.mask & mess[i]);
    const late = slot.until !== null && time > slot.until ? TOO_LATE : 0;
    out.push({
      mask: part.mask | bit,
      last: i,
      worn: slot.outfit || part.worn,
      time,
      cost: part.cost + change + soft + late,
      before: part,
    });
  }
  return out;
}

/** The cheapest full part order found while keeping at most `width` part orders of each length and none above `limit`. */
function search(instance: Instance, width: number, limit: number): Part | null {
  const { slots, outfits, timed } = instance;
  let level: Part[] = [{ mask: 0, last: -1, worn: '', time: 0, cost: 0, before: null }];
  for (let k = 0; k < slots.length; k++) {
    const best = new Map<number, Part[]>();
    for (const next of level.flatMap((part) => continuations(instance, part))) {
      const key = (next.mask * 32 + next.last) * 32 + outfits.indexOf(next.worn);
      const rivals = best.get(key) ?? [];
      if (rivals.some((r) => r.cost <= next.cost && (!timed || r.time <= next.time))) continue;
      if (next.cost + unavoidable(instance, next) > limit + 1e-9) continue;
      best.set(key, [...rivals.filter((r) => r.cost < next.cost || (timed && r.time < next.time)), next]);
    }
    level = [...best.values()].flat();
    if (level.length > width) level = level.sort((a, b) => a.cost - b.cost).slice(0, width);
  }
  return level.reduce<Part | null>((a, b) => (a && a.cost <= b.cost ? a : b), null);
}

/**
 * The order of least cost that keeps all rules: dynamic programming over sets of slots filmed so far (Held & Karp 1962),
 * keeping for each set, last slot and outfit worn every part order that no other beats in both cost and time, since light
 * runs out with time; a quick narrow search gives the limit above which part orders are dropped. Exact up to 14 slots;
 * beyond, the 3,000 cheapest part orders of each length go on. Throws when the rules contradict each other.
 */
export function orderSlots(slots: readonly OrderSlot[], rules: readonly OrderRule[], costs: OrderCosts): Ordering {
  if (slots.length > 30) throw new RangeError(say`A shot can have at most 30 slots.`);
  if (slots.length === 0) return { order: [], cost: 0, exact: true };
  const instance = instanceOf(slots, rules, costs);
  const exact = slots.length <= EXACT;
  const quick = search(instance, exact ? NARROW : BEAM, Number.POSITIVE_INFINITY);
  const found = exact ? search(instance, Number.POSITIVE_INFINITY, quick?.cost ?? Number.POSITIVE_INFINITY) : quick;
  if (!found) throw new Error(CONTRADICTION);
  const order: string[] = [];
  for (let end: Part | null = found; end && end.last >= 0; end = end.before) order.unshift(slots[end.last].id);
  return { order, cost: found.cost, exact };
}

const CONTRADICTION = say`The rules for the order contradict each other: no order keeps them all.`;
