import { describe, expect, it } from 'vitest';
import { plainShot } from '../edit/propose';
import { plainLayer, remapKeyAt, travellingMask } from '../layer';
import { stagedProject } from '../staged';
import { describeFrame } from './describe';
import { shotFrames } from './shot-scene';

describe('a cut-out over time as a mask', () => {
  const project = stagedProject();
  const layer = (more: Parameters<typeof plainLayer>[5] = {}) =>
    plainLayer('l', 'Layer', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 2)], {
      masks: [travellingMask('m', 'grey', 0.5)],
      ...more,
    });
  const shotOf = (...layers: ReturnType<typeof layer>[]) => ({
    ...project,
    shots: [plainShot('s', 'Shot', { beat: 0, offset: 0 }, { beat: 8, offset: 0 }, { layers })],
  });
  const matteAt = (frame: number, ...layers: ReturnType<typeof layer>[]) => {
    const film = shotOf(...layers);
    const [first] = shotFrames(film, film.shots[0]);
    const coverage = describeFrame(film, first + frame).layers.find((l) => l.layerId === 'l')?.coverage;
    if (coverage?.kind !== 'matte') throw new Error('no cut-out');
    return coverage;
  };
  it('shows the frame of its film that belongs to the take’s second, from where the film begins', () => {
    expect(matteAt(0, layer())).toMatchObject({ matteId: 'grey', time: 1.5 });
    expect(matteAt(25, layer()).time).toBeCloseTo(2.5, 9);
    expect(matteAt(10, layer({ timeRemap: [remapKeyAt(0, 0, 4, -1)] })).time).toBeCloseTo(3.1, 9);
    expect(matteAt(0, layer({ timeRemap: [remapKeyAt(0, 0, 0.2)] })).time).toBe(0);
  });
  it('follows another layer’s seconds where it is told to', () => {
    const other = { ...layer({ timeRemap: [remapKeyAt(0, 0, 5)], masks: [] }), id: 'other' };
    const mask = { ...travellingMask('m', 'grey', 0.5), layerId: 'other' };
    expect(matteAt(0, other, layer({ masks: [mask as ReturnType<typeof travellingMask>] })).time).toBeCloseTo(4.5, 9);
  });
});
