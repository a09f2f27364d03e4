'use client';
import { memo, type PointerEvent, useRef } from 'react';
import { type Face, type LimbSeen, mannequin, type PlannedShot, type SetReport, setFaces, type View } from '@/core/plan';
import { say } from '@/core/words';
import { tapeColour } from '@/ui/tape';
import { TapePatterns, tapeFill } from '@/ui/tape-pattern';
import { movedThing, type Picked, useGrip } from './use-set';

const TONES: Record<Face['kind'], [number, number, number]> = {
  wall: [196, 181, 158],
  floor: [214, 202, 182],
  prop: [176, 158, 132],
  structure: [126, 112, 98],
};

function tone({ kind, shade }: Face): string {
  const [r, g, b] = TONES[kind].map((c) => Math.round(c * (0.55 + 0.45 * shade)));
  return `rgb(${r} ${g} ${b})`;
}

/** Room, props and structures as the camera sees them. */
export const SetFaces = memo(function SetFaces({ view, plan }: { view: View; plan: Pick<PlannedShot, 'room' | 'props'> }) {
  return [
    <rect key="above" width={view.width} height={view.height} fill="#6f6558" />,
    ...setFaces(view, plan).map((f) => (
      <polygon
        key={f.id}
        points={f.points.map((p) => p.map((v) => v.toFixed(1)).join()).join(' ')}
        fill={tone(f)}
        stroke="rgb(60 50 42 / 0.35)"
        strokeWidth={view.width / 1400}
      />
    )),
  ];
});

/** A mannequin in its tape; the second outfit is lighter. */
export function Mannequin({ limbs, tape, outfit = 0 }: { limbs: readonly LimbSeen[]; tape: number; outfit?: 0 | 1 }) {
  const clothes = outfit ? tapeFill(tape + 3) : tapeFill(tape);
  return limbs.map((l, i) => {
    const colour = l.part === 'skin' ? '#b98a6b' : l.part === 'shoe' ? '#2a2320' : clothes;
    const [ax, ay, bx, by] = [...l.from, ...l.to];
    return Math.hypot(ax - bx, ay - by) < l.radius * 0.3 ? (
      <circle key={i} cx={ax} cy={ay} r={l.radius} fill={colour} />
    ) : (
      <Capsule key={i} limb={l} colour={colour} />
    );
  });
}

/** A thick line with round ends as a path, since a pattern does not fill an upright stroke. */
function Capsule({ limb, colour }: { limb: LimbSeen; colour: string }) {
  const [[ax, ay], [bx, by], r] = [limb.from, limb.to, limb.radius];
  const length = Math.hypot(bx - ax, by - ay);
  const [nx, ny] = [(-(by - ay) / length) * r, ((bx - ax) / length) * r];
  const f = (v: number) => v.toFixed(1);
  return (
    <path
      d={`M${f(ax + nx)},${f(ay + ny)} A${f(r)},${f(r)} 0 0 1 ${f(ax - nx)},${f(ay - ny)} L${f(bx - nx)},${f(by - ny)} A${f(r)},${f(r)} 0 0 1 ${f(bx + nx)},${f(by + ny)} Z`}
      fill={colour}
    />
  );
}

interface Props {
  plan: PlannedShot;
  report: SetReport;
  picked: Picked | null;
  onPick?: (picked: Picked | null) => void;
  onDrag?: (plan: PlannedShot, done: boolean) => void;
  /** Marks over the picture: zones, seams, shadows, eye lines. */
  marks?: boolean;
}

