'use client';
import { type PointerEvent, useRef, useState } from 'react';
import { say } from '@/core/words';
import { useThumbnail } from '@/views/shared';

const PICTURES = 8;

function Glance({ mediaId, width, time }: { mediaId: string; width: number; time: number }) {
  const src = useThumbnail(mediaId, width, time);
  return (
    <div className="h-full min-w-0 flex-1 bg-well">
      {src && <img src={src} alt="" draggable={false} className="h-full w-full object-cover" />}
    </div>
  );
}

/** A take from end to end with what is used of it marked; the mark is dragged, or pushed with the arrow keys, to use another part. */
export function TakeStrip({
  mediaId,
  width,
  whole: [from, to],
  used: [low, high],
  frame,
  onSlip,
}: {
  mediaId: string;
  width: number;
  whole: readonly [number, number];
  used: readonly [number, number];
  /** Length of a frame, seconds: one step of the arrow keys. */
  frame: number;
  onSlip: (by: number) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ x: number; by: number } | null>(null);
  const long = Math.max(frame, to - from);
  const share = (second: number) => (100 * (second - from)) / long;
  const held = (by: number) => Math.max(from - low, Math.min(Math.max(from - low, to - high), by));
  const by = drag?.by ?? 0;
  const secondsOf = (e: PointerEvent) => (e.clientX / (box.current?.getBoundingClientRect().width || 1)) * long;
  return (
    <div ref={box} className="relative h-12 touch-pan-y overflow-hidden rounded-md border border-rule" data-testid="take-strip">
      <div className="flex h-full">
        {Array.from({ length: PICTURES }, (_, k) => (
          <Glance key={k} mediaId={mediaId} width={width} time={from + ((k + 0.5) / PICTURES) * long} />
        ))}
      </div>
      <div className="pointer-events-none absolute inset-y-0 left-0 bg-paper/70" style={{ width: `${share(low + by)}%` }} />
      <div className="pointer-events-none absolute inset-y-0 right-0 bg-paper/70" style={{ width: `${100 - share(high + by)}%` }} />
      <button
        type="button"
        role="slider"
        aria-label={say`What is used of the take`}
        aria-valuemin={from}
        aria-valuemax={to}
        aria-valuenow={low + by}
        aria-valuetext={say`from ${(low + by).toFixed(2)} to ${(high + by).toFixed(2)} s`}
        className="absolute inset-y-0 min-w-11 cursor-grab touch-none border-x-4 border-mark outline-offset-[-3px]"
        style={{ left: `${share(low + by)}%`, width: `${Math.max(0, share(high) - share(low))}%` }}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setDrag({ x: secondsOf(e), by: 0 });
        }}
        onPointerMove={(e) => drag && setDrag({ ...drag, by: held(secondsOf(e) - drag.x) })}
        onPointerUp={() => {
          if (drag && Math.abs(drag.by) > frame / 2) onSlip(drag.by);
          setDrag(null);
        }}
        onPointerCancel={() => setDrag(null)}
        onKeyDown={(e) => {
          const step = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
          if (!step) return;
          e.preventDefault();
          e.stopPropagation();
          onSlip(held((e.shiftKey ? 10 : 1) * step * frame));
        }}
      />
    </div>
  );
}
