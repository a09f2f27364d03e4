import type { Project } from '@/core/document';
import { plannedFrame, tempoOf } from '@/core/edit';
import { newPlannedShot, type PlannedOrder, type PlannedShot, type Recipe } from '@/core/plan';
import { say } from '@/core/words';
import { edit, useProject } from './store';

/** Today as YYYY-MM-DD on the local clock. */
function today(): string {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60000).toISOString().slice(0, 10);
}

/** The planned shot being looked at, or the first. */
export function usePlan(): PlannedShot | null {
  const plans = useProject((s) => s.project?.plans);
  const selected = useProject((s) => s.selectedPlan);
  return plans?.find((p) => p.id === selected) ?? plans?.[0] ?? null;
}

/** A new planned shot of a recipe, dated today; numbered when the project has others of it. */
export function newShotOf(project: Pick<Project, 'plans'>, id: string, recipe: Recipe): PlannedShot {
  const made = newPlannedShot(id, recipe, today());
  const alike = project.plans.filter((p) => p.recipe === recipe.id).length;
  return alike > 0 ? { ...made, name: `${recipe.name} ${alike + 1}` } : made;
}

/** Plans a new shot of a recipe on the set of the shot last looked at, and shows it. */
export function addPlan(recipe: Recipe): void {
  const id = crypto.randomUUID();
  const { project, selectedPlan } = useProject.getState();
  const like = project?.plans.find((p) => p.id === selectedPlan) ?? project?.plans[0];
  edit(say`Plan: ${recipe.name.toLowerCase()}`, (draft) => {
    const made = newShotOf(draft, id, recipe);
    if (like) {
      const { room, camera, props, lamps, outdoors, schedule } = structuredClone(like);
      Object.assign(made, {
        room,
        camera: { ...camera, focus: made.camera.focus },
        lamps,
        outdoors,
        schedule,
        props: [...props, ...made.props.map((p) => ({ ...p, id: `${p.id}-${id.slice(0, 6)}` }))],
      });
    }
    draft.plans.push(made);
  });
  useProject.setState({ selectedPlan: id });
}

/** Changes a planned shot as one named step. */
export function changePlan(id: string, label: string, change: (plan: PlannedShot) => void): void {
  edit(label, (draft) => {
    const plan = draft.plans.find((p) => p.id === id);
    if (plan) change(plan as PlannedShot);
  });
}

/** Takes a planned shot out; takes that filled its slots stay in the project without one. */
export function removePlan(id: string): void {
  edit(say`Remove the planned shot`, (draft) => {
    draft.plans = draft.plans.filter((p) => p.id !== id);
    for (const take of draft.takes) {
      if (take.plan !== id) continue;
      take.plan = null;
      take.slot = null;
    }
  });
}

/** The filming order of every planned shot, by its id, worked out beside the page. */
export async function filmingOrders(project: Project): Promise<Map<string, PlannedOrder>> {
  const { planDay } = await import('./jobs');
  const orders = new Map<string, PlannedOrder>();
  for (const shot of project.plans) {
    const { order } = await planDay(shot, tempoOf(project, shot), plannedFrame(project).fps);
    orders.set(shot.id, order);
  }
  return orders;
}
