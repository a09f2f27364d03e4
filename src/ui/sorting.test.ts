import type { Active, DragEndEvent, Over } from '@dnd-kit/core';
import { describe, expect, it } from 'vitest';
import { afterDrop, spokenSorting } from './sorting';

const rows = [
  { id: 'a', name: 'Exposure' },
  { id: 'b', name: 'Glow' },
  { id: 'c', name: 'Grain' },
];
const event = (from: string, to: string | null) =>
  ({ active: { id: from } as Active, over: to ? ({ id: to } as Over) : null }) as DragEndEvent;

describe('rows that are moved', () => {
  it('change places, and stay where they are when dropped on themselves or nowhere', () => {
    const ids = (list: typeof rows | null) => list?.map((r) => r.id).join('');
    expect(ids(afterDrop(rows, (r) => r.id, event('c', 'a')))).toBe('cab');
    expect(ids(afterDrop(rows, (r) => r.id, event('a', 'b')))).toBe('bac');
    expect(afterDrop(rows, (r) => r.id, event('b', 'b'))).toBeNull();
    expect(afterDrop(rows, (r) => r.id, event('b', null))).toBeNull();
  });

  it('are spoken of by their names and places', () => {
    const { announcements } = spokenSorting(rows);
    expect(announcements.onDragStart(event('c', null))).toBe('Grain is taken up from place 3 of 3.');
    expect(announcements.onDragOver(event('c', 'a'))).toBe('Grain is at place 1 of 3.');
    expect(announcements.onDragEnd(event('c', 'a'))).toBe('Grain is laid down at place 1 of 3.');
    expect(announcements.onDragEnd(event('c', null))).toBe('Grain is where it was.');
    expect(announcements.onDragCancel(event('c', 'a'))).toBe('Grain is put back to place 3 of 3.');
  });
});
