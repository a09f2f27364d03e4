'use client';
import { create } from 'zustand';
import type { Project, Shot } from '@/core/document';
import { SNAPS, type Snap } from '@/core/edit';
import { type Layer, numberKindOf } from '@/core/layer';
import { keysOf, type NumberAt, settingAt } from '@/data/shots';

interface ScoreState {
  snap: Snap;
  /** The number whose thread is shown, and the film frames of its keys that are chosen. */
  number: NumberAt | null;
  chosen: ReadonlySet<number>;
  /** Whether a drag over the thread chooses the keys in a box, also with a finger. */
  boxing: boolean;
  /** Shots chosen together with the selected one. */
  more: readonly string[];
  /** Whether the selected shot is opened into single frames. */
  unfolded: boolean;
}

/** What is chosen on the score; nothing of it is kept with the project. */
export const useScore = create<ScoreState>(() => ({
  snap: SNAPS[0],
  number: null,
  chosen: new Set(),
  boxing: false,
  more: [],
  unfolded: false,
}));

export const choose = (number: NumberAt | null) => useScore.setState({ number, chosen: new Set(), unfolded: true });

/** The shot that is selected, on the score or within another, or the first. */
export function selectedOf(project: Project, id: string | null): Shot | null {
  return [...project.shots, ...project.nestedShots].find((s) => s.id === id) ?? project.shots[0] ?? null;
}

/** Every number of a layer that is keyed more than once, and all others it has, as places to find them. */
export function numbersOf(shotId: string, layer: Layer): NumberAt[] {
  const own = Object.keys(layer.numbers).map((name) => ({ shotId, layerId: layer.id, partId: null, name }));
  const parts = [...layer.effects, ...layer.masks].flatMap((part) =>
    Object.keys(part.numbers).map((name) => ({ shotId, layerId: layer.id, partId: part.id, name })),
  );
  const settings = Object.keys(layer.sourceNumbers ?? {}).map((name) => settingAt(shotId, layer.id, name));
  return [...own, ...settings, ...parts];
}

/** The number shown when none is chosen: the first that is keyed more than once, from the upper layers down. */
function firstNumber(shot: Shot): NumberAt | null {
  const all = shot.layers.toReversed().flatMap((layer) =>
    numbersOf(shot.id, layer).map((at) => {
      const keys = keysOf(shot, at);
      return { at, keyed: (keys?.length ?? 0) > 1 };
    }),
  );
  return (all.find((n) => n.keyed) ?? all[0])?.at ?? null;
}

/** The number whose thread is shown: the chosen one where it is in the shot, else the first. */
export function shownNumber(shot: Shot, chosen: NumberAt | null): NumberAt | null {
  if (chosen?.shotId !== shot.id) return firstNumber(shot);
  const layer = shot.layers.find((l) => l.id === chosen.layerId);
  const there = layer && numberKindOf(layer, chosen.partId, chosen.name) !== null;
  return there ? chosen : firstNumber(shot);
}
