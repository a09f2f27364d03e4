import { emptyProject, type Media, type Project, type Take, wholeOf } from '@/core/document';
import { type SeamReport, type SyncReport, seamReportSchema, syncReportSchema, type TakesReport, takesReportSchema } from '@/core/exchange';
import { lightFindings, lockVerdict, moveFindings, type TakeLock } from '@/core/measure';
import { newPlannedShot, RECIPES } from '@/core/plan';
import { standardRate } from '@/core/time';
import { say } from '@/core/words';
import { syncMedia, takeIn } from '@/data/jobs';
import { takeMeasurement } from '@/data/media';
import { boxesOf, cutFigure, seamBetween, seamKeyframesOf } from '@/data/set-up';

const silent = () => undefined;

export async function stored(file: File): Promise<Media> {
  const taken = await takeIn(file, silent);
  if (!taken.ok) throw new Error(`${file.name}: ${taken.reason}`);
  return taken.media;
}

/** A project of its own for files from the command line: acted takes in their order, then a clean plate when there is one. */
function projectOf(acted: readonly Media[], plate: Media | null): Project {
  const recipe = RECIPES.find((r) => r.id === 'clones') ?? RECIPES[0];
  const plan = newPlannedShot('batch', recipe, '2026-01-01');
  const take = (media: Media, slot: string, i: number): Take => ({
    id: `take-${i}`,
    mediaId: media.id,
    plan: plan.id,
    slot,
    number: i + 1,
    tape: i % 12,
    rating: 0,
    note: '',
    settings: { shutter: '', aperture: '', iso: '', whiteBalance: '', lens: '' },
    filmedAt: null,
    live: null,
    part: null,
    correction: null,
  });
  const takes = acted.map((m, i) => take(m, `place-p${i + 1}`, i));
  if (plate) takes.push(take(plate, 'plate', acted.length));
  const project = emptyProject('batch', say`Command line`);
  const [first] = acted;
  return {
    ...project,
    frame: { width: first.width, height: first.height, rate: standardRate(first.fps) },
    media: plate ? [...acted, plate] : [...acted],
    plans: [plan],
    takes,
  };
}

function lockOf(lock: TakeLock, against: string, { width, height }: Media): TakesReport['takes'][number]['against_own_start'] {
  const { typical } = lock;
  return {
    shift_x_px: typical.dx,
    shift_y_px: typical.dy,
    turn_deg: typical.turn,
    scale: typical.scale,
    corner_px: lock.corner,
    exposure_ev: lock.light?.exposure ?? null,
    red_gain: lock.light?.red ?? null,
    blue_gain: lock.light?.blue ?? null,
    perspective: lock.perspective && [...lock.perspective],
    bumps: lock.bumps.map((b) => ({ time_s: b.time, frame: b.frame, size_px: b.size })),
    light_changes: lock.changes.map((c) => ({ kind: c.kind, from_s: c.from, to_s: c.to, size_ev: c.size })),
    flicker: lock.flicker && { frequency_hz: lock.flicker.frequency, amplitude_ev: lock.flicker.amplitude, kind: lock.flicker.kind },
    verdict: lockVerdict(lock, against).text,
    notes: [...moveFindings(lock, width, height), ...lightFindings(lock)],
    readings: lock.readings.map((r, i) => ({
      time_s: lock.times[i],
      shift_x_px: r.dx,
      shift_y_px: r.dy,
      turn_deg: r.turn,
      scale: r.scale,
      trusted: r.trusted,
      exposure_ev: lock.exposures[i],
    })),
  };
}

async function syncOf(media: Media, reference: Media): Promise<TakesReport['takes'][number]['sync']> {
  if (!media.hasSound || !reference.hasSound) return null;
  const [sync] = await syncMedia(media.id, [reference.id], silent);
  return sync.ok
    ? { found: true, offset_s: sync.match.offset, drift_ppm: sync.match.driftPpm, spread_s: sync.match.spread, reason: '' }
    : { found: false, offset_s: 0, drift_ppm: 0, spread_s: 0, reason: sync.reason };
}

