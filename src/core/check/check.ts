import type { Project, Shot } from '../document';
import { describeFrame, shotFrames } from '../evaluate';
import { cameraMoved } from './camera-moved';
import { edgeShows } from './edge-shows';
import { offTheBeat } from './off-the-beat';
import type { Finding, MeasuredTake, Rule } from './rule';

/** Every rule, in the order in which they are told. */
export const RULES = [cameraMoved, edgeShows, offTheBeat] as readonly Rule<unknown>[];

/** All findings of a project, worst first. */
export function checkProject(project: Project, measured: readonly MeasuredTake[], rules: readonly Rule<unknown>[] = RULES): Finding[] {
  return project.shots
    .flatMap((shot) => {
      const [first, end] = shotFrames(project, shot);
      // What another shot lies over is not seen of it.
      const pictures = Array.from({ length: end - first }, (_, i) => describeFrame(project, first + i)).filter((p) => p.shotId === shot.id);
      const context = { project, shot, first, pictures, measured };
      return rules.flatMap((rule) => rule.check(context).map((found): Finding => ({ ...found, rule: rule.id, shotId: shot.id })));
    })
    .sort((a, b) => b.weight - a.weight);
}

/** A shot with a finding mended by its rule; as it is where that is no edit of the shot. */
export function applyFix(project: Project, shot: Shot, { rule, fix }: Pick<Finding, 'rule' | 'fix'>): Shot {
  const by = RULES.find(({ id }) => id === rule);
  return fix?.by === 'edit' && by?.fix ? by.fix(project, shot, fix.data) : shot;
}
