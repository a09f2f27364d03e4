import { type ChannelCurves, chained, cornersApart, type Gains, type Homography, ofMove, UNMOVED } from '../picture';
import { median, type Pixels, type Seconds, type Stops } from '../units';
import { say } from '../words';
import { nearestMove } from './fit-homography';
import { type Flicker, findFlicker, LIGHT_BANDS, type LightChange, lightChanges, withoutFlicker } from './flicker';
import type { LightReading } from './light';
import { findBumps, type LockReading } from './lock';
import { cornerMove, NO_MOVE, type Similarity } from './similarity';
import { matchWords, paceWords, type TimeMatch, type Travel, travelOf, travelWords, withoutTravel } from './travel';

/** A whole take against one reference, frame by frame. */
export interface TakeLock {
  times: Seconds[];
  readings: (Similarity & { trusted: boolean })[];
  exposures: (Stops | null)[];
  /** Linear gains over the reference, frame by frame. */
  gains: (Gains | null)[];
  /**
   * How the reference lies in the take before the readings, where a shift, a turn and a scale leave something of it: then they tell what is
   * left. Source pixels, from the middles.
   */
  perspective: Homography | null;
  /** Typical move over the take, all in all: the median of trusted readings from the last bump on, or of all. */
  typical: Similarity;
  /** How far the frame's worst corner is moved by `typical`. */
  corner: Pixels;
  /** Median light difference; null when the background did not serve. */
  light: { gains: { r: number; g: number; b: number }; exposure: Stops; red: number; blue: number } | null;
  /** Steps and fades of the light over the take, and flicker. */
  changes: LightChange[];
  flicker: Flicker | null;
  /** The tone curve by which stops are told. */
  transfer: string;
  /** What is left of the light after the gains, where the tone curves are no gain apart. */
  curves: ChannelCurves | null;
  bumps: { frame: number; time: Seconds; size: Pixels }[];
  /** The camera's own move through the take; null where it stands. */
  travel: Travel | null;
  /** When the reference passes the same places, where both cameras move; null where they stand. */
  match: TimeMatch | null;
  /** Share of frames whose reading can be trusted. */
  trusted: number;
}

function medianMove(readings: readonly Similarity[]): Similarity {
  if (readings.length === 0) return NO_MOVE;
  return {
    dx: median(readings.map((r) => r.dx)),
    dy: median(readings.map((r) => r.dy)),
    turn: median(readings.map((r) => r.turn)),
    scale: median(readings.map((r) => r.scale)),
  };
}

/** Sums up the readings of a take. `width` and `height` are the picture's. */
export function summarise(
  times: Seconds[],
  readings: readonly LockReading[],
  lights: readonly (LightReading | null)[],
  width: Pixels,
  height: Pixels,
  perspective: Homography | null = null,
): TakeLock {
  const travel = travelOf({ times, readings }, width, height);
  const bumps = findBumps(travel ? withoutTravel(readings) : readings, Math.hypot(width, height) / 2).map((b) => ({
    frame: b.index,
    time: times[b.index],
    size: b.size,
  }));
  const good = readings.filter((r) => r.trusted);
  const settled = readings.filter((r, i) => r.trusted && (bumps.length === 0 || i > bumps[bumps.length - 1].frame + 6));
  const left = medianMove(settled.length >= 5 ? settled : good);
  const whole = perspective && chained(ofMove(left), perspective);
  const lit = lights.filter((l) => l !== null);
  const pick = (f: (l: LightReading) => number) => median(lit.map(f));
  const exposures = lights.map((l) => l?.exposure ?? null);
  const flicker = flickerOf(times, lights);
  return {
    times,
    readings: readings.map(({ dx, dy, turn, scale, trusted }) => ({ dx, dy, turn, scale, trusted })),
    exposures,
    gains: lights.map((l) => l?.gains ?? null),
    perspective,
    typical: whole ? nearestMove(whole, width, height) : left,
    corner: whole ? cornersApart(whole, UNMOVED, width, height) : cornerMove(left, width, height),
    light: lit.length
      ? {
          gains: { r: pick((l) => l.gains.r), g: pick((l) => l.gains.g), b: pick((l) => l.gains.b) },
          exposure: pick((l) => l.exposure),
          red: pick((l) => l.red),
          blue: pick((l) => l.blue),
        }
      : null,
    changes: lightChanges(times, withoutFlicker(times, exposures, flicker)),
    flicker,
    transfer: 'BT.709',
    curves: null,
    bumps,
    travel,
    match: null,
    trusted: readings.length ? good.length / readings.length : 0,
  };
}

