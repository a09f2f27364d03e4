'use client';
import { useEffect, useRef, useState } from 'react';
import type { Project } from '@/core/document';
import { beatMapOf, clipLength, clipStart } from '@/core/evaluate';
import { gainAt, gainPoints } from '@/core/song';
import { barAndBeat, beatToSeconds, frameToSeconds, secondsToBeat } from '@/core/time';
import { say } from '@/core/words';
import { useProject } from '@/data/store';
import { meantBeat, removeGain, setGain, type Thread } from '@/data/threads';
import { tapeStyle } from '@/ui/tape';

const HEIGHT = 64;
/** Decibels from the strip's foot to its head. */
const [LOW, HIGH] = [-40, 12];

const yOf = (gain: number) => 6 + ((HIGH - Math.max(LOW, gain)) / (HIGH - LOW)) * (HEIGHT - 12);
const gainOf = (y: number) => HIGH - ((y - 6) / (HEIGHT - 12)) * (HIGH - LOW);

/** Where the playhead is on a strip of so many seconds; only this redraws while the song plays. */
function Needle({ project, duration }: { project: Project; duration: number }) {
  const needle = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const place = () => {
      const at = frameToSeconds(useProject.getState().playhead, project.frame.rate) / duration;
      if (needle.current) needle.current.style.left = `${Math.min(1, at) * 100}%`;
    };
    place();
    return useProject.subscribe((now, before) => now.playhead !== before.playhead && place());
  }, [project.frame.rate, duration]);
  return <div ref={needle} className="pointer-events-none absolute inset-y-0 w-0.5 -translate-x-px bg-mark" />;
}

/** One thread over the whole song: what lies on it as strips of paper, its gain as a thread with beads that are dragged. */
export function ThreadStrip({ project, thread, duration }: { project: Project; thread: Thread; duration: number }) {
  const box = useRef<HTMLDivElement>(null);
  const map = beatMapOf(project);
  const keys = project.sound[thread].gains;
  const [held, setHeld] = useState<{ index: number; beat: number; gain: number } | null>(null);
  const shown = held ? keys.map((k, i) => (i === held.index ? held : k)) : keys;
  const points = gainPoints(shown, map);
  const clips = thread === 'song' ? [] : project.sound.clips.filter((c) => c.thread === thread);
  const share = (time: number) => (time / duration) * 100;
  const line = [
    { time: 0, gain: gainAt(points, 0) },
    ...points.filter((p) => p.time > 0 && p.time < duration),
    { time: duration, gain: gainAt(points, duration) },
  ];
  const drag = (index: number, e: React.PointerEvent) => {
    const area = box.current?.getBoundingClientRect();
    if (!area || !e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const beat = secondsToBeat(map, Math.max(0, Math.min(duration, ((e.clientX - area.left) / area.width) * duration)));
    setHeld({ index, beat: meantBeat(beat), gain: Math.max(-60, Math.min(12, Math.round(gainOf(e.clientY - area.top) * 2) / 2)) });
  };
  return (
    <div
      ref={box}
      className={`relative bg-sheet ${project.sound[thread].on ? '' : 'opacity-45'}`}
      style={{ height: HEIGHT }}
      data-testid={`thread-${thread}`}
    >
      {clips.map((clip) => {
        const start = clipStart(project, clip);
        const take = project.takes.find((t) => t.mediaId === clip.mediaId);
        return (
          <div
            key={clip.id}
            className="absolute inset-y-2 rounded-[2px] opacity-70"
            style={{ left: `${share(start)}%`, width: `${Math.max(0.4, share(clipLength(clip)))}%`, ...tapeStyle(take?.tape ?? 6) }}
          />
        );
      })}
      <svg viewBox={`0 0 100 ${HEIGHT}`} preserveAspectRatio="none" className="absolute inset-0 h-full w-full" aria-hidden>
        <path d={`M0,${yOf(0)} H100`} stroke="var(--color-rule)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
        <path
          d={`M${line.map((p) => `${share(p.time).toFixed(3)},${yOf(p.gain).toFixed(2)}`).join(' L')}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.8"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <Needle project={project} duration={duration} />
      {shown.map((key, i) => {
        const { bar, beat } = barAndBeat(map, key.beat);
        return (
          <button
            key={i}
            type="button"
            aria-label={say`Gain of ${key.gain} dB at bar ${bar} beat ${beat.toFixed(beat % 1 ? 2 : 0)}: arrows move it, Delete takes it away`}
            className="grip absolute flex h-11 w-11 -translate-x-1/2 -translate-y-1/2 touch-none items-center justify-center"
            style={{ left: `${share(beatToSeconds(map, key.beat))}%`, top: yOf(key.gain) }}
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={(e) => drag(i, e)}
            onPointerUp={() => {
              if (held) setGain(thread, held.beat, held.gain, held.index);
              setHeld(null);
            }}
            onPointerCancel={() => setHeld(null)}
            onKeyDown={(e) => {
              const [beats, gain] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 0.5], ArrowDown: [0, -0.5] }[e.key] ?? [0, 0];
              if (e.key === 'Delete' || e.key === 'Backspace') removeGain(thread, i);
              else if (beats || gain) setGain(thread, key.beat + beats, key.gain + gain, i);
              else return;
              e.preventDefault();
              e.stopPropagation();
            }}
          >
            <span className="h-3.5 w-3.5 rounded-full border-2 border-ink bg-sheet" />
          </button>
        );
      })}
      {held && (
        <p className="num pointer-events-none absolute top-0 right-1 bg-paper px-1.5 text-sm" role="status">
          {say`${held.gain.toFixed(1)} dB`}
        </p>
      )}
    </div>
  );
}
