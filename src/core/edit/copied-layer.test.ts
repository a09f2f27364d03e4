import { describe, expect, it } from 'vitest';
import { plainEffect, plainLayer, plainMask, remapKeyAt, still } from '../layer';
import { copiedLayer, copiedMask } from './copied-layer';

let ids = 0;
const newId = () => `copy-${++ids}`;

describe('a copied layer', () => {
  const layer = plainLayer('l', 'Seen after', 3, { kind: 'take', takeId: 't1' }, [remapKeyAt(0, 0, 2)], {
    madeBy: 'move',
    masks: [plainMask('m', 'line', { at: still(30) }, { madeBy: 'move' })],
    effects: [plainEffect('e', 'blur', { amount: still(2) })],
    blend: 'screen',
  });
  it('is the same under names of its own, and the user’s', () => {
    const copy = copiedLayer(layer, newId);
    expect(copy).toMatchObject({
      madeBy: 'user',
      name: 'Seen after, copy',
      source: layer.source,
      timeRemap: layer.timeRemap,
      blend: 'screen',
      tape: 3,
    });
    expect(copy.masks[0]).toMatchObject({ kind: 'line', numbers: layer.masks[0].numbers, madeBy: 'user' });
    expect(copy.effects[0].numbers).toEqual(layer.effects[0].numbers);
    const all = [layer, copy].flatMap((l) => [l.id, ...l.masks.map((m) => m.id), ...l.effects.map((e) => e.id)]);
    expect(new Set(all).size).toBe(6);
  });
  it('copied again is called a copy once, and shares nothing with what it came from', () => {
    const copy = copiedLayer(copiedLayer(layer, newId), newId);
    expect(copy.name).toBe('Seen after, copy');
    copy.timeRemap[0].source = 9;
    expect(layer.timeRemap[0].source).toBe(2);
    expect(copiedMask(layer.masks[0], 'other').id).toBe('other');
  });
});
