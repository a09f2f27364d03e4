import { describe, expect, it } from 'vitest';
import type { Project, Shot } from '../document';
import { proposePlain, shotOfShots } from '../edit';
import { remapKeyAt } from '../layer';
import { stagedProject } from '../staged';
import { soundings } from './sounding';

const at = (beat: number) => ({ beat, offset: 0 });
/** A project with one shot of a take on beats 4 to 8 at 120 BPM from 0.25 s on, whose sound is heard as said. */
function sounding(sound: Shot['layers'][number]['sound'], more: Partial<Shot['layers'][number]> = {}): Project {
  const p = stagedProject(120);
  const shot = proposePlain(p, 'a', at(4), at(8), 't1');
  p.shots = [{ ...shot, layers: shot.layers.map((l) => ({ ...l, timeRemap: [remapKeyAt(0, 0, 2, 2)], sound, ...more })) }];
  return p;
}

describe('the sound of takes in shots', () => {
  it('is heard as long as its layer is there; along with the picture’s speed or at its own', () => {
    const [along] = soundings(sounding('stretched'));
    const frame = 1 / 25;
    expect(Math.abs(along.from - 2.25)).toBeLessThanOrEqual(frame / 2 + 1e-9);
    expect(along.to - along.from).toBeCloseTo(2, 6);
    expect(along.secondAt(along.from + 1) - along.secondAt(along.from)).toBeCloseTo(2, 9);
    const [kept] = soundings(sounding('kept'));
    expect(kept.secondAt(kept.from + 1) - kept.secondAt(kept.from)).toBeCloseTo(1, 9);
    expect(kept.secondAt(kept.from)).toBeCloseTo(2, 9);
  });

  it('is not heard where it is off, where the layer is off, where the file is mute, and of pictures', () => {
    expect(soundings(sounding('none'))).toEqual([]);
    expect(soundings(sounding('kept', { on: false }))).toEqual([]);
    const mute = sounding('kept');
    mute.media = mute.media.map((m) => ({ ...m, hasSound: false }));
    expect(soundings(mute)).toEqual([]);
    expect(soundings(sounding('kept', { source: { kind: 'still', mediaId: 'empty' } }))).toEqual([]);
  });

  it('begins and ends with its layer, and never beyond its shot', () => {
    const [part] = soundings(sounding('kept', { from: at(1), to: at(2) }));
    expect(part.from).toBeCloseTo(2.76, 6);
    expect(part.to - part.from).toBeCloseTo(0.48, 2);
    const [over] = soundings(sounding('kept', { from: at(1), to: at(40) }));
    expect(over.to).toBeCloseTo(4.24, 6);
    expect(soundings(sounding('kept', { from: at(3), to: at(2) }))).toEqual([]);
  });

  it('of a shot within a shot is heard where that lies, cut off where the outer one ends', () => {
    const p = sounding('kept');
    const inside = p.shots;
    const one = shotOfShots(p, inside, 'one') as Shot;
    const q: Project = { ...p, shots: [one], nestedShots: inside };
    const [apart] = soundings(p);
    const [within] = soundings(q);
    expect([within.from, within.to]).toEqual([apart.from, apart.to]);
    expect(within.secondAt(3)).toBeCloseTo(apart.secondAt(3), 9);
    const [short] = soundings({ ...q, shots: [{ ...one, end: at(6) }] });
    expect(short.to).toBeLessThan(apart.to - 0.9);
    expect(soundings({ ...q, nestedShots: [] })).toEqual([]);
    expect(soundings({ ...q, shots: [{ ...one, layers: one.layers.map((l) => ({ ...l, on: false })) }] })).toEqual([]);
  });

  it('a shot within itself ends', () => {
    const p = sounding('kept');
    const inner = { ...(shotOfShots(p, p.shots, 'b') as Shot), id: 'b' };
    const circle = { ...inner, layers: inner.layers.map((l) => ({ ...l, source: { kind: 'shot' as const, shotId: 'b' } })) };
    const outer = shotOfShots(p, [circle], 'c') as Shot;
    expect(soundings({ ...p, shots: [outer], nestedShots: [circle] })).toEqual([]);
  });
});
