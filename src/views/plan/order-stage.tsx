'use client';
import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { GripVertical, RotateCcw } from 'lucide-react';
import type { Project } from '@/core/document';
import { clock, type PlannedOrder, type PlannedShot, type Timetable } from '@/core/plan';
import { say } from '@/core/words';
import { changePlan } from '@/data/plans';
import { Button, Note, NumberField, Tape } from '@/ui/controls';
import { afterDrop, spokenSorting, useSortSensors } from '@/ui/sorting';
import { ValueField } from '@/ui/value-field';
import { useDay } from './use-day';

type Placed = PlannedOrder['slots'][number];

function Row({ placed, index, table }: { placed: Placed; index: number; table: Timetable }) {
  const { slot, reason } = placed;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: slot.id });
  const row = table.rows.find((r) => r.slot === slot.id);
  return (
    <li
      ref={setNodeRef}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
      className={`grid grid-cols-[2.75rem_3.5rem_1fr] items-start gap-x-2 border-b border-rule bg-paper py-2 ${isDragging ? 'relative z-10 outline-2 outline-ink' : ''}`}
      data-testid="order-row"
    >
      <button
        type="button"
        className="flex h-11 w-11 cursor-grab touch-none items-center justify-center text-faint"
        aria-label={say`Move ${slot.name}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={18} aria-hidden />
      </button>
      <span className="num pt-2.5">{row ? clock(row.from) : ''}</span>
      <div className="pt-2">
        <Tape index={index}>{slot.name}</Tape>
        <p className="text-sm text-faint">{reason}</p>
      </div>
    </li>
  );
}

/** The order on set: the solver's, or the user's own with what it breaks. */
function OrderList({ plan, order, table }: { plan: PlannedShot; order: PlannedOrder; table: Timetable }) {
  const ids = order.slots.map((s) => s.slot.id);
  const sensors = useSortSensors();
  const drop = (event: DragEndEvent) => {
    const next = afterDrop(ids, (id) => id, event);
    if (next) changePlan(plan.id, say`Change the order`, (p) => void Object.assign(p, { order: next }));
  };
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-lg font-semibold">{order.own ? say`Your own order` : say`Film in this order`}</h2>
        {order.own && (
          <Button onClick={() => changePlan(plan.id, say`Take the proposed order`, (p) => void Object.assign(p, { order: [] }))}>
            <RotateCcw size={16} aria-hidden />
            {say` Take the proposed order`}
          </Button>
        )}
      </div>
      <div className="mb-2 space-y-2">
        {order.broken.map((text) => (
          <Note key={text} level="bad">
            {text}
          </Note>
        ))}
      </div>
      <DndContext
        id={`order-${plan.id}`}
        accessibility={spokenSorting(order.slots.map((s) => s.slot))}
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={drop}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol className="border-t border-rule">
            {order.slots.map((placed, i) => (
              <Row key={placed.slot.id} placed={placed} index={i} table={table} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </div>
  );
}

const readDate = (text: string) => (/^\d{4}-\d{2}-\d{2}$/.test(text.trim()) && !Number.isNaN(Date.parse(text.trim())) ? text.trim() : null);

function readTime(text: string): string | null {
  const m = /^\s*(\d{1,2})(?:[:.h](\d{2}))?\s*$/.exec(text);
  if (!m) return null;
  const [h, min] = [Number(m[1]), Number(m[2] ?? 0)];
  return h < 24 && min < 60 ? `${String(h).padStart(2, '0')}:${String(min).padStart(2, '0')}` : null;
}

function ScheduleFields({ plan }: { plan: PlannedShot }) {
  const { schedule } = plan;
  const set = (change: Partial<PlannedShot['schedule']>) =>
    changePlan(plan.id, say`Change the timetable`, (p) => void Object.assign(p.schedule, change));
  const minutes = (label: string, key: 'setUpMinutes' | 'outfitMinutes' | 'rigMinutes' | 'lampMinutes' | 'breakMinutes', max: number) => (
    <NumberField label={label} unit="min" value={schedule[key]} min={0} max={max} step={5} onChange={(v) => set({ [key]: v })} />
  );
  return (
    <div className="grid grid-cols-2 gap-3">
      <ValueField label={say`Day`} shown={schedule.date} read={readDate} example="2026-11-27" onChange={(date) => set({ date })} />
      <ValueField label={say`Begin at`} shown={schedule.time} read={readTime} example="19:30" onChange={(time) => set({ time })} />
      {minutes(say`Set up`, 'setUpMinutes', 600)}
      {minutes(say`Outfit change`, 'outfitMinutes', 120)}
      {minutes(say`Camera moved`, 'rigMinutes', 120)}
      {minutes(say`Lamps moved`, 'lampMinutes', 120)}
      {minutes('Break', 'breakMinutes', 120)}
      <NumberField
        label={say`At the latest after`}
        unit="min"
        value={schedule.breakEvery}
        min={20}
        max={600}
        step={10}
        onChange={(v) => set({ breakEvery: v })}
      />
      <NumberField
        label={say`Recorded at`}
        unit="Mbit/s"
        value={schedule.bitrate}
        min={0.5}
        max={4000}
        step={10}
        digits={schedule.bitrate % 1 ? 1 : 0}
        onChange={(v) => set({ bitrate: v })}
      />
      <NumberField
        label={say`Card`}
        unit="GB"
        value={schedule.cardGigabytes}
        min={0.5}
        max={20000}
        step={32}
        onChange={(v) => set({ cardGigabytes: v })}
      />
      <NumberField
        label={say`A battery lasts`}
        unit="min"
        value={schedule.batteryMinutes}
        min={5}
        max={2000}
        step={10}
        onChange={(v) => set({ batteryMinutes: v })}
      />
    </div>
  );
}

export function TimetableView({ table }: { table: Timetable }) {
  return (
    <ol>
      {table.rows.map((row) => (
        <li
          key={row.from}
          className={`grid grid-cols-[3.5rem_1fr_3.5rem] gap-2 border-b border-rule py-1.5 ${row.kind === 'slot' ? '' : 'text-faint'}`}
        >
          <span className="num">{clock(row.from)}</span>
          <span>{row.what}</span>
          <span className="num text-right">{say`${Math.max(1, Math.round(row.to - row.from))} min`}</span>
        </li>
      ))}
      <li className="grid grid-cols-[3.5rem_1fr] gap-2 py-1.5 font-semibold">
        <span className="num">{clock(table.end)}</span>
        <span>{say`Done. Strike the set.`}</span>
      </li>
    </ol>
  );
}

/** What is recorded, and what it takes of card and batteries. */
export function budgetText(table: Timetable): string {
  const cards = Math.max(1, Math.ceil(table.cards));
  const batteries = Math.max(1, Math.ceil(table.batteries));
  return say`${(table.recorded / 60).toFixed(0)} minutes recorded, ${table.gigabytes.toFixed(1)} GB: ${cards} ${cards === 1 ? 'card' : 'cards'}. ${batteries} ${batteries === 1 ? 'battery' : 'batteries'}, and one to spare.`;
}

/** Order, times, storage and batteries. */
export function OrderStage({ project, plan }: { project: Project; plan: PlannedShot }) {
  const { day, problem } = useDay(project, plan);
  if (problem) return <Note level="bad">{problem}</Note>;
  if (!day) return <p className="text-faint">{say`Working out the order…`}</p>;
  return (
    <div className="grid gap-8 lg:grid-cols-[1.2fr_1fr]">
      <OrderList plan={plan} order={day.order} table={day.table} />
      <div className="space-y-6">
        <section>
          <h2 className="mb-2 text-lg font-semibold">{say`Timetable`}</h2>
          <TimetableView table={day.table} />
          <p className="num mt-2">{budgetText(day.table)}</p>
        </section>
        <ScheduleFields plan={plan} />
      </div>
    </div>
  );
}
