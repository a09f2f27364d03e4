import { describe, expect, it } from 'vitest';
import { constantBeatMap } from '../time';
import { beatsReport, beatsReportSchema, takesReportSchema } from './reports';

const none = new Float32Array(0);
const found = {
  map: { ...constantBeatMap(120, 0.5, 12), bar1: 2 },
  reason: '',
  bpm: 120,
  confidence: 0.8,
  downbeatConfidence: 0.6,
  others: [],
  sureness: Array.from({ length: 12 }, (_, i) => i / 12),
  swing: null,
  parts: [
    { beat: 0, letter: 'A' },
    { beat: 4, letter: 'B' },
  ],
  hits: [{ time: 1.5, kind: 'stroke' as const, strength: 0.7 }],
  duration: 7,
  energy: new Float32Array(0),
  onsets: { rate: 125, start: 0, all: none, low: none, mid: none, loud: none },
  loudness: { integrated: -14.2, momentaryMax: -9, shortTermMax: -11, range: 6, truePeak: Number.NEGATIVE_INFINITY },
};

describe('reports', () => {
  it('counts bars and beats as aloud, the upbeat in bar 0', () => {
    const report = beatsReport('a.wav', found);
    expect(beatsReportSchema.safeParse(report).success).toBe(true);
    expect(report.beats.slice(0, 4)).toEqual([
      { time_s: 0.5, bar: 0, beat: 3, confidence: 0 },
      { time_s: 1, bar: 0, beat: 4, confidence: 0.083 },
      { time_s: 1.5, bar: 1, beat: 1, confidence: 0.167 },
      { time_s: 2, bar: 1, beat: 2, confidence: 0.25 },
    ]);
    expect(report.downbeats.slice(0, 2)).toEqual([
      { time_s: 1.5, bar: 1 },
      { time_s: 3.5, bar: 2 },
    ]);
    expect(report.tempo_curve[5]).toEqual({ time_s: 3, tempo_bpm: 120 });
    expect(report.sections[1]).toEqual({ time_s: 3.5, bar: 2, name: 'B' });
    expect(report.loudness).toMatchObject({ integrated_lufs: -14.2, true_peak_dbtp: null });
  });

  it('a song without a beat gives none, with the reason', () => {
    const report = beatsReport('b.wav', { ...found, map: null, reason: 'No steady beat found. Tap the beat instead.', bpm: 0 });
    expect(report.beats).toEqual([]);
    expect(report.reason).toMatch(/Tap/);
  });

  it('the schemas refuse what is missing or out of range', () => {
    expect(beatsReportSchema.safeParse({ ...beatsReport('a', found), confidence: 3 }).success).toBe(false);
    expect(takesReportSchema.safeParse({ format: 'fickle-ribbon-takes', version: 2, takes: [] }).success).toBe(false);
    expect(takesReportSchema.safeParse({ format: 'fickle-ribbon-takes', version: 1, takes: [] }).success).toBe(true);
  });
});
