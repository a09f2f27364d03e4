import * as z from 'zod/mini';
import type { Project, Shot } from '@/core/document';
import { type Effect, effectSchema, plainLayer, remapKeyAt } from '@/core/layer';
import { say } from '@/core/words';
import { db } from './db';
import { makeStill } from './jobs';
import { changeLayer } from './shots';
import { smallPicture } from './small-picture';
import { edit } from './store';

const short = () => crypto.randomUUID().slice(0, 8);

const own = (effects: readonly Effect[]): Effect[] =>
  effects.map((effect) => ({ ...effect, id: `effect-${short()}`, madeBy: 'user' as const }));

/** A shot with effects on all of it: on the uppermost layer that shows everything below it, or on a new one. */
function withLook(shot: Shot, effects: readonly Effect[]): Shot {
  const fresh = own(effects);
  const at = shot.layers.findLastIndex((l) => l.source.kind === 'below');
  if (at >= 0) return { ...shot, layers: shot.layers.map((l, i) => (i === at ? { ...l, effects: fresh } : l)) };
  const look = plainLayer(`layer-${short()}`, 'Look', 0, { kind: 'below' }, [remapKeyAt(0, 0, 0)], { effects: fresh });
  return { ...shot, layers: [...shot.layers, look] };
}

/** Lays effects on all of other shots, in the place of those that lie there already. */
export function copyLook(effects: readonly Effect[], shotIds: readonly string[]): void {
  edit(say`Lay a look on ${shotIds.length} shots`, (draft) => {
    draft.shots.forEach((shot, i) => {
      if (shotIds.includes(shot.id)) draft.shots[i] = withLook(shot as Shot, effects) as (typeof draft.shots)[number];
    });
  });
}

/** Effects kept under a name for other layers and other projects, with a picture of what they do. */
const lookSchema = z.object({
  name: z.string().check(z.minLength(1), z.maxLength(40)),
  effects: z.array(effectSchema).check(z.minLength(1), z.maxLength(50)),
  /** As a data URL; '' where none could be made. */
  picture: z.string(),
});
export type Look = z.infer<typeof lookSchema>;
export const LOOKS_KEY = 'kept looks';

/** The looks in a stored value, as far as they can be read. */
export const readLooks = (value: unknown): Look[] =>
  (Array.isArray(value) ? value : []).flatMap((item) => {
    const parsed = lookSchema.safeParse(item);
    return parsed.success ? [parsed.data] : [];
  });

/** Width of a look's picture, pixels. */
const WIDTH = 192;

const pictureOf = async (project: Project, frame: number) => smallPicture(await makeStill(project, frame), WIDTH);

/** Keeps effects under a name, in the place of any that has it, with the film's frame as it looks now. */
export async function keepLook(project: Project, frame: number, name: string, effects: readonly Effect[]): Promise<void> {
  // A look is of use without its picture as well.
  const picture = await pictureOf(project, frame).catch(() => '');
  const kept = readLooks((await db.settings.get(LOOKS_KEY))?.value);
  const value = [...kept.filter((k) => k.name !== name), { name, effects: [...effects], picture }];
  await db.settings.put({ key: LOOKS_KEY, value });
}

export async function forgetLook(name: string): Promise<void> {
  const kept = readLooks((await db.settings.get(LOOKS_KEY))?.value);
  await db.settings.put({ key: LOOKS_KEY, value: kept.filter((k) => k.name !== name) });
}

/** Lays a kept look on a layer, in the place of its effects. Returns '' or what could not come along. */
export function layLook(project: Project, shotId: string, layerId: string, { name, effects }: Look): string {
  // Its colour tables are files of the project it was kept in.
  const there = effects.filter(({ tableId }) => !tableId || project.media.some((m) => m.id === tableId));
  changeLayer(shotId, layerId, say`Lay the look “${name}”`, (layer) => ({ ...layer, effects: own(there) }));
  return there.length < effects.length ? say`Its colour table is not in this project: choose it from its file once more.` : '';
}
