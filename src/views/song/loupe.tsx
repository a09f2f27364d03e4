'use client';
import { useGesture } from '@use-gesture/react';
import { Minus, Plus } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Project } from '@/core/document';
import { type BeatMap, barAndBeat, frameToSeconds, nearestFrame, withBeatAt } from '@/core/time';
import { say } from '@/core/words';
import { samplesOf } from '@/data/jobs';
import { seek, usePlayback } from '@/data/playback';
import { changeMap } from '@/data/song';
import { useProject } from '@/data/store';
import type { HeardSong } from '@/media/song';
import { Button } from '@/ui/controls';
import { type Close, drawLoupe, enlargement, type Inks, type View, wantsSamples } from './draw-wave';
import { unsureStretches } from './unsure';

/** The closest view: this many seconds across. */
const CLOSEST = 0.004;
const HEIGHT = 148;

const ink = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--color-${name}`).trim();
const inks = (): Inks => ({ ink: ink('ink'), faint: ink('faint'), mark: ink('mark'), warn: ink('warn') });

/** Width of an element, and the ref that goes on it. */
function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([entry]) => setWidth(Math.round(entry.contentRect.width)));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  return [box, width];
}

/** Samples of what is looked at closely, fetched a little wider than the view. */
function useClose(mediaId: string, heard: HeardSong, view: View): Close | null {
  const [close, setClose] = useState<(Close & { mediaId: string; to: number }) | null>(null);
  const needed = wantsSamples(heard.peaks, view) && view.width > 0;
  const have =
    close?.mediaId === mediaId && close.from <= Math.max(0, view.from) + 1e-6 && close.to >= Math.min(heard.duration, view.to) - 1e-6;
  useEffect(() => {
    if (!needed || have) return;
    let wanted = true;
    const margin = Math.max(0.5, view.to - view.from);
    const [from, to] = [Math.max(0, view.from - margin), Math.min(heard.duration, view.to + margin)];
    const later = setTimeout(() => {
      void samplesOf(mediaId, from, to).then(
        (sound) => wanted && sound && setClose({ mediaId, from, to, sound }),
        () => undefined,
      );
    }, 60);
    return () => {
      wanted = false;
      clearTimeout(later);
    };
  }, [needed, have, mediaId, heard.duration, view.from, view.to]);
  return have ? close : null;
}

/** The instant in the middle: the playhead, and between its frames where the user has gone closer. */
function useCentre(project: Project): [number, (time: number) => void] {
  const [centre, setCentre] = useState(() => frameToSeconds(useProject.getState().playhead, project.frame.rate));
  const { rate } = project.frame;
  useEffect(
    () =>
      useProject.subscribe((now, before) => {
        if (now.playhead !== before.playhead)
          setCentre((at) => (nearestFrame(at, rate) === now.playhead ? at : frameToSeconds(now.playhead, rate)));
      }),
    [rate],
  );
  return [
    centre,
    (time) => {
      setCentre(time);
      const frame = nearestFrame(time, rate);
      if (frame !== useProject.getState().playhead) seek(frame);
    },
  ];
}

interface LoupeProps {
  project: Project;
  heard: HeardSong;
  mediaId: string;
}

/** The song around the playhead, as close as one likes: from the whole of it down to single samples, the middle staying where it is. */
export function Loupe({ project, heard, mediaId }: LoupeProps) {
  const [box, width] = useWidth();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [centre, setCentre] = useCentre(project);
  const [span, setSpan] = useState(4);
  const [held, setHeld] = useState<{ index: number; time: number } | null>(null);
  const playing = usePlayback((s) => s.playing);
  const kept = project.song?.map ?? null;
  const map = useMemo(() => (kept && held ? withBeatAt(kept, held.index, held.time) : kept), [kept, held]);
  const unsure = useMemo(() => unsureStretches(heard, kept), [heard, kept]);
  const view: View = { from: centre - span / 2, to: centre + span / 2, width, height: HEIGHT };
  const close = useClose(mediaId, heard, view);
  const enlarged = enlargement(heard.peaks, view);
  const zoom = (by: number) => setSpan((s) => Math.min(Math.max(4, heard.duration * 1.02), Math.max(CLOSEST, s * by)));
  useEffect(() => {
    const page = canvas.current;
    const c = page?.getContext('2d');
    if (!page || !c || !width) return;
    const dense = window.devicePixelRatio || 1;
    page.width = width * dense;
    page.height = HEIGHT * dense;
    c.setTransform(dense, 0, 0, dense, 0, 0);
    drawLoupe(c, { from: centre - span / 2, to: centre + span / 2, width, height: HEIGHT }, { heard, map, close, unsure, inks: inks() });
  }, [heard, map, close, unsure, width, centre, span]);
  useGesture(
    {
      onDrag: ({ delta: [dx], pinching, event, tap, xy: [x] }) => {
        if (pinching || (event.target as HTMLElement).closest('[data-beat]')) return;
        const left = box.current?.getBoundingClientRect().left ?? 0;
        if (tap) setCentre(Math.max(0, Math.min(heard.duration, centre + ((x - left - width / 2) / width) * span)));
        else if (!playing) setCentre(Math.max(0, Math.min(heard.duration, centre - (dx / width) * span)));
      },
      onPinch: ({ delta: [d], event }) => {
        event.preventDefault();
        zoom(2 ** (-1.6 * d));
      },
      onWheel: ({ delta: [dx, dy], ctrlKey, pinching }) => {
        if (pinching || ctrlKey) return;
        if (Math.abs(dx) > Math.abs(dy)) setCentre(Math.max(0, Math.min(heard.duration, centre + (dx / width) * span)));
      },
    },
    { target: box, drag: { filterTaps: true }, pinch: { scaleBounds: { min: 0.001, max: 1e6 } }, eventOptions: { passive: false } },
  );
  const gap = map ? (width * (map.beats[map.beats.length - 1] - map.beats[0])) / (map.beats.length - 1) / span : 0;
  return (
    <section aria-label={say`The song at the playhead`}>
      <div ref={box} className="relative touch-pan-y overflow-hidden bg-sheet" style={{ height: HEIGHT }}>
        <canvas
          ref={canvas}
          className="absolute inset-0 h-full w-full"
          role="img"
          aria-label={say`Waveform, ${spanWords(span)} across`}
          data-testid="loupe"
          data-span={span}
        />
        {map &&
          gap > 24 &&
          map.beats.map((time, i) =>
            time < view.from || time > view.to ? null : (
              <BeatHandle
                key={i}
                left={((time - view.from) / span) * width}
                width={Math.min(44, gap)}
                label={beatName(map, i)}
                onMove={(dx) => setHeld((h) => ({ index: i, time: (h?.time ?? map.beats[i]) + (dx / width) * span }))}
                onDone={() => {
                  if (held && kept) changeMap(say`Move a beat`, withBeatAt(kept, held.index, held.time), true);
                  setHeld(null);
                }}
              />
            ),
          )}
        <div className="pointer-events-none absolute inset-y-0 left-1/2 w-0.5 -translate-x-px bg-mark" />
        {held && (
          <p className="num pointer-events-none absolute top-1 right-2 bg-paper px-2 text-sm" role="status">
            {held.time.toFixed(3)} s
          </p>
        )}
      </div>
      <div className="flex items-center gap-1 border-t border-rule">
        <Button kind="quiet" aria-label={say`Farther away`} onClick={() => zoom(2)} className="w-11 px-0">
          <Minus size={18} aria-hidden />
        </Button>
        <input
          type="range"
          aria-label={say`How close`}
          aria-valuetext={say`${spanWords(span)} across`}
          className="h-11 min-w-0 max-w-56 grow accent-[var(--color-ink)] sm:h-9"
          min={0}
          max={100}
          step={1}
          value={Math.round((100 * Math.log(heard.duration / span)) / Math.log(heard.duration / CLOSEST))}
          onChange={(e) => setSpan(heard.duration * (CLOSEST / heard.duration) ** (Number(e.target.value) / 100))}
        />
        <Button kind="quiet" aria-label={say`Closer`} onClick={() => zoom(1 / 2)} className="w-11 px-0">
          <Plus size={18} aria-hidden />
        </Button>
        <span className="num ml-1 text-sm text-faint">
          {say`${spanWords(span)} across${enlarged > 1.5 ? say`, ${enlarged.toFixed(0)}× as tall` : ''}`}
        </span>
      </div>
    </section>
  );
}

const spanWords = (span: number) =>
  span >= 1 ? `${span.toFixed(span < 10 ? 1 : 0)} s` : `${(span * 1000).toFixed(span < 0.01 ? 1 : 0)} ms`;

/** "bar 3 beat 2". */
function beatName(map: BeatMap, index: number): string {
  const { bar, beat } = barAndBeat(map, index - map.bar1);
  return say`bar ${bar} beat ${Math.round(beat)}`;
}

/** What a finger takes hold of at the foot of a beat. */
function BeatHandle({
  left,
  width,
  label,
  onMove,
  onDone,
}: {
  left: number;
  width: number;
  label: string;
  onMove: (dx: number) => void;
  onDone: () => void;
}) {
  const last = useRef<number | null>(null);
  return (
    <div
      data-beat
      title={say`Drag ${label}`}
      className="grip absolute bottom-0 flex h-11 touch-none items-end justify-center"
      style={{ left: left - width / 2, width }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        last.current = e.clientX;
      }}
      onPointerMove={(e) => {
        if (last.current === null) return;
        onMove(e.clientX - last.current);
        last.current = e.clientX;
      }}
      onPointerUp={() => {
        last.current = null;
        onDone();
      }}
      onPointerCancel={() => {
        last.current = null;
        onDone();
      }}
    >
      <span className="mb-1 h-4 w-2.5 rounded-sm border border-ink bg-paper" />
    </div>
  );
}
