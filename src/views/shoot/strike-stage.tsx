'use client';
import { useEffect, useMemo, useState } from 'react';
import type { Project } from '@/core/document';
import { type StrikeRow, strikeReport } from '@/core/log';
import type { Slot } from '@/core/plan';
import { say } from '@/core/words';
import { filmingOrders } from '@/data/plans';
import { useProject } from '@/data/store';
import { Note, Tape } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { MeasuringNow, useMeasured } from '@/views/shared';

/** Every take that fills a slot, against the first take of its planned shot. */
const againstSetUp = (project: Project) =>
  project.takes.filter((take) => take.plan).map((take) => ({ take, against: project.takes.find((t) => t.plan === take.plan) ?? null }));

/** The slots of each planned shot as they are filmed; empty until they are worked out. */
function useOrders(project: Project | null): ReadonlyMap<string, readonly Slot[]> {
  const [orders, setOrders] = useState<ReadonlyMap<string, readonly Slot[]>>(new Map());
  const plans = project?.plans;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the order hangs on the plans, not on the takes
  useEffect(() => {
    let wanted = true;
    if (project)
      void filmingOrders(project).then(
        (found) => wanted && setOrders(new Map([...found].map(([id, order]) => [id, order.slots.map((s) => s.slot)]))),
        () => undefined,
      );
    return () => {
      wanted = false;
    };
  }, [plans]);
  return orders;
}

const LOOKS = { good: ['good', 'good'], unsure: ['look', 'unsure'], fix: ['again', 'fix'], missing: ['missing', 'bad'] } as const;

function Row({ row, index }: { row: StrikeRow; index: number }) {
  const [word, level] = LOOKS[row.state];
  return (
    <li
      className="grid gap-x-3 gap-y-1 border-b border-rule py-2 sm:grid-cols-[14rem_5rem_1fr]"
      data-testid={`strike-${row.slot.id}`}
      data-state={row.state}
    >
      <Tape index={index}>{row.slot.name}</Tape>
      <span className={`font-semibold ${level === 'good' ? 'text-good' : level === 'unsure' ? 'text-ink' : 'text-mark'}`}>{word}</span>
      <span>
        {row.text}
        {row.takes.length > 1 && <span className="text-faint">{say` Best of ${row.takes.length}.`}</span>}
      </span>
    </li>
  );
}

/** May the set be struck? */
export function StrikeStage() {
  const project = useProject((s) => s.project);
  const { measured, keys, problem } = useMeasured(againstSetUp);
  const orders = useOrders(project);
  const [chosen, setChosen] = useState('');
  const plans = useMemo(() => project?.plans.filter((p) => (chosen ? p.id === chosen : true)) ?? [], [project, chosen]);
  const report = useMemo(() => project && strikeReport(project, plans, measured, orders), [project, plans, measured, orders]);
  if (!project || !report) return null;
  if (project.plans.length === 0)
    return <Note level="unsure">{say`Nothing is planned, so nobody knows what is missing. Plan a shot first.`}</Note>;
  const level = { yes: 'good', look: 'unsure', no: 'fix' } as const;
  return (
    <div className="max-w-4xl">
      <div className="mb-3 sm:max-w-sm">
        <SelectField
          label={say`For`}
          value={chosen}
          options={[['', say`everything planned`], ...project.plans.map((p) => [p.id, p.name] as const)]}
          onChange={setChosen}
        />
      </div>
      <div className="mb-3 text-lg" data-testid="strike-verdict" data-verdict={report.verdict}>
        <Note level={level[report.verdict]}>{report.text}</Note>
      </div>
      <MeasuringNow keys={keys} />
      {problem && <Note level="bad">{problem}</Note>}
      {plans.map((plan) => (
        <section key={plan.id} className="mt-4">
          <h2 className="font-semibold">{plan.name}</h2>
          <ul className="border-t border-rule">
            {report.rows
              .filter((r) => r.plan.id === plan.id)
              .map((row, i) => (
                <Row key={row.slot.id} row={row} index={i} />
              ))}
          </ul>
        </section>
      ))}
      {report.again.length > 0 && (
        <section className="mt-4">
          <h2 className="font-semibold">{say`Film again, in this order`}</h2>
          <ol className="list-decimal pl-5">
            {report.again.map((r) => (
              <li key={`${r.plan.id}-${r.slot.id}`}>
                {r.slot.name} <span className="text-faint">{say`(${r.plan.name}, about ${Math.max(1, Math.round(r.minutes))} min)`}</span>
              </li>
            ))}
          </ol>
        </section>
      )}
    </div>
  );
}