export async function takesOf(files: readonly File[]): Promise<TakesReport> {
  const all: Media[] = [];
  for (const file of files) all.push(await stored(file));
  const isPlate = (m: Media) => /plate|empty/i.test(m.name);
  const acted = all.filter((m) => !isPlate(m));
  const project = acted.length > 0 ? projectOf(acted, all.find(isPlate) ?? null) : null;
  const takes: TakesReport['takes'] = [];
  for (const [i, media] of all.entries()) {
    const measured = await takeMeasurement(wholeOf(media), i === 0 ? null : wholeOf(all[0]));
    if (!measured.own) throw new Error(`${media.name}: ${measured.reason}`);
    const { fall, quality } = measured;
    const take = project?.takes.find((t) => t.mediaId === media.id);
    let occupancy: TakesReport['takes'][number]['occupancy'] = null;
    let reason = '';
    // One take by itself gives no empty set where the performer stands still; what it gives is told as it is.
    if (project && take && !isPlate(media))
      occupancy = await boxesOf(project, take).catch((error: Error) => {
        reason = error.message;
        return null;
      });
    takes.push({
      file: media.name,
      width_px: media.width,
      height_px: media.height,
      duration_s: media.duration,
      frames: measured.frames,
      frame_rate_hz: media.fps,
      variable_rate: media.variableRate,
      codec: media.codec,
      against_own_start: lockOf(measured.own, say`its own first second`, media),
      against_reference: measured.against && lockOf(measured.against, all[0].name, media),
      quality: quality && {
        noise_code_values: quality.noise,
        blown_share: quality.blown,
        drowned_share: quality.drowned,
        repeated_frames: quality.repeats,
        true_rate_hz: quality.trueRate,
        sharpness: quality.sharpness,
      },
      occupancy,
      occupancy_reason: reason,
      sync: i === 0 ? null : await syncOf(media, all[0]),
      fall: fall && { from_s: fall.from, to_s: fall.to, cover: fall.cover },
    });
  }
  return takesReportSchema.parse({ format: 'fickle-ribbon-takes', version: 1, takes });
}

/** The offset of one recording in another. */
export async function syncReport(files: readonly File[]): Promise<SyncReport> {
  const [first, second] = [await stored(files[0]), await stored(files[1])];
  const [sync] = await syncMedia(first.id, [second.id], silent);
  const match = sync.ok ? sync.match : null;
  return syncReportSchema.parse({
    format: 'fickle-ribbon-sync',
    version: 1,
    first: first.name,
    second: second.name,
    found: sync.ok,
    reason: sync.ok ? '' : sync.reason,
    offset_s: match?.offset ?? 0,
    drift_ppm: match?.driftPpm ?? 0,
    spread_s: match?.spread ?? 0,
    agreeing_share: match?.agreeing ?? 0,
  });
}

/** The seam between two takes that begin together; a third file is the clean plate. */
export async function seamReport(files: readonly File[]): Promise<SeamReport> {
  const [left, right] = [await stored(files[0]), await stored(files[1])];
  const plate = files[2] ? await stored(files[2]) : null;
  const project = projectOf([left, right], plate);
  const [first, second] = project.takes;
  const seconds = Math.min(left.duration, right.duration);
  const { seam, collisions } = await seamBetween(
    project,
    { first: { take: first, from: 0 }, second: { take: second, from: 0 }, seconds },
    silent,
  );
  return seamReportSchema.parse({
    format: 'fickle-ribbon-seam',
    version: 1,
    left: left.name,
    right: right.name,
    frames: seam.frames,
    frame_rate_hz: seam.fps,
    stands: seamKeyframesOf(seam, left.height).map(({ from, points }) => ({
      from_s: from,
      points: points.map((p) => ({
        x_px: (p.x / 100) * left.width,
        y_px: (p.y / 100) * left.height,
        feather_px: ((p.soft ?? 0) / 100) * left.height,
      })),
    })),
    visible_difference_code_values: seam.step,
    shadow_frames: seam.shadowFrames,
    crossings: seam.crossings.map((c) => ({ from_frame: c.from, to_frame: c.to, reason: c.reason })),
    collisions: collisions.map((c) => ({ from_frame: c.from, to_frame: c.to, share: c.share })),
  });
}

/** The figure cut out of a take at a second, as a PNG with coverage, and what is to be said of it; a second file is the clean plate. */
export async function matteOf(files: readonly File[], at: number): Promise<{ picture: Blob; note: string }> {
  const acted = await stored(files[0]);
  const project = projectOf([acted], files[1] ? await stored(files[1]) : null);
  const { matte, rgba, note } = await cutFigure(project, project.takes[0], at, null, silent);
  const picture = new ImageData(new Uint8ClampedArray(rgba), matte.width, matte.height);
  for (let i = 0; i < matte.alpha.length; i++) picture.data[4 * i + 3] = matte.alpha[i];
  const page = new OffscreenCanvas(matte.width, matte.height);
  page.getContext('2d')?.putImageData(picture, 0, 0);
  return { picture: await page.convertToBlob({ type: 'image/png' }), note };
}
