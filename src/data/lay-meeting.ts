import { footageOf, type Shot } from '@/core/document';
import { regenerate } from '@/core/edit';
import { beatMapOf } from '@/core/evaluate';
import { beatsIn, onBeat } from '@/core/moves';
import { anchorAtFrame } from '@/core/time';
import { say } from '@/core/words';
import type { Contact } from './contacts';
import type { Progress } from './jobs';
import { keepOutline } from './kept';
import { corrected } from './lay-plan';
import { layMoveOn } from './moves';
import { changeShot } from './shots';
import { useProject } from './store';

/** Beats that are seen before they meet, at most. */
const BEFORE = 4;
/** Beats by which whoever reaches over the seam is laid over it, before the contact and after. */
const OVER = 1;

/**
 * Lays two takes as clones that touch on a beat of the playhead or the first after it that leaves both their way there; whoever reaches from
 * the left is laid over the seam around it. Gives what to know of it. Throws a sentence where it cannot be laid.
 */
export async function layMeeting(left: Contact, right: Contact, onProgress: Progress): Promise<string> {
  const { project, playhead } = useProject.getState();
  if (!project) return say`No project is open.`;
  const pair = [left, right];
  await corrected(
    pair.map(({ take }) => take.id),
    (p) => onProgress(0.4 * p),
  );
  const map = beatMapOf(project);
  const beat = Math.max(0, Math.ceil(anchorAtFrame(map, playhead, project.frame.rate).beat - 1e-6));
  const known = new Set(project.shots.map((s) => s.id));
  const said = await layMoveOn(
    'clones',
    pair.map(({ take }) => take.id),
    beat,
    (p) => onProgress(0.4 + 0.4 * p),
  );
  const now = useProject.getState().project;
  const made = now?.id === project.id ? now.shots.find((s) => !known.has(s.id)) : undefined;
  if (!now || !made) return said;
  const { media, silhouetteId } = await keepOutline(now, left.take.id, (p) => onProgress(0.8 + 0.2 * p));
  const footage = pair.map(({ take }) => footageOf(now, take.id));
  const before = beatsIn(map, beat, Math.min(...pair.map(({ at }, i) => at - footage[i].from)), 0, BEFORE);
  const after = beatsIn(map, beat + before, Math.min(...pair.map(({ at }, i) => footage[i].to - at)), 1, 4 * BEFORE);
  changeShot(
    made.id,
    say`Let two takes meet on a beat`,
    (shot, there) => {
      if (shot.move?.kind !== 'clones') return shot;
      const met: Shot = {
        ...shot,
        end: { beat: shot.start.beat + before + after, offset: 0 },
        move: {
          ...shot.move,
          uses: shot.move.uses.map((use, i) => ({ ...use, sync: pair[i].at })),
          at: onBeat(before),
          crossings: [{ place: 0, from: onBeat(Math.max(0, before - OVER)), until: onBeat(before + Math.min(OVER, after)) }],
          silhouettes: [{ takeId: left.take.id, silhouetteId }],
        },
      };
      return regenerate(there, met);
    },
    media,
    project.id,
  );
  return said;
}
