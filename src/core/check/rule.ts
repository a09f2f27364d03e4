import type { Project, Shot } from '../document';
import type { PictureDescription } from '../evaluate';
import type { Similarity } from '../measure';
import type { Homography } from '../picture';
import type { Frames } from '../units';

/** One take's measured moves against the take it is mixed with. */
export interface MeasuredTake {
  takeId: string;
  referenceTakeId: string;
  moves: readonly ({ time: number } & Similarity)[];
  perspective: Homography | null;
}

/** A shot that is checked: its frames, each described once for all rules, and what has been measured of its takes. */
export interface ShotContext {
  project: Project;
  shot: Shot;
  first: Frames;
  pictures: readonly PictureDescription[];
  measured: readonly MeasuredTake[];
}

/** What mends a finding: an edit of the shot that the rule makes of `data`, a take corrected against another, or a stage where it is done. */
export type Fix<Data> =
  | { by: 'edit'; label: string; data: Data }
  | { by: 'correction'; label: string; takeId: string; referenceTakeId: string }
  | { by: 'stage'; label: string; stage: 'takes' };

/** Something a viewer might see. `weight` orders findings, worst first. */
export interface Finding<Data = unknown> {
  rule: string;
  shotId: string;
  frame: Frames;
  weight: number;
  text: string;
  fix: Fix<Data> | null;
}

/** One thing that is looked for in every shot. A rule is one file and a line in `index.ts`. */
export interface Rule<Data = never> {
  readonly id: string;
  /** What holds where nothing is found. */
  readonly asks: string;
  check(context: ShotContext): Omit<Finding<Data>, 'rule' | 'shotId'>[];
  /** The shot with a finding of this rule mended. */
  fix?(project: Project, shot: Shot, data: Data): Shot;
}
