'use client';
import { type PointerEvent, type ReactNode, useRef, useState } from 'react';
import { applied, ellipsePoints, inverted, lineExtent, lineNormal, outlinePoints, type Point, rectanglePoints } from '@/core/picture';
import {
  type Layer,
  layerFrames,
  layerMove,
  layerNumber,
  type Mask,
  maskNumberAt,
  maskPoints,
  type Project,
  type Scene,
  type Shot,
  sceneOf,
  trackOf,
} from '@/core/shot';
import { keysOf, type NumberAt, setKey, setKeys } from '@/data/shots';
import { useProject } from '@/data/store';
import { tapeColour } from '@/ui/tape';
import { shownNumber, useScore } from './use-score';

interface OverlayProps {
  project: Project;
  shot: Shot;
  scene: Scene;
  layer: Layer;
  playhead: number;
}

/** A big soft handle on the picture at a point of the frame. Elements of their own, because touch-action does not hold inside an SVG. */
function Handle({
  at,
  frame,
  colour,
  label,
  testId,
  small = false,
  onLive,
  onDrop,
  onNudge,
}: {
  at: Point;
  frame: Project['frame'];
  colour: string;
  label: string;
  testId: string;
  small?: boolean;
  onLive: (to: Point | null) => void;
  onDrop: (to: Point) => void;
  onNudge: (dx: number, dy: number) => void;
}) {
  const held = useRef<{ dx: number; dy: number } | null>(null);
  const where = (e: PointerEvent): Point | null => {
    const area = e.currentTarget.parentElement?.getBoundingClientRect();
    if (!area || !held.current) return null;
    return {
      x: ((e.clientX - area.left) / area.width) * frame.width + held.current.dx,
      y: ((e.clientY - area.top) / area.height) * frame.height + held.current.dy,
    };
  };
  return (
    <button
      type="button"
      aria-label={label}
      className="absolute flex h-14 w-14 -translate-1/2 cursor-grab touch-none items-center justify-center"
      style={{ left: `${(at.x / frame.width) * 100}%`, top: `${(at.y / frame.height) * 100}%` }}
      data-testid={testId}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { dx: 0, dy: 0 };
        const now = where(e);
        // Held where it is touched, so that it does not jump under the finger.
        held.current = now && { dx: at.x - now.x, dy: at.y - now.y };
      }}
      onPointerMove={(e) => held.current && onLive(where(e))}
      onPointerUp={(e) => {
        const to = where(e);
        held.current = null;
        onLive(null);
        if (to) onDrop(to);
      }}
      onPointerCancel={() => {
        held.current = null;
        onLive(null);
      }}
      onKeyDown={(e) => {
        const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key] ?? [0, 0];
        if (!dx && !dy) return;
        e.preventDefault();
        e.stopPropagation();
        onNudge(dx, dy);
      }}
    >
      <span
        className={`block rounded-full border-[3px] border-[#fffaf0] opacity-75 ${small ? 'h-6 w-6' : 'h-11 w-11'}`}
        style={{ background: colour }}
      />
    </button>
  );
}

function Drawing({ frame, label, children }: { frame: Project['frame']; label: string; children: ReactNode }) {
  return (
    <svg
      viewBox={`0 0 ${frame.width} ${frame.height}`}
      className="pointer-events-none absolute inset-0 h-full w-full"
      role="img"
      aria-label={label}
    >
      {children}
    </svg>
  );
}

const Stroke = ({ d, colour, faint = false }: { d: string; colour: string; faint?: boolean }) => (
  <>
    <path
      d={d}
      fill="none"
      stroke="#fffaf0"
      strokeWidth={faint ? 1.2 : 4}
      strokeDasharray={faint ? '6 7' : undefined}
      vectorEffect="non-scaling-stroke"
      opacity={faint ? 0.75 : 0.55}
    />
    {!faint && <path d={d} fill="none" stroke={colour} strokeWidth="2" vectorEffect="non-scaling-stroke" />}
  </>
);

const held = (v: number, size: number) => Math.min(size - 40, Math.max(40, v));

