'use client';
import { type DragEndEvent, KeyboardSensor, PointerSensor, TouchSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, sortableKeyboardCoordinates } from '@dnd-kit/sortable';

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
