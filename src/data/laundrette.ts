import { newPlannedShot, type PlannedShot, type Prop, RECIPES } from '@/core/plan';
import { say } from '@/core/words';

/** The night laundrette's fixtures as the simulated room has them, the camera's axis at x = 0. Metres. */
const FIXTURES: readonly Omit<Prop, 'id'>[] = [
  ...[-2.78, -2.06, -1.34, -0.62, 0.1, 0.82].map((x, i) => ({
    name: say`Machine ${i + 1}`,
    kind: 'prop' as const,
    x: x + 0.34,
    z: 4.83,
    width: 0.68,
    depth: 0.75,
    height: 1.04,
    base: 0.04,
  })),
  { name: 'Pillar', kind: 'structure', x: 1.71, z: 4.4, width: 0.3, depth: 0.3, height: 3.2, base: 0 },
  { name: 'Cupboard', kind: 'prop', x: 2.58, z: 4.98, width: 1.25, depth: 0.45, height: 2.05, base: 0 },
  { name: say`Folding table`, kind: 'prop', x: 2.02, z: 3.3, width: 1.45, depth: 0.7, height: 0.05, base: 0.84 },
  { name: 'Bench', kind: 'prop', x: -2.1, z: 3.65, width: 1.3, depth: 0.4, height: 0.05, base: 0.42 },
  { name: 'Clock', kind: 'structure', x: 1.32, z: 5.15, width: 0.42, depth: 0.06, height: 0.42, base: 1.81 },
];

const LAMPS = [
  { id: 'lamp1', name: say`Left lamp`, x: -1.55, z: 3.3, height: 2.2, size: 0.26 },
  { id: 'lamp2', name: say`Middle lamp`, x: 0.15, z: 2.5, height: 2.42, size: 0.32 },
  { id: 'lamp3', name: say`Right lamp`, x: 1.72, z: 3.1, height: 2.2, size: 0.26 },
];

/** The laundrette seen from `shift` metres further right. */
function inTheLaundrette(plan: PlannedShot, shift: number): PlannedShot {
  return {
    ...plan,
    room: { left: 3.2 + shift, right: 4.4 - shift, back: 5.2, behind: 2.4 },
    props: FIXTURES.map((p, i) => ({ ...p, id: `fixture${i + 1}`, x: p.x - shift })),
    lamps: LAMPS.map((l) => ({ ...l, x: l.x - shift })),
    camera: { ...plan.camera, captureWidth: 1280, captureHeight: 720 },
  };
}

const recipe = (id: string) => RECIPES.find((r) => r.id === id) ?? RECIPES[0];

/** The demo's planned shots: the curtain reveal that is filmed, clones with a hand-over, a dolly zoom along the machines. */
export function laundrettePlans(date: string): PlannedShot[] {
  const curtain = inTheLaundrette(newPlannedShot('demo-curtain', recipe('curtain reveal'), date), 0);
  const clones = inTheLaundrette(newPlannedShot('demo-clones', recipe('clones'), date), 2);
  const dolly = inTheLaundrette(newPlannedShot('demo-dolly', recipe('dolly zoom'), date), 0);
  return [
    { ...curtain, bar: 9, ticked: [] },
    {
      ...clones,
      name: say`Clones: the hand-over`,
      bar: 17,
      inputs: { ...clones.inputs, contact: 'a folded sheet' },
      places: clones.places.map((p, i) => ({
        ...p,
        x: i ? 1.15 : -1.2,
        z: i ? 3.25 : 3.4,
        actions: p.actions.map((a) => ({ ...a, left: i ? 1.5 : 0.45, right: i ? 0.45 : 1.3 })),
      })),
    },
    {
      ...dolly,
      name: say`Dolly zoom along the machines`,
      bar: 25,
      camera: { ...dolly.camera, captureWidth: 3840, captureHeight: 2160, focus: 2.6, aperture: 8 },
      places: dolly.places.map((p) => ({ ...p, z: 2.6, x: -0.2 })),
      dolly: { end: 1.1 },
    },
  ];
}
