import type { Project, Take } from '../document';
import { plannedFrame, tempoOf } from '../edit';
import type { TakeLock } from '../measure';
import { contextOf, type PlannedShot, recipeOf, type Slot, timeOfSlot } from '../plan';
import { median, type Pixels, type Seconds, type Stops } from '../units';
import { say } from '../words';
import { settingsDiffering } from './settings';

/** What was measured of a take; null where nothing could be. */
export interface TakeFigures {
  own: TakeLock | null;
  /** Against the set-up's reference: the first take of the same planned shot. Null for that take itself. */
  against: TakeLock | null;
}

export interface JudgedTake {
  take: Take;
  /** Good only when measured and found so. */
  state: 'good' | 'unsure' | 'fix';
  reasons: string[];
  /** The less the better. */
  faults: number;
}

export interface StrikeRow {
  plan: PlannedShot;
  slot: Slot;
  takes: JudgedTake[];
  best: JudgedTake | null;
  state: 'good' | 'unsure' | 'fix' | 'missing';
  text: string;
  /** Minutes it takes to film it again. */
  minutes: number;
}

export interface StrikeReport {
  rows: StrikeRow[];
  /** What must be filmed again or at all, in the order to do it. */
  again: StrikeRow[];
  minutes: number;
  verdict: 'yes' | 'look' | 'no';
  text: string;
}

/** Corner shift from which two takes can no longer be laid over each other as they are, pixels at 1280 wide. */
const MOVED: Pixels = 0.5;
/** A knock up to this size can be put right by moving the picture back; larger ones cost too much margin. */
const MENDABLE: Pixels = 12;
const DARK: Stops = 0.1;
/** A plate older than this against its take is not trusted outdoors, and looked at indoors. Common practice. */
const FRESH: Seconds = 45 * 60;

/** Drift of the light within a take: median of its last second less its first, stops; 0 when unknown. */
function driftOf(lock: TakeLock): Stops {
  const at = (from: Seconds, to: Seconds) =>
    median(lock.exposures.filter((e, i): e is number => e !== null && lock.times[i] >= from && lock.times[i] < to));
  const end = lock.times.at(-1) ?? 0;
  const drift = at(end - 1, end + 1) - at(0, 1);
  return Number.isFinite(drift) ? drift : 0;
}

function judge(project: Project, plan: PlannedShot, take: Take, figures: TakeFigures | undefined): JudgedTake {
  const reasons: string[] = [];
  let [faults, state] = [0, 'good' as JudgedTake['state']];
  const add = (level: 'unsure' | 'fix', weight: number, text: string) => {
    reasons.push(text);
    faults += weight;
    if (level === 'fix' || state === 'good') state = level;
  };
  const media = project.media.find((m) => m.id === take.mediaId);
  const wide = (media?.width ?? 1280) / 1280;
  const own = figures?.own;
  if (!own) add('unsure', 5, say`not measured`);
  else {
    for (const b of own.bumps) add('fix', 20 + b.size, say`bumped by ${b.size.toFixed(1)} px at ${b.time.toFixed(1)} s`);
    const drift = driftOf(own);
    if (Math.abs(drift) > DARK) add('fix', 10, say`the light drifts by ${drift.toFixed(2)} EV`);
  }
  const against = figures?.against;
  if (against && against.trusted >= 0.5) {
    if (against.corner > MENDABLE * wide) add('fix', 20, say`stands ${against.corner.toFixed(0)} px away from the set-up`);
    else if (against.corner > MOVED * wide && own?.bumps.length === 0)
      add('unsure', 3, `moved by ${against.corner.toFixed(1)} px, which Takes puts right`);
    const exposure = against.light?.exposure ?? 0;
    if (Math.abs(exposure) > DARK)
      add(
        'unsure',
        3,
        say`${Math.abs(exposure).toFixed(2)} EV ${exposure < 0 ? 'darker' : 'brighter'} than the set-up, which Takes puts right`,
      );
  } else if (against) add('unsure', 3, say`too little background could be followed`);
  for (const text of settingsDiffering(plan, take)) add('unsure', 2, text);
  if (take.rating === 1) add('unsure', 1, say`rated only as a spare`);
  return { take, state, reasons, faults: faults - take.rating / 10 };
}

