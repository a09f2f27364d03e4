import type { Metres, Stops } from '../units';
import { say } from '../words';
import { type View, viewOf } from './camera';
import { type DollyZoom, dollyZoom } from './dolly';
import {
  exposureChange,
  flickerFree,
  type Payment,
  type SafeShutter,
  type SlowMotion,
  safeShutters,
  shutterAngle,
  shutterLabel,
  slowMotion,
  waysToPay,
} from './exposure';
import { apertureToHold, depthOfField, engravedAperture, fieldAt } from './optics';
import { plannedSeams, type Tempo } from './plan';
import { type ResolutionNeed, resolutionNeed } from './resolution';
import type { LengthUnit, PlannedShot } from './schema';
import { capturedFrame, circleOfConfusion, filmedArea } from './sensors';
import { type Shadow, type ShadowCrossing, shadowCrossings, shadowsOf } from './shadows';
import { clock, type LightWindow, lightWindow, type SunDay, shadowDrift, sunAt, sunDay } from './sun';
import { showLength } from './units';
import { type Seam, type Zone, zoneOf } from './zones';

/** A sentence about the set: what was worked out, and what to do. */
export interface Judgement {
  level: 'good' | 'unsure' | 'fix';
  text: string;
}

export interface Sharpness {
  near: Metres;
  far: Metres;
  /** Nearest and furthest place, and what holds both. */
  nearest: Metres;
  furthest: Metres;
  focus: Metres;
  aperture: number;
  /** Light lost against the aperture now set; 0 when it holds already. */
  cost: Stops;
  payments: Payment[];
  soft: string[];
}

export interface LightPlan {
  safe: SafeShutter[];
  slow: SlowMotion;
  angle: number;
  judgements: Judgement[];
}

export interface OutdoorPlan {
  day: SunDay;
  altitude: number;
  bearing: number;
  drift: number | null;
  matching: LightWindow | null;
  judgement: Judgement;
}

/** All that is worked out of a set, live. */
export interface SetReport {
  view: View;
  zones: Zone[];
  seams: Seam[];
  shadows: Shadow[];
  crossings: ShadowCrossing[];
  fields: { what: string; distance: Metres; width: Metres; height: Metres }[];
  sharpness: Sharpness | null;
  light: LightPlan;
  resolution: ResolutionNeed;
  dolly: DollyZoom | null;
  outdoors: OutdoorPlan | null;
  judgements: Judgement[];
}

/** Works out everything about a planned set. `frame` is the film's size in pixels and rate in frames a second. */
export function judgeSet(
  shot: PlannedShot,
  tempo: Tempo,
  frame: { width: number; height: number; fps: number },
  unit: LengthUnit,
): SetReport {
  const view = viewOf(shot.camera);
  const zones = shot.places.map((p) => zoneOf(view, p));
  const seams = plannedSeams(shot, view);
  const shadows = shadowsOf(view, shot);
  const crossings = shadowCrossings(shadows, seams);
  const sharpness = sharpnessOf(shot, frame.fps);
  const light = lightPlan(shot, frame.fps);
  const dolly = shot.recipe === 'dolly zoom' && shot.places[0] ? dollyOf(shot, tempo) : null;
  const resolution = resolutionNeed(frame, capturedFrame(shot.camera), shot.delivery, dolly?.pixels ?? 1);
  const outdoors = outdoorPlan(shot);
  const judgements = [
    ...zones.flatMap((z) => zoneJudgements(z, shot, unit)),
    ...seams.flatMap((s) => seamJudgements(s, view, unit)),
    ...(sharpness ? sharpnessJudgements(sharpness, shot, unit) : []),
    ...light.judgements,
    ...crossings.map(
      (c): Judgement => ({
        level: c.advice.startsWith(say`A feather`) ? 'unsure' : 'fix',
        text: say`The shadow of ${c.shadow.place.name} from ${c.shadow.lamp.name} reaches ${Math.round(c.over)} px over the seam, with a soft edge of ${Math.round(c.shadow.penumbraPixels)} px. ${c.advice}`,
      }),
    ),
    { level: resolution.verdict, text: resolution.text },
    ...(dolly ? [{ level: dolly.verdict, text: dolly.text }, ...trackJudgements(shot, unit)] : []),
    ...(outdoors ? [outdoors.judgement] : []),
  ];
  const rank = { fix: 0, unsure: 1, good: 2 };
  return {
    view,
    zones,
    seams,
    shadows,
    crossings,
    fields: fieldsOf(shot),
    sharpness,
    light,
    resolution,
    dolly,
    outdoors,
    judgements: judgements.sort((a, b) => rank[a.level] - rank[b.level]),
  };
}

