import type { Metres, Seconds } from '../units';
import { say } from '../words';
import { type View, viewOf } from './camera';
import type { PlanContext, Recipe } from './recipe';
import { RECIPES } from './recipes';
import type { PlannedShot } from './schema';
import { SENSORS } from './sensors';
import { type Seam, seamsOf } from './zones';

/** How long a bar lasts; from the song, or 120 BPM in four while there is none. */
export interface Tempo {
  barSeconds: Seconds;
  beatSeconds: Seconds;
}

/** The recipe of a planned shot; the first of all when a newer version's recipe is not known here. */
export function recipeOf(shot: PlannedShot): Recipe {
  return RECIPES.find((r) => r.id === shot.recipe) ?? RECIPES[0];
}

/** A shot to plan, from nothing but its recipe. `date` is YYYY-MM-DD. */
export function newPlannedShot(id: string, recipe: Recipe, date: string): PlannedShot {
  const places = recipe.places.map((p, i) => ({ ...p, id: `p${i + 1}`, tape: i }));
  const subject: Metres = Math.max(...places.map((p) => p.z));
  return {
    id,
    name: recipe.name,
    recipe: recipe.id,
    inputs: Object.fromEntries(recipe.inputs.map((input) => [input.key, input.value])),
    bar: 1,
    bars: recipe.bars,
    room: { left: 2.8, right: 2.8, back: 5.2, behind: 1 },
    camera: {
      sensor: SENSORS[0],
      orientation: 'lying',
      focal: 28,
      height: 1.22,
      tilt: 0,
      captureWidth: 1920,
      captureHeight: 1080,
      captureFps: 25,
      aperture: 5.6,
      iso: 800,
      shutter: 1 / 50,
      focus: subject,
      mains: 50,
    },
    places,
    props: (recipe.props ?? []).map((p, i) => ({ ...p, id: `prop${i + 1}` })),
    lamps: (recipe.lamps ?? [{ name: say`Lamp`, x: -1.6, z: 2.2, height: 2.4, size: 0.3 }]).map((l, i) => ({ ...l, id: `lamp${i + 1}` })),
    delivery: { slowest: 100, scale: 100, overscan: 102, stabilise: 100, cropAspect: 0 },
    dolly: { end: Math.max(0.8, subject - 1) },
    outdoors: null,
    schedule: {
      date,
      time: '19:00',
      setUpMinutes: 40,
      outfitMinutes: 12,
      rigMinutes: 15,
      lampMinutes: 10,
      breakMinutes: 10,
      breakEvery: 90,
      bitrate: 100,
      cardGigabytes: 64,
      batteryMinutes: 90,
    },
    order: [],
    ticked: [],
  };
}

/** The seams a planned shot needs: none when its recipe does not lay takes side by side. */
export function plannedSeams(shot: PlannedShot, view: View): Seam[] {
  return recipeOf(shot).sideBySide ? seamsOf(view, shot.places, shot.props) : [];
}

/** What the recipe's functions look at. */
export function contextOf(shot: PlannedShot, tempo: Tempo): PlanContext {
  const recipe = recipeOf(shot);
  const view = viewOf(shot.camera);
  const seams = seamsOf(view, shot.places, shot.props);
  const answer = (key: string) => shot.inputs[key] ?? recipe.inputs.find((i) => i.key === key)?.value;
  const places = [...shot.places].sort((a, b) => a.x / a.z - b.x / b.z);
  return {
    shot,
    number: (key) => {
      const value = answer(key);
      return typeof value === 'number' ? value : Number.NaN;
    },
    text: (key) => String(answer(key) ?? ''),
    ...tempo,
    seams: seams.map((s) => Math.min(1, Math.max(0, s.x / view.width))),
    places,
  };
}
