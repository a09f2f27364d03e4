import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { CATALOGUE, catalogueText, wordsOf } from './words';

const { said, unsaid } = wordsOf();

describe('the catalogue of texts', () => {
  it('holds what the sources say now (made anew by npx tsx scripts/words.ts)', () => {
    expect(readFileSync(CATALOGUE, 'utf8')).toBe(catalogueText(said));
  });

  it('misses nothing that stands between tags or in an attribute that is shown or read out', () => {
    expect(unsaid).toEqual([]);
  });

  it('has sentences of the core and of the interface, with places for their values', () => {
    expect(said.length).toBeGreaterThan(2000);
    expect(said.some((text) => /\{0\}/.test(text))).toBe(true);
    expect(said).toContain('The browser’s storage is full. Nothing else was lost. Free some space, then do it again.');
  });
});
