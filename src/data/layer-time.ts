import { current } from 'immer';
import type { Project, Shot } from '@/core/document';
import { splitLayer, splitShot } from '@/core/edit';
import { sceneOf } from '@/core/evaluate';
import type { Layer, Scene } from '@/core/layer';
import { say } from '@/core/words';
import { changeLayer, changeShot } from './shots';
import { edit, useProject } from './store';

/** Changes when a layer is there or how its source runs; `how` is given the shot as it lies in the film. */
export function changeTime(
  shotId: string,
  layerId: string,
  label: string,
  how: (scene: Scene, layer: Layer, project: Project) => Layer,
): void {
  const { project } = useProject.getState();
  const shot = project && [...project.shots, ...project.nestedShots].find((s) => s.id === shotId);
  if (!project || !shot) return;
  changeLayer(shotId, layerId, label, (layer) => how(sceneOf(project, shot), layer, project));
}

const short = () => crypto.randomUUID().slice(0, 8);

/** Parts a layer in two at the playhead; '' or why not. */
export function splitLayerHere(shotId: string, layerId: string): string {
  const { playhead } = useProject.getState();
  let why = say`The playhead is not within the layer: put it where the layer is to be parted.`;
  changeShot(shotId, say`Split a layer`, (shot, project) => {
    const at = shot.layers.findIndex((l) => l.id === layerId);
    const parts = at < 0 ? null : splitLayer(sceneOf(project, shot), shot.layers[at], playhead, `layer-${short()}`);
    if (!parts) return shot;
    why = '';
    const overrides = shot.move && !shot.overrides.includes(`${layerId}.to`) ? [...shot.overrides, `${layerId}.to`] : shot.overrides;
    return { ...shot, overrides, layers: shot.layers.toSpliced(at, 1, ...parts) };
  });
  return why;
}

/** Parts a shot in two at the playhead, and selects the later part; '' or why not. */
export function splitShotHere(shotId: string): string {
  const { playhead, project } = useProject.getState();
  const shot = project?.shots.find((s) => s.id === shotId);
  const id = crypto.randomUUID();
  const parts = project && shot && splitShot(project, shot, playhead, id);
  if (!parts) return say`The playhead is not within the shot: put it where the shot is to be parted.`;
  const done = edit(say`Split the shot`, (draft) => {
    const now = current(draft) as Project;
    draft.shots = now.shots.flatMap((s): Shot[] => (s.id === shotId ? parts : [s]));
  });
  if (done) useProject.setState({ selectedShot: id });
  return '';
}
