'use client';
import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { GripVertical } from 'lucide-react';
import { useState } from 'react';
import { footageName, footageOf, type Project, type Shot } from '@/core/document';
import { EFFECTS, effectKind } from '@/core/effects';
import type { Effect, Layer } from '@/core/layer';
import { sourceKind } from '@/core/sources';
import { say } from '@/core/words';
import { addEffect } from '@/data/add-effect';
import { copyLook } from '@/data/looks';
import { type Like, matchTo } from '@/data/match-colour';
import { changeLayer } from '@/data/shots';
import { chooseTable, takeTable } from '@/data/table-files';
import { Button, Note, Tick, Working } from '@/ui/controls';
import { FileLink } from '@/ui/file-link';
import { afterDrop, spokenSorting, useSortSensors } from '@/ui/sorting';
import { SelectField } from '@/ui/value-field';
import { ChoiceSheet } from '@/views/shared';
import { KeptLooks } from './kept-looks';
import { NumberRow } from './number-row';
import { useDoing } from './use-doing';
import { numbersOf, useScore } from './use-score';

type Change = (label: string, how: (effects: Effect[]) => Effect[]) => void;

/** The colour table an effect goes by: one that the project keeps, or from a file. */
function TableField({ project, shot, layer, effect }: { project: Project; shot: Shot; layer: Layer; effect: Effect }) {
  const [said, setSaid] = useState('');
  const kept = project.media.filter((m) => m.kind === 'colour table');
  return (
    <>
      <SelectField
        label={say`Colour table`}
        value={effect.tableId ?? ''}
        options={[['', say`none yet`], ...kept.map((m) => [m.id, m.name] as const)]}
        onChange={(id) => chooseTable(shot.id, layer.id, effect.id, id || null)}
      />
      <FileLink
        text={say`Use a table from a file (.cube)`}
        accept=".cube,.CUBE,text/plain"
        onFile={(file) => {
          setSaid('');
          takeTable(project, shot.id, layer.id, effect.id, file).catch((error: Error) => setSaid(error.message));
        }}
      />
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}

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
          aria-label={say`Move the effect ${name}`}
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
        <Tick
          ticked={effect.on}
          onTick={(on) => put(on ? say`Switch an effect on` : say`Switch an effect off`, { on })}
          className="text-sm"
        >
          {say`On`}
        </Tick>
        <Button
          kind="quiet"
          className="ml-auto text-mark"
          onClick={() => change(say`Remove an effect`, (all) => all.filter((e) => e.id !== effect.id))}
        >
          {say`Remove`}
        </Button>
      </div>
      {effectKind(effect.kind).byTable && <TableField project={project} shot={shot} layer={layer} effect={effect} />}
      <div className="mt-1 space-y-1.5">
        {numbersOf(shot.id, { ...layer, numbers: {}, sourceNumbers: {}, masks: [], effects: [effect] }).map((at) => (
          <NumberRow key={at.name} project={project} shot={shot} layer={layer} at={at} />
        ))}
      </div>
    </li>
  );
}

/** The layer's colour measured against another layer's or a take's. */
function MatchField({ project, shot, layer }: { project: Project; shot: Shot; layer: Layer }) {
  const { doing, said, start } = useDoing();
  if (layer.source.kind === 'below' || sourceKind(layer.source).again) return null;
  const likes = new Map<string, Like>([
    ...shot.layers
      .filter((l) => l !== layer && l.source.kind !== 'below' && !sourceKind(l.source).again)
      .map((l): [string, Like] => [say`layer ${l.id}`, { layerId: l.id }]),
    ...project.takes.map((t): [string, Like] => [say`take ${t.id}`, { takeId: t.id }]),
  ]);
  const nameOf = (like: Like) =>
    'layerId' in like
      ? say`the layer ${shot.layers.find((l) => l.id === like.layerId)?.name ?? ''}`
      : say`the middle of ${footageName(footageOf(project, like.takeId))}`;
  return (
    <>
      {doing !== null ? (
        <Working text={say`Measuring the colours`} done={doing} />
      ) : (
        <SelectField
          label={say`Match its colour to`}
          value=""
          options={[['', say`Choose what`], ...[...likes].map(([key, like]) => [key, nameOf(like)] as const)]}
          onChange={(key) => {
            const like = likes.get(key);
            if (like) start(() => matchTo(project, shot, layer, like));
          }}
        />
      )}
      {said && <Note level="unsure">{said}</Note>}
    </>
  );
}

/** The effects of a layer in the order in which they are done; their numbers are keyed like any other. */
export function EffectList({ project, shot, layer }: { project: Project; shot: Shot; layer: Layer }) {
  const sensors = useSortSensors();
  const { said, start } = useDoing();
  const more = useScore((s) => s.more);
  // Those chosen together with this one, or every other there is.
  const others = (more.length ? more : project.shots.map((s) => s.id)).filter((id) => id !== shot.id);
  const change: Change = (label, how) => changeLayer(shot.id, layer.id, label, (l) => ({ ...l, effects: how(l.effects) }));
  const drop = (event: DragEndEvent) => {
    if (event.over && event.active.id !== event.over.id)
      change(say`Change the order of effects`, (all) => afterDrop(all, (e) => e.id, event) ?? all);
  };
  return (
    <>
      {layer.effects.length > 0 && (
        <DndContext
          accessibility={spokenSorting(layer.effects.map(({ id, kind }) => ({ id, name: effectKind(kind).name })))}
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={drop}
        >
          <SortableContext items={layer.effects.map((e) => e.id)} strategy={verticalListSortingStrategy}>
            <ul className="space-y-2" aria-label={say`Effects`}>
              {layer.effects.map((effect) => (
                <EffectRow key={effect.id} project={project} shot={shot} layer={layer} effect={effect} change={change} />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
      )}
      {layer.effects.length > 0 && others.length > 0 && (
        <Button onClick={() => copyLook(layer.effects, others)}>
          {say`Lay these effects on all of ${others.length === 1 ? say`the other shot` : say`${others.length} others`}`}
        </Button>
      )}
      <MatchField project={project} shot={shot} layer={layer} />
      <SelectField
        label={say`Add an effect`}
        value=""
        options={[['', say`Choose which`], ...EFFECTS.map(({ kind, name }) => [kind, name] as const)]}
        onChange={(kind) => kind && start(() => addEffect(project, shot, layer, kind))}
      />
      <ChoiceSheet
        title={say`Effects`}
        button={say`All effects…`}
        asks={say`What should it look like?`}
        choices={EFFECTS}
        pictures="effects"
        none={say`No effect is called that or does that. Try fewer words.`}
        onChoose={(kind) => start(() => addEffect(project, shot, layer, kind))}
      />
      {said && <Note level="unsure">{said}</Note>}
      <KeptLooks project={project} shot={shot} layer={layer} />
    </>
  );
}
