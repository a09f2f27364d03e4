import type { Beats, Metres, Pixels } from '../units';
import { say } from '../words';
import type { View } from './camera';
import type { Place, PlaceAction, Prop } from './schema';

/** Half the width of a body at rest, metres. Common practice: shoulders and a little sway. */
const HALF_BODY: Metres = 0.3;
/** Least gap between neighbours, as a share of the frame's width. Common practice: room for a soft seam. */
const LEAST_GAP = 0.02;

/** What a place takes up in the frame at rest. Pixels of the captured frame. */
export interface Zone {
  place: Place;
  left: Pixels;
  right: Pixels;
  top: Pixels;
  bottom: Pixels;
  /** Pixels a metre takes up at the place's depth. */
  perMetre: number;
  /** Sides of the frame that cut the zone off, with how many metres are lost there. */
  cut: { side: 'left' | 'right' | 'top' | 'bottom'; metres: Metres }[];
}

/** How far a place reaches to each side at rest and with its widest action, metres. */
function extent(place: Place): { rest: Metres; left: Metres; right: Metres } {
  const rest = Math.max(HALF_BODY, place.reach);
  return { rest, left: Math.max(rest, ...place.actions.map((a) => a.left)), right: Math.max(rest, ...place.actions.map((a) => a.right)) };
}

function span(view: View, place: Place, left: Metres, right: Metres): { left: Pixels; right: Pixels; top: Pixels; bottom: Pixels } {
  const corners = [
    [-left, 0],
    [right, 0],
    [-left, place.height],
    [right, place.height],
  ].map(([dx, y]) => view.project({ x: place.x + dx, y, z: place.z }));
  return {
    left: Math.min(...corners.map((c) => c.x)),
    right: Math.max(...corners.map((c) => c.x)),
    top: Math.min(...corners.map((c) => c.y)),
    bottom: Math.max(...corners.map((c) => c.y)),
  };
}

/** The zone of one place, feet to head and as wide as the arms reach; what the frame cuts off counts the actions too. */
export function zoneOf(view: View, place: Place): Zone {
  const { rest, left, right } = extent(place);
  const box = span(view, place, rest, rest);
  const acted = span(view, place, left, right);
  const perMetre = view.scale / Math.max(0.05, view.project({ x: place.x, y: place.height / 2, z: place.z }).depth);
  const over = { left: -acted.left, right: acted.right - view.width, top: -acted.top, bottom: acted.bottom - view.height } as const;
  const cut = (['left', 'right', 'top', 'bottom'] as const)
    .filter((side) => over[side] > 0.5)
    .map((side) => ({ side, metres: over[side] / perMetre }));
  return { place, ...box, perMetre, cut };
}

/** A place to cut between two neighbours. */
export interface Seam {
  /** The neighbours, left one first. */
  left: Zone;
  right: Zone;
  /** Free pixels between the zones; negative when they overlap. */
  gap: Pixels;
  /** Where the seam runs. */
  x: Pixels;
  /** Widest feather in pixels that touches neither zone; 0 when they overlap. */
  feather: Pixels;
  /** The upright structure it runs along, if there is one. */
  along: Prop | null;
  /** Actions that reach over the seam, and from which side. */
  crossings: { place: Place; action: PlaceAction; from: Beats; to: Beats; metres: Metres }[];
  /** What to do when the gap is too small; '' when it is not. */
  advice: string;
}

/** Pixels from left to right that an upright structure covers. */
function across(view: View, prop: Prop): { left: Pixels; right: Pixels } {
  const edges = [prop.x - prop.width / 2, prop.x + prop.width / 2].flatMap((x) =>
    [prop.z - prop.depth / 2, prop.z + prop.depth / 2].map((z) => view.project({ x, y: prop.base + prop.height / 2, z })),
  );
  const seen = edges.filter((e) => e.depth > 0.05).map((e) => e.x);
  return { left: Math.min(...seen), right: Math.max(...seen) };
}

const metres = (value: Metres) => `${value.toFixed(2)} m`;

