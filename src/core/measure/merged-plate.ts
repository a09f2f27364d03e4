import { blackPlanes, type Planes } from '../picture';
import { lengthOf } from '../units';
import { countOf, emptyMask, grow, type Mask, partsOf } from './grid';
import type { CleanPlate } from './plate';

/** Two plates show the same at a pixel when they differ by no more than this beside their own straying; code values. */
const ALIKE = 7;
/** A choice between plates is sure when the second best's edge steps by this much more, code values. */
const CLEAR = 1;

/**
 * For each pixel a plate that most agree with, and whether more than half do; of those that agree the brightest, for what is a
 * little darker may lie in somebody's shadow. Holes have no say.
 */
function votes(plates: readonly CleanPlate[]): { chosen: Uint8Array; unsure: Mask } {
  const { width, height } = plates[0].planes;
  const chosen = new Uint8Array(width * height);
  const unsure = emptyMask(width, height);
  const half = width >> 1;
  for (let i = 0; i < chosen.length; i++) {
    const x = i % width;
    const j = (((i - x) / width) >> 1) * half + (x >> 1);
    const known = plates.map((_, t) => t).filter((t) => !plates[t].holes.data[i]);
    let most = 0;
    for (const t of known) {
      const a = plates[t];
      const agree = known.filter((s) => {
        const b = plates[s];
        const slack = ALIKE + (a.spread[i] + b.spread[i]) / 4;
        const colour = lengthOf(a.planes.u[j] - b.planes.u[j], a.planes.v[j] - b.planes.v[j]);
        return Math.abs(a.planes.y[i] - b.planes.y[i]) <= slack && colour <= ALIKE;
      });
      if (agree.length > most) {
        most = agree.length;
        chosen[i] = agree.reduce((best, s) => (plates[s].planes.y[i] > plates[best].planes.y[i] ? s : best), t);
        if (most === known.length) break;
      }
    }
    unsure.data[i] = known.length > 1 && most * 2 <= known.length ? 1 : 0;
    if (known.length === 0) unsure.data[i] = 1;
  }
  return { chosen, unsure };
}

/** Pixels from what differs to what is sure, across a soft outline. */
const ACROSS = 3;

/** A step across an outline counts for no more than this: an edge of the set that happens to lie there decides nothing. */
const MOST_STEP = 30;

/** How badly each plate, laid into a part, meets what is sure around it: mean step in brightness and colour across the outline of what differs. */
function misfits(plates: readonly CleanPlate[], pixels: Iterable<number>, unsure: Mask, sure: Planes): number[] {
  const { width, height } = sure;
  const sums = plates.map(() => 0);
  let n = 0;
  const half = width >> 1;
  const chroma = (i: number) => (Math.floor(i / width) >> 1) * half + ((i % width) >> 1);
  for (const i of pixels) {
    if (!unsure.data[i]) continue;
    const x = i % width;
    for (const [inside, next] of [
      [x >= ACROSS, i - ACROSS],
      [x < width - ACROSS, i + ACROSS],
      [i >= ACROSS * width, i - ACROSS * width],
      [i < width * (height - ACROSS), i + ACROSS * width],
    ] as const) {
      if (!inside || unsure.data[next]) continue;
      n++;
      const [j, k] = [chroma(i), chroma(next)];
      plates.forEach(({ planes }, t) => {
        const step = Math.abs(planes.y[i] - sure.y[next]) + Math.abs(planes.u[j] - sure.u[k]) + Math.abs(planes.v[j] - sure.v[k]);
        sums[t] += Math.min(MOST_STEP, step);
      });
    }
  }
  return sums.map((s) => (n ? s / n : 0));
}

/**
 * One clean plate from the plates of several takes in each of which somebody may stand still in the way. Where more than half of
 * them agree, that is the set; a part in which they do not is taken whole from the take that meets its surroundings best (as in
 * interactive digital photomontage, Agarwala et al. 2004). Parts that none clearly fits are holes. All have one size.
 */
export function mergedPlate(plates: readonly CleanPlate[]): CleanPlate {
  if (plates.length === 1) return plates[0];
  const { width, height } = plates[0].planes;
  const { chosen, unsure } = votes(plates);
  // A little more than what differs, so that a figure's soft outline goes with it.
  const parts = grow(unsure, 3);
  const sure = blackPlanes(width, height);
  const pick = (i: number) => plates[chosen[i]];
  laid(sure, pick);
  const holes = emptyMask(width, height);
  for (const { pixels } of partsOf(parts, 1)) {
    const costs = misfits(plates, pixels, unsure, sure);
    const order = costs.map((_, t) => t).sort((a, b) => costs[a] - costs[b]);
    const doubtful = pixels.length > 200 && costs[order[1]] < costs[order[0]] + CLEAR;
    for (const i of pixels) {
      chosen[i] = order[0];
      if (doubtful || plates[order[0]].holes.data[i]) holes.data[i] = 1;
    }
  }
  const [spread, agree] = [new Uint8Array(width * height), new Uint8Array(width * height)];
  for (let i = 0; i < chosen.length; i++) {
    spread[i] = pick(i).spread[i];
    agree[i] = pick(i).agree[i];
  }
  laid(sure, pick);
  return { planes: sure, spread, agree, holes, holeShare: countOf(holes) / holes.data.length };
}

/** Fills `out` from the plate picked for each pixel. */
function laid(out: Planes, pick: (i: number) => CleanPlate): void {
  const half = out.width >> 1;
  for (let i = 0; i < out.y.length; i++) out.y[i] = pick(i).planes.y[i];
  for (let j = 0; j < out.u.length; j++) {
    const { planes } = pick(2 * Math.floor(j / half) * out.width + 2 * (j % half));
    out.u[j] = planes.u[j];
    out.v[j] = planes.v[j];
  }
}
