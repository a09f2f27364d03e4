'use client';
import { DndContext, type DragEndEvent, DragOverlay, PointerSensor, TouchSensor, useDraggable, useSensor, useSensors } from '@dnd-kit/core';
import { useState } from 'react';
import { footageName, footageOf, type Project } from '@/core/document';
import { say } from '@/core/words';
import { layTake } from '@/data/lay-take';
import { useThumbnail } from '@/views/shared';

/** The picture of a take, with its name. */
function Picture({ project, takeId }: { project: Project; takeId: string }) {
  const media = footageOf(project, takeId);
  const src = useThumbnail(media.id, media.width, (media.from + media.to) / 2);
  return (
    <span className="block w-28">
      <span className="flex h-16 items-center justify-center overflow-hidden bg-well">
        {src && <img src={src} alt="" draggable={false} className="h-full w-full object-contain" />}
      </span>
      <span className="block truncate pt-0.5 text-sm">{footageName(media)}</span>
    </span>
  );
}

function Take({ project, takeId, onPress }: { project: Project; takeId: string; onPress: () => void }) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: takeId });
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      data-testid="shelf-take"
      aria-label={say`Lay ${footageName(footageOf(project, takeId))} on the playhead’s beat`}
      className={`shrink-0 cursor-grab touch-manipulation select-none rounded-md border border-rule bg-sheet p-1 text-left hover:border-ink ${isDragging ? 'opacity-40' : ''}`}
      onClick={onPress}
    >
      <Picture project={project} takeId={takeId} />
    </button>
  );
}

/** The beat of the score under a point of the page; null beside its lines. */
function beatUnder(x: number, y: number): number | null {
  const line = document.elementsFromPoint(x, y).find((e): e is HTMLElement => e instanceof HTMLElement && e.dataset.beats !== undefined);
  if (!line) return null;
  const { left, width } = line.getBoundingClientRect();
  return Number(line.dataset.from) + ((x - left) / width) * Number(line.dataset.beats);
}

/** Where a drag that began with an event has come to. */
function placeOf({ activatorEvent, delta }: DragEndEvent): { x: number; y: number } | null {
  const at = 'touches' in activatorEvent ? (activatorEvent as TouchEvent).touches[0] : (activatorEvent as PointerEvent);
  return at ? { x: at.clientX + delta.x, y: at.clientY + delta.y } : null;
}

/** All takes in pictures: dragged onto a bar, or pressed for the playhead's beat, each becomes a plain shot. On a phone one is held to be dragged. */
export function TakeShelf({ project, snap, here }: { project: Project; snap: (beat: number) => number; here: number }) {
  const [dragged, setDragged] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  );
  const drop = (event: DragEndEvent) => {
    setDragged(null);
    const at = placeOf(event);
    const beat = at && beatUnder(at.x, at.y);
    if (beat !== null) layTake(String(event.active.id), snap(beat));
  };
  return (
    <DndContext
      sensors={sensors}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragEnd={drop}
      onDragCancel={() => setDragged(null)}
    >
      <section aria-label={say`Takes`} className="mb-3 flex max-w-full gap-2 overflow-x-auto pb-1">
        {project.takes.map(({ id }) => (
          <Take key={id} project={project} takeId={id} onPress={() => layTake(id, snap(here))} />
        ))}
      </section>
      <DragOverlay dropAnimation={null}>{dragged && <Picture project={project} takeId={dragged} />}</DragOverlay>
    </DndContext>
  );
}
