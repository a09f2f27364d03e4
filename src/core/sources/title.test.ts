import { describe, expect, it } from 'vitest';
import { partOffset, partShown, titleParts } from './title-parts';

const texts = (text: string, by: Parameters<typeof titleParts>[1]) => titleParts(text, by).map((p) => p.text);
const orders = (text: string, by: Parameters<typeof titleParts>[1]) => titleParts(text, by).map((p) => p.order);

describe('a title in parts', () => {
  it('whole, by line, by word and by letter; put together they are the text', () => {
    const text = 'Night wash\nopen till four';
    expect(texts(text, 'whole')).toEqual(['Night wash', 'open till four']);
    expect(orders(text, 'whole')).toEqual([0, 0]);
    expect(orders(text, 'line')).toEqual([0, 1]);
    expect(texts(text, 'word')).toEqual(['Night ', 'wash', 'open ', 'till ', 'four']);
    expect(orders(text, 'word')).toEqual([0, 1, 2, 3, 4]);
    for (const by of ['line', 'word', 'letter'] as const) {
      const parts = titleParts(text, by);
      for (const [line, content] of text.split('\n').entries())
        expect(
          parts
            .filter((p) => p.line === line)
            .map((p) => p.text)
            .join(''),
        ).toBe(content);
      for (const p of parts) expect(text.split('\n')[p.line].slice(p.from, p.from + p.text.length)).toBe(p.text);
    }
  });
  it('letters are what is read as one: accents and flags of several code points stay together; spaces take no turn', () => {
    expect(texts('e\u0301a👩‍🚒', 'letter')).toEqual(['e\u0301', 'a', '👩‍🚒']);
    expect(orders('a b', 'letter')).toEqual([0, 1, 1]);
  });
  it('scripts whose letters join are taken by word', () => {
    expect(texts('غسيل ليلي', 'letter')).toEqual(['غسيل ', 'ليلي']);
    expect(texts('मशीन', 'letter')).toEqual(['मशीन']);
  });
});

describe('when a part comes', () => {
  it('each begins after the one before and takes its time', () => {
    expect([0, 5, 10, 14, 20].map((run) => partShown(2, run, 5, 8))).toEqual([0, 0, 0, 0.5, 1]);
    expect([9, 10].map((run) => partShown(2, run, 5, 0))).toEqual([0, 1]);
    expect(partShown(0, 0, 1, 0)).toBe(1);
  });
  it('it ends in its place, seen whole, whichever way it comes, and is the same every time', () => {
    for (const comes of ['at once', 'faded', 'risen', 'scattered'] as const) {
      const { dx, dy, opacity } = partOffset(comes, 3, 1, 7);
      expect([Math.abs(dx), Math.abs(dy), opacity]).toEqual([0, 0, 1]);
      expect(partOffset(comes, 3, 0.4, 7)).toEqual(partOffset(comes, 3, 0.4, 7));
    }
    expect(partOffset('risen', 0, 0, 1)).toEqual({ dx: 0, dy: 0.8, opacity: 0 });
    expect(partOffset('faded', 0, 0.25, 1).opacity).toBe(0.25);
    const far = Math.hypot(partOffset('scattered', 1, 0, 5).dx, partOffset('scattered', 1, 0, 5).dy);
    expect(far).toBeGreaterThanOrEqual(2);
    expect(partOffset('scattered', 1, 0, 5)).not.toEqual(partOffset('scattered', 1, 0, 6));
  });
});