function fieldsOf(shot: PlannedShot): SetReport['fields'] {
  const area = filmedArea(shot.camera);
  const depths = [...shot.places.map((p) => ({ what: p.name, distance: p.z })), { what: say`Back wall`, distance: shot.room.back }];
  return depths
    .sort((a, b) => a.distance - b.distance)
    .map((d) => ({
      ...d,
      width: fieldAt(area.width, shot.camera.focal, d.distance),
      height: fieldAt(area.height, shot.camera.focal, d.distance),
    }));
}

const CUT = { left: 'on the left', right: 'on the right', top: 'above', bottom: 'below' } as const;

function zoneJudgements(zone: Zone, shot: PlannedShot, unit: LengthUnit): Judgement[] {
  const { place } = zone;
  const out: Judgement[] = zone.cut
    .filter((c) => c.metres > 0.03)
    .map((c) => ({
      level: c.side === 'bottom' ? 'unsure' : 'fix',
      text: say`${place.name} is cut off ${CUT[c.side]} by ${showLength(c.metres, unit)}${
        c.side === 'top' || c.side === 'bottom'
          ? shot.camera.orientation === 'lying'
            ? say`: move back, take a shorter lens, or tilt.`
            : say`: move back or take a shorter lens.`
          : say`: arms and actions need it. Move the place ${c.side === 'left' ? 'right' : 'left'} by as much${shot.camera.orientation === 'upright' ? say`, or hold the camera lying` : ''}.`
      }`,
    }));
  const { room } = shot;
  if (place.x - place.reach < -room.left || place.x + place.reach > room.right || place.z > room.back - 0.3)
    out.push({
      level: 'fix',
      text: say`${place.name} stands in a wall: it is ${showLength(place.x, unit)} across and ${showLength(place.z, unit)} away, and the room ends there.`,
    });
  return out;
}

function seamJudgements(seam: Seam, view: View, unit: LengthUnit): Judgement[] {
  const between = say`${seam.left.place.name} and ${seam.right.place.name}`;
  const share = ((100 * Math.abs(seam.gap)) / view.width).toFixed(1);
  if (seam.advice)
    return [
      {
        level: 'fix',
        text: `${between} ${seam.gap < 0 ? say`overlap by ${Math.round(-seam.gap)} px (${share} %) and would have to be cut out frame by frame` : say`are only ${Math.round(seam.gap)} px (${share} %) apart`}. ${seam.advice}`,
      },
    ];
  const where = seam.along ? say`along ${seam.along.name}` : say`in the open`;
  return [
    {
      level: 'good',
      text: say`The seam between ${between} runs ${where} at ${Math.round((100 * seam.x) / view.width)} % of the frame, with ${Math.round(seam.gap)} px (${share} %) free: feather up to ${Math.floor(seam.feather)} px.`,
    },
    ...seam.crossings.map(
      (c): Judgement => ({
        level: 'unsure',
        text: say`${c.place.name} (${c.action.what}) reaches over the seam by ${showLength(c.metres, unit)} from beat ${c.from} to ${c.to}: the seam has to duck there, and both must hold still.`,
      }),
    ),
  ];
}

/** Depth of field against the places; null without places. Each place is taken 20 cm deep either way. */
function sharpnessOf(shot: PlannedShot, fps: number): Sharpness | null {
  if (shot.places.length === 0) return null;
  const { focal, aperture, focus, iso, shutter, mains, sensor } = shot.camera;
  const blur = circleOfConfusion(sensor);
  const { near, far } = depthOfField(focal, aperture, blur, focus);
  const depths = shot.places.map((p) => p.z);
  const ends = shot.recipe === 'dolly zoom' ? [...depths, shot.dolly.end] : depths;
  const [nearest, furthest] = [Math.max(0.1, Math.min(...ends) - 0.2), Math.max(...ends) + 0.2];
  const held = apertureToHold(focal, blur, nearest, furthest);
  const wanted = engravedAperture(held.exact);
  const cost = Math.max(0, exposureChange({ aperture, iso, shutter }, { aperture: wanted, iso, shutter }));
  const soft = shot.places.filter((p) => p.z - 0.2 < near - 1e-9 || p.z + 0.2 > far + 1e-9).map((p) => p.name);
  return {
    near,
    far,
    nearest,
    furthest,
    focus: held.focus,
    aperture: wanted,
    cost,
    payments: waysToPay(cost, iso, shutter, fps, mains),
    soft,
  };
}