function rowText(best: JudgedTake | null, late: string): string {
  if (!best) return say`Nothing filmed yet.`;
  const name = say`Take ${best.take.number}`;
  const reasons = [...best.reasons, ...(late ? [late] : [])];
  if (reasons.length === 0) return say`${name}: measured and good.`;
  return `${name}: ${reasons.join('; ')}.`;
}

/** Whether the plate of a slot was filmed too long before or after the takes it serves; '' when not, or when not known. */
function lateness(project: Project, plan: PlannedShot, slot: Slot, best: JudgedTake | null): string {
  if (!slot.plate || !best?.take.filmedAt) return '';
  const served = project.takes
    .filter((t) => t.plan === plan.id && t.slot !== slot.id && t.filmedAt !== null)
    .map((t) => t.filmedAt as number);
  if (served.length === 0) return '';
  const gap = Math.min(...served.map((t) => Math.abs(t - (best.take.filmedAt as number)))) / 1000;
  return gap > FRESH ? say`${Math.round(gap / 60)} minutes away from the nearest take it serves` : '';
}

/**
 * May the set be struck? Every slot of the given planned shots with its best take or what is missing, and what must be
 * filmed again in which order. Nothing is good that was not measured. `orders` holds the slots of each planned shot, by its
 * id, as they are filmed; the recipe's own order stands in where there is none.
 */
export function strikeReport(
  project: Project,
  plans: readonly PlannedShot[],
  figures: ReadonlyMap<string, TakeFigures>,
  orders: ReadonlyMap<string, readonly Slot[]>,
): StrikeReport {
  const rows: StrikeRow[] = [];
  const again: StrikeRow[] = [];
  for (const plan of plans) {
    const tempo = tempoOf(project, plan);
    const { fps } = plannedFrame(project);
    const made = new Map<string, StrikeRow>();
    const slots = recipeOf(plan).slots(contextOf(plan, tempo));
    for (const slot of slots) {
      const takes = project.takes
        .filter((t) => t.plan === plan.id && t.slot === slot.id)
        .map((t) => judge(project, plan, t, figures.get(t.id)));
      const best = takes.reduce<JudgedTake | null>((a, b) => (a && a.faults <= b.faults ? a : b), null);
      const late = lateness(project, plan, slot, best);
      const state = best === null ? 'missing' : late && best.state === 'good' ? 'unsure' : best.state;
      made.set(slot.id, { plan, slot, takes, best, state, text: rowText(best, late), minutes: timeOfSlot(plan, slot, tempo, fps).minutes });
    }
    rows.push(...made.values());
    for (const slot of orders.get(plan.id) ?? slots) {
      const row = made.get(slot.id);
      // The second plate is a help, not a need, as long as the first is there.
      const spare = slot.plate === 'last' && [...made.values()].some((r) => r.slot.plate === 'first' && r.best);
      if (row && (row.state === 'fix' || (row.state === 'missing' && !spare))) again.push(row);
    }
  }
  const minutes = again.reduce((sum, r) => sum + r.minutes, 0);
  const unsure = rows.filter((r) => r.state === 'unsure').length;
  const verdict = again.length ? 'no' : unsure ? 'look' : 'yes';
  const names = again.map((r) => r.slot.name).join(', ');
  const text =
    verdict === 'no'
      ? say`Not yet. Film again: ${names}. About ${Math.max(1, Math.round(minutes))} minutes.`
      : verdict === 'look'
        ? say`Nothing has to be filmed again, but look at ${unsure} ${unsure === 1 ? 'slot' : 'slots'} first.`
        : say`Yes. Everything is there, measured and good.`;
  return { rows, again, minutes, verdict, text };
}
