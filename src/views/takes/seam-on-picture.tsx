'use client';
import { type PointerEvent, useRef, useState } from 'react';
import { pulledSeam } from '@/core/edit';
import type { SeamKeyframe } from '@/core/layer';
import { say } from '@/core/words';

/** Colour of a stretch of the seam by how much of it would be seen: from unseen to plain. */
const costColour = (cost: number) => (cost < 2 ? '#7fd4a8' : cost < 5 ? '#f0c35a' : '#ff6a4d');

/** The seam over the picture, its cost along its length, and pulled with a finger or the mouse. */
export function SeamOnPicture({
  keyframe,
  cost,
  tall,
  onPull,
}: {
  keyframe: SeamKeyframe;
  /** Visible difference, evenly spaced along it; code values. */
  cost: ArrayLike<number>;
  /** The picture's height to its width. */
  tall: number;
  onPull: (points: SeamKeyframe['points']) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [grip, setGrip] = useState<{ along: number; from: number; by: number } | null>(null);
  const points = grip ? pulledSeam(keyframe, grip.along, grip.by) : keyframe.points;
  const across = keyframe.across === true;
  const along = (p: { x: number; y: number }) => (across ? p.x : p.y);
  const off = (p: { x: number; y: number }) => (across ? p.y : p.x);
  const where = (e: PointerEvent) => {
    const area = box.current?.getBoundingClientRect();
    return area ? { x: ((e.clientX - area.left) / area.width) * 100, y: ((e.clientY - area.top) / area.height) * 100 } : { x: 0, y: 0 };
  };
  const line = (side: number) =>
    points
      .map((p, i) => {
        const half = (side * (p.soft ?? 0)) / 2;
        return `${i ? 'L' : 'M'}${across ? p.x : p.x + half * tall} ${across ? p.y + half : p.y}`;
      })
      .join(' ');
  const middle = points[points.length >> 1];
  return (
    <div ref={box} className="absolute inset-0">
      <svg
        viewBox="0 0 100 100"
        preserveAspectRatio="none"
        className="pointer-events-none absolute inset-0 h-full w-full"
        role="img"
        aria-label={say`The seam`}
      >
        {[-1, 1].map((side) => (
          <path
            key={side}
            d={line(side)}
            fill="none"
            stroke="#fffaf0"
            strokeDasharray="5 6"
            vectorEffect="non-scaling-stroke"
            opacity="0.6"
          />
        ))}
        <path d={line(0)} fill="none" stroke="#201a14" strokeWidth="5" vectorEffect="non-scaling-stroke" opacity="0.55" />
        {points.slice(1).map((p, i) => (
          <path
            key={i}
            d={`M${points[i].x} ${points[i].y} L${p.x} ${p.y}`}
            stroke={costColour(cost[Math.min(cost.length - 1, Math.round((along(p) / 100) * cost.length))] ?? 0)}
            strokeWidth="3"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      {/* Grips along the seam: an element each, because touch-action does not hold inside an SVG. */}
      {[10, 30, 50, 70, 90].map((y) => {
        const p = points.reduce((best, q) => (Math.abs(along(q) - y) < Math.abs(along(best) - y) ? q : best), middle);
        return (
          <button
            key={y}
            type="button"
            aria-label={say`Pull the seam at ${y} per cent of the ${across ? 'width' : 'height'}`}
            data-testid={`seam-grip-${y}`}
            className={`absolute flex h-11 w-11 -translate-1/2 touch-none items-center justify-center ${across ? 'cursor-ns-resize' : 'cursor-ew-resize'}`}
            style={{ left: `${p.x}%`, top: `${across ? p.y : y}%` }}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              setGrip({ along: y, from: off(where(e)), by: 0 });
            }}
            onPointerMove={(e) => grip && setGrip({ ...grip, by: off(where(e)) - grip.from })}
            onPointerUp={() => {
              if (grip && Math.abs(grip.by) > 0.05) onPull(pulledSeam(keyframe, grip.along, grip.by));
              setGrip(null);
            }}
            onPointerCancel={() => setGrip(null)}
            onKeyDown={(e) => {
              const by = { [across ? 'ArrowUp' : 'ArrowLeft']: -0.5, [across ? 'ArrowDown' : 'ArrowRight']: 0.5 }[e.key];
              if (!by) return;
              e.preventDefault();
              onPull(pulledSeam(keyframe, y, by));
            }}
          >
            <span className="block h-5 w-5 rounded-full border-2 border-[#fffaf0] bg-black/65" />
          </button>
        );
      })}
    </div>
  );
}
