import type { Project, Shot } from '../document';
import { marginOf, motionMargin } from '../evaluate';
import type { Percent } from '../units';

/** Enlargement in per cent that the corrections of takes cost: 100 where they cost nothing. */
export const correctionsCost = (project: Project, takeIds: readonly string[]): Percent =>
  Math.max(100, ...takeIds.map((id) => marginOf(project, id)));

/** Enlargement in per cent that hides every edge of a shot, where its takes' corrections cost so much and it moves as it does. */
export const withMotion = (project: Project, shot: Shot, cost: Percent): Percent =>
  Math.round(cost * motionMargin(project, shot).percent) / 100;
