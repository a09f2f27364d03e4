import type { Project } from '@/core/document';
import { filmFrames } from '@/core/evaluate';
import { say } from '@/core/words';
import type { Container } from '@/media/export/container';
import { makeFilm } from '../jobs';
import { storedFilm } from '../stored';
import type { ExportFormat } from './format';

/** How long what began then (milliseconds of the page's clock) will take on, in words; '' while that is anybody's guess. */
function timeLeft(began: number, done: number): string {
  if (done < 0.03) return '';
  const left = ((performance.now() - began) / 1000 / done) * (1 - done);
  return left < 60 ? say`, about ${Math.ceil(left)} s left` : say`, about ${Math.ceil(left / 60)} min left`;
}

const noShot = (project: Project) => (project.shots.length === 0 ? say`There is no shot on the score yet; a film needs one.` : '');

/** The film as a kind of film file. */
export const filmAs = ({ id, label }: Container): ExportFormat => ({
  id,
  group: 'film',
  label: say`Make ${label}`,
  type: `video/${id}`,
  streams: true,
  ending: () => id,
  unavailable: noShot,
  make: async ({ project, chosen, leave, tell, signal }) => {
    const began = performance.now();
    tell(say`Opening the takes`, 0);
    const [first, end] = filmFrames(project);
    const total = end - first;
    const made = await makeFilm(
      project,
      id,
      { leave, chosen },
      (p) => tell(say`${p.doing}: frame ${p.done} of ${p.total}${timeLeft(began, p.done / p.total)}`, p.done / p.total),
      signal,
    );
    if (!made.ok) return made;
    const file = chosen ? await chosen.getFile() : await storedFilm(made.name);
    const took = (performance.now() - began) / 1000;
    const left = made.left > 0 ? say` ${made.left} frames in it are black or held, as you chose.` : '';
    const said = say`${(file.size / 1e6).toFixed(1)} MB, ${total} frames in ${took.toFixed(1)} s (${(total / took).toFixed(0)} frames a second).${left}`;
    return { ok: true, file, said };
  },
});
