'use client';
import { CalendarDays, Moon, Printer, Sheet } from 'lucide-react';
import { type ReactNode, useEffect, useState } from 'react';
import type { Project } from '@/core/document';
import { tempoOf } from '@/core/edit';
import { shotListCsv } from '@/core/exchange';
import { clock, type PlannedShot, recipeOf, showLength, shutterLabel } from '@/core/plan';
import { say } from '@/core/words';
import { timetableIcs } from '@/data/calendar';
import { showDark, showLook } from '@/data/look';
import { changePlan, filmingOrders } from '@/data/plans';
import { useProject } from '@/data/store';
import { download, slug } from '@/data/stored';
import { Button, Note } from '@/ui/controls';
import { CameraView } from './camera-view';
import { FloorPlan } from './floor-plan';
import { MarkTables, Table } from './numbers';
import { budgetText, TimetableView } from './order-stage';
import { type Day, useDay } from './use-day';
import { useReport } from './use-report';
import { usePlanContext } from './use-set';

const file = (name: string, ending: string) => `${slug(name) || 'plan'}.${ending}`;

async function saveShotList(project: Project): Promise<void> {
  const orders = await filmingOrders(project);
  const listed = project.plans.flatMap((shot) => {
    const order = orders.get(shot.id);
    return order ? [{ shot, order, barSeconds: tempoOf(project, shot).barSeconds }] : [];
  });
  // A byte order mark tells spreadsheets that it is UTF-8.
  download(new Blob(['\ufeff', shotListCsv(listed)], { type: 'text/csv' }), file(say`${project.name} shot list`, 'csv'));
}

/** A part of the sheet that is not torn apart by a page's end. */
function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="break-inside-avoid">
      <h2 className="mb-1 text-lg font-semibold">{title}</h2>
      {children}
    </section>
  );
}

function TickList({ plan, day }: { plan: PlannedShot; day: Day }) {
  return (
    <ol>
      {day.order.slots.map(({ slot, reason }, i) => {
        const row = day.table.rows.find((r) => r.slot === slot.id);
        const done = plan.ticked.includes(slot.id);
        return (
          <li key={slot.id} className="break-inside-avoid border-b border-rule">
            <label className="grid min-h-11 grid-cols-[1.75rem_3.25rem_1fr] items-start gap-x-2 py-2">
              <input
                type="checkbox"
                className="mt-1 h-5 w-5 accent-[var(--color-ink)]"
                checked={done}
                onChange={() =>
                  changePlan(
                    plan.id,
                    say`Tick the list`,
                    (p) => void Object.assign(p, { ticked: done ? p.ticked.filter((t) => t !== slot.id) : [...p.ticked, slot.id] }),
                  )
                }
              />
              <span className="num">{row ? clock(row.from) : ''}</span>
              <span>
                <strong className="font-semibold">
                  {i + 1}. {slot.name}
                </strong>
                {slot.outfit && slot.outfit !== 'as dressed' && slot.outfit !== slot.name ? (
                  <span className="text-faint">, {slot.outfit}</span>
                ) : null}
                <span className="block">{slot.what}</span>
                <span className="block text-sm text-faint">{reason}</span>
              </span>
            </label>
          </li>
        );
      })}
    </ol>
  );
}