/** A take's light told by another tone curve: `perStop` stops to one by BT.709. Gains stay as they are, for they are taken out as they were read. */
export function toldBy(lock: TakeLock, { name, perStop }: { name: string; perStop: number }, curves: ChannelCurves | null): TakeLock {
  return {
    ...lock,
    transfer: name,
    curves,
    exposures: lock.exposures.map((e) => (e === null ? null : e * perStop)),
    light: lock.light && { ...lock.light, exposure: lock.light.exposure * perStop },
    changes: lock.changes.map((change) => ({ ...change, size: change.size * perStop })),
    flicker: lock.flicker && { ...lock.flicker, amplitude: lock.flicker.amplitude * perStop },
  };
}

/** Flicker in the frames whose light could be read; bands that could not be read on one frame in ten are left out. */
function flickerOf(times: readonly Seconds[], lights: readonly (LightReading | null)[]): Flicker | null {
  const at = lights.flatMap((l, i) => (l ? [{ time: times[i], bands: l.bands }] : []));
  const bands = Array.from({ length: LIGHT_BANDS }, (_, k) => {
    let last = at.find((p) => Number.isFinite(p.bands[k]))?.bands[k] ?? Number.NaN;
    let missing = 0;
    const series = at.map(({ bands: b }) => {
      if (Number.isFinite(b[k])) last = b[k];
      else missing++;
      return last;
    });
    return missing > at.length / 10 ? [] : series;
  });
  return findFlicker(
    at.map((p) => p.time),
    bands.filter((b) => b.length > 0),
  );
}

/** Sentences about light that does not stay as it is; none when it does. */
export function lightFindings({ changes, flicker }: TakeLock): string[] {
  const out = changes.map(({ kind, from, to, size }) =>
    kind === 'step'
      ? say`The light jumps by ${signed(size, 2)} EV at ${from.toFixed(2)} s: a lamp, or the camera's own exposure.`
      : say`The light fades by ${signed(size, 2)} EV from ${from.toFixed(1)} to ${to.toFixed(1)} s. Use the frames before or after, or correct it.`,
  );
  if (flicker)
    out.push(
      say`Flicker of ±${flicker.amplitude.toFixed(3)} EV at ${flicker.frequency.toFixed(2)} Hz in the frames, ${flicker.kind === 'rolling bars' ? say`as bars that roll through them: set a shutter that is a multiple of the mains’ half period` : say`over the whole frame: a lamp or dimmer, not the shutter`}.`,
    );
  return out;
}

/**
 * The moves to correct by: between bumps the median of the trusted readings (noise gone), or a running median where the
 * camera drifts; around a bump the readings themselves. Source pixels at source times.
 */
export function correctionMoves(lock: TakeLock): ({ time: Seconds } & Similarity)[] {
  const edges = [0, ...lock.bumps.flatMap((b) => [Math.max(0, b.frame - 1), Math.min(lock.times.length, b.frame + 9)]), lock.times.length];
  const out: ({ time: Seconds } & Similarity)[] = [];
  // Two cameras that move are apart by another part of a frame's way on every frame.
  if (lock.match) return lock.readings.flatMap(({ trusted, ...move }, i) => (trusted ? [{ time: lock.times[i], ...move }] : []));
  for (let k = 0; k + 1 < edges.length; k++) {
    const [from, to] = [edges[k], edges[k + 1]];
    const inside = lock.readings
      .map((r, i) => ({ ...r, time: lock.times[i] }))
      .slice(from, to)
      .filter((r) => r.trusted);
    if (inside.length === 0) continue;
    if (k % 2 === 1) {
      out.push(...inside.map(({ time, dx, dy, turn, scale }) => ({ time, dx, dy, turn, scale })));
      continue;
    }
    const middle = medianMove(inside);
    const halves = [inside.slice(0, Math.ceil(inside.length / 3)), inside.slice(-Math.ceil(inside.length / 3))].map(medianMove);
    const drift = Math.hypot(halves[1].dx - halves[0].dx, halves[1].dy - halves[0].dy);
    if (drift < 0.08) {
      out.push({ time: inside[0].time, ...middle }, { time: inside[inside.length - 1].time + 1e-6, ...middle });
    } else {
      for (let i = 0; i < inside.length; i += 5) out.push({ time: inside[i].time, ...medianMove(inside.slice(Math.max(0, i - 7), i + 8)) });
    }
  }
  const ordered = out.filter((m, i) => i === 0 || m.time > out[i - 1].time);
  return ordered.length ? ordered : [{ time: 0, ...NO_MOVE }];
}