/** A line mask over the picture, with its feather; dragged, it sets a key on this frame. */
function LineMask({ project, shot, scene, layer, mask, playhead }: OverlayProps & { mask: Mask }) {
  const [live, setLive] = useState<number | null>(null);
  const { frame } = project;
  const { width, height } = frame;
  const n = (name: string) => maskNumberAt(scene, mask, name, playhead);
  const value = live ?? n('at');
  const angle = n('angle');
  const extent = lineExtent(angle, width, height);
  const [nx, ny] = lineNormal(angle);
  const distance = (value / 100 - 0.5) * extent;
  const long = width + height;
  const stroke = (off: number) => {
    const cx = width / 2 + nx * (distance + off);
    const cy = height / 2 + ny * (distance + off);
    return `M${cx - ny * long} ${cy + nx * long} L${cx + ny * long} ${cy - nx * long}`;
  };
  const across = ({ x, y }: Point) => (((x - width / 2) * nx + (y - height / 2) * ny) / extent + 0.5) * 100;
  const at: NumberAt = { shotId: shot.id, layerId: layer.id, maskId: mask.id, name: 'at' };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={`The line stands at ${value.toFixed(1)} per cent`}>
        <Stroke d={stroke((-n('inside') / 100) * height)} colour={colour} faint />
        <Stroke d={stroke((n('outside') / 100) * height)} colour={colour} faint />
        <Stroke d={stroke(0)} colour={colour} />
      </Drawing>
      <Handle
        at={{ x: held(width / 2 + nx * distance, width), y: held(height / 2 + ny * distance, height) }}
        frame={frame}
        colour={colour}
        label={`Drag the line, at ${value.toFixed(1)} per cent`}
        testId="line-handle"
        onLive={(to) => setLive(to && across(to))}
        onDrop={(to) => setKey(at, playhead, across(to))}
        onNudge={(dx, dy) => setKey(at, playhead, value + dx + dy)}
      />
    </>
  );
}

const outline = (points: readonly Point[]) =>
  points.length ? `M${points.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join(' L')} Z` : '';

/** A polygon or smooth outline: a handle on every point, and the outline a few frames before and after it drawn faintly. */
function PointMask({ project, shot, scene, layer, mask, playhead }: OverlayProps & { mask: Mask }) {
  const [live, setLive] = useState<{ i: number; to: Point } | null>(null);
  const { frame } = project;
  const move = mask.rides ? layerMove(scene, layer, playhead, frame) : null;
  const onFrame = (f: number) =>
    maskPoints(scene, mask, f).map(({ x, y }) => {
      const p = { x: (x / 100) * frame.width, y: (y / 100) * frame.height };
      return move ? applied(move, p) : p;
    });
  const points = onFrame(playhead).map((p, i) => (live?.i === i ? live.to : p));
  const shape = (list: Point[]) => outline(mask.kind === 'outline' ? outlinePoints(list) : list);
  const ats = (i: number): NumberAt[] =>
    ['x', 'y'].map((axis) => ({ shotId: shot.id, layerId: layer.id, maskId: mask.id, name: `${axis}${i}` }));
  const put = (i: number, to: Point) => {
    const own = move ? applied(inverted(move), to) : to;
    setKeys(ats(i), playhead, [(100 * own.x) / frame.width, (100 * own.y) / frame.height], 'Move a point of the mask');
  };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={`A mask of ${points.length} points`}>
        <Stroke d={shape(onFrame(playhead - 5))} colour={colour} faint />
        <Stroke d={shape(onFrame(playhead + 5))} colour={colour} faint />
        <Stroke d={shape(points)} colour={colour} />
      </Drawing>
      {points.map((p, i) => (
        <Handle
          key={i}
          small
          at={p}
          frame={frame}
          colour={colour}
          label={`Point ${i + 1} of the mask`}
          testId="mask-point"
          onLive={(to) => setLive(to && { i, to })}
          onDrop={(to) => put(i, to)}
          onNudge={(dx, dy) => put(i, { x: p.x + (dx * frame.width) / 100, y: p.y + (dy * frame.height) / 100 })}
        />
      ))}
    </>
  );
}

/** An ellipse or rectangle: a handle in its middle and one at its corner. */
function BoxMask({ project, shot, scene, layer, mask, playhead }: OverlayProps & { mask: Mask }) {
  const [live, setLive] = useState<{ what: 'middle' | 'corner'; to: Point } | null>(null);
  const { frame } = project;
  const n = (name: string) => maskNumberAt(scene, mask, name, playhead);
  const stored = { x: (n('x') / 100) * frame.width, y: (n('y') / 100) * frame.height };
  const middle = live?.what === 'middle' ? live.to : stored;
  const half = { x: (n('width') / 200) * frame.width, y: (n('height') / 200) * frame.height };
  const size = live?.what === 'corner' ? { x: Math.abs(live.to.x - middle.x), y: Math.abs(live.to.y - middle.y) } : half;
  const at = (name: string): NumberAt => ({ shotId: shot.id, layerId: layer.id, maskId: mask.id, name });
  const pointsOf = mask.kind === 'ellipse' ? ellipsePoints : rectanglePoints;
  const ring = pointsOf(middle.x, middle.y, size.x, size.y, n('turn'));
  const put = (to: Point) =>
    setKeys([at('x'), at('y')], playhead, [(100 * to.x) / frame.width, (100 * to.y) / frame.height], 'Move the mask');
  const widen = (to: Point) =>
    setKeys(
      [at('width'), at('height')],
      playhead,
      [(200 * Math.abs(to.x - middle.x)) / frame.width, (200 * Math.abs(to.y - middle.y)) / frame.height],
      'Widen the mask',
    );
  const corner = { x: middle.x + size.x, y: middle.y + size.y };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={`A mask shaped as ${mask.kind === 'ellipse' ? 'an ellipse' : 'a rectangle'}`}>
        <Stroke d={outline(ring)} colour={colour} />
      </Drawing>
      <Handle
        at={{ x: held(middle.x, frame.width), y: held(middle.y, frame.height) }}
        frame={frame}
        colour={colour}
        label="Middle of the mask"
        testId="mask-middle"
        onLive={(to) => setLive(to && { what: 'middle', to })}
        onDrop={put}
        onNudge={(dx, dy) => put({ x: middle.x + (dx * frame.width) / 100, y: middle.y + (dy * frame.height) / 100 })}
      />
      <Handle
        small
        at={{ x: held(corner.x, frame.width), y: held(corner.y, frame.height) }}
        frame={frame}
        colour={colour}
        label="Size of the mask"
        testId="mask-size"
        onLive={(to) => setLive(to && { what: 'corner', to })}
        onDrop={widen}
        onNudge={(dx, dy) => widen({ x: corner.x + (dx * frame.width) / 100, y: corner.y + (dy * frame.height) / 100 })}
      />
    </>
  );
}

