'use client';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { EASING_NAMES, type EasingName } from '@/core/motion';
import { beatMapOf, footageOf, lineAt, type Project, type RevealShot, revealFrames, takeTimeAt } from '@/core/shot';
import { frameToSeconds, secondsToBeat } from '@/core/time';
import { seek } from '@/data/playback';
import { useProject } from '@/data/store';
import { Button, NumberField } from '@/ui/parts';
import { useThumbnail } from '@/views/shared';
import { changeReveal, filmFrame, keyFrame, moveKey, removeKey, setKey } from './use-line';

const CELL = 54;
const THREAD = 132;
const LOW = -15;
const HIGH = 115;
const yOf = (value: number) => ((value - LOW) / (HIGH - LOW)) * THREAD;

function Cell({ project, shot, frame, here, beat }: { project: Project; shot: RevealShot; frame: number; here: boolean; beat: boolean }) {
  const [from, to] = revealFrames(project, shot);
  const use = frame >= (from + to) / 2 ? shot.after : shot.before;
  const media = footageOf(project, use.takeId);
  const src = useThumbnail(media.id, media.width, Math.max(0, takeTimeAt(project, shot, use.sync, frame)));
  return (
    <button
      type="button"
      onClick={() => seek(frame)}
      aria-label={`Frame ${frame}`}
      className={`relative h-10 shrink-0 overflow-hidden bg-well ${beat ? 'border-l-[3px] border-ink' : 'border-l border-rule'} ${here ? 'outline-2 -outline-offset-2 outline-mark' : ''}`}
      style={{ width: CELL }}
    >
      {src && <img src={src} alt="" draggable={false} className="h-full w-full object-cover" />}
    </button>
  );
}

