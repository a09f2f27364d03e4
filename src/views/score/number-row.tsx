'use client';
import type { Project, Shot } from '@/core/document';
import { sceneOf } from '@/core/evaluate';
import { type Layer, numberAt, numberKindOf } from '@/core/layer';
import { say } from '@/core/words';
import { useSettledPlayhead } from '@/data/playhead';
import { keysOf, type NumberAt, setNumber } from '@/data/shots';
import { NumberField } from '@/ui/controls';
import { NumberButton } from './number-button';

/** A number of an effect or a mask: its value here, typed; and its keys. One that is not keyed is changed as a whole. */
export function NumberRow({ project, shot, layer, at }: { project: Project; shot: Shot; layer: Layer; at: NumberAt }) {
  const playhead = useSettledPlayhead();
  const kind = numberKindOf(layer, at.partId, at.name);
  if (!kind) return null;
  const value = numberAt(sceneOf(project, shot), keysOf(shot, at), kind.otherwise, playhead);
  return (
    <div className="flex items-end gap-1.5">
      <div className="grow">
        <NumberField {...kind} value={value} onChange={(v) => setNumber(at, playhead, v)} />
      </div>
      <NumberButton shot={shot} layer={layer} at={at} text={say`Keys`} />
    </div>
  );
}