/**
 * The gains to correct by, at source times: one for the whole take, or a running median where its light fades or jumps. All 1 when
 * the light could not be read.
 */
export function correctionGains(lock: TakeLock): ({ time: Seconds } & Gains)[] {
  if (!lock.light) return [{ time: 0, r: 1, g: 1, b: 1 }];
  if (lock.changes.length === 0) return [{ time: 0, ...lock.light.gains }];
  const known = lock.gains.flatMap((g, i) => (g ? [{ time: lock.times[i], ...g }] : []));
  return known
    .map((at, i) => {
      const near = known.slice(Math.max(0, i - 3), i + 4);
      return { time: at.time, r: median(near.map((g) => g.r)), g: median(near.map((g) => g.g)), b: median(near.map((g) => g.b)) };
    })
    .filter((_, i) => i % 3 === 0 || i === known.length - 1);
}

/** A plain sentence about a take's lock: what was measured, how sure, what to do. `against` completes "against ...". */
export function lockVerdict(lock: TakeLock, against: string): { level: 'good' | 'fix' | 'unsure'; text: string } {
  if (lock.trusted < 0.5) {
    return {
      level: 'unsure',
      text: say`Only ${Math.round(lock.trusted * 100)} % of the frames show enough still, textured background to follow. No figure is given against ${against}.`,
    };
  }
  const bumps = lock.bumps.map((b) => say`a bump of ${b.size.toFixed(1)} px at ${b.time.toFixed(2)} s`).join(', ');
  const light = lock.light
    ? say` Light ${signed(lock.light.exposure, 2)} EV, red ${signed((lock.light.red - 1) * 100, 1)} %, blue ${signed((lock.light.blue - 1) * 100, 1)} %.`
    : '';
  const tones = lock.curves
    ? ` Its tones follow ${lock.transfer === 'BT.709' ? say`another curve` : lock.transfer}; they are matched level by level.`
    : '';
  const sure = say`${Math.round(lock.trusted * 100)} % of the frames could be followed.`;
  if (lock.travel)
    return {
      level: bumps ? 'fix' : 'good',
      text: say`${travelWords(lock.travel)}${bumps ? say` On its way there is ${bumps}.` : say` Nothing knocks it on its way.`} Takes of one such move are laid on each other at the moments that pass the same places. ${sure}`,
    };
  if (lock.match)
    return {
      level: 'fix',
      text: say`The camera moves as in ${against}, ${matchWords(lock.match)}. There the pictures lie ${lock.corner.toFixed(2)} px apart at the corner.${light} Correct it, so that moves meet at such moments.${paceWords(lock.match)} ${sure}`,
    };
  const lit =
    lock.light && (Math.abs(lock.light.exposure) > 0.03 || Math.abs(lock.light.red - 1) > 0.01 || Math.abs(lock.light.blue - 1) > 0.01);
  if (lock.corner <= 0.5 && !bumps)
    return {
      level: lit ? 'fix' : 'good',
      text: say`Locked against ${against}: ${lock.corner.toFixed(2)} px at the corner.${light}${tones} ${sure}`,
    };
  return {
    level: 'fix',
    text: say`Moved against ${against}: ${Math.hypot(lock.typical.dx, lock.typical.dy).toFixed(2)} px and ${lock.typical.turn.toFixed(3)}°, ${lock.corner.toFixed(1)} px at the corner${bumps ? say`, with ${bumps}` : ''}.${light}${tones} ${sure}`,
  };
}

function signed(value: number, digits: number): string {
  return `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(digits)}`;
}