/** The reveal opened into single frames: a cell each, and the line's thread with its keys as beads. */
export function Unfolded({ project, shot }: { project: Project; shot: RevealShot }) {
  const playhead = useProject((s) => s.playhead);
  const scroller = useRef<HTMLDivElement>(null);
  const thread = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ index: number; frame: number; value: number } | null>(null);
  const [from, to] = revealFrames(project, shot);
  const first = from - 3;
  const frames = Array.from({ length: to - from + 7 }, (_, i) => first + i);
  const map = beatMapOf(project);
  const { rate } = project.frame;
  const beatAt = (frame: number) => {
    const half = rate.den / rate.num / 2;
    const t = frameToSeconds(frame, rate);
    return Math.floor(secondsToBeat(map, t + half)) !== Math.floor(secondsToBeat(map, t - half));
  };
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const x = (playhead - first + 0.5) * CELL;
    if (x < box.scrollLeft + CELL || x > box.scrollLeft + box.clientWidth - CELL) box.scrollLeft = x - box.clientWidth / 2;
  }, [playhead, first]);
  const keys = shot.mix.line.map((k, i) => (drag?.index === i ? { ...k, frame: drag.frame, value: drag.value } : k));
  const at = shot.mix.line.findIndex((k) => k.frame === keyFrame(project, shot, playhead));
  const key = at >= 0 ? shot.mix.line[at] : null;
  const inside = playhead >= from && playhead <= to;
  const where = (e: PointerEvent) => {
    const box = thread.current?.getBoundingClientRect();
    if (!box) return { frame: 0, value: 0 };
    return {
      frame: keyFrame(project, shot, first + Math.floor((e.clientX - box.left) / CELL)),
      value: LOW + ((e.clientY - box.top) / THREAD) * (HIGH - LOW),
    };
  };
  const drop = (index: number, target: { frame: number; value: number }) => {
    if (drag?.index !== index) return;
    const old = shot.mix.line[index];
    const moved = drag.frame !== old.frame || Math.abs(drag.value - old.value) > 0.6;
    setDrag(null);
    if (moved) moveKey(shot, index, target.frame, target.value);
    seek(filmFrame(project, shot, moved ? target.frame : old.frame));
  };
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if ((e.target as HTMLElement).closest('input, textarea, select') || !inside) return;
      if (e.key.toLowerCase() === 'k' && !e.ctrlKey && !e.metaKey) setKey(project, shot, playhead);
      if (e.key === 'Delete') removeKey(project, shot, playhead);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [project, shot, playhead, inside]);
  const path = frames
    .map((f, i) => `${i ? 'L' : 'M'}${(i + 0.5) * CELL} ${yOf(Math.min(130, Math.max(-30, lineAt(project, shot, f))))}`)
    .join(' ');
  return (
    <section aria-label="The reveal, frame by frame" className="border-y border-rule bg-sheet">
      <div ref={scroller} className="overflow-x-auto overscroll-x-contain">
        <div style={{ width: frames.length * CELL }}>
          <div className="flex">
            {frames.map((f) => (
              <Cell key={f} project={project} shot={shot} frame={f} here={f === playhead} beat={beatAt(f)} />
            ))}
          </div>
          <div className="relative">
            <svg
              ref={thread}
              width={frames.length * CELL}
              height={THREAD}
              className="block"
              aria-label="The line’s place in per cent, top to bottom as in the picture"
              role="img"
            >
              {[0, 50, 100].map((v) => (
                <path
                  key={v}
                  d={`M0 ${yOf(v)} H${frames.length * CELL}`}
                  stroke="var(--color-rule)"
                  strokeDasharray={v === 50 ? '3 5' : undefined}
                />
              ))}
              {frames.filter(beatAt).map((f) => (
                <path key={f} d={`M${(f - first) * CELL + 1} 0 V${THREAD}`} stroke="var(--color-ink)" strokeWidth="2" opacity="0.5" />
              ))}
              <rect x={(playhead - first) * CELL} width={CELL} height={THREAD} fill="var(--color-mark)" opacity="0.1" />
              <path d={path} fill="none" stroke="var(--color-ink)" strokeWidth="1.8" />
              {drag && (
                <text
                  x={(filmFrame(project, shot, drag.frame) - first + 0.5) * CELL + 14}
                  y={Math.max(14, yOf(drag.value) - 10)}
                  className="num"
                  fontSize="13"
                  fill="var(--color-ink)"
                >
                  {drag.value.toFixed(1)} %
                </text>
              )}
            </svg>
            {keys.map((k, i) => (
              <button
                key={i}
                type="button"
                aria-label={`Key ${i + 1}: ${k.value.toFixed(1)} per cent`}
                className="absolute flex h-11 w-11 -translate-1/2 cursor-grab touch-none items-center justify-center"
                style={{ left: (filmFrame(project, shot, k.frame) - first + 0.5) * CELL, top: yOf(Math.min(112, Math.max(-12, k.value))) }}
                data-testid="bead"
                onPointerDown={(e) => {
                  e.currentTarget.setPointerCapture(e.pointerId);
                  setDrag({ index: i, frame: k.frame, value: k.value });
                }}
                onPointerMove={(e) => drag?.index === i && setDrag({ index: i, ...where(e) })}
                onPointerUp={(e) => drop(i, where(e))}
                onPointerCancel={() => setDrag(null)}
              >
                <span className={`block h-4 w-4 rounded-full border-2 border-ink ${i === at ? 'bg-mark' : 'bg-sheet'}`} />
              </button>
            ))}
          </div>
        </div>
      </div>
      <div className="flex flex-wrap items-end gap-2 px-3 py-2">
        <div className="w-24">
          <NumberField
            label="Line here"
            unit="%"
            value={lineAt(project, shot, playhead)}
            min={-100}
            max={200}
            step={1}
            digits={1}
            onChange={(v) => inside && setKey(project, shot, playhead, v)}
          />
        </div>
        {key ? (
          <>
            <label className="text-sm text-faint">
              From here
              <select
                className="mt-0.5 block min-h-11 rounded-md border border-rule bg-sheet px-2 text-ink sm:min-h-9"
                value={key.easing}
                onChange={(e) =>
                  changeReveal(shot.id, 'Ease the line', (mix) => {
                    mix.line[at].easing = e.target.value as EasingName;
                  })
                }
              >
                {EASING_NAMES.map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </select>
            </label>
            <Button onClick={() => removeKey(project, shot, playhead)} disabled={shot.mix.line.length < 2}>
              Remove this key
            </Button>
          </>
        ) : (
          <Button disabled={!inside} onClick={() => setKey(project, shot, playhead)}>
            Set a key here
          </Button>
        )}
      </div>
    </section>
  );
}
