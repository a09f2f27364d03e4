import { current } from 'immer';
import { type Footage, footageKey, type Project, type Shot, type Take, wholeOf } from '@/core/document';
import { plannedSlots, withTakes } from '@/core/edit';
import type { Course, Part } from '@/core/measure';
import { say } from '@/core/words';
import { derived } from './derived';
import { courseOf, type Progress } from './jobs';
import { edit } from './store';

/** A part of a file that becomes a take of its own; `slot` in the take's planned shot, null for none. */
export interface TakePart extends Part {
  slot: string | null;
}

/** Movement and sound over the whole file of a take, worked out once. */
export function takeCourse(footage: Footage, onProgress: Progress, signal?: AbortSignal): Promise<Course> {
  const whole = wholeOf(footage);
  return derived(`course:1:${footageKey(whole)}`, () => courseOf(whole, onProgress, signal));
}

/** Slots for parts in the order they were filmed: the take's own slot and those after it; the last again when they run out. */
export function slotsFor(project: Project, take: Take, parts: readonly Part[]): TakePart[] {
  const plan = project.plans.find((p) => p.id === take.plan);
  const slots = plan ? plannedSlots(project, plan).map((s) => s.id) : [];
  const first = Math.max(0, slots.indexOf(take.slot ?? ''));
  return parts.map((part, i) => ({ ...part, slot: slots[Math.min(first + i, slots.length - 1)] ?? null }));
}

/**
 * Replaces a take by parts of its file, in one step of undo. The first part stays the take it was; shots go on showing the part
 * in which they meet the beat.
 */
export function cutTake(takeId: string, parts: readonly TakePart[]): void {
  edit(parts.length > 1 ? say`Cut a take into ${parts.length}` : say`Mark the in and out of a take`, (draft) => {
    const at = draft.takes.findIndex((t) => t.id === takeId);
    const take = draft.takes[at];
    if (!take || parts.length === 0) return;
    const old = take.part?.from ?? 0;
    const made = parts.map((part, i): Take => {
      const { from, to, slot } = part;
      const others = draft.takes.filter((t) => t.id !== takeId && t.plan === take.plan && t.slot === slot).length;
      const earlier = parts.slice(0, i).filter((p) => p.slot === slot).length;
      return {
        ...(current(take) as Take),
        id: i === 0 ? take.id : crypto.randomUUID(),
        part: { from, to },
        plan: slot === null ? null : take.plan,
        slot,
        number: i === 0 && slot === take.slot ? take.number : others + earlier + 1,
        tape: (take.tape + i) % 12,
        filmedAt: take.filmedAt === null ? null : take.filmedAt + 1000 * (from - old),
        live: take.live && { ...take.live, bumps: take.live.bumps.filter((b) => b.time >= from && b.time < to).map((b) => ({ ...b })) },
      };
    });
    draft.takes.splice(at, 1, ...made);
    const partAt = (second: number) => (made.find((t) => t.part && second >= t.part.from && second < t.part.to) ?? made[0]).id;
    const again = (shot: Shot) => withTakes(shot, (id, second) => (id === takeId ? partAt(second) : id));
    const { shots, nestedShots } = current(draft) as Project;
    draft.shots = shots.map(again);
    draft.nestedShots = nestedShots.map(again);
  });
}

/** Makes a take all of its file again; other parts of it stay. */
export function wholeAgain(takeId: string): void {
  edit(say`Use all of the file`, (draft) => {
    const take = draft.takes.find((t) => t.id === takeId);
    if (take) take.part = null;
  });
}
