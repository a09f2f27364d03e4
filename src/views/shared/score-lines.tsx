'use client';
import { type PointerEvent, type ReactNode, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { Project } from '@/core/document';
import { beatMapOf } from '@/core/evaluate';
import { ENERGY_RATE } from '@/core/song';
import {
  type BeatMap,
  barAndBeat,
  barChanges,
  barName,
  barToBeat,
  beatToSeconds,
  frameToSeconds,
  isDownbeat,
  nearestFrame,
  secondsToBeat,
} from '@/core/time';
import { say } from '@/core/words';
import { seek } from '@/data/playback';
import { useProject } from '@/data/store';
import { useHeard } from './use-heard';

/** Bars on one line of the folded page: by width, or what the user chose by pinching. */
export function useBarsALine(): [number, (bars: number) => void, React.RefCallback<HTMLDivElement>] {
  // Kept as state: the page may come only after the song has.
  const [page, setPage] = useState<HTMLDivElement | null>(null);
  const [chosen, choose] = useState<number | null>(null);
  const [width, setWidth] = useState(0);
  // Before the first paint, so that the page is folded once.
  useLayoutEffect(() => {
    if (!page) return;
    setWidth(page.clientWidth);
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    watch.observe(page);
    return () => watch.disconnect();
  }, [page]);
  return [chosen ?? (width > 900 ? 8 : width > 480 ? 4 : 2), choose, setPage];
}

interface LineProps {
  map: BeatMap;
  energy: Float32Array | null;
  firstBeat: number;
  beats: number;
  height: number;
}

/** One line of the score: energy as an ink wash, beats as stems, downbeats taller. */
function InkLine({ map, energy, firstBeat, beats, height }: LineProps) {
  const wash = useMemo(() => {
    if (!energy) return '';
    const points: string[] = [];
    const steps = beats * 12;
    for (let i = 0; i <= steps; i++) {
      const at = beatToSeconds(map, firstBeat + (i * beats) / steps) * ENERGY_RATE;
      const value = at < 0 ? 0 : (energy[Math.round(at)] ?? 0);
      points.push(`${((i / steps) * 100).toFixed(2)},${(height - 2 - value ** 0.7 * (height * 0.72)).toFixed(1)}`);
    }
    return `M0,${height} L${points.join(' L')} L100,${height} Z`;
  }, [map, energy, firstBeat, beats, height]);
  const stems = Array.from({ length: beats }, (_, k) => ({ k, one: isDownbeat(map, firstBeat + k) }));
  return (
    <svg
      viewBox={`0 0 100 ${height}`}
      preserveAspectRatio="none"
      className="pointer-events-none absolute inset-0 h-full w-full"
      aria-hidden
    >
      <path d={wash} fill="var(--color-ink)" opacity="0.16" />
      <path d={`M0,${height - 0.5} H100`} stroke="var(--color-ink)" strokeWidth="1" vectorEffect="non-scaling-stroke" opacity="0.6" />
      {stems.map(({ k, one }) => (
        <path
          key={k}
          d={`M${(k / beats) * 100},${height} V${one ? height * 0.2 : height * 0.66}`}
          stroke="var(--color-ink)"
          strokeWidth={one ? 1.6 : 1}
          opacity={one ? 0.75 : 0.4}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

/** Where the beats in a bar change on one line: how many there are from there on. */
function BarChanges({ map, firstBeat, beats }: { map: BeatMap; firstBeat: number; beats: number }) {
  return barChanges(map)
    .filter(({ beat }) => beat >= firstBeat && beat < firstBeat + beats)
    .map(({ beat, bar, beatsPerBar }) => (
      <span
        key={beat}
        className="num pointer-events-none absolute bottom-0 pl-1 text-sm text-faint"
        style={{ left: `${(100 * (beat - firstBeat)) / beats}%` }}
      >
        {beatsPerBar}
        <span className="sr-only">{say` beats in a bar from bar ${bar}`}</span>
      </span>
    ));
}

/** The playhead on one line; only this redraws while the song plays. */
function Needle({ map, project, firstBeat, beats }: { map: BeatMap; project: Project; firstBeat: number; beats: number }) {
  const needle = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const place = () => {
      const { playhead } = useProject.getState();
      const beat = secondsToBeat(map, frameToSeconds(playhead, project.frame.rate));
      const at = (beat - firstBeat) / beats;
      const el = needle.current;
      if (!el) return;
      const here = at >= -1e-9 && at < 1 - 1e-9;
      if (here && el.style.display === 'none') el.parentElement?.scrollIntoView({ block: 'nearest' });
      el.style.display = here ? 'block' : 'none';
      el.style.left = `${at * 100}%`;
    };
    place();
    return useProject.subscribe((now, before) => now.playhead !== before.playhead && place());
  }, [map, project.frame.rate, firstBeat, beats]);
  return (
    <div ref={needle} className="pointer-events-none absolute inset-y-0 z-10 w-0.5 -translate-x-px bg-mark" style={{ display: 'none' }} />
  );
}

interface ScoreLinesProps {
  project: Project;
  bars: number;
  onBars: (bars: number) => void;
  height?: number;
  /** What lies on a line between two beats. */
  children?: (firstBeat: number, beats: number) => ReactNode;
  /** A tap on the line, in beats; by default the playhead goes there. */
  onBeat?: (beat: number) => void;
  /** A stretch dragged over, in beats from its start to its end. */
  onSweep?: (from: number, to: number) => void;
}

/** Whether an element has been in sight or near it; what was not need not be drawn yet. */
function useNear(): [React.RefCallback<HTMLDivElement>, boolean] {
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const [near, setNear] = useState(false);
  useEffect(() => {
    if (!element) return;
    const watch = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setNear(true), { rootMargin: '400px' });
    watch.observe(element);
    return () => watch.disconnect();
  }, [element]);
  return [setElement, near];
}

interface FoldProps {
  project: Project;
  map: BeatMap;
  energy: Float32Array | null;
  firstBeat: number;
  beats: number;
  height: number;
  children: ScoreLinesProps['children'];
  onBeat: (beat: number) => void;
  onSweep: ScoreLinesProps['onSweep'];
}

/** One line of the folded page; what lies on it is drawn when it comes near. */
function Fold({ project, map, energy, firstBeat, beats, height, children, onBeat, onSweep }: FoldProps) {
  const [element, near] = useNear();
  const [swept, setSwept] = useState<{ from: number; to: number } | null>(null);
  const began = useRef<number | null>(null);
  /** The press that ends a stretch is no tap. */
  const justSwept = useRef(false);
  const beatAt = (e: { clientX: number; currentTarget: Element }) => {
    const box = e.currentTarget.getBoundingClientRect();
    return firstBeat + Math.min(1, Math.max(0, (e.clientX - box.left) / box.width)) * beats;
  };
  const { bar } = barAndBeat(map, firstBeat);
  const percent = (beat: number) => ((beat - firstBeat) / beats) * 100;
  const end = () => {
    began.current = null;
    setSwept(null);
  };
  return (
    <div
      ref={element}
      className="mb-2 flex"
      style={{ contentVisibility: 'auto', containIntrinsicSize: `auto ${height}px` }}
      data-testid="score-line"
    >
      <div className={`num w-8 shrink-0 pt-1 pr-1.5 text-right text-faint ${bar === 0 ? 'text-xs' : 'text-sm'}`}>
        {bar === 0 ? barName(0) : bar}
      </div>
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: arrows with modifiers move the playhead by frame, beat and bar */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: a stretch of time, not a control */}
      <div
        className="relative grow cursor-text bg-sheet"
        style={{ height }}
        data-line
        data-from={firstBeat}
        data-beats={beats}
        onClick={(e) => {
          if (!justSwept.current) onBeat(beatAt(e));
          justSwept.current = false;
        }}
        onPointerDown={(e) => {
          justSwept.current = false;
          if (onSweep && e.target === e.currentTarget && e.button === 0) began.current = beatAt(e);
        }}
        onPointerMove={(e) => {
          if (began.current === null || !e.buttons) return;
          const now = beatAt(e);
          if (Math.abs(now - began.current) > 0.4) {
            e.currentTarget.setPointerCapture(e.pointerId);
            setSwept({ from: Math.min(now, began.current), to: Math.max(now, began.current) });
          }
        }}
        onPointerUp={() => {
          justSwept.current = swept !== null;
          if (swept) onSweep?.(swept.from, swept.to);
          end();
        }}
        onPointerCancel={end}
      >
        <InkLine map={map} energy={energy} firstBeat={firstBeat} beats={beats} height={height} />
        <BarChanges map={map} firstBeat={firstBeat} beats={beats} />
        {near && children?.(firstBeat, beats)}
        {swept && (
          <div
            className="pointer-events-none absolute inset-y-1 border-2 border-dashed border-ink bg-ink/10"
            style={{ left: `${percent(swept.from)}%`, width: `${percent(swept.to) - percent(swept.from)}%` }}
          />
        )}
        <Needle map={map} project={project} firstBeat={firstBeat} beats={beats} />
      </div>
    </div>
  );
}

/** The lines of a song of so many seconds, each of so many bars: the beat it begins on and how many beats it holds. */
function linesOf(map: BeatMap, bars: number, duration: number): { firstBeat: number; beats: number }[] {
  const end = secondsToBeat(map, duration);
  const out = [];
  // A lead-in shorter than a beat needs no bar of its own.
  let { bar } = barAndBeat(map, secondsToBeat(map, 0) + 1);
  do {
    const firstBeat = barToBeat(map, bar);
    bar += bars;
    out.push({ firstBeat, beats: barToBeat(map, bar) - firstBeat });
  } while (barToBeat(map, bar) < end);
  return out;
}

/** The whole song as folded lines of bars. Two fingers pinch to change how many bars a line holds. */
export function ScoreLines({ project, bars, onBars, height = 64, children, onBeat, onSweep }: ScoreLinesProps) {
  const map = beatMapOf(project);
  const song = project.media.find((m) => m.id === project.song?.mediaId);
  const energy = useHeard(song?.id)?.energy ?? null;
  const duration = song?.duration ?? 60;
  const lines = useMemo(() => linesOf(map, bars, duration), [map, bars, duration]);
  const pinch = useRef(new Map<number, number>());
  const spread = useRef(0);
  const distance = () => {
    const xs = [...pinch.current.values()];
    return xs.length === 2 ? Math.abs(xs[0] - xs[1]) : 0;
  };
  const move = (e: PointerEvent) => {
    if (!pinch.current.has(e.pointerId)) return;
    pinch.current.set(e.pointerId, e.clientX);
    const now = distance();
    if (!now || !spread.current) return;
    const fold = [1, 2, 4, 8];
    const at = fold.indexOf(bars);
    if (now > spread.current * 1.5 && at > 0) onBars(fold[at - 1]);
    else if (now < spread.current / 1.5 && at < 3) onBars(fold[at + 1]);
    else return;
    spread.current = now;
  };
  const lift = (e: PointerEvent) => pinch.current.delete(e.pointerId);
  const go = onBeat ?? ((beat: number) => seek(nearestFrame(beatToSeconds(map, beat), project.frame.rate)));
  return (
    <div
      className="touch-pan-y select-none"
      onPointerDown={(e) => {
        pinch.current.set(e.pointerId, e.clientX);
        spread.current = distance();
      }}
      onPointerMove={move}
      onPointerUp={lift}
      onPointerCancel={lift}
      onPointerLeave={lift}
    >
      {lines.map(({ firstBeat, beats }) => (
        <Fold
          key={firstBeat}
          project={project}
          map={map}
          energy={energy}
          firstBeat={firstBeat}
          beats={beats}
          height={height}
          onBeat={go}
          onSweep={onSweep}
        >
          {children}
        </Fold>
      ))}
    </div>
  );
}
