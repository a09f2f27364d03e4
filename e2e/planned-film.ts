import { expect, type Page } from '@playwright/test';
import type { Project } from '../src/core/document/index';
import { layerSecond, sceneOf, shotFrames } from '../src/core/evaluate/index';
import { placeFrame } from '../src/core/layer/index';
import type { Move, MoveOf } from '../src/core/moves/index';
import { newPlannedShot, RECIPES } from '../src/core/plan/index';
import { kept, rawVideo } from './helpers';
import { CLIP_HEIGHT, CLIP_WIDTH } from './staged-clips';
import { files, toLog } from './stored';

/** Frames of clips and films are compared small. */
const [W, H] = [160, 90];

/** A recipe, the takes in its slots by the names of their clips, the bar it is planned on and what is typed of its inputs. */
export interface Planned {
  recipe: string;
  slots: Readonly<Record<string, string>>;
  bar: number;
  inputs?: Record<string, number>;
}

type TakeMore = (clip: string) => Partial<Project['takes'][number]>;

/** The open project with its takes put into the slots of a plan for each recipe, and nothing on the score. */
export async function plannedProject(page: Page, planned: readonly Planned[], more: TakeMore = () => ({})): Promise<Project> {
  const project = await kept(page);
  const media = (name: string) => {
    const found = project.media.find((m) => m.name === `${name}.mp4`);
    if (!found) throw new Error(`${name} was not taken in`);
    return found.id;
  };
  const [like] = project.takes;
  const plans = planned.map(({ recipe: id, bar, inputs }, i) => {
    const recipe = RECIPES.find((r) => r.id === id);
    if (!recipe) throw new Error(`no recipe ${id}`);
    const plan = newPlannedShot(`plan-${i}`, recipe, '2026-01-01');
    return { ...plan, bar, inputs: { ...plan.inputs, ...inputs } };
  });
  const takes = planned.flatMap(({ slots }, i) =>
    Object.entries(slots).map(([slot, name]) => ({
      ...like,
      id: `${slot}-${i}`,
      mediaId: media(name),
      plan: `plan-${i}`,
      slot,
      live: null,
      correction: null,
      part: null,
      ...more(name),
    })),
  );
  return {
    ...project,
    frame: { ...project.frame, width: CLIP_WIDTH, height: CLIP_HEIGHT },
    plans,
    takes,
    shots: [],
    unplacedShots: [],
    nestedShots: [],
  };
}

/** Takes clips into the open project and waits until they are. */
export async function takeIn(page: Page, clips: readonly string[]): Promise<void> {
  await toLog(page);
  await files(page).setInputFiles([...clips]);
  const known = async () => (await kept(page)).media.map((m) => m.name);
  await expect.poll(known, { timeout: 120_000 }).toEqual(expect.arrayContaining(clips.map((file) => file.replace(/.*\//, ''))));
}

const framesOf = (raw: Uint8Array) => Array.from({ length: raw.length / (W * H) }, (_, i) => raw.subarray(i * W * H, (i + 1) * W * H));
const smallFrames = (file: string) => framesOf(rawVideo(file, `format=gray,scale=${W}:${H}:flags=area`));

/** The frames of clips by their names, at seconds of them. */
export function filmedFrames(clips: readonly string[]): (name: string, second: number) => Uint8Array {
  const small = new Map(clips.map((file) => [file.replace(/.*\/|\.mp4/g, ''), smallFrames(file)]));
  return (name, second) => {
    const frames = small.get(name) ?? [];
    return frames[Math.max(0, Math.min(frames.length - 1, Math.round(second * 25)))];
  };
}

/** A film that was made of a project: its frames, and of each kind of move where and what it should be. */
export function madeFilm(project: Project, file: string) {
  const frames = smallFrames(file);
  const shots = new Map(project.shots.map((shot) => [shot.move?.kind, shot]));
  const first = Math.min(...project.shots.map((s) => shotFrames(project, s)[0]));
  return {
    first,
    at: (frame: number) => frames[frame - first],
    of: <K extends Move['kind']>(kind: K) => {
      const shot = shots.get(kind);
      if (!shot) throw new Error(`no ${kind}`);
      const scene = sceneOf(project, shot);
      return {
        move: shot.move as MoveOf<K>,
        frame: (place: { beat: number; offset: number }) => placeFrame(scene, place),
        second: (id: string, frame: number) => {
          const layer = shot.layers.find((l) => l.id === id);
          if (!layer) throw new Error(`no layer ${id}`);
          return layerSecond(project, scene, layer, frame);
        },
        scene,
      };
    },
  };
}

type Within = (x: number, y: number) => boolean;

/** By how much two frames differ in the mean, where they are looked at; `right` pixels of the second further to the right. */
export function difference(a: Uint8Array, b: Uint8Array, inside: Within = () => true, right = 0): number {
  let [sum, n] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    if (!inside(i % W, Math.floor(i / W))) continue;
    sum += Math.abs(a[i] - b[i + right]);
    n++;
  }
  return sum / n;
}

export const mean = (a: Uint8Array, inside: Within = () => true) => difference(a, new Uint8Array(a.length), inside);

/** Around a place of the clips, in the pixels that are compared. */
export const near =
  (left: number, right: number, top = 0, bottom = CLIP_HEIGHT): Within =>
  (x, y) =>
    x >= left / 4 && x < right / 4 && y >= top / 4 && y < bottom / 4;

/** What H.264 and the noise leave between a frame of a take and the same in the film. */
export const SAME = 4;
