'use client';
import { useMemo, useState } from 'react';
import type { Shot } from '@/core/document';
import { beatFrames, framesWithin, PATTERNS, type Pattern, repeatedKeys, withPattern } from '@/core/edit';
import type { NumberKind, Scene } from '@/core/layer';
import { nearestFrame } from '@/core/time';
import { say } from '@/core/words';
import { useSettledPlayhead } from '@/data/playhead';
import { changeKeys, type NumberAt } from '@/data/shots';
import { useProject } from '@/data/store';
import { Button, NumberField } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { useHeard } from '@/views/shared';

const NAMES: Record<Pattern['kind'], string> = {
  pulse: say`a pulse on beats`,
  shake: say`a shake that dies away`,
  wiggle: say`a wiggle`,
  'hand-held': say`as if hand-held`,
  drift: say`a slow drift`,
};
const EVERY: Record<Pattern['kind'], { label: string; unit: string; first: number } | null> = {
  pulse: { label: say`Every`, unit: say`beats`, first: 1 },
  shake: { label: say`Gone within`, unit: say`frames`, first: 12 },
  wiggle: { label: say`Turns every`, unit: say`frames`, first: 6 },
  'hand-held': { label: say`Turns every`, unit: say`frames`, first: 5 },
  drift: null,
};

/** The film frames on which the song has its hits; none where it was not listened to. */
function useHitFrames(): number[] {
  const mediaId = useProject((s) => s.project?.song?.mediaId);
  const rate = useProject((s) => s.project?.frame.rate);
  const hits = useHeard(mediaId)?.hits;
  return useMemo(() => (rate ? (hits ?? []).map(({ time }) => nearestFrame(time, rate)) : []), [hits, rate]);
}

/** Whether something comes on beats or on the song's hits. */
function OnField({ hits, value, onChange }: { hits: readonly number[]; value: boolean; onChange: (onHits: boolean) => void }) {
  if (hits.length === 0) return null;
  return (
    <SelectField
      label={say`On`}
      value={value ? 'hits' : 'beats'}
      options={[
        ['beats', say`beats`],
        ['hits', say`hits of the song`],
      ]}
      onChange={(v) => onChange(v === 'hits')}
    />
  );
}

/** Keys laid by a pattern from the playhead on; they are ordinary keys from then on. */
export function LayPattern({ shot, at, kind, scene, value }: { shot: Shot; at: NumberAt; kind: NumberKind; scene: Scene; value: number }) {
  const playhead = useSettledPlayhead();
  const [open, setOpen] = useState(false);
  const [which, setWhich] = useState<Pattern['kind']>('pulse');
  const [every, setEvery] = useState(1);
  const [amount, setAmount] = useState(10 * kind.step);
  const [seed, setSeed] = useState(1);
  const hits = useHitFrames();
  const [onHits, setOnHits] = useState(false);
  const byHits = which === 'pulse' && onHits && hits.length > 0;
  const inside = playhead >= scene.first && playhead < scene.end;
  const asks = EVERY[which];
  if (!open) return <Button onClick={() => setOpen(true)}>{say`Move by a pattern…`}</Button>;
  return (
    <fieldset className="flex flex-wrap items-end gap-2" aria-label={say`A pattern in ${shot.name}`}>
      <SelectField
        label={say`Pattern`}
        value={which}
        options={PATTERNS.map((p) => [p, NAMES[p]] as const)}
        onChange={(v) => {
          setWhich(v as Pattern['kind']);
          setEvery(EVERY[v as Pattern['kind']]?.first ?? 1);
        }}
      />
      <div className="w-28">
        <NumberField
          label={say`By`}
          unit={kind.unit}
          value={amount}
          min={kind.min - kind.max}
          max={kind.max - kind.min}
          step={kind.step}
          digits={kind.digits}
          onChange={setAmount}
        />
      </div>
      {which === 'pulse' && <OnField hits={hits} value={onHits} onChange={setOnHits} />}
      {asks && !byHits && (
        <div className="w-32">
          <NumberField
            label={asks.label}
            unit={asks.unit}
            value={every}
            min={asks.unit === 'beats' ? 0.25 : 2}
            max={500}
            digits={2}
            onChange={setEvery}
          />
        </div>
      )}
      {which !== 'pulse' && which !== 'drift' && (
        <div className="w-24">
          <NumberField label={say`Seed`} unit="" value={seed} min={0} max={9999} onChange={setSeed} />
        </div>
      )}
      <Button
        disabled={!inside}
        onClick={() =>
          changeKeys(at, say`Move by ${NAMES[which]}`, (keys) =>
            withPattern(scene, keys, { kind: which, amount, every, seed, ...(byHits && { on: hits }) }, value, playhead).map((k) => ({
              ...k,
              value: Math.min(kind.max, Math.max(kind.min, k.value)),
            })),
          )
        }
      >
        {say`Lay from here on`}
      </Button>
    </fieldset>
  );
}

/** The chosen keys again on every so many beats, or on the song's hits. */
export function RepeatKeys({ at, scene, chosen }: { at: NumberAt; scene: Scene; chosen: ReadonlySet<number> }) {
  const [every, setEvery] = useState(1);
  const hits = useHitFrames();
  const [onHits, setOnHits] = useState(false);
  const byHits = onHits && hits.length > 0;
  return (
    <span className="flex items-end gap-1.5">
      <OnField hits={hits} value={onHits} onChange={setOnHits} />
      {!byHits && (
        <span className="w-28">
          <NumberField label={say`Again every`} unit="beats" value={every} min={0.5} max={64} step={0.5} digits={1} onChange={setEvery} />
        </span>
      )}
      <Button
        onClick={() =>
          changeKeys(at, say`Repeat keys`, (keys) => {
            const first = Math.min(...chosen);
            return repeatedKeys(
              scene,
              keys,
              chosen,
              (byHits ? framesWithin(scene, first, hits) : beatFrames(scene, first, every)).filter((f) => f > first),
            );
          })
        }
      >
        {say`Repeat to the end`}
      </Button>
    </span>
  );
}
