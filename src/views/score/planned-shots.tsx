'use client';
import { say } from '@/core/words';
import { layPlan, type readyPlans } from '@/data/lay-plan';
import { Button, Note, Working } from '@/ui/controls';
import { useDoing } from './use-doing';

/** The planned shots of which enough is filmed, each laid where the plan says by one press. */
export function PlannedShots({ ready, onLaid }: { ready: ReturnType<typeof readyPlans>; onLaid: () => void }) {
  const { doing, said, start } = useDoing();
  if (ready.length === 0) return null;
  return (
    <div className="mt-2 space-y-2">
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-sm text-faint">{say`As planned:`}</span>
        {ready.map(({ plan, missing }) => (
          <Button
            key={plan.id}
            disabled={doing !== null}
            title={missing > 0 ? say`${missing} of its takes are not filmed yet` : say`All of its takes are there`}
            onClick={() =>
              start(async (tell) => {
                const text = await layPlan(plan.id, tell);
                onLaid();
                return text;
              })
            }
          >
            {say`Lay “`}
            {plan.name}
            {say`” on bar `}
            <span className="num">{plan.bar}</span>
          </Button>
        ))}
      </div>
      {doing !== null && <Working text={say`Laying the planned shot`} done={doing} />}
      {said && <Note level="fix">{said}</Note>}
    </div>
  );
}
