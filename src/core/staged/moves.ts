import type { Project, Shot } from '../document';
import { proposeMove, type SomeFacts } from '../edit';
import type { Facts, FigureBox, MeasuredFall, Move } from '../moves';
import type { Seconds } from '../units';

/** Something that falls evenly from second 3.5 to 5.4. */
export const STAGED_FALL: MeasuredFall = { from: 3.5, to: 5.4, position: Array.from({ length: 48 }, (_, i) => i / 47), cover: 0.9 };

/** Movement of a take at 25 frames a second that comes to rest at some of its seconds, 0.8 s or more apart. */
export function restsAt(rests: readonly Seconds[], duration: Seconds = 10): Facts['movement'] {
  const times = Array.from({ length: Math.round(duration * 25) }, (_, i) => i / 25);
  return { times, movement: times.map((t) => 4 - Math.max(0, ...rests.map((rest) => 3 * Math.exp(-(((t - rest) / 0.2) ** 2))))) };
}

/** Movement of a take in which something moves until a second and lies from then on. */
function stillFrom(second: Seconds): Facts['movement'] {
  const times = Array.from({ length: 250 }, (_, i) => i / 25);
  return { times, movement: times.map((t) => (t > 1 && t < second ? 4 : 0.2)) };
}

/** Somebody who stands, jumps at second 3 and is down again half a second later: 25 readings a second, per cent of the picture. */
function stagedBoxes(): FigureBox[] {
  return Array.from({ length: 250 }, (_, i) => {
    const source = i / 25;
    const up = Math.max(0, 1 - ((source - 3) / 0.3) ** 2) * 20;
    return { source, left: 40, right: 60, top: 30 - up, bottom: 90 - up };
  });
}

/** What moves may ask to know of the staged takes: two that something falls in, a cut-out, an empty set, four poses. */
export const STAGED_FACTS: Facts = {
  fall: [STAGED_FALL, { ...STAGED_FALL, from: 3.8, to: 5.7 }],
  movement: restsAt([2, 3.4, 4.24, 6]),
  cutOut: { second: 4, matte: { matteId: 'cut-out', top: 20, bottom: 90 }, plate: 'empty', why: '' },
  cutOuts: { mattes: ['cut-out', 'cut-out'], why: '' },
  cutOthers: { cut: [], why: '' },
  support: { plate: 'empty', box: { left: 60, top: 40, right: 66, bottom: 95 }, silhouetteId: 'outline', why: '' },
  sweep: [
    { from: 6, to: 6.6, position: Array.from({ length: 24 }, (_, i) => i / 23), cover: 0.9, angle: 90 },
    { from: 7, to: 7.6, position: Array.from({ length: 24 }, (_, i) => i / 23), cover: 0.9, angle: 90 },
    null,
  ],
  whips: [[], [], []],
  movements: [6, 5, 7].map(stillFrom),
  plate: { plate: 'empty', why: '' },
  figures: { found: [1, 2, 3].map(() => ({ silhouetteId: 'outline', boxes: stagedBoxes() })), why: '' },
  subject: { course: Array.from({ length: 51 }, (_, i) => ({ source: i / 5, x: 50 + i / 10, y: 55, size: 20 + i / 2 })), why: '' },
  knownAlong: { matteId: 'along', begins: 0 },
  along: { matte: { matteId: 'along', begins: 0 }, why: '' },
  jump: { up: { second: 3, matteId: 'cut-out' }, down: { second: 4, matteId: 'cut-out' }, plate: 'empty', why: '' },
  seams: {
    from: [0, 0, 0],
    keyframes: [30, 60].map((x) => [
      {
        from: 0,
        points: [
          { x, y: 0 },
          { x: x + 5, y: 100 },
        ],
      },
    ]),
    feather: 2,
    why: '',
  },
  structure: { upright: { line: 62, lean: 2 }, level: null },
  arrivals: [1, 2, 3].map(() => ({ left: 40, top: 50, right: 60, bottom: 80 })),
  hands: { silhouetteId: 'outline', why: '' },
  hidden: { left: 40, top: 50, right: 50, bottom: 70 },
  thing: { left: 40, top: 50, right: 50, bottom: 70 },
  hits: [0.5, 1, 2, 2.5].map((beat, i) => ({ beat, strength: 1 - i / 10 })),
};

/** A shot with a move on a beat as it is proposed. */
export const stagedMove = (
  project: Project,
  kind: Move['kind'],
  beat: number,
  takes: readonly string[],
  facts: SomeFacts = {},
  id: string = kind,
): Shot => proposeMove(project, id, kind, beat, takes, { ...STAGED_FACTS, ...facts }, 100).shot;
