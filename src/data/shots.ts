import { current, type Draft } from 'immer';
import type { Media, Project, Shot } from '@/core/document';
import {
  copiedShot,
  movedShot,
  OVERRIDABLE,
  regenerate,
  repeats,
  shotOfShots,
  trimmedShot,
  withKey,
  withoutKeys,
  withTakes,
} from '@/core/edit';
import { sceneOf } from '@/core/evaluate';
import { type Key, type Layer, numbersIn, SOURCE_PART, withNumberIn } from '@/core/layer';
import type { Move } from '@/core/moves';
import { say } from '@/core/words';
import { edit, useProject, withFiles } from './store';

/** Keeps files that were worked out with the project, as a named step. */
export function addFiles(label: string, media: readonly Media[], of: string): void {
  edit(label, (draft) => withFiles(draft, media), of);
}

/** Changes one shot, on the score or within others, as a named step; with the kept files it needs. `of` names the project of a result of long work. */
export function changeShot(
  id: string,
  label: string,
  how: (shot: Shot, project: Project) => Shot,
  media: readonly Media[] = [],
  of?: string,
): void {
  const change = (draft: Draft<Project>) => {
    withFiles(draft, media);
    const project = current(draft) as Project;
    for (const list of ['shots', 'nestedShots'] as const) {
      const at = project[list].findIndex((s) => s.id === id);
      if (at >= 0) draft[list][at] = how(project[list][at], project);
    }
  };
  edit(label, change, of);
}

/** Changes a shot's move and runs it again; what was overridden by hand stays. */
export function changeMove<M extends Move>(
  id: string,
  label: string,
  how: (move: M) => M,
  media: readonly Media[] = [],
  of?: string,
): void {
  changeShot(id, label, (shot, project) => (shot.move ? regenerate(project, { ...shot, move: how(shot.move as M) }) : shot), media, of);
}

/** Lets a shot's move make all of its keys again. */
export function freshMove(id: string): void {
  changeShot(id, say`Run the move again`, (shot, project) => regenerate(project, { ...shot, overrides: [] }));
}

/** Changes one layer of a shot; what a move made of it and is now otherwise is the user's from then on. */
export function changeLayer(shotId: string, layerId: string, label: string, how: (layer: Layer) => Layer): void {
  changeShot(shotId, label, (shot) => {
    const before = shot.layers.find((l) => l.id === layerId);
    if (!before) return shot;
    const layer = how(before);
    const mine = shot.move ? OVERRIDABLE.filter((name) => layer[name] !== before[name]).map((name) => `${layerId}.${name}`) : [];
    return { ...shot, overrides: [...new Set([...shot.overrides, ...mine])], layers: shot.layers.map((l) => (l === before ? layer : l)) };
  });
}

/** Where a keyed number is: a layer's own, its source's, or that of one of its masks or effects. */
export interface NumberAt {
  shotId: string;
  layerId: string;
  partId: string | null;
  name: string;
}

export const addressOf = ({ layerId, partId, name }: NumberAt) => (partId ? `${layerId}.${partId}.${name}` : `${layerId}.${name}`);

/** The keys of a number; undefined where it is not set. */
export function keysOf(shot: Shot, { layerId, partId, name }: NumberAt): Key[] | undefined {
  const layer = shot.layers.find((l) => l.id === layerId);
  return layer && numbersIn(layer, partId)?.[name];
}

/** Puts keys in place and notes that they are the user's now. */
function withNumber(shot: Shot, at: NumberAt, keys: Key[]): Shot {
  const overrides = shot.move && !shot.overrides.includes(addressOf(at)) ? [...shot.overrides, addressOf(at)] : shot.overrides;
  const layers = shot.layers.map((layer) => (layer.id === at.layerId ? withNumberIn(layer, at.partId, at.name, keys) : layer));
  return { ...shot, overrides, layers };
}

/** Changes the keys of a number; they are the user's from then on. */
export function changeKeys(at: NumberAt, label: string, how: (keys: Key[], shot: Shot, project: Project) => Key[]): void {
  changeShot(at.shotId, label, (shot, project) => withNumber(shot, at, how(keysOf(shot, at) ?? [], shot, project)));
}

/** Sets a key on a film frame. */
export function setKey(at: NumberAt, frame: number, value: number, easing?: Key['easing']): void {
  changeKeys(at, say`Set a key`, (keys, shot, project) =>
    withKey(sceneOf(project, shot), keys, frame, Math.round(value * 1000) / 1000, easing),
  );
}

/** Types a number: as a whole where it is not keyed, else as a key on the film frame. */
export function setNumber(at: NumberAt, frame: number, value: number): void {
  changeKeys(at, say`Change a number`, (keys, shot, project) => {
    const rounded = Math.round(value * 1000) / 1000;
    const [only] = keys;
    return keys.length === 1 ? [{ ...only, value: rounded }] : withKey(sceneOf(project, shot), keys, frame, rounded);
  });
}

/** Removes the keys on film frames; the last of a number is left. */
export function removeKeys(at: NumberAt, frames: ReadonlySet<number>): void {
  changeKeys(at, frames.size > 1 ? say`Remove keys` : say`Remove a key`, (keys, shot, project) =>
    withoutKeys(sceneOf(project, shot), keys, frames),
  );
}

