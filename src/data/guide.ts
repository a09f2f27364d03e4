import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Project } from '@/core/document';
import { say } from '@/core/words';

interface GuideStep {
  id: 'films' | 'song' | 'shot' | 'play' | 'check' | 'deliver';
  text: string;
  /** The stage where it is done. */
  href: string;
  /** Whether a project shows that it is done; some steps only happen. */
  done?(project: Project): boolean;
}

/** The way to a first film of one's own. */
export const GUIDE: readonly GuideStep[] = [
  { id: 'films', text: say`Take in films: drop them anywhere, or film here.`, href: '/shoot', done: ({ takes }) => takes.length > 0 },
  { id: 'song', text: say`Take in the song: its beats are found.`, href: '/song', done: ({ song }) => Boolean(song?.map) },
  {
    id: 'shot',
    text: say`Make a first film of the takes (Shoot), or lay a move on a beat (Score).`,
    href: '/score',
    done: ({ shots }) => shots.length > 0,
  },
  { id: 'play', text: say`Play it, and pull what is off: a shot by its ends, a line on the picture.`, href: '/score' },
  { id: 'check', text: say`See what a viewer might notice.`, href: '/check' },
  { id: 'deliver', text: say`Make the film.`, href: '/deliver' },
];

interface Guide {
  /** The project it goes with; null while there is none. */
  projectId: string | null;
  /** Steps that happened or were skipped. */
  passed: readonly GuideStep['id'][];
  /** Whether it was gone through or left once: it does not come by itself again. */
  over: boolean;
}

/** Kept in this browser. */
export const useGuide = create<Guide>()(persist((): Guide => ({ projectId: null, passed: [], over: false }), { name: 'guide' }));

/** Begins it with a project of one's own; by itself only the first time. */
export function beginGuide(projectId: string, asked = false): void {
  if (asked || !useGuide.getState().over) useGuide.setState({ projectId, passed: [] });
}

export const leaveGuide = () => useGuide.setState({ projectId: null, over: true });

/** Notes that a step happened, or is skipped; only where a guide is followed. */
export function passStep(id: GuideStep['id']): void {
  const { projectId, passed } = useGuide.getState();
  if (projectId && !passed.includes(id)) useGuide.setState({ passed: [...passed, id] });
}

/** The step a project is at, and which of them it is from 1 on; null where all is done, or another project is followed. */
export function stepAt(
  project: Project,
  { projectId, passed }: Pick<Guide, 'projectId' | 'passed'>,
): { step: GuideStep; n: number } | null {
  if (project.id !== projectId) return null;
  const at = GUIDE.findIndex(({ id, done }) => !passed.includes(id) && !done?.(project));
  return at < 0 ? null : { step: GUIDE[at], n: at + 1 };
}
