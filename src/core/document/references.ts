import type { Layer } from '../layer';
import { say } from '../words';
import type { Project, Shot } from './schema';

/** What a shot names: takes, files of the project, and shots within it, by their ids. */
interface Named {
  takes: Set<string>;
  files: Set<string>;
  shots: Set<string>;
}
const NAMES: Record<string, keyof Named> = {
  takeId: 'takes',
  otherId: 'takes',
  withTakeId: 'takes',
  mediaId: 'files',
  fontId: 'files',
  tableId: 'files',
  matteId: 'files',
  silhouetteId: 'files',
  plate: 'files',
  shotId: 'shots',
};

function collect(value: unknown, into: Named): void {
  if (typeof value !== 'object' || value === null) return;
  if (Array.isArray(value)) {
    for (const item of value) collect(item, into);
    return;
  }
  for (const [key, item] of Object.entries(value)) {
    if (typeof item !== 'string') collect(item, into);
    else if (key in NAMES) into[NAMES[key]].add(item);
  }
}

const known = new WeakMap<object, Named>();
/** What a layer or a move names; worked out once for each, for they are never changed in place. */
function namedIn(value: object): Named {
  const before = known.get(value);
  if (before) return before;
  const named: Named = { takes: new Set(), files: new Set(), shots: new Set() };
  collect(value, named);
  known.set(value, named);
  return named;
}

/** All that a shot names, in its layers and its move. */
function namedBy(shot: Shot): Named[] {
  return [...shot.layers, ...(shot.move ? [shot.move] : [])].map(namedIn);
}

/** The shots that need a take, on the score, within others and set aside. */
export function usersOfTake(project: Project, takeId: string): Shot[] {
  return [...project.shots, ...project.nestedShots, ...project.unplacedShots].filter((s) => namedBy(s).some((n) => n.takes.has(takeId)));
}

/** The ids of a project's files that something in it needs: its song, takes, laid sounds and shots. */
export function neededFiles(project: Project): Set<string> {
  const needed = new Set<string>();
  if (project.song) needed.add(project.song.mediaId);
  for (const { mediaId } of [...project.takes, ...project.sound.clips]) needed.add(mediaId);
  for (const { mic } of project.takes) if (mic) needed.add(mic.mediaId);
  for (const shot of [...project.shots, ...project.nestedShots, ...project.unplacedShots])
    for (const { files } of namedBy(shot)) for (const id of files) needed.add(id);
  return needed;
}

interface There {
  takes: ReadonlySet<string>;
  files: ReadonlySet<string>;
  shots: ReadonlySet<string>;
}
const whole = (named: Named, there: There) =>
  (['takes', 'files', 'shots'] as const).every((kind) => [...named[kind]].every((id) => there[kind].has(id)));

/** The layer without masks and effects whose files are gone; null where what it shows is gone. */
function layerWithin(layer: Layer, there: There): Layer | null {
  if (whole(namedIn(layer), there)) return layer;
  const masks = layer.masks.filter((mask) => whole(namedIn(mask), there));
  const effects = layer.effects.filter((effect) => whole(namedIn(effect), there));
  return whole(namedIn(layer.source), there) ? { ...layer, masks, effects } : null;
}

function shotWithin(shot: Shot, there: There): Shot | null {
  if (namedBy(shot).every((named) => whole(named, there))) return shot;
  const layers = shot.layers.flatMap((layer) => layerWithin(layer, there) ?? []);
  if (layers.length === 0) return null;
  const move = shot.move && whole(namedIn(shot.move), there) ? shot.move : null;
  return { ...shot, layers, move, overrides: move ? shot.overrides : [] };
}

/** The name of a shot that lies within itself, however deep; null where none does. */
function nestedCircle({ shots, nestedShots }: Pick<Project, 'shots' | 'nestedShots'>): Shot | null {
  const all = new Map([...shots, ...nestedShots].map((s) => [s.id, s]));
  const clear = new Set<string>();
  const within = (shot: Shot, above: readonly string[]): Shot | null => {
    if (above.includes(shot.id)) return shot;
    if (clear.has(shot.id)) return null;
    for (const named of shot.layers.map(namedIn)) {
      for (const id of named.shots) {
        const next = all.get(id);
        const found = next ? within(next, [...above, shot.id]) : null;
        if (found) return found;
      }
    }
    clear.add(shot.id);
    return null;
  };
  for (const shot of all.values()) {
    const found = within(shot, []);
    if (found) return found;
  }
  return null;
}

