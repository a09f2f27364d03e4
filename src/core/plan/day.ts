import { say } from '../words';
import { slowMotion } from './exposure';
import { brokenRules, type OrderRule, type OrderSlot, orderSlots } from './order';
import { contextOf, recipeOf, type Tempo } from './plan';
import type { Slot } from './recipe';
import type { PlannedShot } from './schema';
import { lightWindow } from './sun';
import { orderCosts, type Pace, type SlotTime, slotTime, type Timetable, timetable } from './timetable';

/** Pace of the work on set: the song's bars at the playback rate the slow motion asks for. */
export function paceOf(shot: PlannedShot, tempo: Tempo, projectRate: number): Pace {
  return { barSeconds: tempo.barSeconds, bars: shot.bars, playback: slowMotion(projectRate, shot.delivery.slowest).playback };
}

/** The rules of an order, with plates first and last spelled out. */
function rulesOf(slots: readonly Slot[], own: readonly OrderRule[]): OrderRule[] {
  const acted = slots.filter((s) => s.plate === null);
  return [
    ...own,
    ...slots
      .filter((s) => s.plate === 'first')
      .flatMap((s) =>
        slots
          .filter((o) => o.plate !== 'first')
          .map(
            (o): OrderRule => ({
              kind: 'before',
              first: s.id,
              next: o.id,
              why: say`The clean plate comes before everything: nobody has touched anything yet.`,
            }),
          ),
      ),
    ...slots
      .filter((s) => s.plate === 'last')
      .flatMap((s) =>
        acted.map(
          (o): OrderRule => ({ kind: 'before', first: o.id, next: s.id, why: say`The second clean plate comes after everything.` }),
        ),
      ),
  ];
}

/** The slots as the solver needs them. */
function orderSlotsOf(shot: PlannedShot, slots: readonly Slot[], pace: Pace): OrderSlot[] {
  const [h, m] = shot.schedule.time.split(':').map(Number);
  const start = 60 * h + m + shot.schedule.setUpMinutes;
  const tallest = Math.max(1.7, ...shot.places.map((p) => p.height));
  const light = shot.outdoors && lightWindow(shot.schedule.date, start, shot.outdoors, tallest);
  const until = shot.outdoors ? (light ? light.to - start : 0) : null;
  return slots.map((s) => ({
    id: s.id,
    minutes: slotTime(s, pace).minutes,
    outfit: s.outfit,
    rig: s.rig,
    light: s.light,
    depth: s.plate ? null : (shot.places.find((p) => p.id === s.place)?.z ?? null),
    mess: s.mess,
    until,
  }));
}

export interface PlacedSlot {
  slot: Slot;
  /** Why it stands where it does. */
  reason: string;
}

export interface PlannedOrder {
  slots: PlacedSlot[];
  /** Rules that the user's own order breaks, as sentences. */
  broken: string[];
  own: boolean;
}

/** Everything about the order of a shot: slots in the solver's or the user's own order, with reasons and broken rules. Throws when its rules contradict. */
export function planOrder(shot: PlannedShot, tempo: Tempo, projectRate: number): PlannedOrder {
  const recipe = recipeOf(shot);
  const c = contextOf(shot, tempo);
  const slots = recipe.slots(c);
  const rules = rulesOf(slots, recipe.rules(c));
  const asked = orderSlotsOf(shot, slots, paceOf(shot, tempo, projectRate));
  // The user's order stands as long as it speaks of the same slots; new ones go where the rules let them, at the end.
  const own = shot.order.length > 0;
  const ids = own ? ownOrder(shot.order, slots) : orderSlots(asked, rules, orderCosts(shot.schedule)).order;
  const find = (id: string) => slots.find((s) => s.id === id) as Slot;
  const broken = brokenRules(ids, rules).map(
    ({ kind, first, next, why }) =>
      say`${find(next).name} should come ${kind === 'before' ? 'after' : say`right after`} ${find(first).name}: ${why}`,
  );
  return {
    slots: ids.map((id, i) => ({ slot: find(id), reason: reasonFor(i, ids, asked, rules, find) })),
    broken: [...new Set(broken)],
    own,
  };
}

function ownOrder(order: readonly string[], slots: readonly Slot[]): string[] {
  const known = order.filter((id) => slots.some((s) => s.id === id));
  const rest = slots.filter((s) => !known.includes(s.id));
  const last = slots.filter((s) => s.plate === 'last' && known.at(-1) === s.id).map((s) => s.id);
  return [...known.filter((id) => !last.includes(id)), ...rest.map((s) => s.id), ...last];
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function reasonFor(
  i: number,
  ids: readonly string[],
  asked: readonly OrderSlot[],
  rules: readonly OrderRule[],
  find: (id: string) => Slot,
): string {
  const slot = find(ids[i]);
  if (slot.plate === 'first') return say`First: nobody has touched anything yet.`;
  if (slot.plate === 'last') return say`Last: in case light or camera have changed since the first plate.`;
  const before = i > 0 ? ids[i - 1] : null;
  const tied = rules.find((r) => r.kind === 'right after' && r.next === slot.id && r.first === before);
  if (tied) return sentence(tied.why);
  const at = (id: string) => asked.find((s) => s.id === id) as OrderSlot;
  const mine = at(slot.id);
  const out: string[] = [];
  const own = rules.find((r) => r.kind === 'before' && r.next === slot.id && !find(r.first).plate && ids.indexOf(r.first) < i);
  if (own) out.push(own.why);
  if (before && !find(before).plate) {
    const last = at(before);
    if (mine.outfit !== '' && last.outfit === mine.outfit && asked.some((s) => s.outfit !== mine.outfit && s.outfit !== ''))
      out.push(say`Same outfit as the one before: no change.`);
    if (last.rig === mine.rig && asked.some((s) => s.rig !== mine.rig)) out.push(say`Same camera set-up as the one before.`);
  }
  const later = ids.slice(i + 1).map(at);
  if (mine.depth !== null && later.some((s) => s.depth !== null && s.depth < (mine.depth as number) - 0.25))
    out.push(say`Further back than what follows: nothing filmed later has to be walked past.`);
  if (mine.mess && later.filter((s) => !s.mess && s.depth !== null).length === 0)
    out.push(say`It makes a mess, so it comes as late as it may.`);
  return out.length
    ? out.slice(0, 2).join(' ')
    : i === 1 || (i === 0 && !slot.plate)
      ? say`Free to stand anywhere; here it costs no change.`
      : say`Fits here without an extra change.`;
}

/** The day's work of a planned shot: its order and its timetable. Throws when the rules contradict. */
export function planDay(shot: PlannedShot, tempo: Tempo, projectRate: number): { order: PlannedOrder; table: Timetable } {
  const order = planOrder(shot, tempo, projectRate);
  const slots = order.slots.map((s) => s.slot);
  const pace = paceOf(shot, tempo, projectRate);
  return { order, table: timetable(orderSlotsOf(shot, slots, pace), slots, shot.schedule, pace) };
}

/** How long a slot of a planned shot takes: its tries, one of them, and all in minutes. */
export function timeOfSlot(shot: PlannedShot, slot: Slot, tempo: Tempo, projectRate: number): SlotTime {
  return slotTime(slot, paceOf(shot, tempo, projectRate));
}
