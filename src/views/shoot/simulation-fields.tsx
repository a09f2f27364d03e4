'use client';
import { useState } from 'react';
import { say } from '@/core/words';
import { camera } from '@/data/camera';
import { Button } from '@/ui/controls';
import { Slider } from '@/ui/slider';
import { SelectField } from '@/ui/value-field';

/** What can be wrong with the simulated camera. */
export function SimulationFields() {
  const [who, setWho] = useState('nobody');
  const [place, setPlace] = useState(0);
  const [drift, setDrift] = useState(0);
  const [flicker, setFlicker] = useState(0);
  const [breathing, setBreathing] = useState(0);
  const [knock, setKnock] = useState(6);
  const [knockedAt, setKnockedAt] = useState<number | null>(null);
  return (
    <details className="border-t border-rule pt-1">
      <summary className="flex min-h-11 cursor-pointer items-center font-semibold">{say`The simulated set`}</summary>
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label={say`In the frame`}
          value={who}
          options={[
            ['nobody', say`nobody`],
            ['0', say`first outfit`],
            ['1', say`second outfit`],
          ]}
          onChange={(v) => {
            setWho(v);
            void camera().simulate({ outfit: v === 'nobody' ? null : (Number(v) as 0 | 1) });
          }}
        />
        <div className="flex flex-wrap items-end gap-2">
          <Button onClick={async () => setKnockedAt(await camera().knock(knock, knock * 0.4, 0.05))}>{say`Knock the camera`}</Button>
          {knockedAt !== null && (
            <span className="text-sm text-faint" data-testid="knocked-at">
              {say`knocked at `}
              <span className="num">{knockedAt.toFixed(1)} s</span>
            </span>
          )}
        </div>
        {(
          [
            [say`Place, metres right`, place, setPlace, -1.4, 1.4, 0.05, 'place'],
            [say`Light drifts, EV a minute`, drift, setDrift, -3, 3, 0.1, 'drift'],
            [say`Mains flicker, EV`, flicker, setFlicker, 0, 0.6, 0.02, 'flicker'],
            [say`Focus breathes, per cent`, breathing, setBreathing, 0, 1, 0.02, 'breathing'],
          ] as const
        ).map(([label, value, set, min, max, step, key]) => (
          <div key={key} className="text-sm text-faint">
            {label}: <span className="num">{value.toFixed(2)}</span>
            <Slider
              label={label}
              value={value}
              min={min}
              max={max}
              step={step}
              onChange={(v) => {
                set(v);
                void camera().simulate({ [key]: key === 'breathing' ? v / 100 : v });
              }}
            />
          </div>
        ))}
        <div className="text-sm text-faint">
          {say`Size of the knock, pixels: `}
          <span className="num">{knock}</span>
          <Slider label={say`Size of the knock`} value={knock} min={1} max={20} step={1} onChange={setKnock} />
        </div>
      </div>
    </details>
  );
}
