'use client';
import { Plus } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { say } from '@/core/words';
import { usePlan } from '@/data/plans';
import { useProject } from '@/data/store';
import { Button, Heading } from '@/ui/controls';
import { PartTabs } from '@/ui/part-tabs';
import { tapeStyle } from '@/ui/tape';
import { Brief } from './brief';

const Waiting = () => <p className="p-4 text-faint">{say`One moment…`}</p>;
const SetStage = dynamic(() => import('./set-stage').then((m) => m.SetStage), { ssr: false, loading: Waiting });
const OrderStage = dynamic(() => import('./order-stage').then((m) => m.OrderStage), { ssr: false, loading: Waiting });
const DryRun = dynamic(() => import('./dry-run').then((m) => m.DryRun), { ssr: false, loading: Waiting });
const CallSheet = dynamic(() => import('./call-sheet').then((m) => m.CallSheet), { ssr: false, loading: Waiting });
const RecipePicker = dynamic(() => import('./recipe-picker').then((m) => m.RecipePicker), { ssr: false, loading: Waiting });

const PARTS = [
  ['brief', say`Brief`],
  ['set', say`Set`],
  ['order', say`Order`],
  ['dry', say`Dry run`],
  ['sheet', say`Call sheet`],
] as const;
const STAGES = { brief: Brief, set: SetStage, order: OrderStage, dry: DryRun, sheet: CallSheet };

/** The planned shots as strips of paper, each with its tape. */
function PlanStrips({ onNew }: { onNew: () => void }) {
  const plans = useProject((s) => s.project?.plans) ?? [];
  const plan = usePlan();
  return (
    <nav
      aria-label={say`Planned shots`}
      className="no-print -mx-4 mb-3 flex gap-2 overflow-x-auto px-4 pt-1.5 pb-2 sm:mx-0 sm:flex-wrap sm:px-0"
    >
      {plans.map((p, i) => {
        const here = p.id === plan?.id;
        return (
          <button
            key={p.id}
            type="button"
            aria-current={here ? 'true' : undefined}
            onClick={() => useProject.setState({ selectedPlan: p.id })}
            className={`relative min-h-11 shrink-0 border bg-sheet px-3 pt-2 text-left sm:min-h-9 ${here ? 'border-ink font-semibold' : 'border-rule text-faint hover:border-ink'}`}
          >
            <span aria-hidden className="absolute -top-1 left-1/2 h-2.5 w-9 -translate-x-1/2 -rotate-2" style={tapeStyle(i)} />
            {p.name}
          </button>
        );
      })}
      <Button kind="quiet" className="shrink-0" onClick={onNew}>
        <Plus size={17} aria-hidden />
        {say` Plan another shot`}
      </Button>
    </nav>
  );
}

export function PlanView() {
  const project = useProject((s) => s.project);
  const plan = usePlan();
  const [part, setPart] = useState<string>('brief');
  const [picking, setPicking] = useState(false);
  if (!project) return null;
  if (!plan || picking) return <RecipePicker onDone={plan ? () => setPicking(false) : undefined} onPicked={() => setPicking(false)} />;
  return (
    <div className="print-flow mx-auto max-w-6xl p-4 sm:p-6">
      <div className="no-print">
        <Heading title={say`Plan`} question={say`What must I film so that the edit works?`} />
        <PlanStrips onNew={() => setPicking(true)} />
      </div>
      <PartTabs label={say`Parts of the plan`} parts={PARTS} value={part} onValue={setPart}>
        {(key) => {
          const Part = STAGES[key as keyof typeof STAGES];
          return <Part project={project} plan={plan} />;
        }}
      </PartTabs>
    </div>
  );
}