function sharpnessJudgements(s: Sharpness, shot: PlannedShot, unit: LengthUnit): Judgement[] {
  const now = say`f/${shot.camera.aperture} focused at ${showLength(shot.camera.focus, unit)} is sharp from ${showLength(s.near, unit)} to ${showLength(s.far, unit)}`;
  if (s.soft.length === 0) return [{ level: 'good', text: say`${now}: every place is held.` }];
  const cost = s.cost > 0.05 ? say`, ${s.cost.toFixed(1)} stops less light` : say`, with no light lost`;
  return [
    {
      level: 'fix',
      text: say`${now}: ${s.soft.join(' and ')} ${s.soft.length === 1 ? 'is' : 'are'} soft. Focus at ${showLength(s.focus, unit)} and f/${s.aperture}${cost}.`,
    },
  ];
}

function lightPlan(shot: PlannedShot, fps: number): LightPlan {
  const { camera, delivery } = shot;
  const slow = slowMotion(fps, delivery.slowest);
  const rate = Math.max(camera.captureFps, 1);
  const safe = safeShutters(rate, camera.mains);
  const angle = shutterAngle(camera.shutter, rate);
  const judgements: Judgement[] = [];
  if (!flickerFree(camera.shutter, camera.mains) && !shot.outdoors)
    judgements.push({
      level: 'fix',
      text: safe.length
        ? say`${shutterLabel(camera.shutter)} flickers under ${camera.mains} Hz mains light. ${safe[0].label} (${Math.round(safe[0].angle)}°) does not.`
        : say`At ${rate} frames a second every shutter flickers under ${camera.mains} Hz mains light: use lamps that run without flicker, or daylight.`,
    });
  else
    judgements.push({
      level: 'good',
      text: say`${shutterLabel(camera.shutter)} is ${Math.round(angle)}° at ${rate} fps${shot.outdoors ? '' : say` and free of flicker at ${camera.mains} Hz`}.`,
    });
  if (angle > 360.5) judgements.push({ level: 'fix', text: say`${shutterLabel(camera.shutter)} is longer than a frame at ${rate} fps.` });
  if (slow.capture > rate + 0.1)
    judgements.push({
      level: 'fix',
      text: say`Slowed to ${delivery.slowest} % the shot needs ${slow.capture} fps; ${rate} fps repeats frames. Play the song at ${Math.round(slow.playback)} % on set; the higher rate costs ${slow.lost.toFixed(1)} stops.`,
    });
  return { safe, slow, angle, judgements };
}

function dollyOf(shot: PlannedShot, tempo: Tempo): DollyZoom {
  const [subject] = shot.places;
  const behind = [...shot.props.map((p) => p.z - subject.z), shot.room.back - subject.z].filter((b) => b > 0.2).sort((a, b) => a - b);
  return dollyZoom(subject.z, shot.dolly.end, shot.bars * tempo.barSeconds, [...new Set(behind.map((b) => Math.round(b * 10) / 10))]);
}

/** Whether the track fits: towards the subject it may not run into it, backwards not into the wall behind. */
function trackJudgements(shot: PlannedShot, unit: LengthUnit): Judgement[] {
  const [subject] = shot.places;
  const back = shot.dolly.end - subject.z;
  if (back > shot.room.behind)
    return [
      {
        level: 'fix',
        text: say`The camera has to go back ${showLength(back, unit)}, but there are only ${showLength(shot.room.behind, unit)} behind it. Begin nearer, or open a door.`,
      },
    ];
  if (shot.dolly.end < 0.5)
    return [
      { level: 'fix', text: say`The walk ends ${showLength(shot.dolly.end, unit)} from the subject: too near to be safe and to be sharp.` },
    ];
  return [];
}

function outdoorPlan(shot: PlannedShot): OutdoorPlan | null {
  const { outdoors, schedule } = shot;
  if (!outdoors) return null;
  const [h, m] = schedule.time.split(':').map(Number);
  const start = 60 * h + m + schedule.setUpMinutes;
  const tallest = Math.max(1.7, ...shot.places.map((p) => p.height));
  const day = sunDay(schedule.date, outdoors);
  const { altitude, bearing } = sunAt(schedule.date, start, outdoors);
  const drift = shadowDrift(schedule.date, start, outdoors, tallest);
  const matching = lightWindow(schedule.date, start, outdoors, tallest);
  const judgement: Judgement = matching
    ? {
        level: matching.to - matching.from < 20 ? 'fix' : 'unsure',
        text: say`From ${clock(start)} takes match until ${clock(matching.to)} (${Math.round(matching.to - matching.from)} minutes): then ${matching.reason}. A head’s shadow wanders ${drift?.toFixed(1) ?? 0} cm a minute. Take plates in the same minutes. Cloud spoils or mends it; this reckons with clear sky.`,
      }
    : {
        level: 'fix',
        text: say`At ${clock(start)} the sun stands at ${altitude.toFixed(0)}°: too low or gone, and the light changes from minute to minute. Start earlier or wait for the dark.`,
      };
  return { day, altitude, bearing, drift, matching, judgement };
}
