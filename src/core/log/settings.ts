import type { Take } from '../document';
import { apertureStops, isoStops, type PlannedShot, readAperture, readIso, readShutter, shutterLabel, shutterStops } from '../plan';
import { say } from '../words';

const said = (text: string) => text.trim() !== '';

/**
 * Settings noted for a take that differ from the plan, as short sentences: aperture, shutter, ISO by a sixth of a stop or
 * more, focal length by 2 %. What was not noted is not judged; what cannot be read is said so.
 */
export function settingsDiffering(plan: PlannedShot, take: Take): string[] {
  const { camera } = plan;
  const { settings } = take;
  const out: string[] = [];
  const aperture = readAperture(settings.aperture);
  if (said(settings.aperture) && aperture === null) out.push(say`the aperture “${settings.aperture}” cannot be read`);
  else if (aperture !== null && Math.abs(apertureStops(camera.aperture, aperture)) > 1 / 6)
    out.push(say`f/${aperture} instead of f/${camera.aperture}`);
  const shutter = readShutter(settings.shutter, camera.captureFps);
  if (said(settings.shutter) && shutter === null) out.push(say`the shutter “${settings.shutter}” cannot be read`);
  else if (shutter !== null && Math.abs(shutterStops(camera.shutter, shutter)) > 1 / 6)
    out.push(say`shutter ${shutterLabel(shutter)} instead of ${shutterLabel(camera.shutter)}`);
  const iso = readIso(settings.iso);
  if (said(settings.iso) && iso === null) out.push(say`the ISO “${settings.iso}” cannot be read`);
  else if (iso !== null && Math.abs(isoStops(camera.iso, iso)) > 1 / 6) out.push(say`ISO ${iso} instead of ${camera.iso}`);
  const lens = Number.parseFloat(settings.lens);
  if (said(settings.lens) && Number.isFinite(lens) && Math.abs(lens / camera.focal - 1) > 0.02)
    out.push(say`lens ${lens} mm instead of ${camera.focal} mm`);
  return out;
}

/** Settings that are not the same in all takes of one planned shot: 'shutter: 1/50 and 1/60'. */
export function settingsVarying(takes: readonly Take[]): string[] {
  const names = { shutter: 'shutter', aperture: 'aperture', iso: 'ISO', whiteBalance: 'white balance', lens: 'lens' } as const;
  return (Object.keys(names) as (keyof typeof names)[]).flatMap((key) => {
    const values = [...new Set(takes.map((t) => t.settings[key].trim().toLowerCase()).filter((v) => v !== ''))];
    return values.length > 1 ? [`${names[key]}: ${values.join(' and ')}`] : [];
  });
}
