import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readProject } from '../document';
import { plainShot } from '../edit';
import { plainLayer, remapKeyAt, still } from '../layer';
import { applied } from '../picture';
import { stagedProject } from '../staged';
import { describeFrame } from './describe';
import type { PictureDescription } from './description';
import { shotFrames } from './shot-scene';
import { asVersion, describeShown, partAround, shownPart } from './version';

const FILM = { width: 1280, height: 720 };
const TALL = { width: 1080, height: 1920 };
const layer = plainLayer('l', 'Layer', 0, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 1)], {
  numbers: { x: [...still(3)], turn: [...still(2)] },
});
const project = {
  ...stagedProject(),
  shots: [
    plainShot(
      's',
      'Shot',
      { beat: 8, offset: 0 },
      { beat: 12, offset: 0 },
      { layers: [layer], part: [{ beat: 0, offset: 0, x: 20, y: 50, easing: 'linear' }] },
    ),
  ],
};
const [first] = shotFrames(project, project.shots[0]);
const inner = (p: PictureDescription) => (p.layers[0].source as unknown as { picture: PictureDescription }).picture;

describe('the part of a film that another shape shows', () => {
  it('is as high as the film, and as wide as its shape says, from the left to the right', () => {
    const width = ((720 * 9) / 16 / 1280) as number;
    expect(shownPart(FILM, TALL, { x: 0, y: 0 })).toEqual({ left: 0, top: 0, width: expect.closeTo(width, 12), height: 1 });
    expect(shownPart(FILM, TALL, { x: 100, y: 0 }).left).toBeCloseTo(1 - width, 12);
    expect(shownPart(FILM, TALL, { x: 50, y: 50 }).left).toBeCloseTo((1 - width) / 2, 12);
    const wide = shownPart(FILM, { width: 2560, height: 1080 }, { x: 50, y: 50 });
    expect([wide.width, wide.height]).toEqual([1, expect.closeTo((1080 * 1280) / 2560 / 720, 12)]);
  });

  it('around a place has it in its middle, or as near as the frame allows: any shape, any place', () => {
    const size = fc.record({ width: fc.integer({ min: 64, max: 4096 }), height: fc.integer({ min: 64, max: 4096 }) });
    const percent = fc.double({ min: 0, max: 100, noNaN: true });
    fc.assert(
      fc.property(size, percent, percent, (version, x, y) => {
        const part = partAround(FILM, version, x, y);
        const { left, top, width, height } = shownPart(FILM, version, part);
        const within = (from: number, long: number, at: number) => {
          expect(from).toBeGreaterThanOrEqual(-1e-9);
          expect(from + long).toBeLessThanOrEqual(1 + 1e-9);
          const middle = from + long / 2;
          if (from > 1e-6 && from + long < 1 - 1e-6 && long < 0.999) expect(middle).toBeCloseTo(at / 100, 6);
        };
        within(left, width, x);
        within(top, height, y);
      }),
    );
  });
});

describe('a film in another shape', () => {
  const tall = asVersion(project, TALL);

  it('is the same film, drawn larger where it is shown larger: each place of the frame shows what the film has there', () => {
    const shown = describeShown(tall, first + 5);
    expect([shown.width, shown.height]).toEqual([1080, 1920]);
    const film = describeFrame(project, first + 5);
    const large = inner(shown);
    const { left, width } = shownPart(FILM, TALL, { x: 20, y: 50 });
    for (const [u, v] of [
      [0.1, 0.1],
      [0.5, 0.5],
      [0.9, 0.7],
    ]) {
      const within = applied(shown.layers[0].map, { x: u * 1080, y: v * 1920 });
      const mine = applied(large.layers[0].map, within);
      const theirs = applied(film.layers[0].map, { x: (left + u * width) * 1280, y: v * 720 });
      // To a pixel of the film: the large picture is cut by whole pairs of pixels.
      expect(Math.hypot(mine.x - theirs.x, mine.y - theirs.y)).toBeLessThan(1);
    }
  });

  it('never shows what is beyond the picture, wherever its part lies', () => {
    for (const x of [0, 33, 100])
      for (const size of [TALL, { width: 1080, height: 1080 }, { width: 2560, height: 1080 }, { width: 722, height: 1280 }]) {
        const there = { ...project, shots: [{ ...project.shots[0], part: [{ beat: 0, offset: 0, x, y: x, easing: 'linear' as const }] }] };
        const { layers, width, height } = describeShown(asVersion(there, size), first);
        const [{ map, size: large }] = layers;
        expect(map.c).toBeGreaterThanOrEqual(0);
        expect(map.f).toBeGreaterThanOrEqual(0);
        expect(map.c + width).toBeLessThanOrEqual(large.width);
        expect(map.f + height).toBeLessThanOrEqual(large.height);
      }
  });

  it('in its own shape and size is the film itself; outside its shots it is black', () => {
    expect(asVersion(project, FILM)).toBe(project);
    expect(describeShown(project, first)).toEqual(describeFrame(project, first));
    expect(describeShown(tall, first - 1)).toMatchObject({ width: 1080, height: 1920, layers: [] });
  });

  it('is a valid document, so that it can be handed on', () => {
    const read = readProject(JSON.parse(JSON.stringify(tall)));
    expect(read.ok && read.project.frame.cutFrom).toEqual(FILM);
  });
});
