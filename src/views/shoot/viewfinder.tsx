'use client';
import { memo, useEffect, useRef } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { eyeHeight, type PlannedShot, plannedSeams, viewOf, zoneOf } from '@/core/plan';
import { say } from '@/core/words';
import { showIn, useCamera } from '@/data/camera';
import { useHandsFree } from '@/data/hands-free';
import { tapeColour } from '@/ui/tape';
import { TapePatterns, tapeFill } from '@/ui/tape-pattern';

export interface Ghost {
  src: string;
  strength: number;
  how: 'over' | 'difference' | 'edges';
}

/** Zones, seams and floor marks of the plan over the live picture. */
const PlanMarks = memo(function PlanMarks({ plan }: { plan: PlannedShot }) {
  const view = viewOf(plan.camera);
  const { width, height } = view;
  const line = width / 480;
  const seams = plannedSeams(plan, view);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
      <TapePatterns size={width / 80} />
      {plan.places.map((p) => {
        const z = zoneOf(view, p);
        const eyes = view.project({ x: p.x, y: eyeHeight(p), z: p.z });
        const foot = view.project({ x: p.x, y: 0, z: p.z });
        return (
          <g key={p.id}>
            <rect
              x={z.left}
              y={z.top}
              width={z.right - z.left}
              height={z.bottom - z.top}
              fill="none"
              stroke={tapeColour(p.tape)}
              strokeWidth={1.5 * line}
              strokeDasharray={`${6 * line} ${4 * line}`}
            />
            <path d={`M${eyes.x - 12 * line},${eyes.y} H${eyes.x + 12 * line}`} stroke={tapeColour(p.tape)} strokeWidth={line} />
            <rect x={foot.x - 14 * line} y={foot.y - 2 * line} width={28 * line} height={4 * line} fill={tapeFill(p.tape)} />
          </g>
        );
      })}
      {seams.map((s) => (
        <path
          key={s.left.place.id}
          d={`M${s.x},0 V${height}`}
          stroke="#f08a6c"
          strokeWidth={1.5 * line}
          strokeDasharray={`${10 * line} ${6 * line}`}
        />
      ))}
    </svg>
  );
});

/** The live picture with plan, ghost and cues over it. */
export function Viewfinder({ plan, ghost }: { plan: PlannedShot | null; ghost: Ghost | null }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width, height, recorded, state } = useCamera(
    useShallow(({ width, height, recorded, state }) => ({ width, height, recorded, state })),
  );
  const { running, cue, count, slot, take } = useHandsFree();
  useEffect(() => {
    showIn(canvas.current);
    return () => showIn(null);
  }, []);
  const aspect = width && height ? width / height : 16 / 9;
  return (
    <div className="relative mx-auto max-h-[60vh] bg-well" style={{ aspectRatio: aspect, maxWidth: `calc(60vh * ${aspect})` }}>
      <svg width="0" height="0" aria-hidden className="absolute">
        <filter id="ghost-edges">
          <feConvolveMatrix order="3" kernelMatrix="-1 -1 -1 -1 8 -1 -1 -1 -1" preserveAlpha="true" />
          <feColorMatrix type="matrix" values="3 3 3 0 0 3 3 3 0 0 3 3 3 0 0 0 0 0 1 0" />
        </filter>
      </svg>
      <canvas
        ref={canvas}
        className="absolute inset-0 h-full w-full"
        role="img"
        aria-label={say`What the camera sees`}
        data-testid="viewfinder"
      />
      {ghost && state === 'open' && (
        <img
          src={ghost.src}
          alt=""
          className="pointer-events-none absolute inset-0 h-full w-full object-fill"
          style={{
            opacity: ghost.how === 'difference' ? 1 : ghost.strength,
            mixBlendMode: ghost.how === 'difference' ? 'difference' : ghost.how === 'edges' ? 'screen' : 'normal',
            filter: ghost.how === 'edges' ? 'url(#ghost-edges)' : undefined,
          }}
        />
      )}
      {plan && state === 'open' && <PlanMarks plan={plan} />}
      {recorded !== null && (
        <p data-testid="recorded" className="num absolute top-2 left-2 flex items-center gap-2 bg-black/60 px-2 py-1 text-lg text-white">
          <span aria-hidden className="inline-block h-4 w-4 rounded-full bg-[#e0452c]" />
          {recorded.toFixed(1)} s
        </p>
      )}
      {running && (
        <p className="absolute inset-x-0 bottom-0 bg-black/55 p-2 text-center text-white" aria-live="assertive">
          <span className="block text-3xl font-semibold sm:text-5xl">{cue}</span>
          <span className="num block text-5xl sm:text-7xl">{count}</span>
          <span className="text-sm">{say`${slot}, take ${take}`}</span>
        </p>
      )}
    </div>
  );
}
