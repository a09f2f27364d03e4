import type { Project, Shot } from '../document';
import { footageOf } from '../document';
import { beatMapOf } from '../evaluate';
import { type Layer, type Place, plainLayer, remapKeyAt, type SeamKeyframe, seamMask } from '../layer';
import { beatsIn, type FactId, type Facts, kindOf, type Move, onBeat, type TakeUse } from '../moves';
import type { Beats, Seconds } from '../units';
import { say } from '../words';
import { alikeMoment } from './correct-take';
import { regenerate } from './regenerate';

/** A shot with nothing in it yet. */
export const plainShot = (id: string, name: string, start: Place, end: Place, more: Partial<Shot> = {}): Shot => ({
  id,
  name,
  start,
  end,
  overscan: 100,
  layers: [],
  move: null,
  overrides: [],
  ...more,
});

/** What of the facts a kind of move asks for; the others need not be there. */
export type SomeFacts = Partial<Pick<Facts, FactId>>;

/**
 * A shot with a move of a kind on a beat, made of takes and of what was measured in them, enlarged by `overscan` per cent; and what to know
 * of it, or ''. Throws where a fact that the move needs is not given.
 */
export function proposeMove(
  project: Project,
  id: string,
  kind: Move['kind'],
  beat: Beats,
  takeIds: readonly string[],
  facts: SomeFacts,
  overscan: number,
): { shot: Shot; said: string } {
  const { words, needs, propose } = kindOf({ kind });
  const missing = needs.find((fact) => facts[fact] === undefined);
  if (missing) throw new Error(say`A ${words.name.toLowerCase()} needs the fact “${missing}”.`);
  const takes = takeIds.map((takeId) => ({
    takeId,
    footage: footageOf(project, takeId),
    alike: (first: Seconds) => alikeMoment(project, takeIds[0], takeId, first),
  }));
  const { lead, tail, move, said } = propose({ map: beatMapOf(project), rate: project.frame.rate, beat, takes }, facts as Facts);
  const shot = plainShot(id, words.name, onBeat(beat - lead), onBeat(beat + tail), { overscan, move });
  return { shot: regenerate(project, shot), said };
}

/** A layer that shows a take, on the take's own tape. */
const takeLayer = (project: Project, id: string, name: string, { takeId, sync }: TakeUse, masks: Layer['masks'] = []) =>
  plainLayer(id, name, project.takes.find((t) => t.id === takeId)?.tape ?? 0, { kind: 'take', takeId }, [remapKeyAt(0, 0, sync)], {
    masks,
  });

/** Two takes along a seam from a beat on, for as many whole beats as `seconds` hold; the second right of it, or below it where it runs across. `feather` in per cent of the height. */
export function proposeSeam(
  project: Project,
  id: string,
  beat: Beats,
  seconds: Seconds,
  left: TakeUse,
  right: TakeUse,
  keyframes: SeamKeyframe[],
  feather: number,
  overscan: number,
): Shot {
  const length = beatsIn(beatMapOf(project), beat, seconds, 1, 1e4);
  const [here, there] = keyframes[0]?.across ? [say`Above the seam`, say`Below the seam`] : [say`Left of the seam`, say`Right of the seam`];
  return plainShot(id, 'Clones', onBeat(beat), onBeat(beat + length), {
    overscan,
    layers: [takeLayer(project, 'left', here, left), takeLayer(project, 'right', there, right, [seamMask(keyframes, feather)])],
  });
}

/** A shot of one take from one anchor to another, from the take's first second on. */
export function proposePlain(project: Project, id: string, start: Place, end: Place, takeId: string): Shot {
  const layer = takeLayer(project, 'shown', say`The take`, { takeId, sync: footageOf(project, takeId).from });
  return plainShot(id, 'Shot', start, end, { layers: [layer] });
}
