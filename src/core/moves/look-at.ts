import { type Place, type Project, placeFrame, type Shot, sceneOf } from '../shot';
import type { Frames } from '../units';

/** The frame on which a shot's move is best looked at. */
export function frameToSee(project: Project, shot: Shot): Frames {
  const scene = sceneOf(project, shot);
  const at = (place: Place) => placeFrame(scene, place);
  const { move } = shot;
  switch (move?.kind) {
    case 'reveal':
      return Math.round((at(move.start) + at(move.end)) / 2);
    case 'whip':
      return at(move.cut) - 2;
    case 'freeze':
      return at(move.until) - 2;
    case 'ramp':
      return at(move.poses[1]);
    case 'split':
      return Math.round((at(move.open) + at(move.close)) / 2);
    default:
      return scene.first;
  }
}
