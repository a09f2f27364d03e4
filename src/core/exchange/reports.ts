import * as z from 'zod/mini';
import type { Loudness, SongAnalysis } from '../song';
import { type BeatMap, barAndBeat, beatToSeconds, tempoCurve } from '../time';

const unit = z.number().check(z.gte(0), z.lte(1));

/** Beats of a song as a file. Times in seconds from the start of the sound. */
export const beatsReportSchema = z.object({
  format: z.literal('fickle-ribbon-beats'),
  version: z.literal(2),
  file: z.string(),
  duration_s: z.number().check(z.nonnegative()),
  tempo_bpm: z.number().check(z.nonnegative()),
  confidence: z.number().check(z.gte(0), z.lte(1)),
  downbeat_confidence: z.number().check(z.gte(0), z.lte(1)),
  beats_per_bar: z.int().check(z.positive()),
  reason: z.string(),
  /** Where the off beats fall between the beats: 0.5 straight, 0.67 in triplets; null where there are none. */
  swing: z.nullable(z.number().check(z.gte(0), z.lte(1))),
  beats: z.array(z.object({ time_s: z.number(), bar: z.int(), beat: z.int().check(z.positive()), confidence: unit })),
  /** The beats that open a bar. */
  downbeats: z.array(z.object({ time_s: z.number(), bar: z.int() })),
  /** Beats a minute at each beat, evened over the two beats to each side. */
  tempo_curve: z.array(z.object({ time_s: z.number(), tempo_bpm: z.number().check(z.positive()) })),
  /** Sections that sound alike have the same name. */
  sections: z.array(z.object({ time_s: z.number(), bar: z.int(), name: z.string() })),
  hits: z.array(z.object({ time_s: z.number(), kind: z.enum(['stroke', 'stop', 'drop']), strength: unit })),
  loudness: z.object({
    integrated_lufs: z.nullable(z.number()),
    momentary_max_lufs: z.nullable(z.number()),
    short_term_max_lufs: z.nullable(z.number()),
    range_lu: z.number(),
    true_peak_dbtp: z.nullable(z.number()),
  }),
});
export type BeatsReport = z.infer<typeof beatsReportSchema>;

const readingSchema = z.object({
  time_s: z.number(),
  shift_x_px: z.number(),
  shift_y_px: z.number(),
  turn_deg: z.number(),
  scale: z.number(),
  trusted: z.boolean(),
  exposure_ev: z.nullable(z.number()),
});

const lockSchema = z.object({
  shift_x_px: z.number(),
  shift_y_px: z.number(),
  turn_deg: z.number(),
  scale: z.number(),
  corner_px: z.number(),
  exposure_ev: z.nullable(z.number()),
  red_gain: z.nullable(z.number()),
  blue_gain: z.nullable(z.number()),
  /** The reference seen in the take before the readings, where shift, turn and scale do not say it: eight numbers of a homography from the middles. */
  perspective: z.nullable(z.array(z.number()).check(z.length(8))),
  bumps: z.array(z.object({ time_s: z.number(), frame: z.int(), size_px: z.number() })),
  light_changes: z.array(z.object({ kind: z.enum(['step', 'fade']), from_s: z.number(), to_s: z.number(), size_ev: z.number() })),
  flicker: z.nullable(z.object({ frequency_hz: z.number(), amplitude_ev: z.number(), kind: z.enum(['rolling bars', 'whole frame']) })),
  verdict: z.string(),
  /** What else is to be said of its movement and its light. */
  notes: z.array(z.string()),
  readings: z.array(readingSchema),
});

