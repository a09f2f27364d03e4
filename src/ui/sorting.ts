'use client';
import { type Announcements, type DragEndEvent, KeyboardSensor, PointerSensor, TouchSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import { say } from '@/core/words';

/** How rows of a list are picked up and moved: by mouse, by finger and by keyboard. */
export const useSortSensors = () =>
  useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(TouchSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

/** A list after one of it was dropped on another's place; `idOf` gives what they are dragged by. Null where nothing moved. */
export function afterDrop<T>(items: readonly T[], idOf: (item: T) => string, { active, over }: DragEndEvent): T[] | null {
  if (!over || active.id === over.id) return null;
  const ids = items.map(idOf);
  return arrayMove([...items], ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
}

const INSTRUCTIONS = say`Space takes it up. Then the arrow keys move it, Space lays it down, and Escape puts it back.`;

/** What a screen reader says while rows are moved: their names, and the place each is at. `rows` in their order, by what they are dragged by. */
export function spokenSorting(rows: readonly { id: string; name: string }[]): {
  announcements: Announcements;
  screenReaderInstructions: { draggable: string };
} {
  const nameOf = (id: unknown) => rows.find((row) => row.id === id)?.name ?? '';
  const placeOf = (id: unknown) => say`${rows.findIndex((row) => row.id === id) + 1} of ${rows.length}`;
  return {
    screenReaderInstructions: { draggable: INSTRUCTIONS },
    announcements: {
      onDragStart: ({ active }) => say`${nameOf(active.id)} is taken up from place ${placeOf(active.id)}.`,
      onDragOver: ({ active, over }) =>
        over ? say`${nameOf(active.id)} is at place ${placeOf(over.id)}.` : say`${nameOf(active.id)} is over no place.`,
      onDragEnd: ({ active, over }) =>
        over ? say`${nameOf(active.id)} is laid down at place ${placeOf(over.id)}.` : say`${nameOf(active.id)} is where it was.`,
      onDragCancel: ({ active }) => say`${nameOf(active.id)} is put back to place ${placeOf(active.id)}.`,
    },
  };
}
