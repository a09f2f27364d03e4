'use client';
import { type PointerEvent, useRef, useState } from 'react';
import { movedShot } from '@/core/moves';
import { beatMapOf, footageOf, isReveal, type Project, type Shot, takeTimeAt } from '@/core/shot';
import { beatToSeconds, nearestFrame } from '@/core/time';
import { edit, useProject } from '@/data/store';
import { tapeStyle } from '@/ui/tape';
import { useThumbnail } from '@/views/shared';

interface StripProps {
  project: Project;
  shot: Shot;
  firstBeat: number;
  beats: number;
}

/** Beats between which the first take gives way to the second: a reveal's own, or for a seam the whole shot. */
const mixBeats = (shot: Shot): [number, number] =>
  isReveal(shot) ? [shot.mix.start.beat, shot.mix.end.beat] : [shot.start.beat, shot.end.beat];

function StripPicture({ project, shot, beat }: { project: Project; shot: Shot; beat: number }) {
  const map = beatMapOf(project);
  const frame = nearestFrame(beatToSeconds(map, beat), project.frame.rate);
  const use = beat >= (mixBeats(shot)[0] + mixBeats(shot)[1]) / 2 ? shot.after : shot.before;
  const media = footageOf(project, use.takeId);
  const src = useThumbnail(
    media.id,
    media.width,
    Math.min(media.to - 0.1, Math.max(media.from, takeTimeAt(project, shot, use.sync, frame))),
  );
  return (
    <div className="h-full min-w-0 flex-1 bg-well">
      {src && <img src={src} alt="" draggable={false} className="h-full w-full object-cover" />}
    </div>
  );
}

/** The part of a shot that lies on one line of the score: a strip of paper with pictures, pinned to its beats. Dragging moves it by beats. */
export function ShotStrip({ project, shot, firstBeat, beats }: StripProps) {
  const selected = useProject((s) => s.selectedShot === shot.id);
  const [shift, setShift] = useState(0);
  const began = useRef<{ x: number; width: number } | null>(null);
  const from = Math.max(firstBeat, shot.start.beat + shift);
  const to = Math.min(firstBeat + beats, shot.end.beat + shift);
  if (to <= from) return null;
  const percent = (beat: number) => ((beat - firstBeat) / beats) * 100;
  const tape = (takeId: string) => project.takes.find((t) => t.id === takeId)?.tape ?? 0;
  const revealFrom = Math.min(to, Math.max(from, mixBeats(shot)[0] + shift));
  const revealTo = Math.min(to, Math.max(from, mixBeats(shot)[1] + shift));
  const end = (e: PointerEvent) => {
    if (!began.current) return;
    const by = Math.round(((e.clientX - began.current.x) / began.current.width) * beats);
    began.current = null;
    setShift(0);
    useProject.setState({ selectedShot: shot.id });
    if (by !== 0)
      edit('Move the shot', (draft) => {
        const i = draft.shots.findIndex((s) => s.id === shot.id);
        draft.shots[i] = movedShot(draft as Project, beatMapOf(draft as Project), draft.shots[i] as Shot, by);
      });
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a draggable strip that holds pictures
    <div
      role="button"
      tabIndex={0}
      aria-label={`${shot.name}, bar ${Math.floor(shot.start.beat / 4) + 1}`}
      data-testid="shot-strip"
      className={`absolute top-1.5 bottom-4 flex cursor-grab touch-none flex-col shadow-[0_1px_4px_rgba(40,30,20,0.35)] ${selected ? 'outline-2 outline-mark' : ''}`}
      style={{ left: `${percent(from)}%`, width: `${percent(to) - percent(from)}%` }}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => e.key === 'Enter' && useProject.setState({ selectedShot: shot.id })}
      onPointerDown={(e) => {
        const line = e.currentTarget.parentElement?.getBoundingClientRect();
        e.currentTarget.setPointerCapture(e.pointerId);
        if (line) began.current = { x: e.clientX, width: line.width };
      }}
      onPointerMove={(e) => began.current && setShift(Math.round(((e.clientX - began.current.x) / began.current.width) * beats))}
      onPointerUp={end}
      onPointerCancel={() => {
        began.current = null;
        setShift(0);
      }}
    >
      <div className="flex min-h-0 grow overflow-hidden">
        {Array.from(
          { length: Math.max(1, Math.min(12, Math.ceil(to - from))) },
          (_, i, all = Math.max(1, Math.min(12, Math.ceil(to - from)))) => (
            <StripPicture key={i} project={project} shot={shot} beat={from - shift + ((i + 0.5) / all) * (to - from)} />
          ),
        )}
      </div>
      <div className="relative h-2 shrink-0" style={tapeStyle(tape(shot.before.takeId))}>
        <div
          className="absolute inset-y-0 right-0"
          style={{ left: `${((revealFrom - from) / (to - from)) * 100}%`, ...tapeStyle(tape(shot.after.takeId)) }}
        />
        <div
          className="absolute inset-y-0 bg-paper/70"
          style={{ left: `${((revealFrom - from) / (to - from)) * 100}%`, width: `${((revealTo - revealFrom) / (to - from)) * 100}%` }}
        />
      </div>
    </div>
  );
}
