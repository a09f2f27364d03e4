import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Project, readProject, type Shot } from '../document';
import { moveEvents, moveProblems, posterFrame, regenerate } from '../edit';
import { beatMapOf, describeFrame, halfFrame, sceneOf, shotFrames } from '../evaluate';
import { placeFrame } from '../layer';
import { stagedMove, stagedProject } from '../staged';
import { beatToSeconds, frameToSeconds } from '../time';
import { type Field, fromPreset, kindOf, MOVES, type Move, presetOf } from './';

const TAKES = ['t1', 't2', 't3'];
/** A move of each kind as it is proposed, of as many takes as it can use, on beat 16. */
const shots = (base: Project): Shot[] => MOVES.map(({ kind, takes }) => stagedMove(base, kind, 16, TAKES.slice(0, Math.min(3, takes.max))));

/** A move after something was typed into or chosen in one of its fields: some share of the way from the least to the most. */
function typedInto(move: Move, field: Field<Move>, share: number): Move {
  const typed = ({ min, max, step = 1 }: { min: number; max: number; step?: number }) =>
    Math.min(max, min + Math.round((share * (max - min)) / step) * step);
  switch (field.is) {
    case 'number':
      return { ...move, [field.of]: typed(field) / (field.factor ?? 1) };
    case 'reading':
      return { ...move, ...field.set(move, typed(field)) } as Move;
    case 'action':
      return { ...move, ...field.apply(move) } as Move;
    case 'choice': {
      const options = typeof field.options === 'function' ? field.options(move) : field.options;
      return { ...move, [field.of]: options[Math.floor(share * (options.length - 1))][0] } as Move;
    }
    default:
      return move;
  }
}

describe.each(MOVES.map(({ kind }) => [kind] as const))('%s', (kind) => {
  const base = stagedProject();
  const shot = stagedMove(base, kind, 16, TAKES.slice(0, Math.min(3, kindOf({ kind }).takes.max)));
  const alone: Project = { ...base, shots: [shot] };
  const [first, end] = shotFrames(alone, shot);

  it('is possible as proposed, and stands in a document that reads back', () => {
    expect(moveProblems(alone, shot)).toEqual([]);
    expect(readProject(JSON.parse(JSON.stringify(alone)))).toEqual({ ok: true, project: alone });
  });

  it('shows something on each of its frames, its poster among them', () => {
    expect(end - first).toBeGreaterThan(10);
    for (let frame = first; frame < end; frame++)
      expect(describeFrame(alone, frame).layers.length, `frame ${frame - first}`).toBeGreaterThan(0);
    const poster = posterFrame(alone, shot);
    expect(poster).toBeGreaterThanOrEqual(first);
    expect(poster).toBeLessThan(end);
  });

  it('meets a beat of the song at any tempo and rate, and comes back to the same bytes', () => {
    const before = JSON.stringify(shot);
    for (const rate of [
      { num: 25, den: 1 },
      { num: 24000, den: 1001 },
    ])
      for (const bpm of [112, 119.84]) {
        const now: Project = { ...stagedProject(bpm, rate), shots: [shot] };
        const scene = sceneOf(now, shot);
        const events = moveEvents(shot);
        for (const [, place] of events) {
          const frame = placeFrame({ ...scene, beat: 0 }, place);
          const off = frameToSeconds(frame - place.offset, rate) - beatToSeconds(beatMapOf(now), place.beat);
          expect(Math.abs(off)).toBeLessThanOrEqual(halfFrame(rate) + 1e-7);
        }
        const again = regenerate(now, shot);
        const there: Project = { ...now, shots: [again] };
        const [from, to] = shotFrames(there, again);
        for (let frame = from; frame < to; frame += 7) expect(() => describeFrame(there, frame)).not.toThrow();
      }
    expect(JSON.stringify(regenerate(alone, shot))).toBe(before);
  });

  it('does not change what it is made of when it is made again, and keeps to a take that takes the place of another', () => {
    const move = shot.move as NonNullable<Shot['move']>;
    const other = kindOf(move).withTakes(move, (id) => (id === 't1' ? 't3' : id));
    expect(JSON.stringify(other)).not.toContain('"t1"');
    const swapped = regenerate(alone, { ...shot, move: other });
    expect(swapped.layers.flatMap(({ source }) => (source.kind === 'take' ? [source.takeId] : []))).not.toContain('t1');
    for (const frame of [first, (first + end) >> 1]) expect(() => describeFrame({ ...alone, shots: [swapped] }, frame)).not.toThrow();
  });

  it('can be told by a form that changes it within its limits', () => {
    const move = shot.move as NonNullable<Shot['move']>;
    const { fields, schema } = kindOf(move);
    fc.assert(
      fc.property(fc.constantFrom(...fields), fc.double({ min: 0, max: 1, noNaN: true }), (field, share) => {
        if (field.when && !field.when(move)) return;
        const next = typedInto(move, field, share);
        const read = schema.safeParse(next);
        expect(read.success, `${field.is} ${'label' in field ? field.label : ''}`).toBe(true);
        // What may be typed can be laid out, be it possible or not.
        expect(() => regenerate(alone, { ...shot, move: next as typeof move })).not.toThrow();
        expect(() => moveProblems(alone, { ...shot, move: next as typeof move })).not.toThrow();
      }),
      { numRuns: 120 },
    );
  });

  it('is kept as a preset and given back', () => {
    const move = shot.move as NonNullable<Shot['move']>;
    const back = { ...move, ...fromPreset(presetOf('one', move, base.frame.rate), base.frame.rate) };
    expect(back).toEqual(move);
  });

  it('whatever is proposed instead of what cannot be is possible, or comes nearer', () => {
    // A shot of a single beat leaves too little room for most.
    const tight: Shot = { ...shot, end: { beat: shot.start.beat + 1, offset: 0 } };
    const move = tight.move as NonNullable<Shot['move']>;
    let now = { ...tight, move };
    for (let k = 0; k < 8; k++) {
      const mended = moveProblems(alone, now).find((p) => p.nearest);
      if (!mended?.nearest) break;
      expect(mended.text.length).toBeGreaterThan(20);
      const next = { ...now, move: mended.nearest.move };
      expect(JSON.stringify(next.move)).not.toBe(JSON.stringify(now.move));
      now = next;
    }
  });
});

it('moves of every kind lie beside each other in one film', () => {
  const base = stagedProject();
  const film: Project = {
    ...base,
    shots: shots(base).map((shot, i) => ({
      ...shot,
      id: `s${i}`,
      start: { beat: i * 40, offset: 0 },
      end: { beat: i * 40 + shot.end.beat - shot.start.beat, offset: 0 },
    })),
  };
  expect(readProject(JSON.parse(JSON.stringify(film)))).toEqual({ ok: true, project: film });
});
