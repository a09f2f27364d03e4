import type { Project, Take } from '../document';
import { plannedFrame, plannedSlots, tempoOf } from '../edit';
import { beatMapOf } from '../evaluate';
import { type PlannedShot, type Slot, timeOfSlot } from '../plan';
import { barToBeat, beatToSeconds } from '../time';
import type { Seconds } from '../units';

/** What is known of a film from elsewhere before it has a slot. */
export interface NewFilm {
  name: string;
  duration: Seconds;
  /** When its recording began, milliseconds since 1970; null when not known. */
  beganAt: number | null;
  /** A logged take whose sound it shares, when takes of no other slot do; null when none was found. */
  heardIn: string | null;
  /** Where in the song its sound begins; null when the song is not heard in it. */
  songAt: Seconds | null;
}

/** Where a film belongs and what told. */
export interface SlotMatch {
  plan: string | null;
  slot: string | null;
  by: 'name' | 'sound' | 'time' | 'bars' | 'length' | null;
}

const NOWHERE: SlotMatch = { plan: null, slot: null, by: null };

/**
 * The slot a film from another camera goes to: the one its name speaks of; the one of the take that alone shares its sound;
 * the one of the take filmed at the same time; else, in the planned shot whose bars its sound lies on (or the
 * one being looked at, `preferred`), the empty slot whose planned length is nearest to the film's.
 */
export function matchSlot(project: Project, preferred: string | null, film: NewFilm): SlotMatch {
  const words = spoken(film.name);
  // A file named after a planned shot belongs to it, whichever is being looked at.
  const looked =
    project.plans.find((p) => words.includes(spoken(p.name))) ?? project.plans.find((p) => p.id === preferred) ?? project.plans[0];
  if (!looked) return NOWHERE;
  const named = nameSlot(project, looked, film.name);
  if (named) return { plan: looked.id, slot: named.id, by: 'name' };
  const heard = project.takes.find((t) => t.id === film.heardIn && t.slot);
  if (heard) return { plan: heard.plan, slot: heard.slot, by: 'sound' };
  const beside = filmedBeside(project, film);
  if (beside) return { plan: beside.plan, slot: beside.slot, by: 'time' };
  const onBars = film.songAt === null ? null : planOnBars(project, film.songAt, film.songAt + film.duration);
  const plan = onBars ?? looked;
  const slot = nearestInLength(project, plan, film.duration, onBars !== null);
  return slot ? { plan: plan.id, slot: slot.id, by: onBars ? 'bars' : 'length' } : NOWHERE;
}

/** The words of a name, with a space before, between and behind. */
const spoken = (name: string) =>
  ` ${name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim()} `;

const filled = (project: Project, plan: PlannedShot, slot: Slot) => project.takes.some((t) => t.plan === plan.id && t.slot === slot.id);

function nameSlot(project: Project, plan: PlannedShot, name: string): Slot | undefined {
  const words = spoken(name);
  const speaks = ({ id, plate }: Slot) => (plate ? / plate| empty/.test(words) : words.includes(` ${id.replaceAll('-', ' ')} `));
  const named = plannedSlots(project, plan).filter(speaks);
  return named.find((s) => !filled(project, plan, s)) ?? named[0];
}

/** The take that was being filmed for more than half of the time that this film, or it, lasts. */
function filmedBeside(project: Project, { beganAt, duration }: NewFilm): Take | undefined {
  if (beganAt === null) return undefined;
  return project.takes.find((take) => {
    const media = project.media.find((m) => m.id === take.mediaId);
    if (take.filmedAt === null || !take.slot || !media) return false;
    const apart = (beganAt - take.filmedAt) / 1000;
    const common = Math.min(apart + duration, media.duration) - Math.max(apart, 0);
    return common > Math.min(duration, media.duration) / 2;
  });
}

/** The planned shot that shares most of its bars with a stretch of the song; null when none shares a second. */
function planOnBars(project: Project, from: Seconds, to: Seconds): PlannedShot | null {
  const map = beatMapOf(project);
  let best: PlannedShot | null = null;
  let most = 1;
  for (const plan of project.plans) {
    const [first, end] = [plan.bar, plan.bar + plan.bars].map((bar) => beatToSeconds(map, barToBeat(map, bar)));
    const common = Math.min(to, end) - Math.max(from, first);
    if (common > most) {
      most = common;
      best = plan;
    }
  }
  return best;
}

/** The empty slot nearest to a film in length; where `again` and none is empty, the filled one. */
function nearestInLength(project: Project, plan: PlannedShot, duration: Seconds, again: boolean): Slot | undefined {
  const tempo = tempoOf(project, plan);
  const { fps } = plannedFrame(project);
  const off = (s: Slot) => Math.abs(Math.log(Math.max(0.1, duration) / timeOfSlot(plan, s, tempo, fps).rolling));
  const acted = plannedSlots(project, plan)
    .filter((s) => !s.plate)
    .sort((a, b) => off(a) - off(b));
  return acted.find((s) => !filled(project, plan, s)) ?? (again ? acted[0] : undefined);
}
