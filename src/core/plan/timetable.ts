import type { Seconds } from '../units';
import { say } from '../words';
import { changeMinutes, type OrderCosts, type OrderSlot } from './order';
import type { Slot } from './recipe';
import type { Schedule } from './schema';
import type { ClockMinutes } from './sun';

/** Tries that usually give one good take, by difficulty. Common practice. */
const TRIES = { 1: 2, 2: 4, 3: 7 } as const;
/** Bars counted in before the song's passage. */
const COUNT_IN_BARS = 2;
/** Seconds to get back to the marks and look at the take, and more for each step of difficulty. Common practice. */
const RESET: Seconds = 45;
const RESET_MORE: Seconds = 30;
/** Seconds to sweep up after a try that makes a mess. Common practice. */
const SWEEP: Seconds = 180;

export interface Pace {
  barSeconds: Seconds;
  bars: number;
  /** Speed in per cent at which the song is played on set. */
  playback: number;
}

export interface SlotTime {
  tries: number;
  /** One try in front of the rolling camera: count-in, the song's span as played, waiting and holding. */
  rolling: Seconds;
  reset: Seconds;
  minutes: number;
}

/** How long a slot takes with all its tries. */
export function slotTime(slot: Slot, pace: Pace): SlotTime {
  const tries = slot.plate ? 1 : TRIES[slot.difficulty];
  const faster = pace.playback / 100;
  const rolling = slot.toSong ? ((COUNT_IN_BARS + pace.bars) * pace.barSeconds) / faster + slot.hold : slot.hold;
  const reset = slot.plate ? 20 : RESET + RESET_MORE * (slot.difficulty - 1) + (slot.mess ? SWEEP : 0);
  return { tries, rolling, reset, minutes: (tries * (rolling + reset)) / 60 };
}

export interface TimeRow {
  kind: 'set up' | 'change' | 'slot' | 'break';
  slot: string | null;
  what: string;
  from: ClockMinutes;
  to: ClockMinutes;
}

export interface Timetable {
  rows: TimeRow[];
  end: ClockMinutes;
  recorded: Seconds;
  gigabytes: number;
  /** Share of the card that fills, and batteries the camera uses up, set-up not counted. */
  cards: number;
  batteries: number;
}

/** What changes between two slots, in words: 'outfit, lamps'. */
function changed(from: OrderSlot, worn: string, to: OrderSlot): string {
  return [
    to.outfit !== '' && worn !== to.outfit && say`outfit: ${to.outfit}`,
    from.rig !== to.rig && say`camera: ${to.rig}`,
    from.light !== to.light && say`lamps: ${to.light}`,
  ]
    .filter(Boolean)
    .join(', ');
}

export function orderCosts(schedule: Schedule): OrderCosts {
  return { outfitMinutes: schedule.outfitMinutes, rigMinutes: schedule.rigMinutes, lightMinutes: schedule.lampMinutes };
}

/**
 * The timetable of an order: setting up, changes, slots with all tries, breaks before the slot that would run past the
 * time without one. Starts at the schedule's own time; recorded time, storage (decimal gigabytes) and batteries follow.
 */
export function timetable(order: readonly OrderSlot[], slots: readonly Slot[], schedule: Schedule, pace: Pace): Timetable {
  const costs = orderCosts(schedule);
  const [h, m] = schedule.time.split(':').map(Number);
  let now: ClockMinutes = 60 * h + m;
  const rows: TimeRow[] = [];
  const add = (kind: TimeRow['kind'], what: string, minutes: number, slot: string | null = null) => {
    if (minutes <= 0) return;
    rows.push({ kind, what, slot, from: now, to: now + minutes });
    now += minutes;
  };
  add('set up', say`Set up, tape the marks, light, rehearse`, schedule.setUpMinutes);
  const begin = now;
  let sinceBreak = schedule.setUpMinutes;
  let recorded = 0;
  let worn = '';
  order.forEach((item, i) => {
    const slot = slots.find((s) => s.id === item.id);
    if (!slot) return;
    const time = slotTime(slot, pace);
    const change = changeMinutes(i ? order[i - 1] : null, worn, item, costs);
    if (sinceBreak + change + time.minutes > schedule.breakEvery && sinceBreak > 0 && schedule.breakMinutes > 0) {
      add('break', 'Break', schedule.breakMinutes);
      sinceBreak = 0;
    }
    if (i) add('change', changed(order[i - 1], worn, item), change);
    worn = item.outfit || worn;
    add(
      'slot',
      say`${slot.name}: ${time.tries} ${time.tries === 1 ? 'try' : 'tries'} of ${Math.round(time.rolling)} s`,
      time.minutes,
      slot.id,
    );
    sinceBreak += change + time.minutes;
    recorded += time.tries * time.rolling;
  });
  const gigabytes = (recorded * schedule.bitrate) / 8000;
  return {
    rows,
    end: now,
    recorded,
    gigabytes,
    cards: gigabytes / schedule.cardGigabytes,
    batteries: (now - begin) / schedule.batteryMinutes,
  };
}
