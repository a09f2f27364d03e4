import type { Unit } from '../units';
import { say } from '../words';

/** What was seen of a take that nobody has planned. */
export interface SeenTake {
  id: string;
  /** Takes of one number show one place before one camera. */
  place: number;
  /** Part of its frames in which somebody is there. */
  there: Unit;
  /** How much of the frame they fill where they are. */
  size: Unit;
  /** Where they mostly are, from the left to the right, as parts of the frame's width; null with nobody there. */
  span: readonly [from: Unit, to: Unit] | null;
}

/** Takes that belong together, and what can be made of them. */
export interface SortedTakes {
  /** The recipe whose slots they fill; null for a take by itself. */
  recipe: 'clones' | 'curtain reveal' | 'vanish and reappear' | null;
  /** With the slot of the recipe each fills; '' by itself. */
  takes: { id: string; slot: string }[];
  /** What they look like, in words. */
  looks: string;
}

/** Somebody in fewer of its frames is a hand that started the camera. */
const NOBODY = 0.04;
/** What is this much smaller than whoever is largest in the room is no performer: noise, a curtain that moves. */
const SMALL = 0.25;
/** Two who are in each other's way by more of the narrower one's room are in one place. */
const IN_THE_WAY = 0.3;
/** Clones of the recipe's places. */
const MOST = 5;

const inTheWay = (a: readonly [Unit, Unit], b: readonly [Unit, Unit]): boolean => {
  const shared = Math.min(a[1], b[1]) - Math.max(a[0], b[0]);
  return shared > IN_THE_WAY * Math.min(a[1] - a[0], b[1] - b[0]);
};

/** The most of some takes, in their order, of whom nobody is in another's way. */
function apart(takes: readonly SeenTake[]): SeenTake[] {
  const out: SeenTake[] = [];
  for (const take of takes) {
    const { span } = take;
    if (span && out.length < MOST && out.every((o) => o.span && !inTheWay(o.span, span))) out.push(take);
  }
  return out.toSorted((a, b) => (a.span?.[0] ?? 0) - (b.span?.[0] ?? 0));
}

const counted = (n: number) => ['no', 'one', 'two', 'three', 'four', 'five'][n] ?? String(n);

/**
 * What takes look like, place by place: performers apart in one room are clones, in one spot a reveal between them, one and an empty room
 * somebody who vanishes. A judgement from where people are (common practice); what is left over stands by itself.
 */
export function sortTakes(takes: readonly SeenTake[]): SortedTakes[] {
  const places = [...new Set(takes.map((t) => t.place))];
  return places.flatMap((place): SortedTakes[] => {
    const here = takes.filter((t) => t.place === place);
    const largest = Math.max(...here.map((t) => t.size));
    const plates = here.filter((t) => t.there < NOBODY || !t.span || t.size < SMALL * largest);
    const acted = here.filter((t) => !plates.includes(t));
    const plate = plates.slice(0, 1).map(({ id }) => ({ id, slot: 'plate' }));
    const withPlate = plate.length > 0 ? say`, and the empty room` : '';
    const alone = (left: readonly SeenTake[]) =>
      left.map(({ id }) => ({ recipe: null, takes: [{ id, slot: '' }], looks: say`a take by itself` }));
    const clones = apart(acted);
    if (clones.length > 1)
      return [
        {
          recipe: 'clones',
          takes: [...plate, ...clones.map(({ id }, i) => ({ id, slot: `place-p${i + 1}` }))],
          looks: say`one room, with ${counted(clones.length)} performers at places of their own${withPlate}: clones`,
        },
        ...alone(acted.filter((t) => !clones.includes(t))),
      ];
    if (acted.length > 1)
      return [
        {
          recipe: 'curtain reveal',
          takes: [...plate, ...acted.slice(0, 2).map(({ id }, i) => ({ id, slot: ['one', 'two'][i] }))],
          looks: say`one room, twice with a performer at the same place${withPlate}: a reveal from one to the other`,
        },
        ...alone(acted.slice(2)),
      ];
    if (acted.length === 1 && plate.length > 0)
      return [
        {
          recipe: 'vanish and reappear',
          takes: [...plate, { id: acted[0].id, slot: 'go' }],
          looks: say`one room, with a performer and empty: somebody who vanishes`,
        },
      ];
    return alone(here);
  });
}
