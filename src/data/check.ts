import { applyFix, type Finding, type MeasuredTake } from '@/core/check';
import { footageOf, type Project } from '@/core/document';
import { takesOf } from '@/core/edit';
import type { CheckApi } from '@/workers/check.worker';
import { KeptWorker, projectTeller } from './kept-worker';
import { correctTake, knownMeasurement, takeMeasurement } from './media';
import { changeShot } from './shots';

const worker = new KeptWorker<CheckApi>(() => new Worker(new URL('../workers/check.worker.ts', import.meta.url), { type: 'module' }));
const give = projectTeller(worker);
/** Milliseconds that looking at every frame of a long film may take. */
const PATIENCE = 300_000;

/** What has been measured of the takes the shots mix. Nothing is measured here. */
async function known(project: Project): Promise<MeasuredTake[]> {
  const found: MeasuredTake[] = [];
  for (const shot of project.shots) {
    const [below, ...others] = takesOf(shot);
    for (const takeId of others) {
      const lock = (await knownMeasurement(footageOf(project, takeId), footageOf(project, below)))?.against;
      if (lock)
        found.push({
          takeId,
          referenceTakeId: below,
          moves: lock.readings.map((r, i) => ({ ...r, time: lock.times[i] })).filter((r) => r.trusted),
          perspective: lock.perspective,
        });
    }
  }
  return found;
}

/** What the rules find in a project, worst first. */
export async function findingsOf(project: Project): Promise<Finding[]> {
  const measured = await known(project);
  await give(project);
  return worker.call((api) => api.check(measured) as Promise<Finding[]>, PATIENCE);
}

/** Mends a finding where that can be done without leaving the page. */
export async function mendFinding(project: Project, finding: Finding): Promise<void> {
  const { fix } = finding;
  if (fix?.by === 'edit') changeShot(finding.shotId, fix.label, (shot, now) => applyFix(now, shot, finding));
  if (fix?.by !== 'correction') return;
  const { takeId, referenceTakeId } = fix;
  correctTake(takeId, referenceTakeId, await takeMeasurement(footageOf(project, takeId), footageOf(project, referenceTakeId)));
}
