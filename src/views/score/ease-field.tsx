'use client';
import { type PointerEvent, useRef, useState } from 'react';
import { type Bezier, EASING_NAMES, type Easing, ease, handlesOf } from '@/core/motion';
import { say } from '@/core/words';

const SIZE = 96;
/** Room above and below the span's ends for curves that pass them. */
const ROOM = 32;
const px = (x: number) => x * SIZE;
const py = (y: number) => ROOM + (1 - y) * SIZE;

/** How a span between two keys runs: by name, or by its curve's two handles. */
export function EaseField({ easing, onChange }: { easing: Easing; onChange: (easing: Easing) => void }) {
  const box = useRef<SVGSVGElement>(null);
  const [live, setLive] = useState<Bezier | null>(null);
  const curve = live ?? handlesOf(easing);
  const shown: Easing = live ?? easing;
  const path = Array.from({ length: 49 }, (_, i) => `${i ? 'L' : 'M'}${px(i / 48).toFixed(1)} ${py(ease(shown, i / 48)).toFixed(1)}`).join(
    ' ',
  );
  const drag = (which: 1 | 2) => (e: PointerEvent) => {
    const area = box.current?.getBoundingClientRect();
    if (!area || e.buttons === 0) return;
    const x = Math.min(1, Math.max(0, (e.clientX - area.left) / area.width));
    const y = Math.min(1.3, Math.max(-0.3, 1 - ((e.clientY - area.top) / area.height) * (1 + (2 * ROOM) / SIZE) + ROOM / SIZE));
    const round = (v: number) => Math.round(v * 100) / 100;
    setLive(which === 1 ? { ...curve, x1: round(x), y1: round(y) } : { ...curve, x2: round(x), y2: round(y) });
  };
  const nudge = (which: 1 | 2) => (e: React.KeyboardEvent) => {
    const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key] ?? [0, 0];
    if (!dx && !dy) return;
    e.preventDefault();
    e.stopPropagation();
    const x = (v: number) => Math.min(1, Math.max(0, v + dx * 0.05));
    onChange(
      which === 1 ? { ...curve, x1: x(curve.x1), y1: curve.y1 + dy * 0.05 } : { ...curve, x2: x(curve.x2), y2: curve.y2 + dy * 0.05 },
    );
  };
  return (
    <div className="flex items-end gap-2">
      <label className="text-sm text-faint">
        {say`From here`}
        <select
          className="mt-0.5 block min-h-11 rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
          value={typeof easing === 'string' ? easing : 'curve'}
          onChange={(e) => onChange(e.target.value === 'curve' ? handlesOf(easing) : (e.target.value as Easing))}
        >
          {EASING_NAMES.map((n) => (
            <option key={n}>{n}</option>
          ))}
          <option value="curve">{say`a curve of its own`}</option>
        </select>
      </label>
      <div className="relative" style={{ width: SIZE, height: SIZE / 2 + ROOM }}>
        <svg
          ref={box}
          viewBox={`0 0 ${SIZE} ${SIZE + 2 * ROOM}`}
          preserveAspectRatio="none"
          className="absolute inset-0 h-full w-full overflow-visible border border-rule bg-paper"
          role="img"
          aria-label={say`The curve of this span`}
        >
          <path
            d={`M0 ${py(0)} L${px(curve.x1)} ${py(curve.y1)} M${SIZE} ${py(1)} L${px(curve.x2)} ${py(curve.y2)}`}
            stroke="var(--color-faint)"
          />
          <path d={path} fill="none" stroke="var(--color-ink)" strokeWidth="2" />
        </svg>
        {([1, 2] as const).map((which) => (
          <button
            key={which}
            type="button"
            aria-label={which === 1 ? say`First handle of the curve` : say`Second handle of the curve`}
            className="absolute flex h-11 w-11 -translate-1/2 touch-none items-center justify-center"
            style={{
              left: px(which === 1 ? curve.x1 : curve.x2),
              top: `${(py(which === 1 ? curve.y1 : curve.y2) / (SIZE + 2 * ROOM)) * 100}%`,
            }}
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={drag(which)}
            onPointerUp={() => {
              if (live) onChange(live);
              setLive(null);
            }}
            onPointerCancel={() => setLive(null)}
            onKeyDown={nudge(which)}
          >
            <span className="block h-3.5 w-3.5 rounded-full border-2 border-ink bg-mark" />
          </button>
        ))}
      </div>
    </div>
  );
}
