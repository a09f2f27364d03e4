import { footageOf, type Project, type Shot } from '@/core/document';
import { plainShot } from '@/core/edit';
import { sceneOf } from '@/core/evaluate';
import { type Layer, plainEffect, plainLayer, remapKeyAt, still } from '@/core/layer';
import type { ChannelMatch } from '@/core/measure';
import { say } from '@/core/words';
import { matchFrames } from './jobs';
import { changeShot } from './shots';
import { useProject } from './store';

const KIND = 'lift gamma gain';

/** A layer by itself, as large as it comes: nothing before it, nothing of it left out. */
const alone = (layer: Layer, effects: Layer['effects']): Layer => {
  const { x: _, y: __, scale: ___, turn: ____, opacity: _____, ...numbers } = layer.numbers;
  return { ...layer, on: true, numbers, masks: [], effects, blend: 'normal', edge: 'mirror', shutter: 0 };
};

/** A project that shows one layer of a shot and nothing else. */
function showing(project: Project, shot: Shot, layer: Layer): Project {
  const { transition: _, ...bare } = shot;
  return { ...project, overAll: undefined, shots: [{ ...bare, move: null, layers: [layer] }] };
}

/** The effect that gives a layer what was measured. */
const matched = (match: readonly ChannelMatch[]) =>
  Object.fromEntries(
    match.flatMap(({ lift, gamma, gain }, c) =>
      Object.entries({ lift, gamma, gain }).map(([name, value]) => [`${name}${'RGB'[c]}`, still(Math.round(1000 * value) / 10)]),
    ),
  );

/** What a layer's colour can be matched to: the other layers of its shot, and the takes of the project. */
export type Like = { layerId: string } | { takeId: string };

/**
 * Gives a layer the tones of another layer at the playhead, or of the middle of a take: by lift, gamma and gain, in the place of those it has.
 * Throws a sentence where one of them shows nothing.
 */
export async function matchTo(project: Project, shot: Shot, layer: Layer, like: Like): Promise<void> {
  if (!project.shots.some((s) => s.id === shot.id))
    throw new Error(say`This shot lies within another. Match colours of layers on the score.`);
  const { first, end } = sceneOf(project, shot);
  const { playhead } = useProject.getState();
  const frame = Math.min(end - 1, Math.max(first, playhead));
  const known = layer.effects.findIndex((e) => e.kind === KIND && e.madeBy === 'user');
  const before = known < 0 ? layer.effects : layer.effects.slice(0, known);
  const other = 'layerId' in like ? shot.layers.find((l) => l.id === like.layerId) : takeAlone(project, like.takeId);
  if (!other) throw new Error(say`What it was to be matched to is gone.`);
  const shown = 'layerId' in like ? showing(project, shot, alone(other, other.effects)) : showing(project, plainFor(shot, other), other);
  const match = await matchFrames(showing(project, shot, alone(layer, before)), frame, shown, frame);
  if (!match) throw new Error(say`One of the two shows nothing here. Put the playhead where both are seen.`);
  const effect = plainEffect(known < 0 ? `effect-${crypto.randomUUID().slice(0, 8)}` : layer.effects[known].id, KIND, matched(match));
  const put = (effects: Layer['effects']) => (known < 0 ? [...effects, effect] : effects.map((e) => (e.id === effect.id ? effect : e)));
  changeShot(
    shot.id,
    say`Match the colour of a layer`,
    (s) => ({ ...s, layers: s.layers.map((l) => (l.id === layer.id ? { ...l, effects: put(l.effects) } : l)) }),
    [],
    project.id,
  );
}

/** The middle of a take, standing still. */
function takeAlone(project: Project, takeId: string): Layer | null {
  if (!project.takes.some((t) => t.id === takeId)) return null;
  const { from, to } = footageOf(project, takeId);
  return plainLayer('like', 'Like', 0, { kind: 'take', takeId }, [remapKeyAt(0, 0, (from + to) / 2, 0)]);
}

const plainFor = (shot: Shot, layer: Layer): Shot => plainShot('like', 'Like', shot.start, shot.end, { layers: [layer] });
