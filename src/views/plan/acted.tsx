'use client';
import { useId, useMemo } from 'react';
import type { Project } from '@/core/document';
import {
  type DryFrame,
  type DryLayer,
  type DryMark,
  mannequin,
  type PlannedShot,
  plannedSeams,
  recipeOf,
  type Seam,
  type View,
  viewOf,
  type Zone,
  zoneOf,
} from '@/core/plan';
import { say } from '@/core/words';
import { TapePatterns, tapeFill } from '@/ui/tape-pattern';
import { Mannequin, SetFaces } from './camera-view';
import { usePlanContext } from './use-set';

function Layer({ layer, base, view, plan, clip }: { layer: DryLayer; base: boolean; view: View; plan: PlannedShot; clip: string }) {
  const { width, height } = view;
  const { region } = layer;
  const moves = [
    layer.shiftX || layer.shiftY ? `translate(${(layer.shiftX ?? 0) * width} ${(layer.shiftY ?? 0) * height})` : '',
    layer.zoom && layer.zoom !== 1
      ? `translate(${width / 2} ${height / 2}) scale(${layer.zoom}) translate(${-width / 2} ${-height / 2})`
      : '',
    layer.turn ? `rotate(${layer.turn} ${width / 2} ${height / 2})` : '',
  ].join(' ');
  return (
    <g
      opacity={layer.opacity}
      clipPath={region ? `url(#${clip})` : undefined}
      style={layer.blur ? { filter: `blur(${(layer.blur * width) / 120}px)` } : undefined}
    >
      {region && (
        <clipPath id={clip}>
          <rect
            x={region.left * width}
            y={region.top * height}
            width={Math.max(0, region.right - region.left) * width}
            height={Math.max(0, region.bottom - region.top) * height}
          />
        </clipPath>
      )}
      <g transform={moves.trim() || undefined}>
        {(base || region) && <SetFaces view={view} plan={plan} />}
        {[...layer.figures]
          .map((f) => ({ f, place: plan.places.find((p) => p.id === f.place) }))
          .sort((a, b) => (b.place?.z ?? 0) - (a.place?.z ?? 0))
          .map(
            ({ f, place }) =>
              place && <Mannequin key={f.place} limbs={mannequin(view, place, f.arms, f.dx, f.lift)} tape={place.tape} outfit={f.outfit} />,
          )}
      </g>
    </g>
  );
}

function Mark({ mark, view, index }: { mark: DryMark; view: View; index: number }) {
  const { width, height } = view;
  const [x, y] = [mark.x * width, mark.y * height];
  if (mark.kind === 'flash') return <rect width={width} height={height} fill="white" opacity={mark.strength} />;
  if (mark.kind === 'object') {
    const size = width * 0.045;
    return (
      <rect
        x={x - size / 2}
        y={y - size / 2}
        width={size}
        height={size}
        fill={tapeFill(index + 4)}
        stroke="#2a2320"
        strokeWidth={width / 640}
        opacity={mark.strength}
        transform={`rotate(${mark.angle} ${x} ${y})`}
      />
    );
  }
  return (
    <path
      d={`M${x - width},${y} H${x + width}`}
      transform={`rotate(${mark.angle} ${x} ${y})`}
      stroke="var(--color-mark)"
      strokeWidth={width / 260}
      strokeDasharray={`${width / 50} ${width / 90}`}
    />
  );
}

/** The picture at one instant: layers from back to front, places in their tapes, seams and marks over it. */
export function ActedPicture({ frame, plan, zones, seams }: { frame: DryFrame; plan: PlannedShot; zones: Zone[]; seams: Seam[] }) {
  const id = useId();
  const { camera } = plan;
  const view = useMemo(() => viewOf(camera, frame.dolly, frame.zoom), [camera, frame.dolly, frame.zoom]);
  const { width, height } = view;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="mx-auto block max-h-[56vh] max-w-full"
      role="img"
      aria-label={say`The planned shot, acted by mannequins`}
      data-testid="dry-run"
    >
      <TapePatterns size={width / 90} />
      {frame.layers.map((layer, i) => (
        <Layer key={`${layer.slot}-${i}`} layer={layer} base={i === 0} view={view} plan={plan} clip={`${id}-${i}`} />
      ))}
      {zones.map((z) => {
        const foot = view.project({ x: z.place.x, y: 0, z: z.place.z });
        const wide = (z.place.reach * view.scale) / Math.max(0.1, foot.depth);
        return (
          <rect
            key={z.place.id}
            x={foot.x - wide}
            y={foot.y}
            width={2 * wide}
            height={width / 130}
            fill={tapeFill(z.place.tape)}
            opacity={0.85}
          />
        );
      })}
      {seams.map(
        (s) =>
          s.gap < 0 && (
            <rect key={s.left.place.id} x={s.right.left} width={-s.gap} height={height} fill="var(--color-mark)" opacity={0.45} />
          ),
      )}
      {frame.marks.map((mark, i) => (
        <Mark key={`${mark.kind}-${i}`} mark={mark} view={view} index={i} />
      ))}
    </svg>
  );
}

/** What each place takes up in the frame, and the seams between places that need them. */
export function usePlaces(plan: PlannedShot): { zones: Zone[]; seams: Seam[] } {
  return useMemo(() => {
    const view = viewOf(plan.camera);
    return {
      zones: plan.places.map((p) => zoneOf(view, p)),
      seams: plannedSeams(plan, view),
    };
  }, [plan]);
}

/** Three moments of the planned shot, small. */
export function Sketch({ project, plan }: { project: Project; plan: PlannedShot }) {
  const places = usePlaces(plan);
  const context = usePlanContext(project, plan);
  return (
    <div className="mt-3 grid grid-cols-3 gap-2" aria-hidden>
      {[0.12, 0.52, 0.9].map((u) => (
        <ActedPicture key={u} frame={recipeOf(plan).dryRun(context, u)} plan={plan} {...places} />
      ))}
    </div>
  );
}
