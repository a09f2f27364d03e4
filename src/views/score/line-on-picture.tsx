'use client';
import { type PointerEvent, useRef, useState } from 'react';
import { lineExtent, lineNormal } from '@/core/picture';
import { lineAt, type Project, type RevealShot, revealFrames } from '@/core/shot';
import { useProject } from '@/data/store';
import { tapeColour } from '@/ui/tape';
import { setKey } from './use-line';

/** The reveal's line over the picture, with its feather; dragged, it sets a key on this frame. */
export function LineOnPicture({ project, shot }: { project: Project; shot: RevealShot }) {
  const playhead = useProject((s) => s.playhead);
  const box = useRef<SVGSVGElement>(null);
  const [live, setLive] = useState<number | null>(null);
  const { width, height } = project.frame;
  const [from, to] = revealFrames(project, shot);
  if (playhead < from || playhead >= to) return null;
  const value = live ?? lineAt(project, shot, playhead);
  const { angle } = shot.mix;
  const extent = lineExtent(angle, width, height);
  const [nx, ny] = lineNormal(angle);
  const distance = (value / 100 - 0.5) * extent;
  const feather = (shot.mix.feather / 100) * height;
  const long = width + height;
  const stroke = (off: number) => {
    const cx = width / 2 + nx * (distance + off);
    const cy = height / 2 + ny * (distance + off);
    return `M${cx - ny * long} ${cy + nx * long} L${cx + ny * long} ${cy - nx * long}`;
  };
  const handleX = Math.min(width - 40, Math.max(40, width / 2 + nx * distance));
  const handleY = Math.min(height - 40, Math.max(40, height / 2 + ny * distance));
  const valueAt = (e: PointerEvent) => {
    const area = box.current?.getBoundingClientRect();
    if (!area) return value;
    const x = ((e.clientX - area.left) / area.width) * width - width / 2;
    const y = ((e.clientY - area.top) / area.height) * height - height / 2;
    return ((x * nx + y * ny) / extent + 0.5) * 100;
  };
  const take = project.takes.find((t) => t.id === shot.after.takeId);
  return (
    <>
      <svg
        ref={box}
        viewBox={`0 0 ${width} ${height}`}
        className="pointer-events-none absolute inset-0 h-full w-full"
        role="img"
        aria-label={`The line stands at ${value.toFixed(1)} per cent`}
      >
        {[-feather / 2, feather / 2].map((off) => (
          <path
            key={off}
            d={stroke(off)}
            stroke="#fffaf0"
            strokeWidth="1.2"
            strokeDasharray="6 7"
            vectorEffect="non-scaling-stroke"
            opacity="0.75"
          />
        ))}
        <path d={stroke(0)} stroke="#fffaf0" strokeWidth="4" vectorEffect="non-scaling-stroke" opacity="0.55" />
        <path d={stroke(0)} stroke={tapeColour(take?.tape ?? 0)} strokeWidth="2" vectorEffect="non-scaling-stroke" />
      </svg>
      {/* An element of its own, because touch-action does not hold inside an SVG. */}
      <button
        type="button"
        aria-label={`Drag the line, at ${value.toFixed(1)} per cent`}
        className="absolute flex h-14 w-14 -translate-1/2 cursor-grab touch-none items-center justify-center"
        style={{ left: `${(handleX / width) * 100}%`, top: `${(handleY / height) * 100}%` }}
        data-testid="line-handle"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setLive(valueAt(e));
        }}
        onPointerMove={(e) => live !== null && setLive(valueAt(e))}
        onPointerUp={(e) => {
          if (live === null) return;
          setKey(project, shot, playhead, valueAt(e));
          setLive(null);
        }}
        onPointerCancel={() => setLive(null)}
        onKeyDown={(e) => {
          const by = { ArrowUp: -1, ArrowDown: 1 }[e.key];
          if (by) {
            e.preventDefault();
            setKey(project, shot, playhead, value + by);
          }
        }}
      >
        <span
          className="block h-11 w-11 rounded-full border-[3px] border-[#fffaf0] opacity-70"
          style={{ background: tapeColour(take?.tape ?? 0) }}
        />
      </button>
    </>
  );
}
