import { describe, expect, it } from 'vitest';
import { constantBeatMap } from '../time';
import { beatsReport, beatsReportSchema, takesReportSchema } from './reports';

const found = {
  map: { ...constantBeatMap(120, 0.5, 12), bar1: 2 },
  reason: '',
  bpm: 120,
  confidence: 0.8,
  downbeatConfidence: 0.6,
  duration: 7,
};

describe('reports', () => {
  it('counts bars and beats as aloud, the upbeat in bar 0', () => {
    const report = beatsReport('a.wav', found);
    expect(beatsReportSchema.safeParse(report).success).toBe(true);
    expect(report.beats.slice(0, 4)).toEqual([
      { time_s: 0.5, bar: 0, beat: 3 },
      { time_s: 1, bar: 0, beat: 4 },
      { time_s: 1.5, bar: 1, beat: 1 },
      { time_s: 2, bar: 1, beat: 2 },
    ]);
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
