'use client';
import type { ReactNode } from 'react';
import type { Project } from '@/core/document';
import { clock, eyeLines, floorMarks, type PlannedShot, type SetReport, showLength } from '@/core/plan';
import { say } from '@/core/words';

/** A small table; the first column names the rows. */
export function Table({ caption, head, rows }: { caption: string; head: readonly string[]; rows: readonly (readonly ReactNode[])[] }) {
  return (
    <div className="mb-5 overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <caption className="mb-1 text-left text-lg font-semibold">{caption}</caption>
        <thead>
          <tr className="border-b border-ink text-sm text-faint">
            {head.map((h) => (
              <th key={h} scope="col" className="py-1 pr-3 font-normal">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={String(row[0]) + String(row[1])} className="border-b border-rule align-top">
              {row.map((cell, i) => (
                <td key={head[i]} className={`py-1 pr-3 ${i ? 'num' : ''}`}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const side = (metres: number, text: string) => (Math.abs(metres) < 0.005 ? say`on the axis` : `${text} ${metres > 0 ? 'right' : 'left'}`);

/** Marks to tape down: places and eye lines. */
export function MarkTables({ project, plan }: { project: Project; plan: PlannedShot }) {
  const length = (m: number) => showLength(m, project.units);
  return (
    <>
      <Table
        caption={say`Floor marks`}
        head={[say`Mark`, say`Along the axis`, say`Across`, say`Straight from under the lens`]}
        rows={floorMarks(plan.places).map((m) => [m.what, length(m.along), side(m.across, length(Math.abs(m.across))), length(m.straight)])}
      />
      {plan.places.length > 1 && (
        <Table
          caption={say`Eye lines`}
          head={[say`Looks from`, say`to the eyes at`, say`Height`, say`Distance`, say`Turn from the lens`]}
          rows={eyeLines(plan.places).map((e) => [
            e.from.name,
            e.to.name,
            length(e.height),
            length(e.distance),
            say`${Math.abs(e.turn).toFixed(0)}° to frame ${e.turn > 0 ? 'right' : 'left'}${Math.abs(e.lift) > 0.5 ? `, ${Math.abs(e.lift).toFixed(0)}° ${e.lift > 0 ? 'up' : 'down'}` : ''}`,
          ])}
        />
      )}
    </>
  );
}

/** The numbers behind the judgements. */
export function Numbers({ project, plan, report }: { project: Project; plan: PlannedShot; report: SetReport }) {
  const length = (m: number) => showLength(m, project.units);
  const { sharpness, light, resolution, dolly, outdoors, view } = report;
  const percent = (px: number) => `${((100 * px) / view.width).toFixed(1)} %`;
  return (
    <div className="grid gap-x-8 lg:grid-cols-2">
      <Table
        caption={say`Zones in the frame`}
        head={[say`Place`, say`From`, say`To`, say`Wide`]}
        rows={report.zones.map((z) => [
          z.place.name,
          `${Math.round(z.left)} px (${percent(z.left)})`,
          `${Math.round(z.right)} px (${percent(z.right)})`,
          `${Math.round(z.right - z.left)} px`,
        ])}
      />
      <Table
        caption={say`What fills the frame`}
        head={[say`At`, say`Distance`, say`Wide`, say`High`]}
        rows={report.fields.map((f) => [f.what, length(f.distance), length(f.width), length(f.height)])}
      />
      <MarkTables project={project} plan={plan} />
      {sharpness && (
        <Table
          caption={say`Sharpness`}
          head={['', say`Value`]}
          rows={[
            [say`Sharp now`, say`${length(sharpness.near)} to ${length(sharpness.far)}`],
            [say`To hold every place`, say`focus ${length(sharpness.focus)}, f/${sharpness.aperture}`],
            [say`Light it costs`, say`${sharpness.cost.toFixed(1)} stops`],
            ...sharpness.payments.map((p) => [say`Paid by ${p.means}`, `${p.text}: ${p.price}`]),
          ]}
        />
      )}
      <Table
        caption={say`Shutters without flicker`}
        head={[say`Shutter`, say`Angle`, say`Light against 180°`]}
        rows={light.safe
          .slice(0, 4)
          .map((s) => [s.label, `${Math.round(s.angle)}°`, say`${s.stops > 0 ? '−' : '+'}${Math.abs(s.stops).toFixed(1)} stops`])}
      />
      <Table
        caption={say`Slow motion`}
        head={['', say`Value`]}
        rows={[
          [say`Rate to film at`, say`${light.slow.capture} fps`],
          [say`Song played on set at`, `${Math.round(light.slow.playback)} %`],
          [say`Light lost`, say`${light.slow.lost.toFixed(1)} stops`],
          [say`Slowest before frames repeat`, `${light.slow.slowest.toFixed(0)} %`],
        ]}
      />
      <Table
        caption={say`Pixels needed`}
        head={[say`For`, say`Factor`]}
        rows={[
          ...resolution.factors.map((f) => [f.what, `× ${f.factor.toFixed(3)}`]),
          [say`In all`, `${resolution.width} × ${resolution.height}`],
        ]}
      />
      {report.shadows.length > 0 && (
        <Table
          caption={say`Shadows`}
          head={[say`Of, from`, say`Falls on`, say`From`, say`To`, say`Soft edge`]}
          rows={report.shadows.map((s) => [
            `${s.place.name}, ${s.lamp.name}`,
            s.on,
            `${Math.round(s.left)} px`,
            `${Math.round(s.right)} px`,
            `${Math.round(s.penumbraPixels)} px`,
          ])}
        />
      )}
      {dolly && (
        <Table
          caption={say`Dolly zoom`}
          head={['', say`Value`]}
          rows={[
            ['Scale', say`${(100 * dolly.from).toFixed(0)} % to ${(100 * dolly.to).toFixed(0)} %`],
            ['Way', say`${length(dolly.track)} at ${dolly.speed.toFixed(2)} m/s`],
            ...dolly.background.map((b) => [
              say`${length(b.behind)} behind`,
              say`${(100 * b.growth).toFixed(0)} % of its size at the start`,
            ]),
          ]}
        />
      )}
      {outdoors && (
        <Table
          caption={say`Sun`}
          head={['', say`Value`]}
          rows={[
            [say`At the start`, say`${outdoors.altitude.toFixed(1)}° high, bearing ${outdoors.bearing.toFixed(0)}°`],
            [
              say`Up, down`,
              `${outdoors.day.sunrise === null ? say`no sunrise` : clock(outdoors.day.sunrise)}, ${outdoors.day.sunset === null ? say`no sunset` : clock(outdoors.day.sunset)}`,
            ],
            [say`Dusk ends`, outdoors.day.dusk === null ? say`not this day` : clock(outdoors.day.dusk)],
            [say`Shadow of a head wanders`, outdoors.drift === null ? say`no shadow` : say`${outdoors.drift.toFixed(1)} cm a minute`],
          ]}
        />
      )}
    </div>
  );
}