/** A layer's position: a handle where its pivot is, and its path over the shot as dots, one a frame, so that their spacing is its speed. */
function PositionPath({ project, shot, scene, layer, playhead }: OverlayProps) {
  const [live, setLive] = useState<Point | null>(null);
  const { frame } = project;
  const pivot = (f: number): Point => {
    const n = (name: Parameters<typeof layerNumber>[2]) => layerNumber(scene, layer, name, f);
    return { x: frame.width * (0.5 + (n('pivotX') + n('x')) / 100), y: frame.height * (0.5 + (n('pivotY') + n('y')) / 100) };
  };
  const [first, end] = layerFrames(scene, layer);
  const keyed = (['x', 'y'] as const).flatMap((name) =>
    layer.numbers[name] ? trackOf(scene, layer.numbers[name]).map((k) => k.frame) : [],
  );
  const from = keyed.length ? Math.max(first, Math.min(...keyed)) : playhead;
  const to = keyed.length ? Math.min(end - 1, Math.max(...keyed)) : playhead;
  const dots = Array.from({ length: Math.min(400, to - from + 1) }, (_, i) => ({ f: from + i, p: pivot(from + i) }));
  const here = live ?? pivot(playhead);
  const now = pivot(playhead);
  const put = (point: Point) => {
    const base = { x: layerNumber(scene, layer, 'x', playhead), y: layerNumber(scene, layer, 'y', playhead) };
    setKeys(
      (['x', 'y'] as const).map((name) => ({ shotId: shot.id, layerId: layer.id, maskId: null, name })),
      playhead,
      [base.x + (100 * (point.x - now.x)) / frame.width, base.y + (100 * (point.y - now.y)) / frame.height],
      'Move the layer',
    );
  };
  const colour = tapeColour(layer.tape);
  return (
    <>
      <Drawing frame={frame} label={`The path of ${layer.name}`}>
        <Stroke d={dots.map(({ p }, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join(' ')} colour={colour} faint />
        {dots.map(({ f, p }) => (
          <circle key={f} cx={p.x} cy={p.y} r={keyed.includes(f) ? 9 : 4} fill={colour} stroke="#fffaf0" strokeWidth="1.5" />
        ))}
      </Drawing>
      <Handle
        at={{ x: held(here.x, frame.width), y: held(here.y, frame.height) }}
        frame={frame}
        colour={colour}
        label={`Position of ${layer.name}`}
        testId="layer-handle"
        onLive={setLive}
        onDrop={put}
        onNudge={(dx, dy) => put({ x: now.x + (dx * frame.width) / 100, y: now.y + (dy * frame.height) / 100 })}
      />
    </>
  );
}

/** What lies over the film's picture for the number that is shown: its mask, or the path of its layer. */
export function OnPicture({ project, shot }: { project: Project; shot: Shot }) {
  const playhead = useProject((s) => s.playhead);
  const number = useScore((s) => s.number);
  const at = shownNumber(shot, number);
  const layer = shot.layers.find((l) => l.id === at?.layerId);
  if (!at || !layer) return null;
  const scene = sceneOf(project, shot);
  const [from, to] = layerFrames(scene, layer);
  if (playhead < from || playhead >= to) return null;
  const mask = layer.masks.find((m) => m.id === at.maskId);
  const props = { project, shot, scene, layer, playhead };
  if (mask?.kind === 'line') return <LineMask {...props} mask={mask} />;
  if (mask?.kind === 'polygon' || mask?.kind === 'outline') return <PointMask {...props} mask={mask} />;
  if (mask?.kind === 'ellipse' || mask?.kind === 'rectangle') return <BoxMask {...props} mask={mask} />;
  if (at.maskId === null && ['x', 'y', 'scale', 'turn'].includes(at.name) && keysOf(shot, at)) return <PositionPath {...props} />;
  return at.maskId === null && (at.name === 'x' || at.name === 'y') ? <PositionPath {...props} /> : null;
}
