import type { Degrees, Metres, Stops } from '../units';

/** Millimetres on or near the sensor. */
export type Millimetres = number;

/** Angle of view across `size` millimetres of sensor for a lens focused far away: 2·atan(size / 2f). Ray, Applied Photographic Optics. */
export function angleOfView(size: Millimetres, focal: Millimetres): Degrees {
  return (2 * Math.atan(size / (2 * focal)) * 180) / Math.PI;
}

/** Focal length that sees `angle` degrees across `size` millimetres. */
export function focalFor(size: Millimetres, angle: Degrees): Millimetres {
  return size / (2 * Math.tan((angle * Math.PI) / 360));
}

/**
 * Width (or height) of what fills the frame at `distance` from the lens: size · (d − f) / f. Thin lens focused at d.
 * NaN when the distance is within the focal length.
 */
export function fieldAt(size: Millimetres, focal: Millimetres, distance: Metres): Metres {
  const f = focal / 1000;
  return distance > f ? ((size / 1000) * (distance - f)) / f : Number.NaN;
}

/** Hyperfocal distance f²/(N·c) + f. Ray, Applied Photographic Optics. `blur` is the circle of confusion. */
export function hyperfocal(focal: Millimetres, aperture: number, blur: Millimetres): Metres {
  return (focal * focal) / (aperture * blur) / 1000 + focal / 1000;
}

/** Nearest and furthest distance that look sharp when focused at `focus`: s(H−f)/(H+s−2f), s(H−f)/(H−s); far is Infinity from the hyperfocal on. */
export function depthOfField(focal: Millimetres, aperture: number, blur: Millimetres, focus: Metres): { near: Metres; far: Metres } {
  const f = focal / 1000;
  const h = hyperfocal(focal, aperture, blur);
  return {
    near: (focus * (h - f)) / (h + focus - 2 * f),
    far: focus >= h ? Number.POSITIVE_INFINITY : (focus * (h - f)) / (h - focus),
  };
}

/** Where to focus so that `near` and `far` are equally sharp: 2ab/(a+b). */
export function focusBetween(near: Metres, far: Metres): Metres {
  return (2 * near * far) / (near + far);
}

/** Full and third stops of the f-number scale, as engraved. ISO 517 rounded values, from memory. */
export const F_NUMBERS = [
  1, 1.1, 1.2, 1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8, 3.2, 3.5, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9, 10, 11, 13, 14, 16, 18, 20, 22, 25, 29, 32,
] as const;

/**
 * The exact f-number at which focusing at 2ab/(a+b) just holds near and far: solves far = s(H−f)/(H−s) for N.
 * 0 when they are the same distance. `focus` is where to put the focus.
 */
export function apertureToHold(focal: Millimetres, blur: Millimetres, near: Metres, far: Metres): { exact: number; focus: Metres } {
  const focus = focusBetween(near, far);
  if (far - near < 1e-9) return { exact: 0, focus };
  const f = focal / 1000;
  // From near = s(H−f)/(H+s−2f): H = (s·f + near·s − 2·near·f) / (s − near)... solved for H.
  const h = (focus * f + near * focus - 2 * near * f) / (focus - near);
  return { exact: (f * f) / ((blur / 1000) * (h - f)), focus };
}

/** The first f-number of the scale at or above `exact`; the last one when there is none. */
export function engravedAperture(exact: number): number {
  return F_NUMBERS.find((n) => n >= exact - 0.005) ?? F_NUMBERS[F_NUMBERS.length - 1];
}

/** Light lost from one f-number to another: 2·log2(to/from) with the exact powers of √2 behind the engraved numbers (ISO 2720 / APEX). */
export function apertureStops(from: number, to: number): Stops {
  return 2 * Math.log2(exactFNumber(to) / exactFNumber(from));
}

/** The exact value a third-stop f-number stands for: 2.8 is √8. Values off the scale stand for themselves. */
function exactFNumber(engraved: number): number {
  const at = F_NUMBERS.indexOf(engraved as (typeof F_NUMBERS)[number]);
  return at < 0 ? engraved : 2 ** (at / 6);
}
