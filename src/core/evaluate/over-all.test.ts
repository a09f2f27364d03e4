import { describe, expect, it } from 'vitest';
import type { Project } from '../document';
import { plainShot, retimed } from '../edit';
import { keyAt, plainEffect, plainLayer, remapKeyAt, SOURCE_PART, still, withNumberIn } from '../layer';
import { type Source, sourceKind, type TitleDescription } from '../sources';
import { stagedProject } from '../staged';
import { describeFrame } from './describe';
import { filmFrames, sceneOf, shotFrames } from './shot-scene';
import { soundings } from './sounding';

const take = (id: string, sound: 'none' | 'kept' = 'none') =>
  plainLayer(id, id, 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)], { sound });
const shot = (id: string, beat: number) =>
  plainShot(id, id, { beat, offset: 0 }, { beat: beat + 4, offset: 0 }, { layers: [take(`${id} take`)] });
const title = sourceKind({ kind: 'title' }).fresh as Source;

/** Two shots with a gap between them; over both a look that comes in by bar 3, and words. */
function film(): Project {
  const effects = [plainEffect('soft', 'blur', { amount: [keyAt(8, 0, 0), keyAt(16, 0, 9)] })];
  const below = plainLayer('look', 'Look', 0, { kind: 'below' }, [remapKeyAt(0, 0, 0)], { effects });
  const words = plainLayer('words', 'Words', 0, title, [remapKeyAt(0, 0, 0)]);
  const over = plainShot('over', 'Over', { beat: 0, offset: 0 }, { beat: 1, offset: 0 }, { layers: [below, words] });
  return { ...stagedProject(), shots: [shot('a', 8), shot('b', 14)], nestedShots: [over], overAll: 'over' };
}

describe('what lies over the whole film', () => {
  it('is there from the first frame of the film to its last, on the shots and between them', () => {
    const project = film();
    const [first, end] = filmFrames(project);
    expect(shotFrames(project, project.nestedShots[0])).toEqual([first, end]);
    const layers = (frame: number) => describeFrame(project, frame).layers.map((l) => l.layerId);
    expect(layers(first + 1)).toEqual(['a take', 'look', 'words']);
    expect(layers(shotFrames(project, project.shots[0])[1] + 3)).toEqual(['look', 'words']);
    expect(layers(end - 1)).toEqual(['b take', 'look', 'words']);
    expect(layers(end)).toEqual([]);
    expect(describeFrame({ ...project, overAll: undefined }, first + 1).layers).toHaveLength(1);
  });

  it('its keys count from bar 1 and stay on their beats when the song is another', () => {
    const project = film();
    const blurred = (p: Project, beat: number) => {
      const [first] = shotFrames(p, { ...p.shots[0], start: { beat, offset: 0 } });
      return describeFrame(p, first).layers.find((l) => l.layerId === 'look')?.effects.length;
    };
    // Without blur it is no effect at all; from there on it is one.
    expect([blurred(project, 8), blurred(project, 10)]).toEqual([0, 1]);
    const map = project.song?.map;
    if (!map) throw new Error('no song');
    const slower = { ...map, beats: map.beats.map((t) => t * 1.2) };
    const again = { ...project, ...retimed(project, map, slower), song: project.song && { ...project.song, map: slower } };
    expect(again.nestedShots[0].start.beat).toBeCloseTo(0, 6);
    expect(sceneOf(again, again.nestedShots[0])).toMatchObject({ beat: again.nestedShots[0].start.beat });
  });

  it('is heard as well', () => {
    const project = film();
    project.media = project.media.map((m) => (m.kind === 'video' ? { ...m, hasSound: true } : m));
    project.nestedShots = [{ ...project.nestedShots[0], layers: [take('sounding', 'kept')] }];
    expect(soundings(project)).toHaveLength(1);
    expect(soundings({ ...project, overAll: undefined })).toHaveLength(0);
  });
});

describe('settings of a source with keys', () => {
  it('are on each frame what their keys say, and what the source holds without', () => {
    const plain = plainLayer('words', 'Words', 0, title, [remapKeyAt(0, 0, 0)]);
    const wide = withNumberIn(plain, SOURCE_PART, 'tracking', [keyAt(0, 0, 0), keyAt(4, 0, 40)]);
    const shown = (layer: typeof plain, beat: number) => {
      const shots = [plainShot('s', 'S', { beat: 8, offset: 0 }, { beat: 16, offset: 0 }, { layers: [layer] })];
      const project = { ...stagedProject(), shots };
      const [frame] = shotFrames(project, { ...shots[0], start: { beat: 8 + beat, offset: 0 } });
      return (describeFrame(project, frame).layers[0].source as TitleDescription).title;
    };
    expect([0, 4, 6].map((beat) => shown(wide, beat).tracking)).toEqual([0, 40, 40]);
    expect(shown(wide, 2).tracking).toBeCloseTo(20, 0);
    expect(shown(wide, 2).size).toBe(shown(plain, 2).size);
    expect(withNumberIn(plain, SOURCE_PART, 'size', still(30)).sourceNumbers).toEqual({ size: still(30) });
  });
});
