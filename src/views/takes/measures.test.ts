import { existsSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { EFFECTS } from '@/core/effects';
import { MOVES } from '@/core/moves';
import { MEASURES } from './measures';

const pictured = (folder: string, kind: string) =>
  ['webp', 'jpg'].every((type) => existsSync(`public/${folder}/${kind.replaceAll(' ', '-')}.${type}`));

describe('what is chosen from sheets', () => {
  it('has a moving picture and a still each: moves, effects and measures', () => {
    expect(MOVES.filter(({ kind }) => !pictured('moves', kind)).map((m) => m.kind)).toEqual([]);
    expect(EFFECTS.filter(({ kind }) => !pictured('effects', kind)).map((e) => e.kind)).toEqual([]);
    expect(MEASURES.filter(({ kind }) => !pictured('measures', kind)).map((m) => m.kind)).toEqual([]);
  });
});
