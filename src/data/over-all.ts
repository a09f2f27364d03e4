import { plainShot } from '@/core/edit';
import { shotOverAll } from '@/core/evaluate';
import { plainLayer, remapKeyAt } from '@/core/layer';
import { say } from '@/core/words';
import { edit, useProject } from './store';

const NAME = say`Over the whole film`;

/** Opens the shot that lies over the whole film; where there is none yet it is begun, with everything below it for effects to be laid on. */
export function openOverAll(): void {
  const { project } = useProject.getState();
  if (!project) return;
  const known = shotOverAll(project);
  if (known) {
    useProject.setState({ selectedShot: known.id });
    return;
  }
  const id = crypto.randomUUID();
  const layer = plainLayer(`layer-${id.slice(0, 8)}`, say`Everything below`, 0, { kind: 'below' }, [remapKeyAt(0, 0, 0)]);
  const made = edit(say`Lay something over the whole film`, (draft) => {
    // Its places count from bar 1; it lasts as long as the film does.
    draft.nestedShots.push(plainShot(id, NAME, { beat: 0, offset: 0 }, { beat: 1, offset: 0 }, { layers: [layer] }));
    draft.overAll = id;
  });
  if (made) useProject.setState({ selectedShot: id });
}

/** Takes what lies over the whole film away. */
export function removeOverAll(): void {
  edit(say`Take away what lies over the whole film`, (draft) => {
    draft.nestedShots = draft.nestedShots.filter((s) => s.id !== draft.overAll);
    delete draft.overAll;
  });
  useProject.setState({ selectedShot: null });
}
