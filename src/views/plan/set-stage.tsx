'use client';
import { useState } from 'react';
import type { Project } from '@/core/document';
import type { PlannedShot } from '@/core/plan';
import { say } from '@/core/words';
import { changePlan } from '@/data/plans';
import { edit } from '@/data/store';
import { Note } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { CameraFields } from './camera-fields';
import { CameraView } from './camera-view';
import { FloorPlan } from './floor-plan';
import { Numbers } from './numbers';
import { DeliveryFields, OutdoorFields, RoomFields } from './set-fields';
import { ThingFields } from './thing-fields';
import { useReport } from './use-report';
import type { Picked } from './use-set';

/** The set from above and through the lens, linked, with all that follows from it. */
export function SetStage({ project, plan }: { project: Project; plan: PlannedShot }) {
  const [live, setLive] = useState<PlannedShot | null>(null);
  const [picked, setPicked] = useState<Picked | null>(null);
  const shown = live ?? plan;
  const report = useReport(project, shown);
  const drag = (next: PlannedShot, done: boolean) => {
    setLive(done ? null : next);
    if (!done) return;
    const { places, props, lamps } = next;
    if (JSON.stringify([places, props, lamps]) !== JSON.stringify([plan.places, plan.props, plan.lamps]))
      changePlan(plan.id, say`Move something on the set`, (p) => void Object.assign(p, { places, props, lamps }));
  };
  const handles = { plan: shown, report, picked, onPick: setPicked, onDrag: drag };
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] lg:grid-rows-[auto_1fr]">
      <div>
        <figure>
          <div className="flex justify-center bg-well p-2" style={{ maxHeight: '52vh' }}>
            <CameraView {...handles} />
          </div>
          <figcaption className="mt-1 text-sm text-faint">{say`Through the lens. Drag a figure or a lamp; the plan follows.`}</figcaption>
        </figure>
      </div>
      <div className="space-y-5 lg:row-span-2">
        <figure>
          <FloorPlan {...handles} unit={project.units} />
          <figcaption className="mt-1 text-sm text-faint">
            {say`From above, the camera below. Green is sharp; the dashed lines are the frame.`}
          </figcaption>
        </figure>
        <ThingFields project={project} plan={plan} picked={picked} onPick={setPicked} />
      </div>
      <div className="space-y-2 lg:col-start-1 lg:row-start-2" data-testid="judgements">
        {report.judgements.map((j) => (
          <Note key={j.text} level={j.level}>
            {j.text}
          </Note>
        ))}
      </div>
      <div className="grid gap-x-6 gap-y-4 lg:col-span-2 lg:grid-cols-2">
        <CameraFields project={project} plan={plan} />
        <div className="space-y-4">
          <RoomFields project={project} plan={plan} />
          <DeliveryFields project={project} plan={plan} />
          <OutdoorFields project={project} plan={plan} />
          <SelectField
            label={say`Lengths in`}
            value={project.units}
            options={[
              ['metres', say`metres`],
              ['feet', say`feet and inches`],
            ]}
            onChange={(v) => edit(say`Change the unit of length`, (d) => void Object.assign(d, { units: v }))}
          />
        </div>
      </div>
      <div className="lg:col-span-2">
        <Numbers project={project} plan={plan} report={report} />
      </div>
    </div>
  );
}
