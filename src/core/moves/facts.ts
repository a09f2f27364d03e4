import type { SeamKeyframe } from '../layer';
import type { Degrees, Percent, Seconds, Unit } from '../units';
import type { FigureBox } from './figure-course';

/** What was seen falling in a take: when it begins and ends, the path of the densest part, and how much of all that falls lies near it. */
export interface MeasuredFall {
  from: Seconds;
  to: Seconds;
  position: readonly Unit[];
  cover: Unit;
}

/** How much moves in a take, at seconds of it. */
export interface Movement {
  times: readonly Seconds[];
  movement: readonly number[];
}

/** A part of a picture, per cent of it. */
export interface PictureBox {
  left: Percent;
  top: Percent;
  right: Percent;
  bottom: Percent;
}

/** What a move may ask to be measured before it is proposed. */
export interface Facts {
  /** What falls in each of its takes. */
  fall: readonly (MeasuredFall | null)[];
  /** What sweeps across each of its takes, and which way: 90 to the right, -90 to the left. */
  sweep: readonly ((MeasuredFall & { angle: Degrees }) | null)[];
  /** Where the camera is thrown round in each of its takes, in order: the fastest instant, and which way the picture goes. */
  whips: readonly (readonly { from: Seconds; to: Seconds; peak: Seconds; way: 'left' | 'right' | 'up' | 'down' }[])[];
  /** How much moves in the first take. */
  movement: Movement;
  /** How much moves in each of its takes. */
  movements: readonly Movement[];
  /** The performer cut out of the first take at the second seen now, and the empty set; `why` one is missing, in a sentence. */
  cutOut: { second: Seconds; matte: { matteId: string; top: Percent; bottom: Percent } | null; plate: string | null; why: string };
  /** The performers of the takes after the first, each cut out at a second of it; `why` one is missing. */
  cutOthers: { cut: readonly { takeId: string; second: Seconds; matteId: string }[]; why: string };
  /** The empty set of the first take; `why` there is none. */
  plate: { plate: string | null; why: string };
  /** Where the performer is in each of its takes, with the file that keeps their outline; null with nobody. `why` one is missing. */
  figures: { found: readonly ({ silhouetteId: string; boxes: readonly FigureBox[] } | null)[]; why: string };
  /** The performer's outline in the first take, told from the second where there is one: the set with the thing in its place. */
  hands: { silhouetteId: string | null; why: string };
  /** Where the subject of the first take is, and how large, at seconds of it: per cent of its picture, evened out. None where it was not found. */
  subject: { course: readonly { source: Seconds; x: Percent; y: Percent; size: Percent }[]; why: string };
  /** The performer of the first take cut out over time; `begins` is the second of the take at which its film does. */
  along: { matte: { matteId: string; begins: Seconds } | null; why: string };
  /** The same where it was cut out before; null where it would have to be now. */
  knownAlong: { matteId: string; begins: Seconds } | null;
  /** The performer cut out of the first take at the highest of a jump, and of the second (or the same) as both feet land. */
  jump: { up: CutOutAt | null; down: CutOutAt | null; plate: string | null; why: string };
  /** Cut-outs of the performer at the seconds asked for; `why` one is missing. */
  cutOuts: { mattes: readonly (string | null)[]; why: string };
  /** Seams from each take to the next, from the second at which they meet. */
  seams: { from: readonly Seconds[]; keyframes: readonly (readonly SeamKeyframe[])[]; feather: Percent; why: string };
  /** The clearest straight edges across the first take's picture that nobody crosses, as line masks lie on them. */
  structure: { upright: { line: Percent; lean: Degrees } | null; level: { line: Percent; lean: Degrees } | null };
  /** Where each take's end differs from its beginning. */
  arrivals: readonly (PictureBox | null)[];
  /** Where the last two of its takes differ: the thing that is in one of them. */
  thing: PictureBox | null;
  /** What is in the second of its takes and not in the empty set: what is to be hidden. */
  hidden: PictureBox | null;
  /** Something that stands in the first take and not in the empty set of its set-up, and the outline of all that moves before it; `why` one is missing. */
  support: { plate: string | null; box: PictureBox | null; silhouetteId: string | null; why: string };
  /** What is hit in the song, in beats from the shot's first, with how strongly (0 to 1). */
  hits: readonly { beat: number; strength: Unit }[];
}
/** A cut-out at a second of a take. */
export interface CutOutAt {
  second: Seconds;
  matteId: string | null;
}
export type FactId = keyof Facts;
