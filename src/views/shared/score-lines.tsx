'use client';
import { type PointerEvent, type ReactNode, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { beatMapOf, type Project } from '@/core/shot';
import { ENERGY_RATE } from '@/core/song';
import { type BeatMap, beatToSeconds, frameToSeconds, nearestFrame, secondsToBeat } from '@/core/time';
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
  const stems = Array.from({ length: beats }, (_, k) => ({ k, one: k % map.beatsPerBar === 0 }));
  return (
    <svg viewBox={`0 0 100 ${height}`} preserveAspectRatio="none" className="absolute inset-0 h-full w-full" aria-hidden>
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
}

/** The whole song as folded lines of bars. Two fingers pinch to change how many bars a line holds. */
export function ScoreLines({ project, bars, onBars, height = 64, children, onBeat }: ScoreLinesProps) {
  const map = beatMapOf(project);
  const song = project.media.find((m) => m.id === project.song?.mediaId);
  const energy = useHeard(song?.id)?.energy ?? null;
  const duration = song?.duration ?? 60;
  const beats = bars * map.beatsPerBar;
  // A lead-in shorter than a beat needs no bar of its own.
  const first = Math.floor((secondsToBeat(map, 0) + 1) / map.beatsPerBar) * map.beatsPerBar;
  const lines = Math.max(1, Math.ceil((secondsToBeat(map, duration) - first) / beats));
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
  const go = (e: React.MouseEvent, lineFirst: number) => {
    const box = e.currentTarget.getBoundingClientRect();
    const beat = lineFirst + ((e.clientX - box.left) / box.width) * beats;
    if (onBeat) onBeat(beat);
    else seek(nearestFrame(beatToSeconds(map, beat), project.frame.rate));
  };
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
      {Array.from({ length: lines }, (_, i) => first + i * beats).map((lineFirst) => (
        <div key={lineFirst} className="mb-2 flex" data-testid="score-line">
          <div className="num w-8 shrink-0 pt-1 pr-1.5 text-right text-sm text-faint">{lineFirst / map.beatsPerBar + 1}</div>
          {/* biome-ignore lint/a11y/useKeyWithClickEvents: arrows with modifiers move the playhead by frame, beat and bar */}
          {/* biome-ignore lint/a11y/noStaticElementInteractions: a stretch of time, not a control */}
          <div className="relative grow cursor-text bg-sheet" style={{ height }} onClick={(e) => go(e, lineFirst)}>
            <InkLine map={map} energy={energy} firstBeat={lineFirst} beats={beats} height={height} />
            {children?.(lineFirst, beats)}
            <Needle map={map} project={project} firstBeat={lineFirst} beats={beats} />
          </div>
        </div>
      ))}
    </div>
  );
}
