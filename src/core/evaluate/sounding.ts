import type { Project, Shot } from '../document';
import { soundOfTake } from '../document';
import { type Layer, layerFrames, type Scene, sourceSecond } from '../layer';
import { frameToSeconds } from '../time';
import type { Seconds } from '../units';
import { sceneOf, sceneWithin, shotOverAll } from './shot-scene';

/** A take's sound as a shot lets it be heard: between two song times, which second of its file at which time. */
export interface Sounding {
  mediaId: string;
  from: Seconds;
  to: Seconds;
  secondAt(time: Seconds): Seconds;
  /** Whether its pitch is kept however fast it runs. */
  pitchKept: boolean;
}

function soundOf(project: Project, scene: Scene, layer: Layer): Sounding[] {
  if (layer.source.kind !== 'take' || layer.sound === 'none' || !layer.on) return [];
  const source = soundOfTake(project, layer.source.takeId);
  if (!source) return [];
  const [first, end] = layerFrames(scene, layer);
  const [from, to] = [frameToSeconds(first, scene.rate), frameToSeconds(end, scene.rate)];
  const begin = sourceSecond(scene, layer, from);
  const own = layer.sound === 'kept' ? (time: Seconds) => begin + time - from : (time: Seconds) => sourceSecond(scene, layer, time);
  const secondAt = (time: Seconds) => source.at(own(time));
  return to > from ? [{ mediaId: source.mediaId, from, to, secondAt, pitchKept: layer.sound === 'pitch kept' }] : [];
}

/** As deep as shots may lie within shots. */
const DEEPEST = 6;

function within(project: Project, shot: Shot, scene: Scene, depth: number): Sounding[] {
  return shot.layers.flatMap((layer) => {
    const { source } = layer;
    if (source.kind !== 'shot') return soundOf(project, scene, layer);
    const inner = project.nestedShots.find((s) => s.id === source.shotId);
    if (!inner || depth >= DEEPEST || !layer.on) return [];
    const there = sceneWithin(project, scene, layer, inner);
    return within(project, inner, { ...there, end: Math.min(scene.end, there.end) }, depth + 1);
  });
}

/** Every take's sound that the shots of a project let be heard. */
export function soundings(project: Project): Sounding[] {
  const over = shotOverAll(project);
  return [...project.shots, ...(over ? [over] : [])].flatMap((shot) => within(project, shot, sceneOf(project, shot), 0));
}