/** Measurements of takes as a file. Times in seconds of each file, positions in pixels of its own picture. */
export const takesReportSchema = z.object({
  format: z.literal('fickle-ribbon-takes'),
  version: z.literal(1),
  takes: z.array(
    z.object({
      file: z.string(),
      width_px: z.int(),
      height_px: z.int(),
      duration_s: z.number(),
      frames: z.int(),
      frame_rate_hz: z.number(),
      variable_rate: z.boolean(),
      codec: z.string(),
      against_own_start: lockSchema,
      against_reference: z.nullable(lockSchema),
      quality: z.nullable(
        z.object({
          noise_code_values: z.number(),
          blown_share: z.number(),
          drowned_share: z.number(),
          repeated_frames: z.array(z.int()),
          true_rate_hz: z.number(),
          sharpness: z.array(z.number()),
        }),
      ),
      /** Where the performer is on each frame, as a box; null on frames with nobody or where it cannot be told. */
      occupancy: z.nullable(
        z.array(
          z.nullable(z.object({ left_px: z.number(), top_px: z.number(), right_px: z.number(), bottom_px: z.number(), share: z.number() })),
        ),
      ),
      occupancy_reason: z.string(),
      /** How its sound lies in the reference's; null for the reference or without sound. */
      sync: z.nullable(
        z.object({ found: z.boolean(), offset_s: z.number(), drift_ppm: z.number(), spread_s: z.number(), reason: z.string() }),
      ),
      fall: z.nullable(z.object({ from_s: z.number(), to_s: z.number(), cover: z.number() })),
    }),
  ),
});
/** How two recordings of one sound lie on each other: what is heard at t in the first is at offset + t·(1 + drift) in the second. */
export const syncReportSchema = z.object({
  format: z.literal('fickle-ribbon-sync'),
  version: z.literal(1),
  first: z.string(),
  second: z.string(),
  found: z.boolean(),
  reason: z.string(),
  offset_s: z.number(),
  drift_ppm: z.number(),
  spread_s: z.number(),
  agreeing_share: z.number(),
});
export type SyncReport = z.infer<typeof syncReportSchema>;

/** The seam between two takes: stands from a second on, points in pixels of the first file's picture. */
export const seamReportSchema = z.object({
  format: z.literal('fickle-ribbon-seam'),
  version: z.literal(1),
  left: z.string(),
  right: z.string(),
  frames: z.int(),
  frame_rate_hz: z.number(),
  stands: z.array(
    z.object({ from_s: z.number(), points: z.array(z.object({ x_px: z.number(), y_px: z.number(), feather_px: z.number() })) }),
  ),
  visible_difference_code_values: z.number(),
  /** Frames in which a shadow lies on the seam. */
  shadow_frames: z.int().check(z.nonnegative()),
  crossings: z.array(z.object({ from_frame: z.int(), to_frame: z.int(), reason: z.string() })),
  collisions: z.array(z.object({ from_frame: z.int(), to_frame: z.int(), share: z.number() })),
});
export type SeamReport = z.infer<typeof seamReportSchema>;

export type TakesReport = z.infer<typeof takesReportSchema>;

/** The beats file of what was found in a song. */
export function beatsReport(file: string, found: SongAnalysis & { loudness: Loudness }): BeatsReport {
  const { map, loudness } = found;
  const round = (v: number, digits = 5) => Number(v.toFixed(digits));
  const level = (v: number) => (Number.isFinite(v) ? round(v, 2) : null);
  const beats = (map?.beats ?? []).map((time, i) => {
    const at = barAndBeat(map as BeatMap, i - (map as BeatMap).bar1);
    return { time_s: round(time), bar: at.bar, beat: Math.round(at.beat), confidence: round(found.sureness[i] ?? 0, 3) };
  });
  return {
    format: 'fickle-ribbon-beats',
    version: 2,
    file,
    duration_s: round(found.duration),
    tempo_bpm: round(found.bpm),
    confidence: found.confidence,
    downbeat_confidence: found.downbeatConfidence,
    beats_per_bar: map?.beatsPerBar ?? 4,
    reason: found.reason,
    swing: found.swing === null ? null : round(found.swing, 3),
    beats,
    downbeats: beats.filter((b) => b.beat === 1).map(({ time_s, bar }) => ({ time_s, bar })),
    tempo_curve: map ? tempoCurve(map).map(({ time, bpm }) => ({ time_s: round(time), tempo_bpm: round(bpm, 3) })) : [],
    sections: !map
      ? []
      : found.parts.map(({ beat, letter }) => ({ time_s: round(beatToSeconds(map, beat)), bar: barAndBeat(map, beat).bar, name: letter })),
    hits: found.hits.map(({ time, kind, strength }) => ({ time_s: round(time), kind, strength: round(strength, 3) })),
    loudness: {
      integrated_lufs: level(loudness.integrated),
      momentary_max_lufs: level(loudness.momentaryMax),
      short_term_max_lufs: level(loudness.shortTermMax),
      range_lu: round(loudness.range, 2),
      true_peak_dbtp: level(loudness.truePeak),
    },
  };
}
