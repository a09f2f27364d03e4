'use client';
import { type MoveOf, SIDES } from '@/core/shot';
import { Button, NumberField } from '@/ui/parts';
import { SelectField } from '@/ui/value-field';
import { type FieldsProps, MoveNumber, options, SyncField } from './move-number';
import { PlaceField } from './place-field';

/** What is typed or chosen of a freeze. */
export function FreezeFields({ project, shot, move, set }: FieldsProps<MoveOf<'freeze'>>) {
  const from = shot.start.beat;
  const part = (i: number, next: Partial<(typeof move.parts)[number]>) =>
    set('Change a part', { parts: move.parts.map((p, k) => (k === i ? { ...p, ...next } : p)) });
  return (
    <>
      <PlaceField project={project} label="Freezes" place={move.at} from={from} onChange={(at) => set('Move the freeze', { at })} />
      <PlaceField
        project={project}
        label="Runs on"
        place={move.until}
        from={from}
        onChange={(until) => set('Lengthen the freeze', { until })}
      />
      <SelectField
        label="Under the parts"
        value={move.under}
        options={[
          ['frozen', 'the frozen picture'],
          ['running', 'the take running on'],
          ...(move.plate ? [['plate', 'the clean plate'] as const] : []),
        ]}
        onChange={(under) => set('Change what is under the parts', { under: under as typeof move.under })}
      />
      <div className="grid grid-cols-2 gap-2">
        <SyncField label="Frozen second" use={move.use} onChange={(use) => set('Freeze another frame', { use })} />
        <MoveNumber
          label="A part every"
          unit="beats"
          of="every"
          range={[0.25, 16]}
          step={0.25}
          digits={2}
          move={move}
          set={set}
          said="Space the parts"
        />
        <MoveNumber label="Flight" unit="f" of="flight" range={[2, 120]} move={move} set={set} said="Change the flight" />
        <MoveNumber label="Shake at the last" unit="f" of="shake" range={[0, 60]} move={move} set={set} said="Change the shake" />
        <MoveNumber
          label="Size of the shake"
          unit="%"
          of="shakeSize"
          range={[0, 20]}
          step={0.25}
          digits={2}
          move={move}
          set={set}
          said="Change the shake"
        />
        <NumberField
          label="Trail every"
          unit="f"
          value={move.trail.every}
          min={0}
          max={250}
          onChange={(v) => set('Change the trail', { trail: { ...move.trail, every: Math.round(v), count: move.trail.count || 5 } })}
        />
        <NumberField
          label="Copies in the trail"
          unit=""
          value={move.trail.count}
          min={0}
          max={40}
          onChange={(v) => set('Change the trail', { trail: { ...move.trail, count: Math.round(v) } })}
        />
        <NumberField
          label="Newest copy"
          unit="%"
          value={move.trail.opacity}
          min={0}
          max={100}
          onChange={(opacity) => set('Change the trail', { trail: { ...move.trail, opacity } })}
        />
      </div>
      {move.parts.map((p, i) => (
        <fieldset key={i} className="border-t border-rule pt-2">
          <legend className="text-sm">Part {i + 1}</legend>
          <div className="grid grid-cols-3 gap-1.5">
            <SelectField
              label="From the"
              value={p.side}
              options={options(SIDES)}
              onChange={(side) => part(i, { side: side as typeof p.side })}
            />
            <NumberField label="Scale from" unit="%" value={p.scale} min={1} max={400} step={5} onChange={(scale) => part(i, { scale })} />
            <NumberField label="Turn from" unit="°" value={p.turn} min={-720} max={720} step={5} onChange={(turn) => part(i, { turn })} />
            {p.band && (
              <>
                <NumberField
                  label="Upper edge"
                  unit="%"
                  value={p.band.from}
                  min={-50}
                  max={150}
                  onChange={(top) => part(i, { band: p.band && { ...p.band, from: top } })}
                />
                <NumberField
                  label="Lower edge"
                  unit="%"
                  value={p.band.to}
                  min={-50}
                  max={150}
                  onChange={(bottom) => part(i, { band: p.band && { ...p.band, to: bottom } })}
                />
              </>
            )}
          </div>
        </fieldset>
      ))}
      {move.parts.length > 0 && (
        <div className="flex flex-wrap gap-2">
          <Button disabled={move.parts.length < 2} onClick={() => set('Leave a part out', { parts: move.parts.slice(0, -1) })}>
            One part fewer
          </Button>
          <Button onClick={() => set('Add a part', { parts: [...move.parts, move.parts[move.parts.length - 1]] })}>One part more</Button>
          <Button onClick={() => set('Let the figure arrive whole', { parts: [{ ...move.parts[0], band: null }] })}>
            The whole figure at once
          </Button>
        </div>
      )}
    </>
  );
}
