import { current, type Draft } from 'immer';
import { neededFiles, type Project, referencesWhole, usersOfTake } from '@/core/document';
import { say } from '@/core/words';
import { ask } from './ask';
import { edit, useProject } from './store';

/** The project without a take, what showed it, and the files nothing needs any more. */
function without(draft: Draft<Project>, takeId: string): void {
  draft.takes = draft.takes.filter((t) => t.id !== takeId);
  const { project } = referencesWhole(current(draft) as Project);
  const needed = neededFiles(project);
  Object.assign(draft, project, { media: project.media.filter((m) => needed.has(m.id)) });
}

/** Takes a take out of the project. Where shots show it the user is asked, and what shows it goes as well. One step of undo brings all back. */
export async function takeOut(takeId: string): Promise<void> {
  const { project } = useProject.getState();
  if (!project) return;
  const shots = usersOfTake(project, takeId);
  if (shots.length > 0) {
    const names = shots.slice(0, 5).map((s) => `“${s.name}”`);
    const answer = await ask({
      title: say`This take is in use`,
      text: say`${names.join(', ')}${shots.length > 5 ? say` and ${shots.length - 5} more shots` : ''} show it. Their layers of it go as well; a shot that shows nothing else goes whole. Undo brings all of it back.`,
      answers: [
        { id: 'keep', label: say`Keep the take` },
        { id: 'out', label: say`Take it out with its layers` },
      ],
    });
    if (answer !== 'out') return;
  }
  edit(say`Take a take out`, (draft) => without(draft, takeId), project.id);
}
