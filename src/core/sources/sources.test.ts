import { describe, expect, it } from 'vitest';
import { toRgba } from '../picture';
import { STAY } from '../picture/affine';
import { colour } from './colour';
import type { NestedPicture, SourceContext } from './kind';
import { fillFrame } from './placing';
import { SOURCES, type Source, sourceKind, sourceSchema } from './registry';
import { shot } from './shot';
import { still } from './still';
import { take } from './take';

const FRAME = { width: 1280, height: 720 };
const NESTED: NestedPicture = { ...FRAME, layers: [] };
const context = (more: Partial<SourceContext> = {}): SourceContext => ({
  frame: FRAME,
  overscan: 100,
  second: 2.01,
  run: { frames: 12, beats: 1 },
  frameInterpolation: 'repeat',
  take: () => ({
    mediaId: 'm',
    size: { width: 1920, height: 1080 },
    fps: 25,
    duration: 10,
    colour: { matrix: 'bt709', fullRange: false },
    move: null,
    perspective: null,
    gains: { r: 1, g: 1, b: 1 },
    curves: null,
    clear: false,
  }),
  still: () => ({ width: 640, height: 480 }),
  shot: () => NESTED,
  ...more,
});

/** What is shown by kinds that need something to begin with. */
const NAMED = {
  take: { kind: 'take', takeId: 't' },
  shot: { kind: 'shot', shotId: 's' },
  still: { kind: 'still', mediaId: 'p' },
  picture: { kind: 'picture', mediaId: 'p' },
} as const satisfies Partial<Record<Source['kind'], Source>>;
/** What shows another layer once more; it is described where the layers are (see `core/evaluate/echo.test.ts`). */
const ECHO = { kind: 'echo', layerId: 'l', late: 3, shown: 'as a shadow', soft: 1 } as const satisfies Source;
/** One of each other kind, as a document keeps it. */
const EACH: readonly Source[] = [
  ...Object.values(NAMED),
  ...SOURCES.flatMap((kind) => ('fresh' in kind && kind.fresh ? [kind.fresh] : [])),
];

describe('every kind of source', () => {
  it('is told by its own name, reads back through the one schema, and describes itself under that name', () => {
    expect([ECHO, ...EACH].map(({ kind }) => kind).sort()).toEqual(SOURCES.map(({ kind }) => kind).sort());
    expect(sourceSchema.parse(ECHO)).toEqual(ECHO);
    expect(sourceKind(ECHO).again?.(ECHO)).toMatchObject({ layerId: 'l', late: 3 });
    for (const source of EACH) {
      expect(sourceSchema.parse(source)).toEqual(source);
      const described = sourceKind(source).describe(context(), source);
      expect(described?.source.kind).toBe(source.kind);
    }
    expect(sourceSchema.safeParse({ kind: 'hologram' }).success).toBe(false);
    expect(sourceSchema.safeParse({ kind: 'colour', r: 2, g: 0, b: 0 }).success).toBe(false);
    expect(() => sourceKind({ kind: 'hologram' as 'take' })).toThrow(/no source/);
  });

  it('shows nothing where what it names is gone', () => {
    const gone = context({ take: () => null, still: () => null, shot: () => null });
    for (const source of Object.values(NAMED)) expect(sourceKind(source).describe(gone, source)).toBeNull();
  });

  it('has a way to its pixels: frames of takes, kept pictures, a picture within it, or made here', () => {
    for (const source of EACH) {
      const kind = sourceKind(source);
      const described = kind.describe(context(), source);
      if (!described) throw new Error('nothing described');
      const ways = [
        kind.requests(described.source).length,
        kind.stills(described.source).length,
        kind.within ? 1 : 0,
        kind.make ? 1 : 0,
        source.kind === 'title' ? 1 : 0,
      ];
      expect([source.kind, ways.filter((n) => n > 0).length]).toEqual([source.kind, 1]);
    }
  });
});

describe('a take', () => {
  const described = (more: Partial<SourceContext>) => take.describe(context(more), { kind: 'take', takeId: 't' });

  it('shows its own frame, or two with their shares where its run does not meet them', () => {
    expect(described({})?.source.next).toBeNull();
    expect(described({ frameInterpolation: 'blend' })?.source.next).toEqual({ time: 2.05, share: expect.closeTo(0.25, 9), flow: false });
    expect(described({ frameInterpolation: 'flow', second: 2 })?.source.next).toBeNull();
    const both = described({ frameInterpolation: 'flow' })?.source;
    expect(both && take.requests(both).map((r) => r.time)).toEqual([2.01, 2.05]);
    // Past the last frame there is none after it.
    expect(described({ frameInterpolation: 'blend', second: 9.99 })?.source.next?.time).toBeCloseTo(9.98, 9);
  });

  it('is brightened by the gains it was measured to lack', () => {
    const plain = described({})?.colour ?? [];
    const measured = context().take('t');
    const half = measured && described({ take: () => ({ ...measured, gains: { r: 0.5, g: 0.5, b: 0.5 } }) })?.colour;
    expect(plain[0]).toBeCloseTo(1, 9);
    // BT.709 codes twice the light as 2^0.45 of the code value, nearly.
    expect(half?.[0]).toBeCloseTo(2 ** 0.45, 1);
  });
});

describe('how a source lies in the frame', () => {
  it('fills it about its middle whatever its shape, enlarged as asked', () => {
    const map = fillFrame(FRAME, { width: 640, height: 480 }, 125, null);
    // 640×480 fills 1280×720 at twice its size, 2.5 times with a quarter more.
    expect([map.a, map.e, map.b]).toEqual([expect.closeTo(0.4, 9), expect.closeTo(0.4, 9), expect.closeTo(0, 9)]);
    expect([map.a * 640 + map.c, map.e * 360 + map.f]).toEqual([expect.closeTo(320, 9), expect.closeTo(240, 9)]);
  });

  it('follows a measured move', () => {
    const map = fillFrame(FRAME, FRAME, 100, { dx: 3, dy: -2, turn: 0, scale: 1 });
    expect([map.c, map.f]).toEqual([expect.closeTo(3, 9), expect.closeTo(-2, 9)]);
  });
});

describe('what is within or made', () => {
  it('a shot carries its picture, and another in its place', () => {
    const described = shot.describe(context(), { kind: 'shot', shotId: 's' });
    if (!described) throw new Error('nothing described');
    expect(shot.within?.(described.source)).toBe(NESTED);
    const smaller = { ...NESTED, width: 640 };
    expect(shot.around?.(described.source, smaller).picture).toBe(smaller);
  });

  it('a colour is that colour all over', () => {
    const planes = colour.make?.({ kind: 'colour', r: 1, g: 0.5, b: 0 }, FRAME);
    if (!planes) throw new Error('nothing made');
    const rgba = new Uint8ClampedArray(4 * planes.width * planes.height);
    toRgba(planes, rgba);
    for (let i = 0; i < rgba.length; i += 4) {
      expect(Math.abs(rgba[i] - 255)).toBeLessThanOrEqual(2);
      expect(Math.abs(rgba[i + 1] - 128)).toBeLessThanOrEqual(2);
      expect(rgba[i + 2]).toBeLessThanOrEqual(2);
    }
    expect(colour.describe(context(), { kind: 'colour', r: 0, g: 0, b: 0 })?.base).toEqual(STAY);
  });

  it('a kept picture is asked for by its file', () => {
    expect(still.stills({ kind: 'still', mediaId: 'p' })).toEqual(['p']);
  });
});