/** Everything for the set on paper, or on a phone in the dark. */
export function CallSheet({ project, plan }: { project: Project; plan: PlannedShot }) {
  const { day, problem } = useDay(project, plan);
  const report = useReport(project, plan);
  const c = usePlanContext(project, plan);
  const [night, setNight] = useState(false);
  useEffect(() => {
    if (!night) return;
    showDark();
    return () => showLook(window.location.pathname);
  }, [night]);
  const recipe = recipeOf(plan);
  const { camera } = plan;
  const length = (m: number) => showLength(m, project.units);
  if (problem) return <Note level="bad">{problem}</Note>;
  if (!day) return <p className="text-faint">{say`Working out the order…`}</p>;
  const saveCalendar = () => {
    try {
      download(new Blob([timetableIcs(plan, day.table)], { type: 'text/calendar' }), file(plan.name, 'ics'));
    } catch (error) {
      useProject.setState({ problem: error instanceof Error ? error.message : String(error) });
    }
  };
  return (
    <article className="print-flow" data-testid="call-sheet">
      <div className="no-print mb-4 flex flex-wrap gap-2">
        <Button kind="main" onClick={() => window.print()}>
          <Printer size={17} aria-hidden />
          {say` Print`}
        </Button>
        <Button onClick={saveCalendar}>
          <CalendarDays size={17} aria-hidden />
          {say` Timetable for the calendar`}
        </Button>
        <Button onClick={() => void saveShotList(project).catch((e: Error) => useProject.setState({ problem: e.message }))}>
          <Sheet size={17} aria-hidden />
          {say` Shot list (CSV)`}
        </Button>
        <Button aria-pressed={night} onClick={() => setNight(!night)}>
          <Moon size={17} aria-hidden /> {night ? say`By day` : say`By night`}
        </Button>
      </div>
      <header className="mb-3 border-b-2 border-ink pb-2">
        <h1 className="text-2xl font-semibold">{plan.name}</h1>
        <p>
          {say`${project.name}. ${recipe.name}, bars ${plan.bar} to ${plan.bar + Math.ceil(plan.bars) - 1} (${(plan.bars * c.barSeconds).toFixed(1)} s).`}
        </p>
        <p className="num">{say`${plan.schedule.date}, ${plan.schedule.time} to ${clock(day.table.end)}. ${budgetText(day.table)}`}</p>
      </header>
      <div className="space-y-5">
        <div className="grid break-inside-avoid gap-4 sm:grid-cols-[1.15fr_1fr] print:grid-cols-[1.15fr_1fr]">
          <CameraView plan={plan} report={report} picked={null} />
          <FloorPlan plan={plan} report={report} unit={project.units} picked={null} />
        </div>
        <Section title={say`Film in this order`}>
          <TickList plan={plan} day={day} />
        </Section>
        <Section title={say`Timetable`}>
          <TimetableView table={day.table} />
        </Section>
        <div className="break-inside-avoid">
          <Table
            caption={say`Settings`}
            head={['', say`Value`]}
            rows={[
              [say`Sensor, lens`, say`${camera.sensor.name} mm, ${camera.focal} mm, held ${camera.orientation}`],
              ['Picture', say`${camera.captureWidth} × ${camera.captureHeight}, ${camera.captureFps} fps`],
              ['Exposure', `f/${camera.aperture}, ${shutterLabel(camera.shutter)}, ISO ${camera.iso}`],
              [say`Focus, height, tilt`, `${length(camera.focus)}, ${length(camera.height)}, ${camera.tilt}°`],
              [say`Song played at`, `${Math.round(report.light.slow.playback)} %`],
            ]}
          />
        </div>
        <div className="break-inside-avoid">
          <MarkTables project={project} plan={plan} />
        </div>
        <Section title={say`Marks and what to mind`}>
          <ul className="list-disc space-y-1 pl-5">
            {recipe.marks(c).map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
        </Section>
        {report.judgements.some((j) => j.level !== 'good') && (
          <Section title={say`Not settled yet`}>
            <ul className="list-disc space-y-1 pl-5">
              {report.judgements
                .filter((j) => j.level !== 'good')
                .map((j) => (
                  <li key={j.text}>{j.text}</li>
                ))}
            </ul>
          </Section>
        )}
        <Section title={say`Bring`}>
          <ul className="gap-x-6 sm:columns-2 print:columns-2">
            {recipe.kit(c).map((k) => (
              <li key={k} className="break-inside-avoid">
                <label className="flex min-h-11 items-center gap-2 sm:min-h-7 print:min-h-0">
                  <input type="checkbox" className="h-5 w-5 accent-[var(--color-ink)]" /> {k}
                </label>
              </li>
            ))}
          </ul>
        </Section>
        <Section title={say`Take care`}>
          <div className="space-y-2">
            {recipe.cautions(c).map((text) => (
              <Note key={text} level="fix">
                {text}
              </Note>
            ))}
          </div>
        </Section>
      </div>
    </article>
  );
}