/** Sets several numbers of one mask or layer on a frame in one step: the points of an outline, a position across and down. */
export function setKeys(ats: readonly NumberAt[], frame: number, values: readonly number[], label: string): void {
  const [first] = ats;
  if (!first) return;
  changeShot(first.shotId, label, (shot, project) =>
    ats.reduce(
      (made, at, i) =>
        withNumber(made, at, withKey(sceneOf(project, shot), keysOf(made, at) ?? [], frame, Math.round(values[i] * 1000) / 1000)),
      shot,
    ),
  );
}

/** A setting of a layer's source that is keyed stands still again, as it is on a film frame. */
export function unkeySetting(at: NumberAt, value: number): void {
  changeLayer(at.shotId, at.layerId, say`Take keys away`, (layer) => {
    const { [at.name]: _, ...left } = layer.sourceNumbers ?? {};
    const { sourceNumbers: __, ...rest } = layer;
    const source = { ...layer.source, [at.name]: value };
    return Object.keys(left).length > 0 ? { ...rest, source, sourceNumbers: left } : { ...rest, source };
  });
}

/** A number among the settings of a layer's source, as a place of keys. */
export const settingAt = (shotId: string, layerId: string, name: string): NumberAt => ({ shotId, layerId, partId: SOURCE_PART, name });

export function moveShot(id: string, beats: number): void {
  changeShot(id, say`Move the shot`, (shot, project) => movedShot(project, shot, beats));
}

export function trimShot(id: string, side: 'start' | 'end', frame: number): void {
  changeShot(id, side === 'start' ? say`Trim the shot’s start` : say`Trim the shot’s end`, (shot, project) => {
    const trimmed = trimmedShot(project, shot, side, frame);
    return regenerate(project, trimmed);
  });
}

/** Puts a shot on the score, with the kept pictures it needs. */
export function addShot(shot: Shot, media: readonly Media[] = [], of?: string): void {
  const lay = (draft: Draft<Project>) => {
    withFiles(draft, media);
    draft.shots.push(shot);
  };
  if (edit(say`Lay ${shot.name.toLowerCase()}`, lay, of)) useProject.setState({ selectedShot: shot.id });
}

/** Takes a shot off the score; one that others show lives on within them. */
export function removeShot(id: string): void {
  edit(say`Take the shot off the score`, (draft) => {
    const { shots, nestedShots } = current(draft) as Project;
    const shown = [...shots, ...nestedShots].some((s) => s.layers.some(({ source }) => source.kind === 'shot' && source.shotId === id));
    if (shown) draft.nestedShots.push(...shots.filter((s) => s.id === id));
    draft.shots = draft.shots.filter((s) => s.id !== id);
  });
  useProject.setState({ selectedShot: null });
}

/** A copy of the shot right after it. */
export function copyShot(shot: Shot): void {
  const id = crypto.randomUUID();
  edit(say`Copy the shot`, (draft) => {
    const project = current(draft) as Project;
    draft.shots.push(copiedShot(project, shot, id, Math.max(1, Math.ceil(shot.end.beat - shot.start.beat))));
  });
  useProject.setState({ selectedShot: id });
}

/** Copies of the shot on every `bars`-th bar up to a beat. */
export function repeatShot(shot: Shot, bars: number, until: number): void {
  edit(say`Repeat the shot every ${bars} bars`, (draft) => {
    const project = current(draft) as Project;
    for (const by of repeats(project, shot, bars, until)) draft.shots.push(copiedShot(project, shot, crypto.randomUUID(), by));
  });
}

/** Shows another take wherever the shot showed one; what meets what stays. */
export function swapTake(id: string, from: string, to: string): void {
  changeShot(id, say`Swap the take`, (shot, project) => {
    const tape = project.takes.find((t) => t.id === to)?.tape ?? 0;
    const next = withTakes(shot, (takeId) => (takeId === from ? to : takeId));
    return {
      ...next,
      layers: next.layers.map((l, i) =>
        l.source !== shot.layers[i].source && l.source.kind === 'take' && l.source.takeId === to ? { ...l, tape } : l,
      ),
    };
  });
}

/** Puts shots into one shot that spans them; they live on within it. */
export function holdTogether(ids: readonly string[]): void {
  const id = crypto.randomUUID();
  edit(say`Put shots into one`, (draft) => {
    const project = current(draft) as Project;
    const inside = project.shots.filter((s) => ids.includes(s.id));
    const made = shotOfShots(project, inside, id);
    if (!made) return;
    draft.shots = [...project.shots.filter((s) => !ids.includes(s.id)), made];
    draft.nestedShots.push(...inside);
  });
  useProject.setState({ selectedShot: id });
}

/** Takes the shots of a shot out again, each where its layer lay. */
export function takeApart(id: string): void {
  edit(say`Take a shot apart`, (draft) => {
    const project = current(draft) as Project;
    const shot = project.shots.find((s) => s.id === id);
    if (!shot) return;
    const out = shot.layers.flatMap((layer) => {
      const inner =
        layer.source.kind === 'shot' ? project.nestedShots.find((s) => s.id === (layer.source as { shotId: string }).shotId) : undefined;
      if (!inner) return [];
      return [movedShot(project, inner, shot.start.beat + (layer.from?.beat ?? 0) - inner.start.beat)];
    });
    if (out.length === 0) return;
    const gone = new Set(out.map((s) => s.id));
    draft.shots = [...project.shots.filter((s) => s.id !== id), ...out];
    draft.nestedShots = project.nestedShots.filter((s) => !gone.has(s.id));
  });
  useProject.setState({ selectedShot: null });
}
