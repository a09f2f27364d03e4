'use client';
import type { Shot } from '@/core/document';
import { type Layer, numberKindOf } from '@/core/layer';
import { keysOf, type NumberAt } from '@/data/shots';
import { choose, useScore } from './use-score';

const same = (a: NumberAt | null, b: NumberAt) => a?.layerId === b.layerId && a.partId === b.partId && a.name === b.name;

/** A number of a layer as a thing to choose, with how often it is keyed; `text` where what it is called stands beside it. */
export function NumberButton({ shot, layer, at, text }: { shot: Shot; layer: Layer; at: NumberAt; text?: string }) {
  const shown = useScore((s) => same(s.number, at));
  const kind = numberKindOf(layer, at.partId, at.name);
  const count = keysOf(shot, at)?.length ?? 0;
  return (
    <button
      type="button"
      aria-label={text && kind?.label}
      aria-pressed={shown}
      className={`min-h-11 rounded-full border px-3 text-sm sm:min-h-8 ${shown ? 'border-ink bg-ink text-sheet' : 'border-rule bg-sheet'}`}
      onClick={() => choose(at)}
    >
      {text ?? kind?.label ?? at.name}
      {count > 1 && <span className="num"> · {count}</span>}
    </button>
  );
}