/** Items of a list, each id once; the list itself where that is so already. */
function once<T extends { id: string }>(items: T[], what: (item: T) => string, setAside: string[], taken = new Set<string>()): T[] {
  const kept = items.filter((item) => {
    if (!taken.has(item.id)) return taken.add(item.id);
    setAside.push(say`${what(item)}: its id stands twice`);
    return false;
  });
  return kept.length === items.length ? items : kept;
}

/**
 * A valid document with everything left out that points at nothing: takes without a file, layers, masks and moves without what
 * they show, sounds, shots within themselves, ids that stand twice. `setAside` says each; it is empty, and the project the same,
 * where all is whole.
 */
export function referencesWhole(project: Project): { project: Project; setAside: string[] } {
  const setAside: string[] = [];
  const media = once(project.media, (m) => say`the file “${m.name}”`, setAside);
  const files = new Set(media.map((m) => m.id));
  const nameOf = new Map(media.map((m) => [m.id, m.name]));
  const only = <T>(items: T[], keep: (item: T) => boolean, what: (item: T) => string): T[] => {
    const kept = items.filter((item) => keep(item) || !setAside.push(what(item)));
    return kept.length === items.length ? items : kept;
  };
  const pictures = new Set(media.filter((m) => m.kind === 'video').map((m) => m.id));
  const filmed = only(
    once(project.takes, (t) => say`take ${t.number}`, setAside),
    (t) => pictures.has(t.mediaId),
    (t) => say`take ${t.number}${t.slot ? say` of the slot “${t.slot}”` : ''}: its film is not in the project`,
  );
  // A take whose microphone's file is gone is heard as the camera heard it.
  const deaf = filmed.filter((t) => t.mic && !files.has(t.mic.mediaId));
  const takes = deaf.length === 0 ? filmed : filmed.map(({ mic, ...t }) => (mic && files.has(mic.mediaId) ? { ...t, mic } : t));
  for (const t of deaf) setAside.push(say`the microphone’s sound of take ${t.number}: its file is not in the project`);
  const taken = new Set<string>();
  const lists = {
    shots: once(project.shots, (s) => say`the shot “${s.name}”`, setAside, taken),
    nestedShots: once(project.nestedShots, (s) => say`the shot “${s.name}”`, setAside, taken),
    unplacedShots: once(project.unplacedShots, (s) => say`the shot “${s.name}”`, setAside),
  };
  const settle = () => {
    const there: There = {
      takes: new Set(takes.map((t) => t.id)),
      files,
      shots: new Set([...lists.shots, ...lists.nestedShots].map((s) => s.id)),
    };
    let changed = false;
    for (const name of ['shots', 'nestedShots', 'unplacedShots'] as const) {
      const kept = lists[name].flatMap((shot) => {
        const next = shotWithin(shot, there);
        if (next === shot) return [shot];
        changed = true;
        setAside.push(
          next ? say`parts of the shot “${shot.name}”: what they show is gone` : say`the shot “${shot.name}”: what it shows is gone`,
        );
        return next ? [next] : [];
      });
      if (changed) lists[name] = kept;
    }
    return changed;
  };
  // A shot that goes may be what another shows.
  while (settle());
  for (let circle = nestedCircle(lists); circle; circle = nestedCircle(lists)) {
    const { id, name } = circle;
    setAside.push(say`the shot “${name}”: it lies within itself`);
    lists.shots = lists.shots.filter((s) => s.id !== id);
    lists.nestedShots = lists.nestedShots.filter((s) => s.id !== id);
    while (settle());
  }
  const song = project.song && files.has(project.song.mediaId) ? project.song : null;
  if (project.song && !song) setAside.push(say`the song: its file is not in the project`);
  const clips = only(
    once(project.sound.clips, () => say`a sound`, setAside),
    (c) => files.has(c.mediaId),
    (c) => say`the sound of “${nameOf.get(c.mediaId) ?? say`a file`}”: its file is not in the project`,
  );
  const plans = once(project.plans, (p) => say`the planned shot “${p.name}”`, setAside);
  if (setAside.length === 0) return { project, setAside };
  return { project: { ...project, media, takes, ...lists, song, sound: { ...project.sound, clips }, plans }, setAside };
}
