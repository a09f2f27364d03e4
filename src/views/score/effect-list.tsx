'use client';
import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { GripVertical } from 'lucide-react';
import type { Project, Shot } from '@/core/document';
import { EFFECTS, effectKind } from '@/core/effects';
import { type Effect, type Layer, plainEffect } from '@/core/layer';
import { copyLook } from '@/data/looks';
import { changeLayer } from '@/data/shots';
import { Button, Tick } from '@/ui/controls';
import { afterDrop, useSortSensors } from '@/ui/sorting';
import { SelectField } from '@/ui/value-field';
import { NumberRow } from './number-row';
import { numbersOf, useScore } from './use-score';

type Change = (label: string, how: (effects: Effect[]) => Effect[]) => void;

function EffectRow({
  project,
  shot,
  layer,
  effect,
  change,
}: {
  project: Project;
  shot: Shot;
  layer: Layer;
  effect: Effect;
  change: Change;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: effect.id });
  const { name } = effectKind(effect.kind);
  const put = (label: string, next: Partial<Effect>) =>
    change(label, (all) => all.map((e) => (e.id === effect.id ? { ...e, ...next } : e)));
  return (
    <li
      ref={setNodeRef}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
      className={`rounded-md border border-rule bg-sheet p-2 ${isDragging ? 'relative z-10 outline-2 outline-ink' : ''}`}
      data-testid="effect"
    >
      <div className="flex flex-wrap items-center gap-x-3">
        <button
          type="button"
          className="-ml-2 flex h-11 w-11 cursor-grab touch-none items-center justify-center text-faint sm:h-9 sm:w-9"
          aria-label={`Move the effect ${name}`}
          {...attributes}
          {...listeners}
          // Space and the arrows are for the effect here, not for playing and stepping.
          onKeyDown={(e) => {
            listeners?.onKeyDown?.(e);
            e.stopPropagation();
          }}
        >
          <GripVertical size={18} aria-hidden />
        </button>
        <span className="font-medium">{name}</span>
        <Tick ticked={effect.on} onTick={(on) => put(on ? 'Switch an effect on' : 'Switch an effect off', { on })} className="text-sm">
          On
        </Tick>
        <Button
          kind="quiet"
          className="ml-auto text-mark"
          onClick={() => change('Remove an effect', (all) => all.filter((e) => e.id !== effect.id))}
        >
          Remove
        </Button>
      </div>
      <div className="mt-1 space-y-1.5">
        {numbersOf(shot.id, { ...layer, numbers: {}, sourceNumbers: {}, masks: [], effects: [effect] }).map((at) => (
          <NumberRow key={at.name} project={project} shot={shot} layer={layer} at={at} />
        ))}
      </div>
    </li>
  );
}

/** The effects of a layer in the order in which they are done; their numbers are keyed like any other. */
export function EffectList({ project, shot, layer }: { project: Project; shot: Shot; layer: Layer }) {
  const sensors = useSortSensors();
  const more = useScore((s) => s.more);
  // Those chosen together with this one, or every other there is.
  const others = (more.length ? more : project.shots.map((s) => s.id)).filter((id) => id !== shot.id);
  const change: Change = (label, how) => changeLayer(shot.id, layer.id, label, (l) => ({ ...l, effects: how(l.effects) }));
  const drop = (event: DragEndEvent) => {
    if (event.over && event.active.id !== event.over.id)
      change('Change the order of effects', (all) => afterDrop(all, (e) => e.id, event) ?? all);
  };
  const add = (kind: string) =>
    kind && change('Add an effect', (all) => [...all, plainEffect(`effect-${crypto.randomUUID().slice(0, 8)}`, kind)]);
  return (
    <>
      {layer.effects.length > 0 && (
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext items={layer.effects.map((e) => e.id)} strategy={verticalListSortingStrategy}>
            <ul className="space-y-2" aria-label="Effects">
              {layer.effects.map((effect) => (
                <EffectRow key={effect.id} project={project} shot={shot} layer={layer} effect={effect} change={change} />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
      )}
      {layer.effects.length > 0 && others.length > 0 && (
        <Button onClick={() => copyLook(layer.effects, others)}>
          Lay these effects on all of {others.length === 1 ? 'the other shot' : `${others.length} others`}
        </Button>
      )}
      <SelectField
        label="Add an effect"
        value=""
        options={[['', 'Choose which'], ...EFFECTS.map(({ kind, name }) => [kind, name] as const)]}
        onChange={add}
      />
    </>
  );
}
