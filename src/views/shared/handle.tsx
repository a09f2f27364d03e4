'use client';
import { type PointerEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import type { Project, Shot } from '@/core/document';
import type { Layer, Scene } from '@/core/layer';
import type { Point } from '@/core/picture';

/** What everything drawn over the picture is about. */
export interface OverlayProps {
  project: Project;
  shot: Shot;
  scene: Scene;
  layer: Layer;
  playhead: number;
}

/** What is under a finger: where on the picture, shares of its sides. */
interface Under {
  canvas: HTMLCanvasElement;
  x: number;
  y: number;
}

const LOUPE = 132;
/** Screen pixels of the picture seen through the loupe. */
const SEEN = 44;

/** The part of the picture a finger hides, three times as large, in the upper corner away from it. */
function Loupe({ under: { canvas, x, y } }: { under: Under }) {
  const glass = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const page = glass.current?.getContext('2d');
    if (!page) return;
    const { width, height } = canvas.getBoundingClientRect();
    const [kx, ky] = [canvas.width / width, canvas.height / height];
    page.fillStyle = '#2b2b2b';
    page.fillRect(0, 0, LOUPE, LOUPE);
    page.drawImage(canvas, (x * width - SEEN / 2) * kx, (y * height - SEEN / 2) * ky, SEEN * kx, SEEN * ky, 0, 0, LOUPE, LOUPE);
  }, [canvas, x, y]);
  return (
    <div
      className={`pointer-events-none absolute top-1 z-10 overflow-hidden rounded-full border-[3px] border-[#fffaf0] ${x > 0.5 ? 'left-1' : 'right-1'}`}
      style={{ width: LOUPE, height: LOUPE }}
      data-testid="under-finger"
    >
      <canvas ref={glass} width={LOUPE} height={LOUPE} className="h-full w-full" />
      <span className="absolute top-1/2 left-0 h-px w-full bg-mark" />
      <span className="absolute top-0 left-1/2 h-full w-px bg-mark" />
    </div>
  );
}

/** A big soft handle on the picture at a point of the frame. Elements of their own, because touch-action does not hold inside an SVG. */
export function Handle({
  at,
  frame,
  colour,
  label,
  testId,
  small = false,
  hollow = false,
  onLive,
  onDrop,
  onNudge,
}: {
  at: Point;
  frame: Pick<Project['frame'], 'width' | 'height'>;
  colour: string;
  label: string;
  testId: string;
  small?: boolean;
  /** A ring: what lies under it is looked at. */
  hollow?: boolean;
  onLive: (to: Point | null) => void;
  onDrop: (to: Point) => void;
  onNudge: (dx: number, dy: number) => void;
}) {
  const held = useRef<{ dx: number; dy: number } | null>(null);
  const [under, setUnder] = useState<Under | null>(null);
  const look = (e: PointerEvent, to: Point | null) => {
    const canvas = e.currentTarget.parentElement?.querySelector('canvas');
    setUnder(to && canvas && e.pointerType === 'touch' ? { canvas, x: to.x / frame.width, y: to.y / frame.height } : null);
  };
  const where = (e: PointerEvent): Point | null => {
    const area = e.currentTarget.parentElement?.getBoundingClientRect();
    if (!area || !held.current) return null;
    return {
      x: ((e.clientX - area.left) / area.width) * frame.width + held.current.dx,
      y: ((e.clientY - area.top) / area.height) * frame.height + held.current.dy,
    };
  };
  return (
    <>
      {under && <Loupe under={under} />}
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
        onPointerMove={(e) => {
          if (!held.current) return;
          const to = where(e);
          onLive(to);
          look(e, to);
        }}
        onPointerUp={(e) => {
          const to = where(e);
          held.current = null;
          onLive(null);
          setUnder(null);
          if (to) onDrop(to);
        }}
        onPointerCancel={() => {
          held.current = null;
          onLive(null);
          setUnder(null);
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
          className={`block rounded-full border-[3px] ${hollow ? '' : 'border-[#fffaf0] opacity-75'} ${small ? 'h-6 w-6' : 'h-11 w-11'}`}
          style={hollow ? { borderColor: colour, outline: '2px solid #fffaf0' } : { background: colour }}
        />
      </button>
    </>
  );
}

export function Drawing({
  frame,
  label,
  children,
}: {
  frame: Pick<Project['frame'], 'width' | 'height'>;
  label: string;
  children: ReactNode;
}) {
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

export const Stroke = ({ d, colour, faint = false }: { d: string; colour: string; faint?: boolean }) => (
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

/** A place of a handle that is in sight whole. */
export const held = (v: number, size: number) => Math.min(size - 40, Math.max(40, v));
