'use client';
import { type PointerEvent, useRef } from 'react';
import { circleOfConfusion, depthOfField, filmedArea, type LengthUnit, type PlannedShot, type SetReport, showLength } from '@/core/plan';
import { say } from '@/core/words';
import { TapePatterns, tapeFill } from '@/ui/tape-pattern';
import { movedThing, type Picked, thingsOf, useGrip } from './use-set';

interface Props {
  plan: PlannedShot;
  report: SetReport;
  unit: LengthUnit;
  picked: Picked | null;
  onPick?: (picked: Picked | null) => void;
  /** While dragging, and once it has been let go. */
  onDrag?: (plan: PlannedShot, done: boolean) => void;
  className?: string;
}

/** Centimetres on the drawing: x right, the camera below looking up the page. */
const cm = (metres: number) => metres * 100;

/** The set from above. The camera stands at the foot of the page; everything can be dragged. */
export function FloorPlan({ plan, report, unit, picked, onPick, onDrag, className = '' }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  useGrip(svg);
  const grab = useRef<{ picked: Picked; dx: number; dz: number; plan: PlannedShot } | null>(null);
  const { room, camera } = plan;
  const [x0, x1, top, foot] = [-cm(room.left) - 30, cm(room.right) + 30, -cm(room.back) - 30, cm(Math.min(room.behind, 1.6)) + 45];
  const half = filmedArea(camera).width / camera.focal / 2;
  const sharp = depthOfField(camera.focal, camera.aperture, circleOfConfusion(camera.sensor), camera.focus);
  const at = (e: PointerEvent) => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
    return { x: p.x / 100, z: -p.y / 100 };
  };
  const start = (e: PointerEvent, what: Picked) => {
    onPick?.(what);
    const thing = thingsOf(plan, what.kind).find((t) => t.id === what.id);
    if (!onDrag || !thing) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    const p = at(e);
    grab.current = { picked: what, dx: thing.x - p.x, dz: thing.z - p.z, plan };
  };
  const move = (e: PointerEvent, done: boolean) => {
    const g = grab.current;
    if (!g) return;
    const p = at(e);
    onDrag?.(movedThing(g.plan, g.picked, p.x + g.dx, p.z + g.dz), done);
    if (done) grab.current = null;
  };
  const drag = (what: Picked) => ({
    onPointerDown: (e: PointerEvent) => start(e, what),
    onPointerMove: (e: PointerEvent) => move(e, false),
    onPointerUp: (e: PointerEvent) => move(e, true),
    className: onDrag ? 'grip' : undefined,
  });
  const is = (kind: Picked['kind'], id: string) => picked?.kind === kind && picked.id === id;
  const band = (z: number) => [-half * z, half * z].map((x) => `${cm(x)},${-cm(z)}`);
  const [near, far] = [Math.max(0.1, sharp.near), Math.min(room.back, sharp.far)];
  return (
    <svg
      ref={svg}
      viewBox={`${x0} ${top} ${x1 - x0} ${foot - top}`}
      className={`block w-full bg-sheet ${className}`}
      role="img"
      aria-label={say`The set from above`}
    >
      <TapePatterns size={14} />
      <rect
        x={-cm(room.left)}
        y={-cm(room.back)}
        width={cm(room.left + room.right)}
        height={cm(room.back + Math.min(room.behind, 1.6))}
        fill="var(--color-paper)"
        stroke="var(--color-ink)"
        strokeWidth={5}
      />
      {Array.from({ length: Math.floor(room.back) }, (_, i) => i + 1).map((z) => (
        <g key={z}>
          <path d={`M${-cm(room.left)},${-cm(z)} H${cm(room.right)}`} stroke="var(--color-rule)" strokeWidth={1.5} />
          <text x={-cm(room.left) + 6} y={-cm(z) - 4} fontSize={15} fill="var(--color-faint)" className="num">
            {showLength(z, unit)}
          </text>
        </g>
      ))}
      {near < far && (
        <path d={`M${band(near).join(' L')} L${band(far).reverse().join(' L')} Z`} fill="var(--color-good-soft)" opacity={0.8} />
      )}
      <path
        d={`M${band(room.back)[0]} L0,0 L${band(room.back)[1]}`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth={2}
        strokeDasharray="10 6"
      />
      <path d={`M0,0 V${-cm(room.back)}`} stroke="var(--color-ink)" strokeWidth={1} strokeDasharray="3 7" opacity={0.5} />
      {plan.props.map((p) => (
        <g key={p.id} {...drag({ kind: 'prop', id: p.id })}>
          <rect
            x={cm(p.x - p.width / 2)}
            y={-cm(p.z + p.depth / 2)}
            width={cm(p.width)}
            height={cm(p.depth)}
            fill={p.kind === 'structure' ? 'var(--color-faint)' : 'var(--color-rule)'}
            stroke={is('prop', p.id) ? 'var(--color-mark)' : 'var(--color-ink)'}
            strokeWidth={is('prop', p.id) ? 6 : 2}
          />
          {cm(p.width) > 8 * p.name.length && (
            <text x={cm(p.x)} y={-cm(p.z) + 5} fontSize={15} textAnchor="middle" fill="var(--color-ink)" pointerEvents="none">
              {p.name}
            </text>
          )}
        </g>
      ))}
      {report.seams.map((s) => {
        const slope = (s.x - report.view.width / 2) / report.view.scale;
        return (
          <path
            key={`${s.left.place.id}-${s.right.place.id}`}
            d={`M0,0 L${cm(slope * room.back)},${-cm(room.back)}`}
            stroke="var(--color-mark)"
            strokeWidth={s.advice ? 6 : 3}
            strokeDasharray="16 8"
          />
        );
      })}
      {report.dolly && (
        <g>
          <path d={`M0,${-0} V${-cm((plan.places[0]?.z ?? 0) - plan.dolly.end)}`} stroke="var(--color-mark)" strokeWidth={7} />
          <circle cx={0} cy={-cm((plan.places[0]?.z ?? 0) - plan.dolly.end)} r={9} fill="var(--color-mark)" />
        </g>
      )}
      {plan.lamps.map((l) => (
        <g key={l.id} {...drag({ kind: 'lamp', id: l.id })}>
          <circle cx={cm(l.x)} cy={-cm(l.z)} r={40} fill="transparent" />
          <circle
            cx={cm(l.x)}
            cy={-cm(l.z)}
            r={Math.max(9, cm(l.size) / 2)}
            fill="#f0c65a"
            stroke={is('lamp', l.id) ? 'var(--color-mark)' : 'var(--color-ink)'}
            strokeWidth={is('lamp', l.id) ? 6 : 2}
          />
          {[0, 45, 90, 135, 180, 225, 270, 315].map((a) => (
            <path
              key={a}
              d="M20,0 H28"
              transform={`translate(${cm(l.x)} ${-cm(l.z)}) rotate(${a})`}
              stroke="var(--color-ink)"
              strokeWidth={2}
            />
          ))}
        </g>
      ))}
      {plan.places.map((p) => (
        <g key={p.id} {...drag({ kind: 'place', id: p.id })} data-testid={`floor-${p.id}`}>
          <ellipse cx={cm(p.x)} cy={-cm(p.z)} rx={cm(Math.max(0.3, p.reach))} ry={28} fill={tapeFill(p.tape)} opacity={0.35} />
          <circle cx={cm(p.x)} cy={-cm(p.z)} r={48} fill="transparent" />
          <circle
            data-mark
            cx={cm(p.x)}
            cy={-cm(p.z)}
            r={21}
            fill={tapeFill(p.tape)}
            stroke={is('place', p.id) ? 'var(--color-mark)' : 'var(--color-ink)'}
            strokeWidth={is('place', p.id) ? 7 : 3}
          />
          <text
            x={cm(p.x)}
            y={-cm(p.z) + 48}
            fontSize={20}
            fontWeight={600}
            textAnchor="middle"
            fill="var(--color-ink)"
            pointerEvents="none"
            stroke="var(--color-paper)"
            strokeWidth={4}
            paintOrder="stroke"
          >
            {p.name}
          </text>
        </g>
      ))}
      <g aria-label={say`Camera`}>
        <path d="M-16,4 h32 v26 h-32 z M-9,4 l-8,-16 h34 l-8,16 z" fill="var(--color-ink)" />
        <text x={26} y={26} fontSize={17} fill="var(--color-ink)">
          {say`camera, lens at ${showLength(camera.height, unit)}`}
        </text>
      </g>
    </svg>
  );
}