/** The set through the planned lens, places in their tapes; mannequins and lamps can be dragged. */
export function CameraView({ plan, report, picked, onPick, onDrag, marks = true }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  useGrip(svg);
  const grab = useRef<{ picked: Picked; dx: number; dy: number; plan: PlannedShot; z: number } | null>(null);
  const { view } = report;
  const { width, height } = view;
  const line = width / 640;
  const at = (e: PointerEvent) => new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.current?.getScreenCTM()?.inverse());
  const start = (e: PointerEvent, what: Picked, anchor: { x: number; y: number }, z: number) => {
    onPick?.(what);
    if (!onDrag) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    const p = at(e);
    grab.current = { picked: what, dx: anchor.x - p.x, dy: anchor.y - p.y, plan, z };
  };
  const move = (e: PointerEvent, done: boolean) => {
    const g = grab.current;
    if (!g) return;
    const p = at(e);
    const [px, py] = [p.x + g.dx, p.y + g.dy];
    if (g.picked.kind === 'lamp') {
      const q = view.planeAt(px, py, g.z);
      onDrag?.(movedThing(g.plan, g.picked, q.x, g.z, q.y), done);
    } else {
      const q = view.floorAt(px, py);
      // Above the horizon there is no floor: the place keeps its distance and only moves sideways.
      const to = q && q.z < g.plan.room.back ? q : { x: view.planeAt(px, py, g.z).x, z: g.z };
      onDrag?.(movedThing(g.plan, g.picked, to.x, to.z), done);
    }
    if (done) grab.current = null;
  };
  const drag = (what: Picked, anchor: { x: number; y: number }, z: number) => ({
    onPointerDown: (e: PointerEvent) => start(e, what, anchor, z),
    onPointerMove: (e: PointerEvent) => move(e, false),
    onPointerUp: (e: PointerEvent) => move(e, true),
    className: onDrag ? 'grip' : undefined,
  });
  const places = [...report.zones].sort((a, b) => b.place.z - a.place.z);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      className="block max-h-full w-full overflow-hidden bg-well"
      role="img"
      aria-label={say`The set through the planned lens`}
    >
      <TapePatterns size={width / 90} />
      <SetFaces view={view} plan={plan} />
      {marks &&
        report.shadows.map((s) => {
          const foot = view.project({ x: s.place.x, y: 0, z: s.place.z });
          const tip = view.project(s.tip);
          if (tip.depth < 0.2) return null;
          const r = Math.max(2, (0.22 * view.scale) / tip.depth);
          return (
            <g key={`${s.place.id}-${s.lamp.id}`} opacity={0.22}>
              <path d={`M${foot.x},${foot.y} L${tip.x},${tip.y}`} stroke="#1d1512" strokeWidth={1.5 * r} strokeLinecap="round" />
            </g>
          );
        })}
      {plan.lamps.map((l) => {
        const p = view.project({ x: l.x, y: l.height, z: l.z });
        if (p.depth < 0.3) return null;
        const r = Math.max(5 * line, ((l.size / 2) * view.scale) / p.depth);
        const isIt = picked?.kind === 'lamp' && picked.id === l.id;
        return (
          <g key={l.id} {...drag({ kind: 'lamp', id: l.id }, p, l.z)}>
            <circle cx={p.x} cy={p.y} r={r * 2.2} fill="#ffe9a8" opacity={0.35} />
            <circle
              cx={p.x}
              cy={p.y}
              r={r}
              fill="#fff3cd"
              stroke={isIt ? 'var(--color-mark)' : '#6a5d52'}
              strokeWidth={isIt ? 3 * line : line}
            />
          </g>
        );
      })}
      {places.map(({ place }) => {
        const foot = view.project({ x: place.x, y: 0, z: place.z });
        return (
          <g key={place.id} {...drag({ kind: 'place', id: place.id }, foot, place.z)} data-testid={`seen-${place.id}`}>
            <Mannequin limbs={mannequin(view, place, 0.12)} tape={place.tape} />
          </g>
        );
      })}
      {marks && <Marks plan={plan} report={report} picked={picked} line={line} />}
    </svg>
  );
}

function Marks({ report, picked, line }: { plan: PlannedShot; report: SetReport; picked: Picked | null; line: number }) {
  const { view } = report;
  return (
    <g pointerEvents="none">
      {report.zones.map((z) => (
        <g key={z.place.id}>
          <rect
            x={z.left}
            y={z.top}
            width={z.right - z.left}
            height={z.bottom - z.top}
            fill="none"
            stroke={tapeColour(z.place.tape)}
            strokeWidth={(picked?.id === z.place.id ? 4 : 2) * line}
            strokeDasharray={`${8 * line} ${5 * line}`}
          />
          <rect x={z.left} y={z.bottom} width={z.right - z.left} height={5 * line} fill={tapeFill(z.place.tape)} />
        </g>
      ))}
      {report.seams.map((s) => (
        <g key={s.left.place.id}>
          {s.gap < 0 && <rect x={s.right.left} y={0} width={-s.gap} height={view.height} fill="var(--color-mark)" opacity={0.4} />}
          <path
            d={`M${s.x},0 V${view.height}`}
            stroke="var(--color-mark)"
            strokeWidth={2.5 * line}
            strokeDasharray={`${12 * line} ${7 * line}`}
          />
        </g>
      ))}
    </g>
  );
}
