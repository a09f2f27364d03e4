import { useState } from 'react';
import type { Shot } from '@/core/document';
import type { Layer } from '@/core/layer';
import { say } from '@/core/words';
import { addEchoes, addShadow } from '@/data/echoes';
import { Button, NumberField } from '@/ui/controls';

/** A layer's shadow, and its fading echoes, each a layer of its own behind it. */
export function EchoTools({ shot, layer }: { shot: Shot; layer: Layer }) {
  const [echoes, setEchoes] = useState({ count: 5, every: 3, first: 50 });
  const put = (next: Partial<typeof echoes>) => setEchoes({ ...echoes, ...next });
  return (
    <details className="text-sm">
      <summary className="flex min-h-11 cursor-pointer items-center underline sm:min-h-8">{say`Shadow and echoes`}</summary>
      <div className="space-y-2 pt-1">
        <Button onClick={() => addShadow(shot.id, layer.id)}>{say`Lay its shadow behind it`}</Button>
        <div className="grid grid-cols-3 gap-1.5">
          <NumberField label={say`Echoes`} unit="" value={echoes.count} min={1} max={30} onChange={(v) => put({ count: Math.round(v) })} />
          <NumberField
            label={say`One every`}
            unit="f"
            value={echoes.every}
            min={1}
            max={50}
            onChange={(v) => put({ every: Math.round(v) })}
          />
          <NumberField label={say`First at`} unit="%" value={echoes.first} min={1} max={100} onChange={(first) => put({ first })} />
        </div>
        <Button
          onClick={() => addEchoes(shot.id, layer.id, echoes)}
        >{say`Lay ${echoes.count === 1 ? say`an echo` : say`${echoes.count} echoes`} behind it`}</Button>
      </div>
    </details>
  );
}