function adviceFor(view: View, left: Zone, right: Zone, gap: Pixels): string {
  const need = LEAST_GAP * view.width - gap;
  if (need <= 0) return '';
  const options = [
    { zone: left, way: 'left', room: left.left - need >= 0 },
    { zone: right, way: 'right', room: right.right + need <= view.width },
  ].sort((a, b) => Number(b.room) - Number(a.room) || a.zone.perMetre - b.zone.perMetre);
  const [best] = options;
  const step = Math.ceil((need / best.zone.perMetre) * 20) / 20;
  if (best.room) return say`Move ${best.zone.place.name} by ${metres(step)} ${best.way}.`;
  const half = Math.ceil((need / (left.perMetre + right.perMetre)) * 20) / 20;
  return say`There is no room at the sides: move both apart by ${metres(half)} and the camera back, or take a shorter lens.`;
}

/**
 * Seams between neighbours in the frame, from left to right. A seam runs in the middle of the gap, or along an upright
 * structure that stands in the gap (the one nearest its middle). Where zones overlap, it runs in the middle of the
 * overlap and the advice says who moves, by how much.
 */
export function seamsOf(view: View, places: readonly Place[], props: readonly Prop[]): Seam[] {
  const zones = places.map((p) => zoneOf(view, p)).sort((a, b) => a.left + a.right - b.left - b.right);
  return zones.slice(1).map((right, i) => {
    const left = zones[i];
    const gap = right.left - left.right;
    const middle = (left.right + right.left) / 2;
    const structures = props
      .filter((p) => p.kind === 'structure')
      .map((prop) => ({ prop, ...across(view, prop) }))
      .map((s) => ({ prop: s.prop, x: (s.left + s.right) / 2 }))
      .filter((s) => s.x > left.right && s.x < right.left)
      .sort((a, b) => Math.abs(a.x - middle) - Math.abs(b.x - middle));
    const x = structures[0]?.x ?? middle;
    const crossings = [left, right].flatMap((zone) =>
      zone.place.actions
        .map((action) => {
          const box = span(view, zone.place, action.left, action.right);
          return { place: zone.place, action, from: action.from, to: action.to, over: zone === left ? box.right - x : x - box.left, zone };
        })
        .filter((c) => c.over > 0)
        .map(({ place, action, from, to, over, zone: z }) => ({ place, action, from, to, metres: over / z.perMetre })),
    );
    return {
      left,
      right,
      gap,
      x,
      feather: Math.max(0, 2 * Math.min(x - left.right, right.left - x)),
      along: structures[0]?.prop ?? null,
      crossings,
      advice: adviceFor(view, left, right, gap),
    };
  });
}

/** A mark to tape down, measured from the camera. */
export interface FloorMark {
  what: string;
  /** Right of the axis is positive. */
  across: Metres;
  /** Along the axis from under the lens. */
  along: Metres;
  /** Straight from under the lens, for one tape measure. */
  straight: Metres;
}

/** Floor marks of the places, to tape down with a tape measure along the camera's axis. */
export function floorMarks(places: readonly Place[]): FloorMark[] {
  return places.map((p) => ({ what: p.name, across: p.x, along: p.z, straight: Math.hypot(p.x, p.z) }));
}

/** Where an actor looks to meet the eyes of a partner who is not there. */
export interface EyeLine {
  from: Place;
  to: Place;
  /** Height of the absent eyes above the floor. */
  height: Metres;
  /** Distance on the floor. */
  distance: Metres;
  /** Turn from looking into the lens: to the actor's left as the camera sees it (frame right) positive, degrees. */
  turn: number;
  /** Up positive, degrees. */
  lift: number;
}

/** Height of a performer's eyes above the floor: about 93 % of body height (anthropometric handbooks, from memory). */
export function eyeHeight(place: Place): Metres {
  return 0.93 * place.height;
}

/** Eye lines between all pairs of places. */
export function eyeLines(places: readonly Place[]): EyeLine[] {
  return places.flatMap((from) =>
    places
      .filter((to) => to !== from)
      .map((to) => {
        const [dx, dz] = [to.x - from.x, to.z - from.z];
        const distance = Math.hypot(dx, dz);
        const toLens = Math.atan2(-from.x, -from.z);
        const toPartner = Math.atan2(dx, dz);
        let turn = ((toLens - toPartner) * 180) / Math.PI;
        turn = ((turn + 540) % 360) - 180;
        const height = eyeHeight(to);
        return { from, to, height, distance, turn, lift: (Math.atan2(height - eyeHeight(from), distance) * 180) / Math.PI };
      }),
  );
}
