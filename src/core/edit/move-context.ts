import type { Project, Shot } from '../document';
import { footageOf } from '../document';
import { sceneOf } from '../evaluate';
import { type Layer, plainLayer, remapKeyAt } from '../layer';
import type { MoveContext } from '../moves';
import { applied, inverted } from '../picture';
import { fillFrame } from '../sources';

/** Where a shot's move is laid out. */
export function moveContext(project: Project, shot: Shot): MoveContext {
  const { frame } = project;
  const layer = (id: string, name: string, tape: number, source: Layer['source'], timeRemap: Layer['timeRemap'], more: Partial<Layer>) =>
    plainLayer(id, name, tape, source, timeRemap, {
      ...more,
      madeBy: 'move',
      masks: (more.masks ?? []).map((mask) => ({ ...mask, madeBy: 'move' as const })),
      effects: (more.effects ?? []).map((effect) => ({ ...effect, madeBy: 'move' as const })),
    });
  return {
    scene: sceneOf(project, shot),
    frame,
    footage: (takeId) => footageOf(project, takeId),
    take: (id, name, takeId, timeRemap, more) =>
      layer(id, name, project.takes.find((t) => t.id === takeId)?.tape ?? 0, { kind: 'take', takeId }, timeRemap, more),
    picture: (id, name, mediaId, timeRemap, more) => layer(id, name, 0, { kind: 'still', mediaId }, timeRemap, more),
    made: (id, name, source, more) => layer(id, name, 0, source, [remapKeyAt(0, 0, 0)], more),
    onFrame: (takeId) => {
      // As the take lies there before it is moved.
      const media = footageOf(project, takeId);
      const toFrame = inverted(fillFrame(frame, media, shot.overscan, null));
      return ({ x, y }) => {
        const at = applied(toFrame, { x: (x / 100) * media.width, y: (y / 100) * media.height });
        return { x: (100 * at.x) / frame.width, y: (100 * at.y) / frame.height };
      };
    },
  };
}
